package ferry.stone.server.crossing;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Marks;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.FloatList;
import ferry.stone.core.scene.PolygonMesh;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.survey.Survey;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.joml.Vector3d;

/** Findings and their elements as the page takes them. */
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
    List<Offer> offers) {
  static FindingView of(int index, Finding f) {
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
        f.offers());
  }

  /** How many findings of a severity no step in effect answers. */
  static int open(Survey survey, Severity severity, Set<String> kindsInEffect) {
    return (int)
        survey.findings().stream()
            .filter(f -> f.severity() == severity)
            .filter(f -> f.offers().stream().noneMatch(o -> kindsInEffect.contains(o.kind())))
            .count();
  }

  /**
   * Elements in world space of the near side.
   *
   * @param points x, y, z each
   * @param segments two ends each
   * @param triangles three corners each
   */
  public record MarksView(float[] points, float[] segments, float[] triangles) {}

  static MarksView marks(Finding finding, Scene scene) {
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
          case VERTICES -> add(points, shown, index);
          case EDGES -> add(segments, shown, index);
          case FACES -> addFace(triangles, shown, index);
          default -> throw new IllegalStateException(marks.kind().toString());
        }
      }
    }
    return new MarksView(points.toArray(), segments.toArray(), triangles.toArray());
  }

  private static void addFace(FloatList out, Scene.ShownMesh shown, int face) {
    PolygonMesh mesh = shown.mesh();
    int start = mesh.faces().start(face);
    for (int c = start + 1; c + 1 < mesh.faces().end(face); c++) {
      add(out, shown, mesh.faces().vertex(start));
      add(out, shown, mesh.faces().vertex(c));
      add(out, shown, mesh.faces().vertex(c + 1));
    }
  }

  private static void add(FloatList out, Scene.ShownMesh shown, int vertex) {
    var p = shown.mesh().points();
    Vector3d v =
        shown.world().transformPosition(new Vector3d(p.x(vertex), p.y(vertex), p.z(vertex)));
    boolean finite = v.isFinite();
    out.add(finite ? (float) v.x : 0);
    out.add(finite ? (float) v.y : 0);
    out.add(finite ? (float) v.z : 0);
  }
}
