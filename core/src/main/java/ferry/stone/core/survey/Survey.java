package ferry.stone.core.survey;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.LengthUnit;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Material;
import ferry.stone.core.scene.Node;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Looks a scene over.
 *
 * @param inventory what it holds
 * @param units readings of the unit, likeliest first
 * @param ups readings of the up axis, likeliest first
 * @param findings what to put right, look at and know, worst first
 * @param checks how many checks were made
 */
public record Survey(
    Inventory inventory,
    List<UnitReading> units,
    List<UpReading> ups,
    List<Finding> findings,
    int checks) {
  private static final int CHECKS_PER_MESH = 12;
  private static final int CHECKS_PER_SCENE = 7;
  private static final double SURE = 0.6;
  private static final double FAR_AWAY = 20;
  private static final double HUGE_METRES = 2_000;
  private static final double TINY_METRES = 0.002;

  /**
   * @param readFindings what the reader already found
   */
  public static Survey of(Scene scene, List<Finding> readFindings, Progress progress) {
    Findings findings = new Findings();
    findings.addAll(readFindings);
    // Zeros stand in for data that is missing: what they look like is no finding.
    boolean missing = readFindings.stream().anyMatch(f -> f.code().equals("buffer-missing"));
    List<UnitReading> units = UnitReading.of(scene);
    List<UpReading> ups = UpReading.of(scene);
    if (!missing) {
      frame(scene, units, ups, findings);
      place(scene, findings);
    }
    names(scene, findings);
    unusedMaterials(scene, findings);
    List<Scene.ShownMesh> shown = scene.shownMeshes();
    Set<Integer> done = new HashSet<>();
    for (int i = 0; i < shown.size(); i++) {
      progress.checkCancelled();
      progress.report("surveying " + shown.get(i).path(), (double) i / shown.size());
      boolean standIn = missing && shown.get(i).mesh().points().bounds().diagonal() == 0;
      if (!standIn && done.add(shown.get(i).mesh().id())) {
        new MeshChecks(shown.get(i), findings).run();
      }
    }
    List<Finding> sorted = new ArrayList<>(SameFindings.join(findings.list()));
    sorted.sort(java.util.Comparator.comparing(Finding::severity));
    return new Survey(
        Inventory.of(scene),
        units,
        ups,
        List.copyOf(sorted),
        CHECKS_PER_SCENE + CHECKS_PER_MESH * done.size());
  }

  /** The frame as the evidence reads it: what a file states is never overruled. */
  public Frame likelyFrame(Scene scene) {
    Frame frame = scene.frame();
    if (scene.unitSource() == FrameSource.ASSUMED) {
      frame = frame.withMetresPerUnit(units.get(0).unit().metres());
    }
    if (scene.axesSource() == FrameSource.ASSUMED && ups.get(0).up() != frame.up()) {
      frame = frame.withUp(ups.get(0).up());
    }
    return frame;
  }

  private static void frame(
      Scene scene, List<UnitReading> units, List<UpReading> ups, Findings findings) {
    Bounds bounds = scene.bounds();
    if (bounds.isEmpty()) {
      return;
    }
    UnitReading unit = units.get(0);
    double largest = Math.max(bounds.size(0), Math.max(bounds.size(1), bounds.size(2)));
    if (scene.unitSource() == FrameSource.ASSUMED) {
      boolean asRead = unit.unit() == LengthUnit.METRE;
      Finding finding =
          Finding.of(
                  "unit-likely",
                  asRead ? Severity.NOTE : unit.confidence() >= SURE ? Severity.FIX : Severity.LOOK,
                  "whole scene",
                  "The file states no unit; " + unit.unit().word() + " is likeliest.")
              .measured(Figures.plain(largest) + " units large")
              .evidence(
                  String.join("; ", unit.reasons()) + " (" + percent(unit.confidence()) + ")");
      findings.add(
          asRead
              ? finding
              : finding.offer(
                  Offer.step(
                      "Set unit to " + unit.unit().word(),
                      "sourceUnit",
                      Map.of("unit", unit.unit().symbol()))));
    }
    UpReading up = ups.get(0);
    if (scene.axesSource() == FrameSource.ASSUMED) {
      boolean asRead = up.up() == scene.frame().up();
      Finding finding =
          Finding.of(
                  asRead ? "up-axis-likely" : "lying-down",
                  asRead ? Severity.NOTE : up.confidence() >= SURE ? Severity.FIX : Severity.LOOK,
                  "whole scene",
                  asRead
                      ? "The file states no up axis; " + up.up().label() + " is likeliest."
                      : "It lies on its side: "
                          + up.up().label()
                          + " is likely up, not "
                          + scene.frame().up().label()
                          + ".")
              .measured(percent(up.confidence()))
              .evidence(String.join("; ", up.reasons()));
      findings.add(
          asRead
              ? finding
              : finding.offer(
                  Offer.step(
                      "Read " + up.up().label() + " as up",
                      "sourceUp",
                      Map.of("up", up.up().text()))));
    }
  }

  private static String percent(double part) {
    return Math.round(100 * part) + " % sure";
  }

  private static void place(Scene scene, Findings findings) {
    Bounds b = scene.bounds();
    if (b.isEmpty()) {
      findings.add(
          Finding.of("nothing-to-see", Severity.FIX, "whole scene", "No mesh has a vertex."));
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
        findings.add(
            Finding.of(
                    metres > HUGE_METRES ? "gigantic" : "tiny",
                    Severity.FIX,
                    "whole scene",
                    "Its size is out of the usual: the unit is probably wrong.")
                .measured(Figures.length(metres)));
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

  private static void names(Scene scene, Findings findings) {
    List<String> paths = scene.paths();
    Map<String, List<Integer>> same = new LinkedHashMap<>();
    List<Integer> nameless = new ArrayList<>();
    for (int i = 0; i < paths.size(); i++) {
      Node node = scene.nodes().get(i);
      same.computeIfAbsent(paths.get(i), k -> new ArrayList<>()).add(node.id());
      if (node.name().isBlank()) {
        nameless.add(node.id());
      }
    }
    same.forEach(
        (path, ids) -> {
          if (ids.size() > 1 && !path.isBlank()) {
            findings.add(
                Finding.of(
                        "duplicate-names",
                        Severity.LOOK,
                        path,
                        "Several parts have this name; some destinations rename or drop all but"
                            + " one.")
                    .measured(Figures.count(ids.size(), "part"))
                    .nodes(ids));
          }
        });
    if (!nameless.isEmpty()) {
      findings.add(
          Finding.of("no-name", Severity.LOOK, "", "Parts without a name.")
              .measured(Figures.count(nameless.size(), "part"))
              .nodes(nameless));
    }
  }

  private static void unusedMaterials(Scene scene, Findings findings) {
    Set<Integer> used = new HashSet<>();
    scene.meshes().forEach(m -> m.usedMaterials().forEach(used::add));
    for (Node node : scene.nodes()) {
      if (node.content() instanceof Node.Content.MeshContent content
          && content.slotMaterials() != null) {
        java.util.Arrays.stream(content.slotMaterials()).forEach(used::add);
      }
    }
    Map<String, Integer> byName = new HashMap<>();
    for (Material material : scene.materials()) {
      byName.merge(material.name(), 1, Integer::sum);
      if (!used.contains(material.id())) {
        findings.add(
            Finding.of(
                "unused-material",
                Severity.NOTE,
                material.name(),
                "The material is defined but no face uses it."));
      }
    }
    byName.forEach(
        (name, count) -> {
          if (count > 1) {
            findings.add(
                Finding.of(
                        "duplicate-material-names",
                        Severity.LOOK,
                        name,
                        "Different materials share this name.")
                    .measured(Figures.count(count, "material")));
          }
        });
  }
}
