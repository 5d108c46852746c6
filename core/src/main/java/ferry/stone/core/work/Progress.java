package ferry.stone.core.work;

/** Told how far long work has come, and asked whether it should stop. Safe to call often. */
public interface Progress {

  /** Does nothing and never cancels. */
  Progress NONE =
      new Progress() {
        @Override
        public void report(String what, double fraction) {}

        @Override
        public boolean isCancelled() {
          return false;
        }
      };

  /**
   * @param what what is being done, in words for the user
   * @param fraction 0 to 1 of the whole
   */
  void report(String what, double fraction);

  boolean isCancelled();

  /** Ends the work when the user has asked for it. */
  default void checkCancelled() {
    if (isCancelled()) {
      throw new CancelledException();
    }
  }

  /** A part of this work: its 0 to 1 falls between {@code from} and {@code to} of the whole. */
  default Progress part(double from, double to) {
    Progress whole = this;
    return new Progress() {
      @Override
      public void report(String what, double fraction) {
        whole.report(what, from + (to - from) * fraction);
      }

      @Override
      public boolean isCancelled() {
        return whole.isCancelled();
      }
    };
  }
}
