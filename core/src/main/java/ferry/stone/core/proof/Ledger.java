package ferry.stone.core.proof;

import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.shore.Tolerances;
import java.util.ArrayList;
import java.util.List;

/** Rows under the current heading; not for several threads. */
public final class Ledger {
  private final List<LedgerRow> rows = new ArrayList<>();
  private final Judge judge;
  private String group = "";
  private Capability about;
  private Measure measure;
  private Double amounts;

  /** Without a shore and a place that it is seen from. */
  public Ledger() {
    this(Judge.NONE);
  }

  Ledger(Judge judge) {
    this.judge = judge;
  }

  /** With what a shore lets pass; {@code all} is what is looked at, in metres. */
  public static Ledger judged(Tolerances tolerances, Bounds all) {
    return new Ledger(Judge.of(tolerances, all));
  }

  /** Metres from which it is seen. */
  double seenFrom() {
    return judge.seenFrom();
  }

  /** What the next row tells of, should it not be kept. */
  public Ledger about(Capability capability) {
    about = capability;
    return this;
  }

  /** The numbers of the next row. */
  public Ledger measure(Measure numbers) {
    measure = numbers;
    return this;
  }

  /** How far apart the sides of the next row are, in metres. */
  public Ledger off(double metres) {
    return measure(Measure.off(Measure.METRES, metres));
  }

  /** How far points would have to move for the next row to differ so much, in metres. */
  Ledger amountsTo(double metres) {
    amounts = metres;
    return this;
  }

  public void group(String name) {
    group = name;
  }

  public void add(
      String fact,
      int nodeId,
      String near,
      String far,
      String landed,
      String differs,
      Verdict verdict,
      String note) {
    Capability told = verdict == Verdict.KEPT ? null : about;
    about = null;
    Measure judged = amounts == null ? measure : Measure.off(Measure.METRES, amounts);
    amounts = null;
    rows.add(
        new LedgerRow(
            group,
            fact,
            nodeId,
            near,
            far,
            landed,
            differs,
            verdict,
            judge.note(note, verdict, judged),
            told,
            measure,
            judge.seenWithin(verdict, judged),
            judge.within(verdict, judged)));
    measure = null;
  }

  /** A count that is either the same or not. */
  public void count(String fact, int nodeId, long near, long far, long landed, String noteIfLess) {
    Verdict verdict = far == landed ? Verdict.KEPT : landed < far ? Verdict.LOST : Verdict.CHANGED;
    measure(Measure.count(near, far, landed));
    add(
        fact,
        nodeId,
        ferry.stone.core.math.Figures.count(near),
        ferry.stone.core.math.Figures.count(far),
        ferry.stone.core.math.Figures.count(landed),
        far == landed ? "0" : String.format("%+d", landed - far),
        verdict,
        verdict == Verdict.KEPT ? "" : noteIfLess);
  }

  public List<LedgerRow> rows() {
    return List.copyOf(rows);
  }
}
