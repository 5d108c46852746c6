package ferry.stone.core.format.usd.compose;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.layer.ArrayEdit;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdValue;
import java.io.IOException;
import java.util.List;

/** Samples with edits of arrays done: those of stronger layers, and those among the samples. */
final class EditedSamples implements UsdSamples {
  private final UsdSamples of;
  private final List<ArrayEdit> edits;
  private final Object still;

  private EditedSamples(UsdSamples of, List<ArrayEdit> edits, Object still) {
    this.of = of;
    this.edits = edits;
    this.still = still;
  }

  /**
   * @param edits of stronger layers, the strongest first
   * @param still the value that does not change, which samples may edit
   */
  static UsdSamples of(UsdSamples samples, List<ArrayEdit> edits, Object still) {
    return new EditedSamples(samples, edits, still);
  }

  /** A value with edits done, the weakest first; values of other kinds stay. */
  static Object over(List<ArrayEdit> edits, Object value) {
    Object all = value;
    for (int i = edits.size() - 1; i >= 0; i--) {
      all = edits.get(i).over(all instanceof UsdValue array && array.array() ? array : null);
    }
    return all;
  }

  @Override
  public double[] codes() {
    return of.codes();
  }

  @Override
  public Object value(int sample) throws IOException, FormatException {
    Object own = of.value(sample);
    if (own instanceof ArrayEdit edit) {
      own = over(List.of(edit), still);
    }
    return own instanceof UsdValue ? over(edits, own) : own;
  }

  @Override
  public int length(int sample) throws IOException, FormatException {
    return edits.isEmpty() ? plainLength(sample) : UsdSamples.super.length(sample);
  }

  private int plainLength(int sample) throws IOException, FormatException {
    int own = of.length(sample);
    return own > 0 ? own : UsdSamples.super.length(sample);
  }

  @Override
  public void floats(int sample, int from, int count, float[] target)
      throws IOException, FormatException {
    if (edits.isEmpty() && of.length(sample) > 0) {
      of.floats(sample, from, count, target);
    } else {
      UsdSamples.super.floats(sample, from, count, target);
    }
  }
}
