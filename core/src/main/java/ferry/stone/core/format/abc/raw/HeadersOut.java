package ferry.stone.core.format.abc.raw;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;

/** Headers one after another: the other way round of {@link HeaderBytes}. */
final class HeadersOut {
  /** Size of numbers that a header does not choose. */
  static final int WORD = 2;

  private final ByteArrayOutputStream bytes = new ByteArrayOutputStream();

  /** The smallest size that holds a number: 0 for 8 bits, 1 for 16, 2 for 32. */
  static int hint(long most) {
    return most < 1 << 8 ? 0 : most < 1 << 16 ? 1 : WORD;
  }

  static byte[] utf8(String text) {
    return text.getBytes(StandardCharsets.UTF_8);
  }

  void small(int value) {
    bytes.write(value);
  }

  void number(long value, int hint) {
    for (int i = 0; i < 1 << hint; i++) {
      bytes.write((int) (value >>> 8 * i));
    }
  }

  void real(double value) {
    put(OgawaOut.numbers(Double.BYTES).putDouble(value).array());
  }

  void put(byte[] some) {
    bytes.write(some, 0, some.length);
  }

  byte[] toArray() {
    return bytes.toByteArray();
  }
}
