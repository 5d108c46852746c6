package ferry.stone.core.texture;

import java.io.IOException;
import java.util.concurrent.Semaphore;

/**
 * Bounds the memory of all images that are decoded at the same time: those that do not fit wait
 * until others are done. An image that is larger than all that is allowed is decoded alone.
 */
final class DecodeBudget {
  /** Bytes for a pixel: the decoder's picture and ours, of 16 bits. */
  private static final long BYTES_A_PIXEL = 20;

  private static final long UNIT = 1_000_000;
  private static final int UNITS =
      (int)
          Math.max(
              8, Math.min(100_000, Runtime.getRuntime().maxMemory() / 4 / BYTES_A_PIXEL / UNIT));
  private static final Semaphore FREE = new Semaphore(UNITS, true);

  private DecodeBudget() {}

  interface Work<T> {
    T run() throws IOException;
  }

  static <T> T within(long pixels, Work<T> work) throws IOException {
    int units = (int) Math.max(1, Math.min(UNITS, (pixels + UNIT - 1) / UNIT));
    FREE.acquireUninterruptibly(units);
    try {
      return work.run();
    } finally {
      FREE.release(units);
    }
  }
}
