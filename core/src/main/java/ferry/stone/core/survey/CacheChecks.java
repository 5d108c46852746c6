package ferry.stone.core.survey;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.geometry.cache.AxisFrame;
import ferry.stone.core.geometry.cache.CacheFit;
import ferry.stone.core.geometry.cache.FrameRuns;
import ferry.stone.core.geometry.cache.PointOrder;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.PointCache;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.joml.Vector3d;

/**
 * Whether caches are in the numbers and in the order of their meshes, and in one frame throughout.
 */
final class CacheChecks {
  /** Where a fit leaves this part of the size, the order is looked at. */
  private static final double APART = 0.05;

  /** More points are not sorted by place. */
  private static final int MOST_SORTED = 2_000_000;

  private final Scene scene;
  private final double metres;
  private final Findings findings;
  private final SurveyMemo memo;
  private final Map<Integer, Node> nodeOf = new HashMap<>();

  /**
   * @param metres of a unit of the scene, as it is likeliest read
   */
  CacheChecks(Scene scene, double metres, SurveyMemo memo, Findings findings) {
    this.scene = scene;
    this.metres = metres;
    this.findings = findings;
    this.memo = memo;
    for (Node node : scene.nodes()) {
      if (node.content() instanceof Node.Content.MeshContent content) {
        nodeOf.putIfAbsent(content.meshId(), node);
      }
    }
  }

  void run() {
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    for (PointCache cache : scene.caches()) {
      PolygonMesh mesh = meshes.get(cache.meshId());
      Node node = nodeOf.get(cache.meshId());
      if (mesh != null && node != null && mesh.points().count() == cache.pointCount()) {
        findings.addAll(memo.of(cache, mesh, node.id(), metres, () -> of(cache, mesh, node)));
      }
    }
  }

  private List<Finding> of(PointCache cache, PolygonMesh mesh, Node node) {
    List<Finding> found = new ArrayList<>();
    try {
      CacheFit fit = CacheFit.of(cache, mesh.points());
      if (fit != null && !place(fit, cache, mesh, node, found)) {
        frames(cache, node, found);
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return found;
  }

  private String where(PointCache cache, Node node) {
    return node.name() + ", cache " + cache.name();
  }

  private String length(double units) {
    return String.format(Locale.ROOT, "%.3f mm", 1000 * metres * units);
  }

  /** Whether something was found that has to be mended before the rest can be told. */
  private boolean place(
      CacheFit fit, PointCache cache, PolygonMesh mesh, Node node, List<Finding> found)
      throws IOException {
    boolean apart = Math.min(fit.left(), fit.asIs()) > APART * fit.size();
    if (apart && order(fit, cache, mesh, node, found)) {
      return true;
    }
    if (fit.isAsItIs()) {
      return false;
    }
    boolean frame = fit.scale() != 1 || !fit.axes().equals(AxisFrame.SAME);
    if (!frame && !fit.isClose()) {
      return false;
    }
    Offer offer =
        Offer.step(
                fit.isClose() ? "Bring it onto its mesh" : "Bring it nearer",
                "cacheFrame",
                params(fit, ""))
            .on(List.of(node.id()));
    found.add(
        Finding.of(
                "cache-frame-differs",
                frame && fit.isClose() ? Severity.FIX : Severity.LOOK,
                where(cache, node),
                fit.isClose()
                    ? "The cache is not in the numbers of its mesh: it comes to lie on it so."
                    : "The cache may not be in the numbers of its mesh: this brings it nearest.")
            .measured(words(fit))
            .evidence(
                length(fit.asIs())
                    + " apart as it stands, "
                    + length(fit.left())
                    + " so, at sample "
                    + (fit.sample() + 1)
                    + (fit.flat() ? "; the mesh is flat: a mirror at it cannot be told" : ""))
            .at(node.id())
            .offer(fit.isClose() ? offer : offer.asking()));
    return true;
  }

  private String words(CacheFit fit) {
    List<String> words = new ArrayList<>();
    if (fit.scale() != 1) {
      words.add("×" + Figures.plain(fit.scale()));
    }
    if (!fit.axes().equals(AxisFrame.SAME)) {
      words.add(fit.axes().label() + (fit.axes().isMirror() ? ", mirrored" : ""));
    }
    double degrees = Math.toDegrees(fit.turn().angle());
    if (degrees > 0.01) {
      words.add("turned by " + Figures.plain(Math.round(100 * degrees) / 100.0) + "°");
    }
    if (fit.move().length() > 0) {
      words.add("moved by " + Figures.length(metres * fit.move().length()));
    }
    return String.join(" · ", words);
  }

  private static Map<String, Object> params(CacheFit fit, String samples) {
    Vector3d angles = fit.turn().getEulerAnglesXYZ(new Vector3d());
    return Map.of(
        "scale",
        fit.scale(),
        "axes",
        fit.axes().text(),
        "turnX",
        Math.toDegrees(angles.x),
        "turnY",
        Math.toDegrees(angles.y),
        "turnZ",
        Math.toDegrees(angles.z),
        "moveX",
        fit.move().x,
        "moveY",
        fit.move().y,
        "moveZ",
        fit.move().z,
        "samples",
        samples);
  }

  private boolean order(
      CacheFit fit, PointCache cache, PolygonMesh mesh, Node node, List<Finding> found)
      throws IOException {
    Coordinates points = mesh.points();
    if (points.count() > MOST_SORTED) {
      return false;
    }
    float[] first = new float[3 * points.count()];
    cache.read(0, 0, points.count(), first);
    PointOrder order = PointOrder.of(first, points);
    if (order == null || order.first() < 0) {
      return false;
    }
    int v = order.first();
    found.add(
        Finding.of(
                "cache-order-differs",
                Severity.FIX,
                where(cache, node),
                "The cache counts the vertices in another order than its mesh: each point lies on"
                    + " one of the mesh, but not on the one of its number.")
            .measured("first at vertex " + (v + 1) + ": point " + (order.source()[v] + 1))
            .evidence(length(fit.asIs()) + " apart as it stands")
            .at(node.id())
            .offer(
                Offer.step("Bring it into order", "cacheOrder", Map.of()).on(List.of(node.id()))));
    return true;
  }

  private void frames(PointCache cache, Node node, List<Finding> found) throws IOException {
    List<FrameRuns.Run> runs = FrameRuns.of(cache);
    if (runs.isEmpty()) {
      return;
    }
    List<String> words = new ArrayList<>();
    List<Offer> offers = new ArrayList<>();
    for (FrameRuns.Run run : runs) {
      String samples = (run.first() + 1) + "-" + (run.last() + 1);
      words.add(samples + ": " + run.axes().label() + (run.axes().isMirror() ? ", mirrored" : ""));
      offers.add(
          Offer.step(
                  "Mend samples " + samples,
                  "cacheFrame",
                  Map.of("axes", run.axes().text(), "samples", samples))
              .on(List.of(node.id())));
    }
    found.add(
        Finding.of(
                "cache-frames-contradict",
                Severity.FIX,
                where(cache, node),
                "Some samples are mirrored or turned against those before them.")
            .measured("samples " + String.join("; ", words))
            .evidence("each sample beside the one before it, as that comes out right")
            .at(node.id())
            .offer(offers.toArray(Offer[]::new)));
  }
}
