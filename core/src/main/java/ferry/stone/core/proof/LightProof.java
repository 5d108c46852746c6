package ferry.stone.core.proof;

import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Light;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** Compares lights: kind, strength, colour, reach and cone. */
final class LightProof {
  private static final double AGREES = 1e-5;

  /** Colours go through 8-bit and gamma curves in some formats. */
  private static final double COLOURS_AGREE = 1e-4;

  private final Ledger ledger;
  private final Scene far;
  private final Scene read;
  private final Landed landing;

  LightProof(Ledger ledger, Scene far, Scene read, Landed landing) {
    this.ledger = ledger;
    this.far = far;
    this.read = read;
    this.landing = landing;
  }

  void compare() {
    Map<String, Deque<Light>> byName = new HashMap<>();
    for (Light light : read.lights()) {
      byName.computeIfAbsent(light.name(), n -> new ArrayDeque<>()).add(light);
    }
    for (Light light : far.lights()) {
      Light landed = byName.getOrDefault(light.name(), new ArrayDeque<>()).poll();
      List<String> other = landed == null ? List.of() : differences(light, landed);
      ledger
          .about(light.kind() == Light.Kind.DOME ? Capability.DOME_LIGHTS : Capability.AREA_LIGHTS)
          .add(
              "Light " + light.name(),
              -1,
              power(light),
              power(light),
              landed == null ? "—" : power(landed),
              "",
              landed == null ? Verdict.LOST : other.isEmpty() ? Verdict.KEPT : Verdict.CHANGED,
              landed == null
                  ? landing.holding().format()
                      + " has no "
                      + light.kind().name().toLowerCase(Locale.ROOT)
                      + " lights"
                  : String.join(", ", other));
    }
  }

  private List<String> differences(Light light, Light landed) {
    List<String> other = new ArrayList<>();
    if (landed.kind() != light.kind() || !near(light.intensity(), landed.intensity())) {
      other.add("the strength differs");
    }
    for (int k = 0; k < 3; k++) {
      if (Math.abs(light.linearColour()[k] - landed.linearColour()[k]) > COLOURS_AGREE) {
        other.add("the colour differs");
        break;
      }
    }
    if (light.kind() != Light.Kind.DIRECTIONAL && !near(light.range(), landed.range())) {
      other.add("it reaches " + length(landed.range()) + ", not " + length(light.range()));
    }
    boolean cone =
        near(light.outerAngleRadians(), landed.outerAngleRadians())
            && Math.abs(light.innerAngleRadians() - landed.innerAngleRadians()) <= AGREES;
    if (light.kind() == Light.Kind.SPOT && !cone) {
      other.add("the cone differs");
    }
    return other;
  }

  private static boolean near(double a, double b) {
    return a == b || Math.abs(a - b) <= AGREES * Math.max(Math.abs(a), Math.abs(b));
  }

  private String length(double units) {
    return Double.isInfinite(units)
        ? "without end"
        : Figures.length(units * far.frame().metresPerUnit());
  }

  private static String power(Light light) {
    String unit = light.kind() == Light.Kind.DIRECTIONAL ? " lx" : " cd";
    return light.kind().name().toLowerCase(Locale.ROOT)
        + ", "
        + Figures.plain(light.intensity())
        + unit;
  }
}
