package ferry.stone.core.format.usd.layer;

/** Types of values by the numbers that crates give them ({@code crateDataTypes.h}). */
public final class CrateTypes {
  public static final int STRING = 10;
  public static final int TOKEN = 11;
  public static final int ASSET = 12;
  public static final int DICTIONARY = 31;
  public static final int TOKEN_LIST = 32;
  public static final int STRING_LIST = 33;
  public static final int PATH_LIST = 34;
  public static final int REFERENCE_LIST = 35;
  public static final int INT_LIST = 36;
  public static final int INT64_LIST = 37;
  public static final int UINT_LIST = 38;
  public static final int UINT64_LIST = 39;
  public static final int PATH_VECTOR = 40;
  public static final int TOKEN_VECTOR = 41;
  public static final int SPECIFIER = 42;
  public static final int PERMISSION = 43;
  public static final int VARIABILITY = 44;
  public static final int VARIANT_SELECTION = 45;
  public static final int TIME_SAMPLES = 46;
  public static final int PAYLOAD = 47;
  public static final int DOUBLE_VECTOR = 48;
  public static final int OFFSET_VECTOR = 49;
  public static final int STRING_VECTOR = 50;
  public static final int BLOCK = 51;
  public static final int VALUE = 52;
  public static final int UNREGISTERED = 53;
  public static final int PAYLOAD_LIST = 55;
  public static final int TIMECODE = 56;
  public static final int PATH_EXPRESSION = 57;
  public static final int RELOCATES = 58;
  public static final int SPLINE = 59;
  public static final int ANIMATION_BLOCK = 60;
  public static final int DURATION = 61;

  /** Names of those that hold numbers and texts, from 1. */
  private static final String[] PLAIN = {
    "bool",
    "uchar",
    "int",
    "uint",
    "int64",
    "uint64",
    "half",
    "float",
    "double",
    "string",
    "token",
    "asset",
    "matrix2d",
    "matrix3d",
    "matrix4d",
    "quatd",
    "quatf",
    "quath",
    "double2",
    "float2",
    "half2",
    "int2",
    "double3",
    "float3",
    "half3",
    "int3",
    "double4",
    "float4",
    "half4",
    "int4"
  };

  private CrateTypes() {}

  /** The type of numbers or texts, {@code null} for others. */
  public static UsdType plain(int number) {
    if (number >= 1 && number <= PLAIN.length) {
      return UsdType.known(PLAIN[number - 1]);
    }
    return switch (number) {
      case TIMECODE -> UsdType.known("timecode");
      case PATH_EXPRESSION -> UsdType.known("pathExpression");
      case DURATION -> UsdType.known("duration");
      default -> null;
    };
  }

  /** The minor version of crates that has a type of numbers or texts, 0 for all. */
  public static int since(UsdType type) {
    return type.name().equals("duration") ? 16 : type.kind() == UsdType.Kind.TIMECODE ? 9 : 0;
  }

  /** The number of a type of numbers or texts. */
  public static int number(UsdType type) {
    if (type.name().equals("duration")) {
      return DURATION;
    }
    switch (type.kind()) {
      case TIMECODE:
        return TIMECODE;
      case PATH_EXPRESSION:
        return PATH_EXPRESSION;
      default:
        for (int i = 0; i < PLAIN.length; i++) {
          UsdType plain = UsdType.known(PLAIN[i]);
          boolean same =
              plain.kind() == type.kind()
                  && plain.components() == type.components()
                  && plain.isQuaternion() == type.isQuaternion();
          if (same && plain.name().startsWith("matrix") == isMatrix(type)) {
            return i + 1;
          }
        }
        throw new IllegalArgumentException(type.name());
    }
  }

  private static boolean isMatrix(UsdType type) {
    return type.name().startsWith("matrix") || type.name().startsWith("frame");
  }
}
