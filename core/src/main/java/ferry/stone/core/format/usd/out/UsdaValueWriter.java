package ferry.stone.core.format.usd.out;

import ferry.stone.core.format.usd.layer.UsdType;
import ferry.stone.core.format.usd.layer.UsdValue;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.util.Map;

/** Values as text layers have them. */
final class UsdaValueWriter {
  private UsdaValueWriter() {}

  static void write(Writer out, UsdValue value) throws IOException {
    UsdType type = value.type();
    if (!value.array()) {
      one(out, value, 0);
      return;
    }
    int count = type.kind().isText() ? value.length() : value.count();
    out.write('[');
    for (int i = 0; i < count; i++) {
      if (i > 0) {
        out.write(", ");
      }
      one(out, value, i);
    }
    out.write(']');
  }

  private static void one(Writer out, UsdValue value, int row) throws IOException {
    UsdType type = value.type();
    if (type.kind().isText()) {
      String text = value.texts()[row];
      out.write(type.kind() == UsdType.Kind.ASSET ? UsdaWriter.asset(text) : quoted(text));
      return;
    }
    int width = type.components();
    boolean matrix = type.name().startsWith("matrix") || type.name().startsWith("frame");
    int line = matrix ? (int) Math.round(Math.sqrt(width)) : width;
    if (width > 1) {
      out.write('(');
    }
    for (int k = 0; k < width; k++) {
      boolean starts = k % line == 0;
      if (k > 0) {
        out.write(matrix && starts ? "), " : ", ");
      }
      if (matrix && starts) {
        out.write('(');
      }
      number(out, value, row * width + k);
    }
    if (width > 1) {
      out.write(matrix ? "))" : ")");
    }
  }

  private static void number(Writer out, UsdValue value, int i) throws IOException {
    switch (value.type().kind()) {
      case BOOL -> out.write(((boolean[]) value.data())[i] ? "true" : "false");
      case HALF, FLOAT -> out.write(number(((float[]) value.data())[i]));
      case DOUBLE, TIMECODE -> out.write(number(((double[]) value.data())[i]));
      case UINT64 -> out.write(Long.toUnsignedString(((long[]) value.data())[i]));
      case UINT, INT64 -> out.write(Long.toString(((long[]) value.data())[i]));
      default -> out.write(Integer.toString(((int[]) value.data())[i]));
    }
  }

  private static String number(float number) {
    if (Float.isNaN(number) || Float.isInfinite(number)) {
      return special(number);
    }
    boolean whole = number == Math.rint(number) && Math.abs(number) < 1 << 24;
    return whole && !isNegativeZero(number)
        ? Integer.toString((int) number)
        : Float.toString(number).replace("E", "e");
  }

  static String number(double number) {
    if (Double.isNaN(number) || Double.isInfinite(number)) {
      return special(number);
    }
    boolean whole = number == Math.rint(number) && Math.abs(number) < 1e15;
    return whole && !isNegativeZero(number)
        ? Long.toString((long) number)
        : Double.toString(number).replace("E", "e");
  }

  private static boolean isNegativeZero(double number) {
    return number == 0 && 1 / number < 0;
  }

  private static String special(double number) {
    return Double.isNaN(number) ? "nan" : number > 0 ? "inf" : "-inf";
  }

  /** A text in quotes; one of several lines in three of them. */
  static String quoted(String text) {
    boolean lines = text.indexOf('\n') >= 0;
    StringBuilder out = new StringBuilder(lines ? "\"\"\"" : "\"");
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      switch (c) {
        case '"' -> out.append("\\\"");
        case '\\' -> out.append("\\\\");
        case '\n' -> out.append('\n');
        case '\r' -> out.append("\\r");
        case '\t' -> out.append("\\t");
        default -> {
          if (c < ' ') {
            out.append(String.format("\\x%02x", (int) c));
          } else {
            out.append(c);
          }
        }
      }
    }
    return out.append(lines ? "\"\"\"" : "\"").toString();
  }

  /** Names with types and values, one a line. */
  static void dictionary(Writer out, Map<?, ?> map, String indent) throws IOException {
    out.write("{\n");
    for (Map.Entry<?, ?> entry : map.entrySet()) {
      String key = String.valueOf(entry.getKey());
      String name = key.matches("[A-Za-z_][A-Za-z0-9_]*") ? key : quoted(key);
      out.write(indent + "    ");
      if (entry.getValue() instanceof Map<?, ?> inner) {
        out.write("dictionary " + name + " = ");
        dictionary(out, inner, indent + "    ");
      } else if (entry.getValue() instanceof UsdValue value) {
        out.write(value.type().name() + (value.array() ? "[] " : " ") + name + " = ");
        write(out, value);
      }
      out.write("\n");
    }
    out.write(indent + "}");
  }

  /** The same as a text. */
  static String dictionary(Map<?, ?> map) {
    StringWriter out = new StringWriter();
    try {
      dictionary(out, map, "    ");
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return out.toString();
  }
}
