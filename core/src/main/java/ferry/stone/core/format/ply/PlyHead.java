package ferry.stone.core.format.ply;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;

/**
 * The head of a PLY file.
 *
 * @param encoding how the elements are written
 * @param bytes how long the head is
 * @param lines how many lines it has
 */
record PlyHead(Encoding encoding, List<Element> elements, long bytes, int lines) {
  private static final int LONGEST_LINE = 4096;
  private static final int MOST_LINES = 10_000;

  /** How elements are written. */
  enum Encoding {
    TEXT("ascii"),
    LITTLE("binary_little_endian"),
    BIG("binary_big_endian");

    final String word;

    Encoding(String word) {
      this.word = word;
    }
  }

  /** Types of numbers, by both of their names. */
  enum Type {
    INT8("char", "int8", 1),
    UINT8("uchar", "uint8", 1),
    INT16("short", "int16", 2),
    UINT16("ushort", "uint16", 2),
    INT32("int", "int32", 4),
    UINT32("uint", "uint32", 4),
    FLOAT32("float", "float32", 4),
    FLOAT64("double", "float64", 8);

    final String word;
    private final String other;
    final int bytes;

    Type(String word, String other, int bytes) {
      this.word = word;
      this.other = other;
      this.bytes = bytes;
    }

    static Type of(String word) {
      for (Type type : values()) {
        if (type.word.equals(word) || type.other.equals(word)) {
          return type;
        }
      }
      return null;
    }

    boolean isWhole() {
      return this != FLOAT32 && this != FLOAT64;
    }
  }

  /**
   * A property of an element.
   *
   * @param count type of the length of a list, {@code null} for a single number
   */
  record Property(String name, Type count, Type type) {
    boolean isList() {
      return count != null;
    }
  }

  /** Elements of one kind. */
  record Element(String name, long count, List<Property> properties) {
    /** Fewest bytes that one takes. */
    long fewestBytes(Encoding encoding) {
      long bytes = 0;
      for (Property p : properties) {
        bytes += encoding == Encoding.TEXT ? 2 : p.isList() ? p.count().bytes : p.type().bytes;
      }
      return bytes;
    }

    int place(String... names) {
      for (String name : names) {
        for (int i = 0; i < properties.size(); i++) {
          if (properties.get(i).name().equals(name)) {
            return i;
          }
        }
      }
      return -1;
    }
  }

  /** Reads a head; the stream then stands at the first element. */
  static PlyHead read(InputStream in, String resource, long size)
      throws IOException, FormatException {
    long[] bytes = {0};
    if (!"ply".equals(line(in, bytes))) {
      throw new FormatException(
          size == 0 ? Kind.TRUNCATED : Kind.NOT_THIS_FORMAT,
          resource,
          "",
          size == 0
              ? "the file is empty (0 bytes). Export or copy it again."
              : "expected \"ply\" in the first line. Export the file again.");
    }
    Encoding encoding = null;
    List<Element> elements = new ArrayList<>();
    for (int number = 2; number <= MOST_LINES; number++) {
      String line = line(in, bytes);
      String place = "line " + number;
      if (line == null) {
        throw new FormatException(
            Kind.TRUNCATED, resource, place, "the file ends in its head. Copy it again.");
      }
      String[] words = line.strip().split("\\s+");
      switch (words[0]) {
        case "comment", "obj_info", "" -> {}
        case "format" -> encoding = encoding(words, resource, place);
        case "element" -> elements.add(element(words, resource, place));
        case "property" -> property(words, elements, resource, place);
        case "end_header" -> {
          if (encoding == null) {
            throw new FormatException(
                Kind.CORRUPT, resource, place, "the head has no line \"format\".");
          }
          PlyHead head = new PlyHead(encoding, elements, bytes[0], number);
          head.check(resource, size);
          return head;
        }
        default ->
            throw new FormatException(
                Kind.CORRUPT,
                resource,
                place,
                "expected format, element, property or end_header, found \""
                    + (words[0].length() > 40 ? words[0].substring(0, 40) + "…" : words[0])
                    + "\".");
      }
    }
    throw new FormatException(
        Kind.TOO_LARGE, resource, "line " + MOST_LINES, "the head does not end.");
  }

  /** Counts are claims: each element takes some bytes of the file. */
  private void check(String resource, long size) throws FormatException {
    long left = size - bytes;
    for (Element element : elements) {
      long fewest = Math.max(1, element.fewestBytes(encoding));
      // The last line of a text may have no end.
      if (element.count() > (left + 1) / fewest) {
        throw new FormatException(
            Kind.TRUNCATED,
            resource,
            "element " + element.name(),
            "the head claims "
                + element.count()
                + " of them, for which "
                + left
                + " bytes are too few. Export or copy the file again.");
      }
      left -= element.count() * fewest;
    }
  }

  private static Encoding encoding(String[] words, String resource, String place)
      throws FormatException {
    for (Encoding encoding : Encoding.values()) {
      if (words.length > 1 && encoding.word.equals(words[1])) {
        return encoding;
      }
    }
    throw new FormatException(
        Kind.UNSUPPORTED,
        resource,
        place,
        "expected the format ascii, binary_little_endian or binary_big_endian.");
  }

  private static Element element(String[] words, String resource, String place)
      throws FormatException {
    if (words.length < 3 || !words[2].matches("\\d{1,18}")) {
      throw new FormatException(
          Kind.CORRUPT, resource, place, "expected \"element\", a name and a count.");
    }
    return new Element(words[1], Long.parseLong(words[2]), new ArrayList<>());
  }

  private static void property(
      String[] words, List<Element> elements, String resource, String place)
      throws FormatException {
    boolean list = words.length == 5 && words[1].equals("list");
    Type count = list ? Type.of(words[2]) : null;
    Type type = list ? Type.of(words[3]) : words.length == 3 ? Type.of(words[1]) : null;
    if (elements.isEmpty() || type == null || list && (count == null || !count.isWhole())) {
      throw new FormatException(
          Kind.CORRUPT,
          resource,
          place,
          "expected \"property\", a type and a name, or \"property list\", two types and a name,"
              + " below an element.");
    }
    elements
        .get(elements.size() - 1)
        .properties()
        .add(new Property(words[words.length - 1], count, type));
  }

  /** A line without its end; {@code null} at the end of the file. */
  private static String line(InputStream in, long[] bytes) throws IOException {
    ByteArrayOutputStream line = new ByteArrayOutputStream(64);
    while (line.size() < LONGEST_LINE) {
      int b = in.read();
      if (b < 0) {
        return line.size() == 0 ? null : line.toString(StandardCharsets.UTF_8).strip();
      }
      bytes[0]++;
      if (b == '\n') {
        break;
      }
      line.write(b);
    }
    return line.toString(StandardCharsets.UTF_8).strip();
  }
}
