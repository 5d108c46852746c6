package ferry.stone.core.view;

import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * Facts of one part.
 *
 * @param translation in its parent, in scene units
 * @param rotationDegrees about x, then y, then z
 * @param quaternion x, y, z, w
 * @param scale along its own axes
 * @param form how the source wrote the transform
 * @param metresPerUnit length of a scene unit
 * @param clips names of the clips that move it
 * @param notes what else the source says of the part: pivots, subdivision, sets
 * @param properties custom values as text
 */
public record PartView(
    int id,
    String name,
    String path,
    String kind,
    double[] translation,
    double[] rotationDegrees,
    double[] quaternion,
    double[] scale,
    String form,
    double metresPerUnit,
    List<SkinFacts> skins,
    List<MorphFacts> morphs,
    List<String> clips,
    Map<String, String> notes,
    Map<String, String> properties) {

  /**
   * How joints move the part's mesh.
   *
   * @param mostInfluences most joints of a vertex
   * @param overFour vertices with more than four joints
   */
  public record SkinFacts(String name, int joints, int mostInfluences, int overFour) {}

  /**
   * A morph target.
   *
   * @param weight in the rest pose
   * @param vertices that it moves
   * @param farthest longest way of a vertex in metres
   * @param commonShift metres that all vertices move alike, 0 when they do not
   */
  public record MorphFacts(
      String name, double weight, int vertices, double farthest, double commonShift) {}

  /** Empty when there is no such part. */
  public static Optional<PartView> of(Scene scene, int nodeId) {
    Integer place = scene.nodePlaces().get(nodeId);
    return place == null ? Optional.empty() : Optional.of(of(scene, place.intValue(), nodeId));
  }

  private static PartView of(Scene scene, int place, int nodeId) {
    Node node = scene.nodes().get(place);
    Matrix4d m = node.transform().toMatrix();
    Quaterniond q = m.getNormalizedRotation(new Quaterniond());
    Vector3d s = m.getScale(new Vector3d());
    if (node.transform() instanceof LocalTransform.Trs trs) {
      q.set(trs.rotation());
      s.set(trs.scale());
    }
    Vector3d e = q.getEulerAnglesXYZ(new Vector3d());
    List<SkinFacts> skins = new ArrayList<>();
    List<MorphFacts> morphs = new ArrayList<>();
    double unit = scene.frame().metresPerUnit();
    if (node.content() instanceof Node.Content.MeshContent content) {
      scene.skin(content.skinId()).ifPresent(skin -> skins.add(facts(skin)));
      double[] weights = Pose.rest(scene).morphWeights()[place];
      scene
          .mesh(content.meshId())
          .ifPresent(
              mesh -> {
                for (int i = 0; i < mesh.morphs().size(); i++) {
                  morphs.add(facts(mesh, mesh.morphs().get(i), weights[i], unit));
                }
              });
    }
    Map<String, String> properties = new TreeMap<>();
    node.properties().forEach((key, value) -> properties.put(key, String.valueOf(value)));
    return new PartView(
        node.id(),
        node.name(),
        scene.paths().get(place),
        node.content().kind(),
        new double[] {m.m30(), m.m31(), m.m32()},
        new double[] {Math.toDegrees(e.x), Math.toDegrees(e.y), Math.toDegrees(e.z)},
        new double[] {q.x, q.y, q.z, q.w},
        new double[] {s.x, s.y, s.z},
        PartNotes.form(node.transform()),
        unit,
        skins,
        morphs,
        scene.clips().stream()
            .filter(c -> c.tracks().stream().anyMatch(t -> t.targetId() == nodeId))
            .map(Clip::name)
            .toList(),
        PartNotes.of(scene, node),
        properties);
  }

  private static SkinFacts facts(Skin skin) {
    int over = 0;
    for (int v = 0; v + 1 < skin.offsets().length; v++) {
      over += skin.offsets()[v + 1] - skin.offsets()[v] > 4 ? 1 : 0;
    }
    return new SkinFacts(skin.name(), skin.jointNodeIds().length, skin.mostInfluences(), over);
  }

  private static MorphFacts facts(
      PolygonMesh mesh, MorphTarget morph, double weight, double metresPerUnit) {
    MorphTarget.Shape shape = morph.full();
    float[] d = shape.deltas();
    int count = d.length / 3;
    double farthest = 0;
    double least = Double.POSITIVE_INFINITY;
    for (int i = 0; i < count; i++) {
      double length =
          Math.sqrt(
              (double) d[3 * i] * d[3 * i]
                  + (double) d[3 * i + 1] * d[3 * i + 1]
                  + (double) d[3 * i + 2] * d[3 * i + 2]);
      farthest = Math.max(farthest, length);
      least = Math.min(least, length);
    }
    // Where every vertex moves, the shift most of them share is not meant as a shape.
    double shift = count == mesh.points().count() && count > 0 && least > 0 ? least : 0;
    return new MorphFacts(
        morph.name(), weight, count, farthest * metresPerUnit, shift * metresPerUnit);
  }
}
