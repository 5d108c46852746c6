package ferry.stone.core.format.gltf.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.flat.ArrangedParts;
import ferry.stone.core.geometry.triangle.GeometricFold;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Track;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * Brings each mesh into the cube from −1 to 1, where 16-bit numbers are finest, without moving
 * anything: KHR_mesh_quantization. What undoes it stands in a node of its own below the part's, so
 * that names, pivots and motion of the hierarchy stay; for skinned meshes it goes into the inverse
 * bind matrices.
 */
final class GltfQuantization {
  /** Highest value of a signed 16-bit number. */
  static final int MOST = 32_767;

  private final Scene scene;
  private final GltfGathered gathered;

  /** Middle and half size of the cube around a mesh. */
  private record Cube(Vector3d middle, double half) {
    Matrix4d matrix() {
      return new Matrix4d().translation(middle).scale(half);
    }
  }

  private final Map<Integer, Cube> cubes = new HashMap<>();

  private GltfQuantization(GltfGathered gathered) {
    this.gathered = gathered;
    scene = gathered.scene();
  }

  /** The scene in that form; says how far a vertex can move when it is rounded. */
  static GltfGathered apply(GltfGathered gathered, Findings findings) {
    return new GltfQuantization(gathered).applied(findings);
  }

  private GltfGathered applied(Findings findings) {
    SceneBuilder builder = scene.toBuilder();
    double largest = 0;
    List<PolygonMesh> meshes = new ArrayList<>();
    for (PolygonMesh mesh : scene.meshes()) {
      Cube cube = cube(mesh);
      cubes.put(mesh.id(), cube);
      meshes.add(shrunk(mesh, cube));
      // Rounding moves each coordinate by at most half a step.
      largest = Math.max(largest, Math.sqrt(3) * cube.half() / MOST / 2);
    }
    List<Skin> skins = new ArrayList<>();
    for (Skin skin : scene.skins()) {
      Cube cube = cubes.get(skin.meshId());
      skins.add(cube == null ? skin : skin.withInverseBind(after(skin.inverseBind(), cube)));
    }
    Map<Integer, Integer> shownBy = new HashMap<>();
    builder.nodes(nodes(builder, shownBy)).meshes(meshes).skins(skins);
    builder.clips(scene.clips().stream().map(clip -> clip(clip, shownBy)).toList());
    if (!meshes.isEmpty()) {
      findings.add(
          Finding.of(
                  "quantized",
                  Severity.NOTE,
                  "",
                  "Vertices are written as 16-bit numbers. In the mesh's own units no vertex moves"
                      + " by more than the figure.")
              .measured(Figures.plain(largest)));
    }
    if (!shownBy.isEmpty()) {
      findings.add(
          ArrangedParts.packed(shownBy.size(), "what undoes the rounding of a mesh stands there"));
    }
    Map<Integer, List<Trs>> places = new HashMap<>();
    for (Node node : scene.nodes()) {
      if (gathered.places().containsKey(node.id())) {
        Cube cube = cubes.get(((Node.Content.MeshContent) node.content()).meshId());
        places.put(
            node.id(),
            gathered.places().get(node.id()).stream().map(place -> after(place, cube)).toList());
      }
    }
    return new GltfGathered(builder.build(), places);
  }

  private static Trs after(Trs place, Cube cube) {
    return Trs.of(
        place.toMatrix().transformPosition(new Vector3d(cube.middle())),
        new Quaterniond(place.rotation()),
        new Vector3d(place.scale()).mul(cube.half()));
  }

  /** The cube must also hold each target's deltas, which have no middle of their own. */
  private static Cube cube(PolygonMesh mesh) {
    Bounds box = mesh.points().bounds();
    if (box.isEmpty()) {
      return new Cube(new Vector3d(), 1);
    }
    double half = 0;
    for (int k = 0; k < 3; k++) {
      half = Math.max(half, box.size(k) / 2);
    }
    for (MorphTarget morph : mesh.morphs()) {
      for (float delta : morph.full().deltas()) {
        if (Float.isFinite(delta)) {
          half = Math.max(half, Math.abs(delta));
        }
      }
    }
    // A little room, since the middle is rounded too.
    return new Cube(box.centre(), half > 0 ? half * (1 + 1e-6) : 1);
  }

  private static PolygonMesh shrunk(PolygonMesh mesh, Cube cube) {
    float factor = (float) (1 / cube.half());
    List<MorphTarget> morphs = new ArrayList<>();
    for (MorphTarget morph : mesh.morphs()) {
      MorphTarget.Shape full = morph.full();
      float[] deltas = full.deltas().clone();
      for (int i = 0; i < deltas.length; i++) {
        deltas[i] *= factor;
      }
      morphs.add(
          new MorphTarget(
              morph.name(),
              morph.weight(),
              List.of(
                  new MorphTarget.Shape(
                      full.fullWeight(), full.vertices(), deltas, full.normalDeltas()))));
    }
    return mesh.toBuilder()
        .points(mesh.points().transform(cube.matrix().invert()))
        .morphs(morphs)
        .build();
  }

  private static double[] after(double[] inverseBind, Cube cube) {
    double[] result = new double[inverseBind.length];
    Matrix4d m = new Matrix4d();
    for (int j = 0; j < inverseBind.length; j += 16) {
      m.set(inverseBind, j).mul(cube.matrix()).get(result, j);
    }
    return result;
  }

  private List<Node> nodes(SceneBuilder builder, Map<Integer, Integer> shownBy) {
    List<Node> nodes = new ArrayList<>();
    int[] newPlace = new int[scene.nodes().size()];
    for (int i = 0; i < newPlace.length; i++) {
      Node node = scene.nodes().get(i);
      Node placed = node.parent() < 0 ? node : node.withParent(newPlace[node.parent()]);
      newPlace[i] = nodes.size();
      Cube cube =
          node.content() instanceof Node.Content.MeshContent content
                  && scene.skin(content.skinId()).isEmpty()
                  && !gathered.places().containsKey(node.id())
              ? cubes.get(content.meshId())
              : null;
      if (cube == null) {
        nodes.add(placed);
        continue;
      }
      nodes.add(placed.withContent(Node.Content.GROUP));
      int id = builder.newId();
      shownBy.put(node.id(), id);
      LocalTransform back = Trs.of(cube.middle(), new Quaterniond(), new Vector3d(cube.half()));
      nodes.add(
          Node.of(id, node.name() + GeometricFold.SHAPE, newPlace[i], node.content())
              .withTransform(back));
    }
    return nodes;
  }

  private static Clip clip(Clip clip, Map<Integer, Integer> shownBy) {
    List<Track> tracks = new ArrayList<>();
    for (Track track : clip.tracks()) {
      boolean moves = track.isMorph() && shownBy.containsKey(track.targetId());
      tracks.add(moves ? track.withTarget(shownBy.get(track.targetId())) : track);
    }
    return clip.withTracks(tracks);
  }
}
