package ferry.stone.core.format.usd.layer;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;

/**
 * A type of values by its name in files.
 *
 * @param kind of each number or text
 * @param components of each value, 9 for a matrix of three rows
 */
public record UsdType(String name, Kind kind, int components) {

  /** How values are held, one after another. */
  public enum Kind {
    /** {@code boolean[]}. */
    BOOL(1),
    /** {@code int[]}, 0 to 255. */
    UCHAR(4),
    /** {@code int[]}. */
    INT(4),
    /** {@code long[]}. */
    UINT(8),
    /** {@code long[]}. */
    INT64(8),
    /** {@code long[]}, to be read without a sign. */
    UINT64(8),
    /** {@code float[]}. */
    HALF(4),
    /** {@code float[]}. */
    FLOAT(4),
    /** {@code double[]}. */
    DOUBLE(8),
    /** {@code double[]} that layer offsets change. */
    TIMECODE(8),
    /** {@code String[]}. */
    STRING(24),
    /** {@code String[]}. */
    TOKEN(24),
    /** {@code String[]}: paths of files as they are written. */
    ASSET(24),
    /** {@code String[]}: expressions of paths, as they are written. */
    PATH_EXPRESSION(24),
    /** Has no values. */
    OPAQUE(0);

    private final int bytes;

    Kind(int bytes) {
      this.bytes = bytes;
    }

    /** Memory that one takes, about. */
    public int bytes() {
      return bytes;
    }

    public boolean isText() {
      return this == STRING || this == TOKEN || this == ASSET || this == PATH_EXPRESSION;
    }

    public boolean isWhole() {
      return this == UCHAR || this == INT || this == UINT || this == INT64 || this == UINT64;
    }

    public boolean isReal() {
      return this == HALF || this == FLOAT || this == DOUBLE || this == TIMECODE;
    }
  }

  private static final Map<String, UsdType> ALL = new LinkedHashMap<>();

  static {
    add(Kind.BOOL, 1, "bool");
    add(Kind.UCHAR, 1, "uchar");
    add(Kind.INT, 1, "int");
    add(Kind.UINT, 1, "uint");
    add(Kind.INT64, 1, "int64");
    add(Kind.UINT64, 1, "uint64");
    add(Kind.HALF, 1, "half");
    add(Kind.FLOAT, 1, "float");
    add(Kind.DOUBLE, 1, "double");
    add(Kind.TIMECODE, 1, "timecode");
    add(Kind.DOUBLE, 1, "duration");
    add(Kind.STRING, 1, "string");
    add(Kind.TOKEN, 1, "token");
    add(Kind.ASSET, 1, "asset");
    add(Kind.PATH_EXPRESSION, 1, "pathExpression");
    add(Kind.OPAQUE, 0, "opaque", "group");
    for (int n = 2; n <= 4; n++) {
      add(Kind.INT, n, "int" + n);
      add(Kind.HALF, n, "half" + n);
      add(Kind.FLOAT, n, "float" + n);
      add(Kind.DOUBLE, n, "double" + n);
      add(Kind.DOUBLE, n * n, "matrix" + n + "d");
    }
    add(Kind.DOUBLE, 16, "frame4d");
    Map<String, Kind> reals =
        new LinkedHashMap<>(Map.of("h", Kind.HALF, "f", Kind.FLOAT, "d", Kind.DOUBLE));
    reals.forEach(
        (letter, kind) -> {
          for (String role : new String[] {"point3", "vector3", "normal3", "color3", "texCoord3"}) {
            add(kind, 3, role + letter);
          }
          add(kind, 2, "texCoord2" + letter);
          add(kind, 4, "color4" + letter, "quat" + letter);
        });
  }

  private static void add(Kind kind, int components, String... names) {
    for (String name : names) {
      ALL.put(name, new UsdType(name, kind, components));
    }
  }

  /** The type of a name without {@code []}; empty for one that the standard does not have. */
  public static Optional<UsdType> of(String name) {
    return Optional.ofNullable(ALL.get(name));
  }

  /** A type that the standard surely has. */
  public static UsdType known(String name) {
    return of(name).orElseThrow(() -> new IllegalArgumentException(name));
  }

  /** Whether its four numbers are a rotation; files have the real part first. */
  public boolean isQuaternion() {
    return name.startsWith("quat");
  }
}
