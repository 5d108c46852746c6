package ferry.stone.core.proof;

import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.shore.Tolerances;

/**
 * Holds differences to what a shore lets pass, and says from where a length can be seen: as long as
 * one pixel of a picture of 1,080 rows over 60° (common practice, no source).
 *
 * @param tolerances of the shore
 * @param seenFrom metres from which it is seen
 */
record Judge(Tolerances tolerances, double seenFrom) {
  static final Judge NONE = new Judge(Tolerances.NONE, 0);

  private static final double HALF_VIEW = Math.tan(Math.toRadians(30));
  private static final double ROWS = 1080;
  private static final double MILLIMETRES = 1000;

  /**
   * @param all what is looked at, in metres
   */
  static Judge of(Tolerances tolerances, Bounds all) {
    Double stated = tolerances.seenFrom();
    double whole = all.isEmpty() ? 0 : all.diagonal() / 2 / HALF_VIEW;
    return new Judge(tolerances, stated == null ? whole : stated);
  }

  /**
   * Whether a difference is one that the shore lets pass; {@code null} where it says nothing, and
   * where it is not the number that changed.
   */
  Boolean within(Verdict verdict, Measure measure) {
    Double most = measure == null || verdict != Verdict.CHANGED ? null : most(measure.unit());
    return most == null || measure.differs() == null || measure.differs() == 0
        ? null
        : Boolean.valueOf(Math.abs(measure.differs()) <= most);
  }

  /** The same in words, behind what is to be said of the row anyway. */
  String note(String note, Verdict verdict, Measure measure) {
    StringBuilder words = new StringBuilder(note);
    Double seen = seenWithin(verdict, measure);
    if (seen != null && seen > 0 && seenFrom > 0) {
      words.append(words.isEmpty() ? "" : "; ");
      words.append(seen >= seenFrom ? "visible from " : "not visible from ");
      words.append(Figures.length(seenFrom));
      words.append(seen >= seenFrom ? "" : ", only from " + Figures.length(seen));
    }
    Boolean within = within(verdict, measure);
    if (within != null) {
      words.append(words.isEmpty() ? "" : "; ");
      words.append(within ? "within" : "beyond").append(" what the shore lets differ");
    }
    return words.toString();
  }

  private Double most(String unit) {
    return switch (unit) {
      case Measure.METRES -> tolerances.apart() == null ? null : tolerances.apart() / MILLIMETRES;
      case Measure.DEGREES -> tolerances.turned();
      case Measure.UV -> tolerances.uv();
      case Measure.PART -> tolerances.values();
      default -> null;
    };
  }

  /** Metres from which a difference in length is as long as a pixel; {@code null} for others. */
  Double seenWithin(Verdict verdict, Measure measure) {
    return verdict == Verdict.KEPT
            || measure == null
            || measure.differs() == null
            || !measure.unit().equals(Measure.METRES)
        ? null
        : Double.valueOf(Math.abs(measure.differs()) * ROWS / (2 * HALF_VIEW));
  }
}
