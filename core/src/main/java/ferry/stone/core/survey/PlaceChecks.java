package ferry.stone.core.survey;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/** Where things stand: lost, gigantic, under the ground, mirrored, scaled to nothing, off pivot. */
final class PlaceChecks {
  private static final double FAR_AWAY = 20;
  private static final double HUGE_METRES = 2_000;
  private static final double TINY_METRES = 0.002;
  private static final double NOTHING = 1e-6;
  private static final double UNEVEN = 1e-3;

  /** A pivot is off when it lies farther from the part's box than this many of its diagonals. */
  private static final double OFF_PIVOT = 1.5;

  private final Scene scene;
  private final List<UnitReading> units;
  private final Findings findings;

  /**
   * @param units readings of the unit, likeliest first
   */
  PlaceChecks(Scene scene, List<UnitReading> units, Findings findings) {
    this.scene = scene;
    this.units = units;
    this.findings = findings;
  }

  void run() {
    whole();
    roots();
    parts();
  }

  private void whole() {
    Bounds b = scene.bounds();
    if (b.isEmpty()) {
      findings.add(
          Finding.of(
              "nothing-to-see",
              Severity.FIX,
              "whole scene",
              "No mesh has a vertex: bring the file that holds the geometry."));
      return;
    }
    double away = b.centre().length();
    double size = b.diagonal();
    if (size > 0 && away > FAR_AWAY * size) {
      findings.add(
          Finding.of(
                  "far-away",
                  Severity.FIX,
                  "whole scene",
                  "It stands far from the origin, where views lose it and numbers lose digits.")
              .measured(Figures.plain(away) + " units away, " + Figures.plain(size) + " large")
              .offer(Offer.step("Centre it", "centre", Map.of("what", "all"))));
    }
    if (scene.unitSource() != FrameSource.ASSUMED) {
      double metres = size * scene.frame().metresPerUnit();
      if (metres > HUGE_METRES || metres < TINY_METRES) {
        Finding finding =
            Finding.of(
                    metres > HUGE_METRES ? "gigantic" : "tiny",
                    Severity.FIX,
                    "whole scene",
                    "Its size is out of the usual: the unit is probably wrong.")
                .measured(Figures.length(metres));
        findings.add(size > 0 ? finding.offer(usualUnit(size)) : finding);
      }
    }
    SignedAxis up = scene.frame().up();
    double low = up.sign() > 0 ? b.min(up.index()) : -b.max(up.index());
    double height = b.size(up.index());
    if (scene.axesSource() != FrameSource.ASSUMED && height > 0 && low < -0.01 * height) {
      findings.add(
          Finding.of("below-ground", Severity.LOOK, "whole scene", "It reaches below the ground.")
              .measured(Figures.length(-low * scene.frame().metresPerUnit()) + " below")
              .offer(Offer.step("Drop on the ground", "ground", Map.of())));
    }
  }

  /**
   * The likeliest unit by which the size is a usual one; else the power of ten that makes it so.
   */
  private Offer usualUnit(double size) {
    for (UnitReading reading : units) {
      double metres = size * reading.unit().metres();
      if (metres <= HUGE_METRES && metres >= TINY_METRES) {
        return FrameChecks.unitOffer(reading.unit());
      }
    }
    double digits = Math.rint(Math.log10(size * scene.frame().metresPerUnit()));
    double factor = Math.pow(10, -Math.max(-6, Math.min(6, digits)));
    return Offer.step("Scale by " + Figures.plain(factor), "scale", Map.of("factor", factor));
  }

  private void roots() {
    List<Integer> turned = new ArrayList<>();
    List<Integer> scaled = new ArrayList<>();
    double scale = LeftTransforms.commonScale(scene);
    for (Node node : scene.nodes()) {
      if (node.parent() < 0 && LeftTransforms.quarterAboutX(node) != 0) {
        turned.add(node.id());
      }
      if (node.parent() < 0 && scale != 1) {
        scaled.add(node.id());
      }
    }
    if (!turned.isEmpty()) {
      Node first = byId(turned.get(0));
      findings.add(
          Finding.of(
                  "root-turned",
                  Severity.LOOK,
                  where(turned),
                  "A turn of 90° about X was left on the root: destinations that reset it lay the"
                      + " asset on its side.")
              .measured(LeftTransforms.quarterAboutX(first) < 0 ? "−90° about X" : "90° about X")
              .nodes(turned)
              .offer(Offer.step("Bake the turn", "reset", Map.of("what", "rotation")).on(turned)));
    }
    if (!scaled.isEmpty()) {
      findings.add(
          Finding.of(
                  "root-scaled",
                  Severity.LOOK,
                  where(scaled),
                  "A scale was left on the root: its motion, physics and children inherit it.")
              .measured("× " + Figures.plain(scale))
              .nodes(scaled)
              .offer(
                  Offer.step("Bake the scale", "reset", Map.of("what", "scale"))
                      .on(withBelow(scaled))));
    }
  }

  private Node byId(int id) {
    return scene.nodes().get(scene.nodePlaces().get(id));
  }

  private String where(List<Integer> ids) {
    String first = byId(ids.get(0)).name();
    return ids.size() == 1 ? first : first + " and " + (ids.size() - 1) + " more";
  }

  private void parts() {
    List<Integer> nothing = new ArrayList<>();
    List<Integer> mirrored = new ArrayList<>();
    List<Integer> uneven = new ArrayList<>();
    List<Integer> joints = new ArrayList<>();
    Matrix4d[] world = scene.worldMatrices();
    double all = Math.max(scene.bounds().isEmpty() ? 0 : scene.bounds().diagonal(), 1e-12);
    boolean[] parents = new boolean[world.length];
    for (Node node : scene.nodes()) {
      if (node.parent() >= 0) {
        parents[node.parent()] = true;
      }
    }
    for (int i = 0; i < world.length; i++) {
      Node node = scene.nodes().get(i);
      Matrix4d local = node.transform().toMatrix();
      Vector3d s = local.getScale(new Vector3d());
      boolean joint = node.content() instanceof Node.Content.Joint;
      boolean skinned =
          node.content() instanceof Node.Content.MeshContent content && content.skinId() >= 0;
      double most = s.get(s.maxComponent());
      boolean isUneven = s.get(s.minComponent()) < (1 - UNEVEN) * most;
      if (!skinned && world[i].getScale(new Vector3d()).length() < NOTHING) {
        nothing.add(node.id());
      } else if (joint && (isUneven || Math.abs(most - 1) > UNEVEN)) {
        joints.add(node.id());
      } else if (!joint && !skinned && local.determinant3x3() < 0) {
        mirrored.add(node.id());
      } else if (!joint && !skinned && isUneven && parents[i]) {
        uneven.add(node.id());
      }
    }
    report(
        nothing,
        "scaled-to-nothing",
        Severity.FIX,
        "Scaled to nothing: the part is there but cannot be seen.",
        Offer.step("Remove them", "remove", Map.of("what", "parts")).asking());
    report(
        mirrored,
        "mirrored-part",
        Severity.LOOK,
        "A negative scale mirrors the part: some destinations turn its faces inside out.",
        Offer.step("Bake the mirror", "reset", Map.of("what", "scale")));
    report(
        uneven,
        "uneven-scale",
        Severity.LOOK,
        "An uneven scale above other parts shears them when they turn.",
        Offer.step("Bake the scale", "reset", Map.of("what", "scale")));
    report(
        joints,
        "scaled-joints",
        Severity.LOOK,
        "Joints carry a scale: retargeting and physics go wrong by it.",
        Offer.step("Bake the scale", "reset", Map.of("what", "scale")));
    pivots(world, all);
  }

  private void report(
      List<Integer> ids, String code, Severity severity, String message, Offer offer) {
    if (!ids.isEmpty()) {
      Finding finding =
          Finding.of(code, severity, where(ids), message)
              .measured(Figures.count(ids.size(), "part"))
              .nodes(ids);
      findings.add(finding.offer(offer.on(withBelow(ids))));
    }
  }

  /** A scale that is baked goes on to what hangs below, so that is baked too. */
  private List<Integer> withBelow(List<Integer> ids) {
    boolean[] below = new boolean[scene.nodes().size()];
    List<Integer> all = new ArrayList<>();
    Set<Integer> chosen = new HashSet<>(ids);
    for (int i = 0; i < below.length; i++) {
      Node node = scene.nodes().get(i);
      below[i] = chosen.contains(node.id()) || node.parent() >= 0 && below[node.parent()];
      if (below[i]) {
        all.add(node.id());
      }
    }
    return all;
  }

  /** Parts whose pivot lies far outside of them; flat scenes have all pivots at the origin. */
  private void pivots(Matrix4d[] world, double all) {
    List<Integer> off = new ArrayList<>();
    double farthest = 0;
    Map<Integer, Integer> places = scene.nodePlaces();
    boolean flat = scene.nodes().stream().allMatch(n -> n.transform() == LocalTransform.IDENTITY);
    for (Scene.ShownMesh shown : scene.shownMeshes()) {
      boolean skinned =
          shown.node().content() instanceof Node.Content.MeshContent content
              && content.skinId() >= 0;
      Bounds box = shown.mesh().points().bounds(shown.world());
      if (flat || skinned || box.isEmpty()) {
        continue;
      }
      Vector3d pivot = world[places.get(shown.node().id())].getTranslation(new Vector3d());
      double distance = box.distance(pivot);
      if (distance > OFF_PIVOT * box.diagonal() && distance > 0.02 * all) {
        off.add(shown.node().id());
        farthest = Math.max(farthest, distance);
      }
    }
    if (!off.isEmpty()) {
      findings.add(
          Finding.of(
                  "pivot-off",
                  Severity.LOOK,
                  where(off),
                  "The pivot lies far outside the part: it swings when it should turn.")
              .measured(Figures.length(farthest * scene.frame().metresPerUnit()) + " away")
              .nodes(off)
              .offer(
                  Offer.step("Pivot to the base", "pivot", Map.of("to", "box", "height", "base"))
                      .on(off),
                  Offer.step("Pivot to the middle", "pivot", Map.of("to", "box")).on(off)));
    }
  }
}
