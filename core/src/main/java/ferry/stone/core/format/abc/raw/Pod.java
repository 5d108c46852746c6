package ferry.stone.core.format.abc.raw;

/** Types of numbers and texts, in the order of their codes. */
public enum Pod {
  BOOLEAN(1),
  UINT8(1),
  INT8(1),
  UINT16(2),
  INT16(2),
  UINT32(4),
  INT32(4),
  UINT64(8),
  INT64(8),
  FLOAT16(2),
  FLOAT32(4),
  FLOAT64(8),
  /** Texts in UTF-8, a 0 after each. */
  STRING(0),
  /** Texts of 32-bit characters, a 0 after each. */
  WSTRING(0);

  /** Bytes of one; 0 for texts. */
  public final int bytes;

  Pod(int bytes) {
    this.bytes = bytes;
  }

  public boolean isText() {
    return bytes == 0;
  }
}
