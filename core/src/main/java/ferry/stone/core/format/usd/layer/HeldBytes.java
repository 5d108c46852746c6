package ferry.stone.core.format.usd.layer;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/** Bytes of a text as they come. */
public final class HeldBytes {
  private byte[] bytes = new byte[32];
  private int count;

  public void add(int one) {
    if (count == bytes.length) {
      bytes = Arrays.copyOf(bytes, 2 * count);
    }
    bytes[count++] = (byte) one;
  }

  public String text() {
    return new String(bytes, 0, count, StandardCharsets.UTF_8);
  }
}
