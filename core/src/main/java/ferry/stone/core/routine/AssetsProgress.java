package ferry.stone.core.routine;

import ferry.stone.core.work.Progress;

/** How far all assets of a batch have come together; what is done is said with the asset's name. */
final class AssetsProgress {
  private final Progress whole;
  private final double[] parts;
  private double sum;

  AssetsProgress(Progress whole, int count) {
    this.whole = whole;
    parts = new double[count];
  }

  /**
   * The progress of one asset; assets may be at work side by side.
   *
   * @param place of the asset among all
   */
  Progress of(int place, String name) {
    return new Progress() {
      @Override
      public void report(String what, double fraction) {
        whole.report(name + ": " + what, reached(place, fraction));
      }

      @Override
      public boolean isCancelled() {
        return whole.isCancelled();
      }
    };
  }

  /** Says that a part of an asset is done, which never goes back; what is done of all. */
  synchronized double reached(int place, double fraction) {
    double now = Math.max(parts[place], Math.max(0, Math.min(1, fraction)));
    sum += now - parts[place];
    parts[place] = now;
    return sum / parts.length;
  }
}
