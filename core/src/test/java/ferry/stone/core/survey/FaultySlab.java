package ferry.stone.core.survey;

import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/** A slab of two metres, sound or with one fault, by the code of its finding. */
final class FaultySlab {
  private FaultySlab() {}

  /** A slab with nothing wrong. */
  static Scene sound(boolean skinned) {
    Slab slab = new Slab();
    slab.weights = skinned ? even() : null;
    return slab.build();
  }

  private static final int MESH = 1;
  private static final int SLAB = 2;
  private static final int OAK = 5;

  private static Attribute layer(String name, Attribute.Semantic semantic, int n, float... v) {
    return new Attribute(name, semantic, Attribute.Domain.VERTEX, n, v, null);
  }

  private static Material material(int id, String name) {
    return new Material(
        id,
        name,
        Material.Shading.PHONG,
        new EnumMap<>(
            Map.of(Channel.BASE_COLOUR, new Material.Value(new double[] {0.5, 0.5, 0.5}, null))),
        Material.Alpha.OPAQUE,
        0.5,
        false,
        Map.of());
  }

  /** A slab of two metres with everything that a mesh should have, and nothing wrong. */
  private static final class Slab {
    private float[] normals = {0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0};
    private float[] uvs = {0, 0, 1, 0, 1, 1, 0, 1};
    private boolean withMaterial = true;
    private final List<MorphTarget> morphs = new ArrayList<>();
    private float[] weights;
    private final List<String> joints = new ArrayList<>(List.of("hinge", "tip"));
    private double jointScale = 1;
    private Vector3d shift = new Vector3d();
    private final List<Material> more = new ArrayList<>();
    private boolean twice;
    private int[] slots;
    private float[] points = {-1, 0, 1, 1, 0, 1, 1, 0, -1, -1, 0, -1};
    private int[] corners = {0, 1, 2, 3};
    private int[] offsets = {0, 4};
    private int[] uvIndices;
    private double metres = 1;
    private Vector3d scale = new Vector3d(1);

    /** The slab in pieces of its own, with values for the vertices that are more. */
    void shape(float[] newPoints, int[] newCorners, int... newOffsets) {
      points = newPoints;
      corners = newCorners;
      offsets = newOffsets;
      normals = new float[newPoints.length];
      uvs = new float[newPoints.length / 3 * 2];
      for (int v = 0; v < newPoints.length / 3; v++) {
        normals[3 * v + 1] = 1;
        uvs[2 * v] = (newPoints[3 * v] + 1) / 4;
        uvs[2 * v + 1] = (newPoints[3 * v + 2] + 1) / 4;
      }
    }

    Scene build() {
      SceneBuilder scene = new SceneBuilder("slab").nextId(100);
      float[] placed = points.clone();
      for (int i = 0; i < placed.length; i += 3) {
        placed[i] += (float) shift.x;
      }
      List<Attribute> layers = new ArrayList<>();
      layers.add(layer("normal", Attribute.Semantic.NORMAL, 3, normals));
      if (uvs != null) {
        layers.add(
            new Attribute(
                "map1", Attribute.Semantic.UV, Attribute.Domain.VERTEX, 2, uvs, uvIndices));
      }
      PolygonMesh mesh =
          PolygonMesh.of(MESH, "slab", Coordinates.of(placed), Polygons.of(corners, offsets))
              .toBuilder()
              .attributes(layers)
              .materials(
                  slots != null
                      ? new int[] {OAK, OAK + 1}
                      : withMaterial ? new int[] {OAK} : new int[0],
                  slots)
              .morphs(morphs)
              .build();
      scene.add(mesh);
      if (withMaterial) {
        scene.add(material(OAK, "oak"));
      }
      more.forEach(scene::add);
      Vector3d still = new Vector3d();
      if (weights != null) {
        int[] ids = new int[joints.size()];
        double[] binds = new double[16 * ids.length];
        for (int j = 0; j < ids.length; j++) {
          ids[j] =
              scene.add(
                  Node.of(20 + j, joints.get(j), j == 0 ? -1 : 0, new Node.Content.Joint(0.1))
                      .withTransform(
                          LocalTransform.Trs.of(
                              still, new Quaterniond(), new Vector3d(j == 0 ? 1 : jointScale))));
          ids[j] = 20 + j;
          for (int k = 0; k < 4; k++) {
            binds[16 * j + 5 * k] = k < 3 && j > 0 ? 1 / jointScale : 1;
          }
        }
        int[] of = new int[weights.length];
        Arrays.setAll(of, i -> i % ids.length);
        scene.add(
            new Skin(
                7, "skin", MESH, ids, binds, new int[] {0, 2, 4, 6, 8}, of, weights, "linear"));
      }
      scene.add(
          Node.of(
                  SLAB,
                  "slab",
                  -1,
                  new Node.Content.MeshContent(
                      MESH,
                      weights == null ? -1 : 7,
                      null,
                      morphs.isEmpty()
                          ? null
                          : morphs.stream().mapToDouble(m -> m.weight()).toArray()))
              .withTransform(
                  LocalTransform.Trs.of(new Vector3d(), new Quaterniond(), new Vector3d(scale))));
      if (twice) {
        scene.add(mesh.toBuilder().id(50).name("slab_b").build());
        scene.add(
            Node.of(51, "slab_b", -1, Node.Content.MeshContent.of(50))
                .withTransform(
                    LocalTransform.Trs.of(
                        new Vector3d(3, 0, 0), new Quaterniond(), new Vector3d(1))));
      }
      Frame frame = Frame.Y_UP_METRE.withMetresPerUnit(metres);
      return scene.frame(frame, FrameSource.STATED, FrameSource.STATED).build();
    }
  }

  private static MorphTarget morph(double weight, float... deltas) {
    int[] vertices = deltas.length == 0 ? new int[0] : new int[] {0};
    return new MorphTarget(
        "lift", weight, List.of(new MorphTarget.Shape(1, vertices, deltas, null)));
  }

  private static MorphTarget on(String name) {
    return new MorphTarget(name, 0.25, named(name, 1).shapes());
  }

  private static MorphTarget named(String name, float up) {
    return new MorphTarget(
        name, 0, List.of(new MorphTarget.Shape(1, new int[] {0}, new float[] {0, up, 0}, null)));
  }

  /** A ring of eight outer and eight inner vertices round a hole. */
  private static void ring(Slab slab, float inner) {
    float[] points = new float[48];
    int[] corners = new int[32];
    int[] offsets = new int[9];
    for (int i = 0; i < 8; i++) {
      double angle = -Math.PI / 4 * i;
      for (int k = 0; k < 2; k++) {
        points[3 * (8 * k + i)] = (float) (Math.cos(angle) * (k == 0 ? 1 : inner));
        points[3 * (8 * k + i) + 2] = (float) (Math.sin(angle) * (k == 0 ? 1 : inner));
      }
      int next = (i + 1) % 8;
      System.arraycopy(new int[] {i, next, 8 + next, 8 + i}, 0, corners, 4 * i, 4);
      offsets[i + 1] = 4 * (i + 1);
    }
    slab.shape(points, corners, offsets);
  }

  /** A slab with one fault. */
  static Scene with(String code) {
    Slab slab = new Slab();
    slab.weights = code.matches(".*(joint|weight|influences).*") ? even() : null;
    switch (code) {
      case "normals-broken" -> slab.normals[1] = 3;
      case "normals-against-faces" ->
          slab.normals = new float[] {0, -1, 0, 0, -1, 0, 0, -1, 0, 0, -1, 0};
      case "no-uvs" -> slab.uvs = null;
      case "uvs-outside" -> slab.uvs[2] = 4;
      case "uvs-not-numbers" -> slab.uvs[2] = Float.NaN;
      case "no-material" -> slab.withMaterial = false;
      case "unused-material" -> slab.more.add(material(6, "pitch"));
      case "duplicate-material-names" -> slab.more.add(material(6, "oak"));
      case "morph-empty" -> slab.morphs.add(morph(0));
      case "morph-left-on" -> slab.morphs.add(morph(0.5, 0, 1, 0));
      case "two morphs left on" -> {
        slab.morphs.add(on("lift, high"));
        slab.morphs.add(on("dip"));
      }
      case "pivot-off" -> {
        slab.shift = new Vector3d(40, 0, 0);
        slab.twice = true;
      }
      case "equal-meshes" -> slab.twice = true;
      case "vertices-without-joint" -> slab.weights[0] = slab.weights[1] = 0;
      case "weights-not-one" -> slab.weights[0] = 0.9f;
      case "joints-without-weight" -> slab.weights = new float[] {1, 0, 1, 0, 1, 0, 1, 0};
      case "joints-share-a-name" -> slab.joints.set(1, "hinge");
      case "scaled-joints" -> slab.jointScale = 2;
      default -> surface(slab, code);
    }
    return slab.build();
  }

  private static void surface(Slab slab, String code) {
    switch (code) {
      case "open-edges" -> ring(slab, 0.1f);
      case "coincident-vertices" ->
          slab.shape(
              new float[] {
                -1, 0, 1, 0, 0, 1, 0, 0, -1, -1, 0, -1, 0, 0, 1, 1, 0, 1, 1, 0, -1, 0, 0, -1
              },
              new int[] {0, 1, 2, 3, 4, 5, 6, 7},
              0,
              4,
              8);
      case "non-manifold-edges" ->
          slab.shape(
              new float[] {
                -1, 0, 1, 0, 0, 1, 0, 0, -1, -1, 0, -1, 1, 0, 1, 1, 0, -1, 0, 1, 1, 0, 1, -1
              },
              new int[] {0, 1, 2, 3, 1, 4, 5, 2, 1, 2, 7, 6},
              0,
              4,
              8,
              12);
      case "opposed-faces" ->
          slab.shape(
              new float[] {-1, 0, 1, 0, 0, 1, 0, 0, -1, -1, 0, -1, 1, 0, 1, 1, 0, -1},
              new int[] {0, 1, 2, 3, 1, 2, 5, 4},
              0,
              4,
              8);
      case "not-a-number" -> {
        slab.shape(
            new float[] {-1, 0, 1, 1, 0, 1, 1, 0, -1, -1, 0, -1, Float.NaN, 0, 3},
            new int[] {0, 1, 2, 3, 0, 4, 1},
            0,
            4,
            7);
        slab.uvs[8] = 0;
      }
      case "degenerate-faces" -> slab.shape(slab.points, new int[] {0, 1, 2, 3, 0, 1, 0}, 0, 4, 7);
      case "duplicate-faces" ->
          slab.shape(slab.points, new int[] {0, 1, 2, 3, 0, 1, 2, 3}, 0, 4, 8);
      case "unused-vertices" ->
          slab.shape(
              new float[] {-1, 0, 1, 1, 0, 1, 1, 0, -1, -1, 0, -1, 0, 0, 0.5f},
              new int[] {0, 1, 2, 3},
              0,
              4);
      case "missing-uvs" -> slab.uvIndices = new int[] {0, 1, 2, -1};
      case "uvs-overlap" -> {
        ring(slab, 0.5f);
        for (int i = 0; i < slab.uvs.length; i++) {
          slab.uvs[i] = i % 2 == 0 ? i / 2 % 2 : i / 16 % 2;
        }
      }
      default -> whole(slab, code);
    }
  }

  private static void whole(Slab slab, String code) {
    switch (code) {
      case "gigantic" -> slab.metres = 10_000;
      case "tiny" -> slab.metres = 0.0001;
      case "scaled-to-nothing" -> {
        slab.twice = true;
        slab.scale = new Vector3d(1e-9);
      }
      case "far-away" -> slab.shift = new Vector3d(1000, 0, 0);
      case "over-triangles", "over-vertices" -> slab.twice = true;
      case "over-joints" -> slab.joints.add("fin");
      case "over-influences" -> {}
      case "over-morphs" -> {
        slab.morphs.add(named("lift", 0.5f));
        slab.morphs.add(named("dip, small", 0.1f));
      }
      case "over-materials" -> {
        slab.shape(
            new float[] {-1, 0, 1, 0, 0, 1, 0, 0, -1, -1, 0, -1, 1, 0, 1, 1, 0, -1},
            new int[] {0, 1, 2, 3, 1, 4, 5, 2},
            0,
            4,
            8);
        slab.more.add(material(6, "pitch"));
        slab.slots = new int[] {0, 1};
      }
      default -> throw new IllegalArgumentException(code);
    }
  }

  private static float[] even() {
    float[] weights = new float[8];
    Arrays.fill(weights, 0.5f);
    return weights;
  }
}
