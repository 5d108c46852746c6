package ferry.stone.core.proof;

import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.corner.LayerValues;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.CurveForm;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.texture.ColourSpace;
import java.util.List;
import java.util.Locale;
import org.joml.Vector3d;

/** Compares the lines and points of a part, one after another: places and colours. */
final class LooseProof {
  /** Of knots and weights, which some formats hold as floats. */
  private static final double FORM_TOLERANCE = 1e-7;

  private static final double COLOUR_TOLERANCE = 0.003;

  private final Ledger ledger;
  private final int nodeId;
  private final Scene.ShownMesh far;
  private final Scene.ShownMesh landed;
  private final boolean farLinear;
  private final boolean landedLinear;
  private final Landed landing;
  private final double tolerance;

  /**
   * @param tolerance by which a place may be off, in metres
   */
  LooseProof(
      Ledger ledger,
      int nodeId,
      Scene.ShownMesh far,
      Scene.ShownMesh landed,
      boolean farLinear,
      boolean landedLinear,
      Landed landing,
      double tolerance) {
    this.landing = landing;
    this.ledger = ledger;
    this.nodeId = nodeId;
    this.far = far;
    this.landed = landed;
    this.farLinear = farLinear;
    this.landedLinear = landedLinear;
    this.tolerance = tolerance;
  }

  void compare() {
    LooseElements wanted = far.mesh().loose();
    LooseElements found = landed.mesh().loose();
    if (wanted == null) {
      return;
    }
    Capability lines =
        far.mesh().faces().faceCount() > 0 ? Capability.LINES_BESIDE_FACES : Capability.LINES;
    form(wanted, found);
    kind("Line segments", lines, ends(wanted), found == null ? new int[0] : ends(found));
    kind("Points", Capability.POINTS, wanted.points(), found == null ? new int[0] : found.points());
  }

  /** What the lines are control points of, where the format holds it. */
  private void form(LooseElements wanted, LooseElements found) {
    CurveForm own = wanted.form();
    if (own == null) {
      return;
    }
    CurveForm there = found == null ? null : found.form();
    boolean same =
        own.isLike(there)
            && close(own.knots(), there.knots())
            && close(own.weights(), there.weights());
    ledger
        .about(Capability.NURBS_CURVES)
        .add(
            "Curve",
            nodeId,
            words(own),
            words(own),
            there == null ? "—" : words(there),
            "",
            there == null ? Verdict.LOST : same ? Verdict.KEPT : Verdict.CHANGED,
            same ? "" : "its form, knots or weights differ");
  }

  private static String words(CurveForm form) {
    return form.basis().name().toLowerCase(Locale.ROOT).replace('_', ' ')
        + " of degree "
        + form.degree();
  }

  private static boolean close(double[] a, double[] b) {
    if (a == null || b == null) {
      return a == b;
    }
    boolean close = a.length == b.length;
    for (int i = 0; close && i < a.length; i++) {
      close = Math.abs(a[i] - b[i]) <= FORM_TOLERANCE * Math.max(1, Math.abs(a[i]));
    }
    return close;
  }

  /** Both ends of every segment. */
  private static int[] ends(LooseElements loose) {
    int[] ends = new int[2 * loose.segmentCount()];
    int at = 0;
    for (int l = 0; l < loose.lineCount(); l++) {
      for (int i = loose.lineOffsets()[l]; i + 1 < loose.lineOffsets()[l + 1]; i++) {
        ends[at++] = loose.lineVertices()[i];
        ends[at++] = loose.lineVertices()[i + 1];
      }
    }
    return ends;
  }

  private void kind(String fact, Capability capability, int[] wanted, int[] found) {
    int per = capability == Capability.POINTS ? 1 : 2;
    if (wanted.length == 0 && found.length == 0) {
      return;
    }
    boolean same = wanted.length == found.length;
    double off = same ? farthest(wanted, found) : Double.NaN;
    String count = Figures.count(wanted.length / per);
    ledger
        .about(capability)
        .measure(same ? Measure.off(Measure.METRES, off) : null)
        .add(
            fact,
            nodeId,
            count,
            count,
            Figures.count(found.length / per),
            same ? Proof.millimetres(off) : Figures.count((found.length - wanted.length) / per),
            !same ? Verdict.LOST : off <= tolerance ? Verdict.KEPT : Verdict.CHANGED,
            same ? "" : fact.toLowerCase(Locale.ROOT) + " are missing");
    if (same) {
      colours(fact, wanted, found);
      boolean alone = far.mesh().faces().faceCount() == 0;
      if (alone && landing.fate(Capability.CUSTOM_LAYERS) != Capability.Fate.LOST) {
        layers(wanted, found);
      }
    }
  }

  /** Of parts without faces; those of others are compared at their corners. */
  private void layers(int[] wanted, int[] found) {
    Holding holding = landing.holding();
    List<Attribute> held = holding.layers(far.mesh());
    Attribute[] there = LayerValues.found(holding.layerNames(far.mesh()), landed.mesh());
    int[] others = new int[held.size()];
    for (int l = 0; l < others.length; l++) {
      boolean onVertices = held.get(l).domain() == Domain.VERTEX && there[l] != null;
      for (int i = 0; onVertices && i < wanted.length; i++) {
        int a = held.get(l).valueOf(0, wanted[i], 0);
        int b = there[l].valueOf(0, found[i], 0);
        others[l] += LayerValues.same(held.get(l), a, there[l], b) ? 0 : 1;
      }
    }
    new LayerProof(ledger, nodeId, far.mesh(), landed.mesh(), holding)
        .list(l -> others[l], "vertex");
  }

  private double farthest(int[] wanted, int[] found) {
    Vector3d a = new Vector3d();
    Vector3d b = new Vector3d();
    double most = 0;
    for (int i = 0; i < wanted.length; i++) {
      far.world().transformPosition(at(far.mesh(), wanted[i], a));
      landed.world().transformPosition(at(landed.mesh(), found[i], b));
      if (a.isFinite() || b.isFinite()) {
        most = Math.max(most, a.distance(b));
      }
    }
    return most;
  }

  private static Vector3d at(PolygonMesh mesh, int v, Vector3d to) {
    return to.set(mesh.points().x(v), mesh.points().y(v), mesh.points().z(v));
  }

  private static Attribute onVertices(PolygonMesh mesh) {
    return mesh.first(Semantic.COLOUR).filter(c -> c.domain() == Domain.VERTEX).orElse(null);
  }

  private void colours(String fact, int[] wanted, int[] found) {
    Attribute own = onVertices(far.mesh());
    if (own == null) {
      return;
    }
    Attribute there = onVertices(landed.mesh());
    double most = 0;
    for (int i = 0; there != null && i < wanted.length; i++) {
      int a = own.valueOf(0, wanted[i], 0);
      int b = there.valueOf(0, found[i], 0);
      for (int k = 0; k < 3; k++) {
        most =
            Math.max(
                most, Math.abs(shown(own, a, k, farLinear) - shown(there, b, k, landedLinear)));
      }
    }
    ledger
        .about(Capability.COLOURS)
        .add(
            fact + ", colours",
            nodeId,
            "yes",
            "yes",
            there == null ? "—" : "yes",
            String.format(Locale.ROOT, "%.4f", most),
            there == null
                ? Verdict.LOST
                : most <= COLOUR_TOLERANCE ? Verdict.KEPT : Verdict.CHANGED,
            "");
  }

  private static double shown(Attribute layer, int row, int k, boolean linear) {
    double value = row < 0 ? 1 : layer.values()[layer.components() * row + k];
    double clamped = Math.max(0, Math.min(1, value));
    return linear ? ColourSpace.toSrgb(clamped) : clamped;
  }
}
