package ferry.stone.core.survey;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.shore.Shore;
import ferry.stone.core.shore.Shores;
import ferry.stone.core.survey.look.LookChecks;
import ferry.stone.core.survey.look.MaterialChecks;
import ferry.stone.core.survey.look.TextureChecks;
import ferry.stone.core.survey.motion.PropChecks;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
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
  private static final Set<String> WITH_LENGTHS = Set.of("weld", "unify", "fill");
  private static final int CHECKS_PER_MESH = 18;
  private static final int CHECKS_PER_SCENE = 40;

  /** A survey for the usual shore. */
  public static Survey of(Scene scene, List<Finding> readFindings, Progress progress) {
    return of(scene, readFindings, Shores.usual(), new SurveyMemo(), progress);
  }

  /**
   * @param readFindings what the reader already found
   * @param shore whose limits and name rules count
   * @param memo what earlier surveys found on meshes; those that are the same need not be checked
   *     again
   */
  public static Survey of(
      Scene scene, List<Finding> readFindings, Shore shore, SurveyMemo memo, Progress progress) {
    Findings findings = new Findings();
    findings.addAll(readFindings);
    // Zeros stand in for data that is missing: what they look like is no finding.
    boolean missing = readFindings.stream().anyMatch(f -> f.code().equals("buffer-missing"));
    Evidence evidence = Evidence.of(scene);
    List<UnitReading> units =
        UnitReading.of(scene, evidence, scene.unitSource() == FrameSource.STATED);
    List<UpReading> ups = UpReading.of(scene, evidence, scene.axesSource() == FrameSource.STATED);
    if (!missing) {
      FrameChecks.run(scene, units, ups, evidence, findings);
      new PlaceChecks(scene, units, findings).run();
      new BundleChecks(scene, findings).run();
      new RigChecks(scene, findings).run();
      new AxleChecks(scene, findings).run();
      new LookChecks(scene, findings).run();
    }
    new NameChecks(scene, shore, findings).run();
    new BudgetChecks(scene, shore, findings).run();
    new TextureChecks(scene, findings).run(progress);
    MaterialChecks.run(scene, findings);
    unusedMaterials(scene, findings);
    double metres =
        scene.unitSource() == FrameSource.ASSUMED
            ? units.get(0).unit().metres()
            : scene.frame().metresPerUnit();
    // Lengths of offers are true in the unit that they were measured in.
    if (!missing && !scene.caches().isEmpty()) {
      new CacheChecks(scene, metres, memo, findings).run();
    }
    if (!missing) {
      new PropChecks(scene, metres, findings).run();
    }
    Offer unit =
        metres == scene.frame().metresPerUnit() ? null : FrameChecks.unitOffer(units.get(0).unit());
    int meshes = surfaces(scene, missing, metres, unit, memo, findings, progress);
    List<Finding> sorted = new ArrayList<>(SameFindings.join(findings.list()));
    sorted.sort(java.util.Comparator.comparing(Finding::severity));
    return new Survey(
        memo.inventory(scene),
        units,
        ups,
        List.copyOf(sorted),
        CHECKS_PER_SCENE + CHECKS_PER_MESH * meshes);
  }

  private static int surfaces(
      Scene scene,
      boolean missing,
      double metres,
      Offer unit,
      SurveyMemo memo,
      Findings findings,
      Progress progress) {
    Map<Integer, Skin> skins = new HashMap<>();
    scene.skins().forEach(s -> skins.put(s.meshId(), s));
    List<Scene.ShownMesh> shown = scene.shownMeshes();
    Set<Integer> done = new HashSet<>();
    for (int i = 0; i < shown.size(); i++) {
      progress.checkCancelled();
      progress.report("surveying " + shown.get(i).path(), (double) i / shown.size());
      Scene.ShownMesh mesh = shown.get(i);
      boolean standIn = missing && mesh.mesh().points().bounds().diagonal() == 0;
      if (!standIn && done.add(mesh.mesh().id())) {
        List<Finding> own =
            memo.of(
                mesh,
                metres,
                () -> MeshChecks.of(scene, mesh, skins.get(mesh.mesh().id()), metres, memo));
        own.forEach(f -> findings.add(unit == null ? f : after(f, unit)));
      }
    }
    return done.size();
  }

  private static Finding after(Finding finding, Offer unit) {
    return finding.offer(
        finding.offers().stream()
            .map(o -> WITH_LENGTHS.contains(o.kind()) ? o.after(unit) : o)
            .toArray(Offer[]::new));
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

  private static void unusedMaterials(Scene scene, Findings findings) {
    Set<Integer> used = new HashSet<>();
    scene.meshes().forEach(m -> m.usedMaterials().forEach(used::add));
    for (Node node : scene.nodes()) {
      node.ownMaterials().forEach(used::add);
    }
    for (Material material : scene.materials()) {
      if (!used.contains(material.id())) {
        findings.add(
            Finding.of(
                    "unused-material",
                    Severity.NOTE,
                    material.name(),
                    "The material is defined but no face uses it.")
                .offer(
                    Offer.step(
                        "Remove unused materials", "remove", Map.of("what", "unusedMaterials"))));
      }
    }
  }
}
