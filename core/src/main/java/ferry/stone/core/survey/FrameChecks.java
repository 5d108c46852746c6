package ferry.stone.core.survey;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.LengthUnit;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import java.util.List;
import java.util.Map;

/**
 * Unit and axes: what is likely where the file does not say, and where the evidence contradicts it.
 */
final class FrameChecks {
  private static final double SURE = 0.6;

  /** So sure must the evidence be before a header is doubted. */
  private static final double DOUBT = 0.8;

  private FrameChecks() {}

  static void run(
      Scene scene,
      List<UnitReading> units,
      List<UpReading> ups,
      Evidence evidence,
      Findings findings) {
    Bounds bounds = scene.bounds();
    if (bounds.isEmpty()) {
      return;
    }
    double largest = Math.max(bounds.size(0), Math.max(bounds.size(1), bounds.size(2)));
    if (scene.unitSource() == FrameSource.ASSUMED) {
      likelyUnit(units.get(0), largest, findings);
    } else if (scene.unitSource() == FrameSource.STATED) {
      doubtedUnit(scene, units, evidence, largest, findings);
    }
    if (scene.axesSource() == FrameSource.ASSUMED) {
      likelyUp(scene, ups.get(0), findings);
    } else if (scene.axesSource() == FrameSource.STATED) {
      doubtedUp(scene, ups.get(0), evidence, findings);
    }
  }

  private static void likelyUnit(UnitReading unit, double largest, Findings findings) {
    boolean asRead = unit.unit() == LengthUnit.METRE;
    Finding finding =
        Finding.of(
                "unit-likely",
                asRead ? Severity.NOTE : unit.confidence() >= SURE ? Severity.FIX : Severity.LOOK,
                "whole scene",
                "The file states no unit; " + unit.unit().word() + " is likeliest.")
            .measured(Figures.plain(largest) + " units large")
            .evidence(String.join("; ", unit.reasons()) + " (" + percent(unit.confidence()) + ")");
    findings.add(finding.offer(unitOffer(unit.unit())));
  }

  static Offer unitOffer(LengthUnit unit) {
    return Offer.step("Set unit to " + unit.word(), "sourceUnit", Map.of("unit", unit.symbol()));
  }

  /** A header is never overruled, but contradicted evidence is told. */
  private static void doubtedUnit(
      Scene scene, List<UnitReading> units, Evidence evidence, double largest, Findings findings) {
    UnitReading best = units.get(0);
    LengthUnit stated = LengthUnit.ofMetres(scene.frame().metresPerUnit()).orElse(null);
    boolean strong = evidence.isStrong() || best.named();
    if (best.unit() == stated || best.confidence() < DOUBT || !strong) {
      return;
    }
    findings.add(
        Finding.of(
                "unit-doubted",
                Severity.FIX,
                "whole scene",
                "The file says "
                    + (stated == null
                        ? Figures.plain(scene.frame().metresPerUnit()) + " m a unit"
                        : stated.word())
                    + ", but "
                    + best.unit().word()
                    + " is likelier.")
            .measured(Figures.length(largest * scene.frame().metresPerUnit()) + " large")
            .evidence(String.join("; ", best.reasons()) + " (" + percent(best.confidence()) + ")")
            .offer(unitOffer(best.unit())));
  }

  private static void likelyUp(Scene scene, UpReading up, Findings findings) {
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
    findings.add(finding.offer(upOffer(up.up())));
  }

  private static Offer upOffer(SignedAxis up) {
    return Offer.step("Read " + up.label() + " as up", "sourceUp", Map.of("up", up.text()));
  }

  private static void doubtedUp(Scene scene, UpReading up, Evidence evidence, Findings findings) {
    if (up.up() != scene.frame().up() && up.confidence() >= DOUBT && evidence.isStrong()) {
      findings.add(
          Finding.of(
                  "up-axis-doubted",
                  Severity.FIX,
                  "whole scene",
                  "The file says "
                      + scene.frame().up().label()
                      + " up, but "
                      + up.up().label()
                      + " is likelier.")
              .measured(percent(up.confidence()))
              .evidence(String.join("; ", up.reasons()))
              .offer(upOffer(up.up())));
    }
  }

  static String percent(double part) {
    return Math.round(100 * part) + " % sure";
  }
}
