package ferry.stone.core.fuzz;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Random;

/** Damages files as disks, transfers, editors and hostile people do. */
final class Mutations {
  private static final String[] WORDS = {
    "-1",
    "0",
    "1",
    "255",
    "65536",
    "99999999",
    "2147483647",
    "2147483648",
    "-2147483648",
    "1e30",
    "1e999",
    "nan",
    "null",
    "\"x\"",
    "[]",
    "{}",
    "true",
    "",
    "/",
    "*",
    "\n",
    "  "
  };
  private static final int[] WHOLE = {
    0, 1, -1, 2, 16, 127, 128, 255, 256, 65_535, 65_536, 1 << 24, Integer.MAX_VALUE, 1 << 31
  };

  private Mutations() {}

  /** One to six damages at random places. */
  static byte[] of(byte[] whole, Random random) {
    byte[] bad = whole;
    for (int i = 1 + random.nextInt(6) * random.nextInt(2); i > 0 && bad.length > 8; i--) {
      bad = one(bad, random);
    }
    return bad;
  }

  private static byte[] one(byte[] from, Random random) {
    byte[] bad = from.clone();
    int at = random.nextInt(bad.length);
    switch (random.nextInt(9)) {
      case 0 -> bad[at] ^= (byte) (1 << random.nextInt(8));
      case 1 -> bad[at] = (byte) random.nextInt(256);
      case 2 -> {
        int value = WHOLE[random.nextInt(WHOLE.length)];
        for (int i = 0; i < 4 && at + i < bad.length; i++) {
          bad[at + i] = (byte) (value >>> 8 * i);
        }
      }
      case 3 -> bad = Arrays.copyOf(bad, 1 + at);
      case 4 -> bad = join(bad, at, new byte[0], Math.min(bad.length, at + span(random)));
      case 5 -> {
        int to = Math.min(bad.length, at + span(random));
        bad = join(bad, to, Arrays.copyOfRange(bad, at, to), to);
      }
      case 6 -> {
        int other = random.nextInt(bad.length);
        int length = Math.min(span(random), bad.length - Math.max(at, other));
        System.arraycopy(from, other, bad, at, length);
      }
      default -> bad = word(bad, at, random);
    }
    return bad;
  }

  private static int span(Random random) {
    return 1 + random.nextInt(random.nextBoolean() ? 8 : 200);
  }

  /** Puts another word for the number or name at a place. */
  private static byte[] word(byte[] bad, int at, Random random) {
    int from = at;
    int to = at;
    while (from > 0 && isWord(bad[from - 1])) {
      from--;
    }
    while (to < bad.length && isWord(bad[to])) {
      to++;
    }
    byte[] word = WORDS[random.nextInt(WORDS.length)].getBytes(StandardCharsets.UTF_8);
    return to - from > 40 ? bad : join(bad, from, word, to);
  }

  private static boolean isWord(byte b) {
    return b >= '0' && b <= '9'
        || b >= 'a' && b <= 'z'
        || b >= 'A' && b <= 'Z'
        || b == '-'
        || b == '.'
        || b == '_';
  }

  private static byte[] join(byte[] all, int head, byte[] middle, int tail) {
    byte[] result = new byte[head + middle.length + all.length - tail];
    System.arraycopy(all, 0, result, 0, head);
    System.arraycopy(middle, 0, result, head, middle.length);
    System.arraycopy(all, tail, result, head + middle.length, all.length - tail);
    return result;
  }
}
