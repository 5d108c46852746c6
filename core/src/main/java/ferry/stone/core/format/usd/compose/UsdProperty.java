package ferry.stone.core.format.usd.compose;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.layer.ArrayEdit;
import ferry.stone.core.format.usd.layer.ListOp;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdType;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;

/** A property with all that is said of it. */
public final class UsdProperty {
  private final String name;
  private final List<Opinion> opinions;
  private final double[] range;
  private final Function<List<Object>, Object> together;

  /**
   * What one layer says.
   *
   * @param times its time codes on those of the whole
   * @param carry a path that it speaks of, as the whole calls it
   */
  record Opinion(PropertySpec spec, TimeMap times, String layer, Function<String, String> carry) {}

  /**
   * @param opinions the strongest first
   * @param range the first and last code of the whole
   */
  UsdProperty(
      String name,
      List<Opinion> opinions,
      double[] range,
      Function<List<Object>, Object> together) {
    this.name = name;
    this.opinions = opinions;
    this.range = range;
    this.together = together;
  }

  public String name() {
    return name;
  }

  public boolean isRelationship() {
    return opinions.get(0).spec().isRelationship();
  }

  /** Without {@code []}; empty where nothing says it. */
  public String typeName() {
    return opinions.stream()
        .map(o -> o.spec().typeName())
        .filter(t -> !t.isEmpty())
        .findFirst()
        .orElse("");
  }

  public boolean isArray() {
    return opinions.get(0).spec().isArray();
  }

  public boolean isUniform() {
    return opinions.stream().anyMatch(o -> o.spec().isUniform());
  }

  public boolean isCustom() {
    return opinions.stream().anyMatch(o -> o.spec().isCustom());
  }

  /** The layer whose value counts, empty where none has one. */
  public String valueLayer() {
    Opinion strongest = strongest();
    return strongest == null ? "" : strongest.layer();
  }

  /** The strongest that says a value, samples or a curve. */
  private Opinion strongest() {
    return opinions.stream()
        .filter(o -> o.spec().value() != null || hasSamples(o) || o.spec().spline() != null)
        .findFirst()
        .orElse(null);
  }

  private static boolean hasSamples(Opinion opinion) {
    return opinion.spec().samples() != null && opinion.spec().samples().codes().length > 0;
  }

  /**
   * The value that does not change, with all edits of arrays done; {@code null} for none, also
   * where it is blocked.
   */
  public Object value() {
    List<ArrayEdit> edits = new ArrayList<>();
    for (Opinion opinion : opinions) {
      Object own = opinion.spec().value();
      if (own instanceof ArrayEdit edit) {
        edits.add(edit);
      } else if (own != null) {
        return EditedSamples.over(edits, UsdPrim.isBlocked(own) ? null : own);
      }
    }
    return EditedSamples.over(edits, null);
  }

  /** Whether a curve says what it is over time. */
  public boolean isCurve() {
    Opinion strongest = strongest();
    return strongest != null && !hasSamples(strongest) && strongest.spec().spline() != null;
  }

  /**
   * Samples at the time codes of the whole, also of a curve; {@code null} where the value does not
   * change.
   */
  public UsdSamples samples() {
    List<ArrayEdit> edits = new ArrayList<>();
    for (Opinion opinion : opinions) {
      UsdSamples own = samples(opinion);
      if (own != null) {
        return EditedSamples.of(own, edits, value());
      }
      if (opinion.spec().value() instanceof ArrayEdit edit) {
        edits.add(edit);
      } else if (opinion.spec().value() != null || opinion.spec().spline() != null) {
        return null;
      }
    }
    return null;
  }

  private UsdSamples samples(Opinion strongest) {
    TimeMap times = strongest.times();
    if (hasSamples(strongest)) {
      return new Retimed(strongest.spec().samples(), times);
    }
    UsdType type = UsdType.of(typeName()).orElse(null);
    CurveSamples curve =
        CurveSamples.of(strongest.spec(), type, times.inverse(range[0]), times.inverse(range[1]));
    return curve == null ? null : new Retimed(curve, times);
  }

  private record Retimed(UsdSamples of, TimeMap times) implements UsdSamples {
    @Override
    public double[] codes() {
      double[] codes = of.codes().clone();
      for (int i = 0; i < codes.length; i++) {
        codes[i] = times.of(codes[i]);
      }
      return codes;
    }

    @Override
    public Object value(int sample) throws IOException, FormatException {
      return of.value(sample);
    }

    @Override
    public int length(int sample) throws IOException, FormatException {
      return of.length(sample);
    }

    @Override
    public void floats(int sample, int from, int count, float[] target)
        throws IOException, FormatException {
      of.floats(sample, from, count, target);
    }
  }

  /** Targets of a relationship, or what an attribute is connected to, as the whole calls them. */
  public List<String> targets() {
    List<String> all = new ArrayList<>();
    for (int i = opinions.size() - 1; i >= 0; i--) {
      ListOp<String> edit = opinions.get(i).spec().targets();
      if (edit != null) {
        all = new ArrayList<>(carried(edit, opinions.get(i).carry()).over(all));
      }
    }
    return all;
  }

  private static ListOp<String> carried(ListOp<String> edit, Function<String, String> carry) {
    return new ListOp<>(
        edit.explicit() == null ? null : carried(edit.explicit(), carry),
        carried(edit.added(), carry),
        carried(edit.prepended(), carry),
        carried(edit.appended(), carry),
        carried(edit.deleted(), carry),
        carried(edit.reordered(), carry));
  }

  private static List<String> carried(List<String> paths, Function<String, String> carry) {
    return paths.stream().map(carry).filter(java.util.Objects::nonNull).toList();
  }

  /** A field of the property, such as {@code interpolation}. */
  public Object field(String field) {
    List<Object> said = new ArrayList<>();
    for (Opinion opinion : opinions) {
      Object own = opinion.spec().fields().get(field);
      if (own != null) {
        said.add(own);
      }
    }
    return together.apply(said);
  }
}
