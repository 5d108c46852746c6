package ferry.stone.core;

import ferry.stone.core.work.Progress;

/** Work that the user has asked to end. */
public final class StoppedProgress implements Progress {
  @Override
  public void report(String what, double fraction) {}

  @Override
  public boolean isCancelled() {
    return true;
  }
}
