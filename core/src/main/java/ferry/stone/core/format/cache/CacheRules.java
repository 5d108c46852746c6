package ferry.stone.core.format.cache;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.RandomBytes;
import ferry.stone.core.format.losses.BrokenRules;
import java.io.IOException;
import java.nio.ByteBuffer;

/**
 * What readers of bare point caches expect beside what {@link CacheKind} needs: a length to the
 * byte, and times that say when each sample is. Neither format has a published standard: common
 * practice, no source.
 */
final class CacheRules {
  private static final int BYTES_A_POINT = 12;
  private static final int BLOCK = 1 << 16;

  private CacheRules() {}

  static void check(CacheKind kind, String resource, RandomBytes file, Findings findings)
      throws IOException, FormatException {
    BrokenRules rules = new BrokenRules();
    byte[] bytes = new byte[kind.headBytes];
    file.read(0, bytes, 0, bytes.length);
    ByteBuffer head = ByteBuffer.wrap(bytes).order(kind.order);
    boolean mdd = kind == CacheKind.MDD;
    long samples = mdd ? head.getInt(0) : head.getInt(28);
    long points = mdd ? head.getInt(4) : head.getInt(16);
    long dataAt = kind.headBytes + (mdd ? 4 * samples : 0);
    rules.hold(
        samples > 0 && points > 0 && file.size() == dataAt + samples * points * BYTES_A_POINT,
        "head",
        "The file is longer or shorter than its samples.");
    if (mdd) {
      rules.hold(rises(file, samples), "times", "The times of samples do not rise.");
    } else {
      float step = head.getFloat(24);
      rules.hold(
          Float.isFinite(head.getFloat(20)) && Float.isFinite(step) && step > 0,
          "byte 20",
          "The head does not say when samples are.");
    }
    rules.tell(resource, findings);
  }

  private static boolean rises(RandomBytes file, long samples) throws IOException {
    if (samples < 0 || 8 + 4 * samples > file.size()) {
      return false;
    }
    byte[] block = new byte[BLOCK];
    ByteBuffer times = ByteBuffer.wrap(block);
    float before = Float.NEGATIVE_INFINITY;
    for (long s = 0; s < samples; ) {
      int count = (int) Math.min(samples - s, BLOCK / 4);
      file.read(8 + 4 * s, block, 0, 4 * count);
      for (int i = 0; i < count; i++, s++) {
        float now = times.getFloat(4 * i);
        if (!(now > before) || !Float.isFinite(now)) {
          return false;
        }
        before = now;
      }
    }
    return true;
  }
}
