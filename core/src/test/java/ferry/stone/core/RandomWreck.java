package ferry.stone.core;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.EdgeSet;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * Scenes that readers let through though much is wrong with them: positions that are no numbers,
 * faces of one or two corners, faces that use a vertex twice or lie on others, layers with holes,
 * skins without weights, scales of nothing, empty names, meshes without faces.
 */
public final class RandomWreck {
  private final Random random;
  private final SceneBuilder scene;

  private RandomWreck(Random random) {
    this.random = random;
    scene = new SceneBuilder("wreck").nextId(1000);
  }

  public static Scene of(Random random) {
    return new RandomWreck(random).build();
  }

  private Scene build() {
    int parts = 1 + random.nextInt(4);
    List<Integer> joints = new ArrayList<>();
    for (int j = 0; j < 3; j++) {
      joints.add(
          scene.add(
              Node.of(10 + j, j == 1 ? "" : "joint", j - 1, new Node.Content.Joint(0))
                  .withTransform(transform())));
      joints.set(j, 10 + j);
    }
    List<Clip.Track> tracks = new ArrayList<>();
    for (int p = 0; p < parts; p++) {
      PolygonMesh mesh = mesh(100 + p);
      scene.add(mesh);
      int skin = -1;
      if (random.nextInt(3) == 0) {
        skin = 200 + p;
        scene.add(skin(skin, mesh, joints));
      }
      double[] weights =
          mesh.morphs().isEmpty() ? null : random.doubles(mesh.morphs().size(), -1, 2).toArray();
      scene.add(
          Node.of(
                  20 + p,
                  random.nextBoolean() ? "part" : "",
                  random.nextInt(3 + p) - 1,
                  new Node.Content.MeshContent(mesh.id(), skin, null, weights))
              .withTransform(transform()));
      if (random.nextBoolean()) {
        tracks.add(
            new Clip.Track(
                20 + p,
                Clip.SCALE,
                Clip.Interpolation.STEP,
                3,
                new double[] {0, 1},
                new double[] {0, 0, 0, 1, -1, 2},
                null,
                null));
      }
    }
    scene.add(new Clip(300, "", 0, random.nextInt(2), tracks));
    return scene.build();
  }

  private LocalTransform transform() {
    Vector3d scale =
        switch (random.nextInt(5)) {
          case 0 -> new Vector3d();
          case 1 -> new Vector3d(1, -1, 0);
          case 2 -> new Vector3d(2, 1, 0.5);
          default -> new Vector3d(1);
        };
    Vector3d place = new Vector3d(random.nextGaussian(), 0, 1e6 * random.nextInt(2));
    LocalTransform.Trs plain =
        LocalTransform.Trs.of(place, new Quaterniond().rotateX(random.nextInt(4)), scale);
    return random.nextInt(4) == 0
        ? new LocalTransform.MatrixTransform(plain.toMatrix().rotateZ(0.3))
        : plain;
  }

  private PolygonMesh mesh(int id) {
    int vertices = 1 + random.nextInt(14);
    float[] points = new float[3 * vertices];
    for (int i = 0; i < points.length; i++) {
      points[i] =
          switch (random.nextInt(12)) {
            case 0 -> Float.NaN;
            case 1 -> Float.POSITIVE_INFINITY;
            case 2 -> 1e30f;
            default -> random.nextInt(3);
          };
    }
    int faces = random.nextInt(12);
    int[] offsets = new int[faces + 1];
    for (int f = 0; f < faces; f++) {
      offsets[f + 1] = offsets[f] + 1 + random.nextInt(6);
    }
    int[] corners = random.ints(offsets[faces], 0, vertices).toArray();
    List<Attribute> layers = new ArrayList<>();
    layers.add(layer(Attribute.Semantic.NORMAL, Attribute.Domain.CORNER, 3, corners.length));
    layers.add(layer(Attribute.Semantic.UV, Attribute.Domain.VERTEX, 2, vertices));
    if (random.nextBoolean()) {
      layers.add(layer(Attribute.Semantic.UV, Attribute.Domain.CORNER, 2, corners.length));
      layers.add(layer(Attribute.Semantic.COLOUR, Attribute.Domain.FACE, 4, faces));
      layers.add(layer(Attribute.Semantic.TANGENT, Attribute.Domain.CORNER, 4, corners.length));
    }
    int[] slots = random.ints(faces, -1, 2).toArray();
    List<MorphTarget> morphs = new ArrayList<>();
    for (int m = 0; m < random.nextInt(3); m++) {
      int[] touched = random.nextBoolean() ? new int[0] : new int[] {vertices - 1};
      morphs.add(
          new MorphTarget(
              "a,b*",
              random.nextDouble(),
              List.of(new MorphTarget.Shape(1, touched, new float[3 * touched.length], null))));
    }
    return PolygonMesh.of(
            id,
            random.nextBoolean() ? "mesh" : "",
            Coordinates.of(points),
            Polygons.of(corners, offsets))
        .toBuilder()
        .attributes(layers)
        .materials(new int[] {-1, -1}, slots)
        .faceSets(List.of(new FaceSet("", faces > 0 ? new int[] {faces - 1} : new int[0])))
        .loose(
            random.nextInt(3) == 0
                ? new LooseElements(new int[] {0, 1}, new int[] {0}, new int[] {0})
                : null)
        .morphs(morphs)
        .smoothing(random.nextBoolean() ? random.ints(faces, 0, 3).toArray() : null)
        .hardEdges(random.nextBoolean() ? new int[] {0, vertices - 1} : null)
        .edgeSets(List.of(new EdgeSet("rim", "", new int[] {0, vertices - 1})))
        .build();
  }

  private Attribute layer(
      Attribute.Semantic semantic, Attribute.Domain domain, int components, int elements) {
    int count = 1 + random.nextInt(5);
    float[] values = new float[components * count];
    for (int i = 0; i < values.length; i++) {
      values[i] = random.nextInt(9) == 0 ? Float.NaN : random.nextFloat() * 3 - 1;
    }
    int[] indices = random.ints(elements, random.nextInt(2) - 1, count).toArray();
    return new Attribute(semantic.name(), semantic, domain, components, values, indices);
  }

  private Skin skin(int id, PolygonMesh mesh, List<Integer> joints) {
    int vertices = mesh.points().count();
    int[] offsets = new int[vertices + 1];
    for (int v = 0; v < vertices; v++) {
      offsets[v + 1] = offsets[v] + random.nextInt(3);
    }
    int n = offsets[vertices];
    float[] weights = new float[n];
    for (int i = 0; i < n; i++) {
      weights[i] = random.nextInt(3) == 0 ? 0 : 2 * random.nextFloat();
    }
    double[] binds = new double[16 * joints.size()];
    for (int j = 0; j < joints.size(); j++) {
      new Matrix4d().scale(random.nextInt(3)).get(binds, 16 * j);
    }
    int[] ids = joints.stream().mapToInt(Integer::intValue).toArray();
    int[] of = random.ints(n, 0, ids.length).toArray();
    if (random.nextInt(4) == 0) {
      Arrays.fill(weights, 0);
    }
    return new Skin(id, "", mesh.id(), ids, binds, offsets, of, weights, "linear");
  }
}
