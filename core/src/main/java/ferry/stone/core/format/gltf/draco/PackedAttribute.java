package ferry.stone.core.format.gltf.draco;

/** An attribute while it is read. */
final class PackedAttribute {
  static final int POSITION = 0;

  /** Bytes of each type by its number: none, int8 … uint64, float32, float64, bool. */
  private static final int[] BYTES = {0, 1, 1, 2, 2, 4, 4, 8, 8, 4, 8, 1};

  final int kind;
  final int type;
  final int components;
  final boolean normalized;
  final int id;
  int decoder;

  /** Whole numbers before they are spread to what they stand for. */
  int[] whole;

  ValueOrder order;
  double[] numbers;

  private PackedAttribute(int kind, int type, int components, boolean normalized, int id) {
    this.kind = kind;
    this.type = type;
    this.components = components;
    this.normalized = normalized;
    this.id = id;
  }

  static PackedAttribute head(DracoBytes in) throws DracoException {
    int kind = in.u8();
    int type = in.u8();
    int components = in.u8();
    boolean normalized = in.u8() != 0;
    if (type < 1 || type >= BYTES.length || components < 1) {
      throw new DracoException("an attribute has an unknown type");
    }
    return new PackedAttribute(kind, type, components, normalized, in.varint());
  }

  int bytes() {
    return BYTES[type];
  }

  /** One number as it stands in the stream. */
  double number(DracoBytes in) throws DracoException {
    return switch (type) {
      case 1 -> in.i8();
      case 2, 11 -> in.u8();
      case 3 -> (short) in.u16();
      case 4 -> in.u16();
      case 5 -> in.i32();
      case 6 -> Integer.toUnsignedLong(in.i32());
      case 7 -> Integer.toUnsignedLong(in.i32()) | (long) in.i32() << 32;
      case 8 -> unsigned(Integer.toUnsignedLong(in.i32()) | (long) in.i32() << 32);
      case 9 -> in.f32();
      default -> Double.longBitsToDouble(Integer.toUnsignedLong(in.i32()) | (long) in.i32() << 32);
    };
  }

  private static double unsigned(long value) {
    return value >= 0 ? value : value + 0x1p64;
  }

  /** A whole number as its type holds it. */
  double held(int value) {
    return switch (type) {
      case 1 -> (byte) value;
      case 2, 11 -> value & 0xff;
      case 3 -> (short) value;
      case 4 -> value & 0xffff;
      case 6 -> Integer.toUnsignedLong(value);
      default -> value;
    };
  }
}
