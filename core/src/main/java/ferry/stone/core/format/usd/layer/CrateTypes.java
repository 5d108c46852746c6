package ferry.stone.core.format.usd.layer;

/** Types of values by the numbers that crates give them ({@code crateDataTypes.h}). */
final class CrateTypes {
  static final int STRING = 10;
  static final int TOKEN = 11;
  static final int ASSET = 12;
  static final int DICTIONARY = 31;
  static final int TOKEN_LIST = 32;
  static final int STRING_LIST = 33;
  static final int PATH_LIST = 34;
  static final int REFERENCE_LIST = 35;
  static final int INT_LIST = 36;
  static final int INT64_LIST = 37;
  static final int UINT_LIST = 38;
  static final int UINT64_LIST = 39;
  static final int PATH_VECTOR = 40;
  static final int TOKEN_VECTOR = 41;
  static final int SPECIFIER = 42;
  static final int PERMISSION = 43;
  static final int VARIABILITY = 44;
  static final int VARIANT_SELECTION = 45;
  static final int TIME_SAMPLES = 46;
  static final int PAYLOAD = 47;
  static final int DOUBLE_VECTOR = 48;
  static final int OFFSET_VECTOR = 49;
  static final int STRING_VECTOR = 50;
  static final int BLOCK = 51;
  static final int VALUE = 52;
  static final int UNREGISTERED = 53;
  static final int PAYLOAD_LIST = 55;
  static final int TIMECODE = 56;
  static final int PATH_EXPRESSION = 57;
  static final int RELOCATES = 58;
  static final int SPLINE = 59;
  static final int ANIMATION_BLOCK = 60;

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
  static UsdType plain(int number) {
    if (number >= 1 && number <= PLAIN.length) {
      return UsdType.known(PLAIN[number - 1]);
    }
    return number == TIMECODE
        ? UsdType.known("timecode")
        : number == PATH_EXPRESSION ? UsdType.known("pathExpression") : null;
  }
}
