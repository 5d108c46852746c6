package ferry.stone.core.survey;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.geometry.triangle.Triangulation;
import ferry.stone.core.math.Figures;
import ferry.stone.core.motion.TurnAxis;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.joml.Matrix3d;
import org.joml.Vector3d;

/**
 * Wheels and drums that clips turn about a line beside their own axis. A part counts as a wheel
 * when its surface spreads alike in all directions across the axis it turns about; its own axis
 * then runs through the middle of its surface. Thresholds are common practice, no source.
 */
final class AxleChecks {
  private static final double ALIKE = 0.03;
  private static final double OFF = 0.02;

  private final Scene scene;
  private final Findings findings;

  AxleChecks(Scene scene, Findings findings) {
    this.scene = scene;
    this.findings = findings;
  }

  void run() {
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    Map<Integer, Integer> places = scene.nodePlaces();
    Set<Integer> told = new HashSet<>();
    List<Integer> ids = new ArrayList<>();
    double farthest = 0;
    for (Clip clip : scene.clips()) {
      for (Clip.Track track : clip.tracks()) {
        Integer place = places.get(track.targetId());
        if (place == null || !track.property().equals(Clip.ROTATION) || !told.add(place)) {
          continue;
        }
        Node node = scene.nodes().get(place);
        boolean plain =
            node.content() instanceof Node.Content.MeshContent content && content.skinId() < 0;
        TurnAxis line = plain ? TurnAxis.of(scene, clip, place) : null;
        if (line != null) {
          int meshId = ((Node.Content.MeshContent) node.content()).meshId();
          double off = offAxis(meshes.get(meshId), node, line);
          if (off > 0) {
            ids.add(node.id());
            farthest = Math.max(farthest, off * scale(place));
          }
        }
      }
    }
    if (!ids.isEmpty()) {
      Node first = scene.nodes().get(places.get(ids.get(0)));
      findings.add(
          Finding.of(
                  "pivot-beside-axis",
                  Severity.LOOK,
                  first.name() + (ids.size() > 1 ? " and " + (ids.size() - 1) + " more" : ""),
                  "A round part turns about a line beside its own axis: it wobbles.")
              .measured(Figures.length(farthest * scene.frame().metresPerUnit()) + " beside")
              .evidence("its surface is alike all round another axis")
              .nodes(ids)
              .offer(
                  Offer.step(
                          "Pivot onto the axis", "pivot", Map.of("to", "box", "motion", "follow"))
                      .on(ids)));
    }
  }

  private double scale(int place) {
    return Math.cbrt(Math.abs(scene.worldMatrices()[place].determinant3x3()));
  }

  /** How far the middle of a round surface lies from the line, 0 when it is not round or fits. */
  private static double offAxis(PolygonMesh mesh, Node node, TurnAxis line) {
    Matrix3d turn = new Matrix3d();
    Vector3d axis = line.axis();
    Vector3d across = Math.abs(axis.x) < 0.8 ? new Vector3d(1, 0, 0) : new Vector3d(0, 1, 0);
    Vector3d u = across.cross(axis, new Vector3d()).normalize();
    Vector3d v = axis.cross(u, new Vector3d());
    turn.setRow(0, u).setRow(1, v).setRow(2, axis);
    double[] sums = new double[6];
    Polygons faces = mesh.faces();
    Vector3d n = new Vector3d();
    Vector3d p = new Vector3d();
    var geometric = node.geometric().toMatrix();
    for (int f = 0; f < faces.faceCount(); f++) {
      int start = faces.start(f);
      double area =
          Triangulation.newell(mesh.points(), faces, start, faces.size(f), n).length()
              / faces.size(f);
      for (int c = start; c < faces.end(f); c++) {
        int vertex = faces.vertex(c);
        p.set(mesh.points().x(vertex), mesh.points().y(vertex), mesh.points().z(vertex));
        turn.transform(geometric.transformPosition(p).sub(line.point()));
        sums[0] += area;
        sums[1] += area * p.x;
        sums[2] += area * p.y;
        sums[3] += area * p.x * p.x;
        sums[4] += area * p.y * p.y;
        sums[5] += area * p.x * p.y;
      }
    }
    if (!(sums[0] > 0)) {
      return 0;
    }
    double x = sums[1] / sums[0];
    double y = sums[2] / sums[0];
    double xx = sums[3] / sums[0] - x * x;
    double yy = sums[4] / sums[0] - y * y;
    double xy = sums[5] / sums[0] - x * y;
    double off = Math.hypot(x, y);
    boolean round = Math.hypot(xx - yy, 2 * xy) <= ALIKE * (xx + yy);
    return round && off > OFF * Math.sqrt(xx + yy) ? off : 0;
  }
}
