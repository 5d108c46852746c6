package ferry.stone.core.view;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Marks;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.FloatList;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.survey.Bundles;
import ferry.stone.core.survey.Survey;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * Findings and their elements as the page takes them.
 *
 * @param state {@code open}, {@code answered} when the far side no longer has it, or {@code arisen}
 *     when a step brought it about
 * @param bundle the same for findings of one kind and one cause
 */
public record FindingView(
    int index,
    String code,
    Severity severity,
    String where,
    String message,
    String measured,
    String evidence,
    List<Integer> nodeIds,
    boolean hasMarks,
    List<Offer> offers,
    String state,
    String bundle) {
  public static FindingView of(int index, Finding f, String state) {
    return new FindingView(
        index,
        f.code(),
        f.severity(),
        f.where(),
        f.message(),
        f.measured(),
        f.evidence(),
        f.nodeIds(),
        !f.marks().isEmpty(),
        f.offers(),
        state,
        Bundles.key(f));
  }

  /** How many findings of a severity no step in effect answers. */
  public static int open(Survey survey, Severity severity, Set<String> kindsInEffect) {
    return (int)
        survey.findings().stream()
            .filter(f -> f.severity() == severity)
            .filter(f -> f.offers().stream().noneMatch(o -> kindsInEffect.contains(o.kind())))
            .count();
  }

  /**
   * Elements in world space of the near side; those of the far side are carried back there.
   *
   * @param points x, y, z each
   * @param segments two ends each
   * @param triangles three corners each
   */
  public record MarksView(float[] points, float[] segments, float[] triangles) {}

  public static MarksView marks(Finding finding, Scene scene, Matrix4d toNear) {
    FloatList points = new FloatList(16);
    FloatList segments = new FloatList(16);
    FloatList triangles = new FloatList(16);
    Map<Integer, Scene.ShownMesh> byNode = new HashMap<>();
    scene.shownMeshes().forEach(s -> byNode.put(s.node().id(), s));
    for (Marks marks : finding.marks()) {
      Scene.ShownMesh shown = byNode.get(marks.nodeId());
      if (shown == null) {
        continue;
      }
      for (int index : marks.indices()) {
        switch (marks.kind()) {
          case VERTICES -> add(points, shown, index, toNear);
          case EDGES -> add(segments, shown, index, toNear);
          case FACES -> addFace(triangles, shown, index, toNear);
          default -> throw new IllegalStateException(marks.kind().toString());
        }
      }
    }
    return new MarksView(points.toArray(), segments.toArray(), triangles.toArray());
  }

  private static void addFace(FloatList out, Scene.ShownMesh shown, int face, Matrix4d toNear) {
    PolygonMesh mesh = shown.mesh();
    int start = mesh.faces().start(face);
    for (int c = start + 1; c + 1 < mesh.faces().end(face); c++) {
      add(out, shown, mesh.faces().vertex(start), toNear);
      add(out, shown, mesh.faces().vertex(c), toNear);
      add(out, shown, mesh.faces().vertex(c + 1), toNear);
    }
  }

  private static void add(FloatList out, Scene.ShownMesh shown, int vertex, Matrix4d toNear) {
    var p = shown.mesh().points();
    Vector3d v =
        shown.world().transformPosition(new Vector3d(p.x(vertex), p.y(vertex), p.z(vertex)));
    toNear.transformPosition(v);
    boolean finite = v.isFinite();
    out.add(finite ? (float) v.x : 0);
    out.add(finite ? (float) v.y : 0);
    out.add(finite ? (float) v.z : 0);
  }
}
