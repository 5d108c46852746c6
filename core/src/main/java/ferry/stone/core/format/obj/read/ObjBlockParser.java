package ferry.stone.core.format.obj.read;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.obj.raw.NumberText;
import ferry.stone.core.format.obj.raw.TextBlocks;
import ferry.stone.core.format.obj.raw.TextLines;
import ferry.stone.core.math.FloatList;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;

/**
 * Statements of one block of an OBJ to {@link ObjData}, in one pass over its bytes that makes no
 * object for a line.
 *
 * <p>A block can be parsed before the blocks ahead of it: what depends on them, the state that its
 * first faces are written under, is left open as {@link ObjData#INHERITED}.
 */
final class ObjBlockParser {
  private static final int COMMENTS_KEPT = 40;
  private static final long SPACES = 1L << ' ' | 1L << '\t' | 1L << 0x0b | 1L << 0x0c;
  private static final long ENDS = SPACES | 1L << '\n' | 1L << '\r';

  private static final Pattern JOIN = Pattern.compile("\\\\\\R");

  private final String resource;
  private final ObjData data;
  private final ObjIndices indices;
  private final Map<String, Integer> groupIds = new java.util.HashMap<>();
  private final Map<String, Integer> materialIds = new java.util.HashMap<>();
  private final byte[] text;
  private final int end;
  private final int linesBefore;
  private final PlainLine plain;
  private int at;
  private int line;
  private int joined;
  private int object = ObjData.INHERITED;
  private int group = ObjData.INHERITED;
  private int material = ObjData.INHERITED;
  private int smoothing = ObjData.INHERITED;
  private boolean stateChanged = true;

  private ObjBlockParser(
      TextBlocks.Block block, String resource, ObjData data, ObjData.Counts before) {
    this.resource = resource;
    this.data = data;
    indices = new ObjIndices(resource, data, before);
    linesBefore = before == null ? 0 : before.lines();
    text = block.bytes();
    end = block.length();
    plain = new PlainLine(text, end);
  }

  /**
   * Parses a block into empty data. Line numbers count from the block's start.
   *
   * @param before what stands ahead of the block, or {@code null} while that is not known: then an
   *     index that counts backwards ends the parsing with {@link ObjIndices.CountsNeeded}
   */
  static void parse(TextBlocks.Block block, String resource, ObjData data, ObjData.Counts before)
      throws FormatException {
    ObjBlockParser parser = new ObjBlockParser(block, resource, data, before);
    parser.statements();
    data.lines = parser.line;
    data.object = parser.object;
    data.group = parser.group;
    data.material = parser.material;
    data.smoothing = parser.smoothing;
    parser.indices.finish();
  }

  private void statements() throws FormatException {
    while (at < end) {
      line++;
      if (!plainStatement()) {
        statement();
      }
      toLineEnd();
      at = TextLines.afterLineEnd(text, end, at);
      line += joined;
      joined = 0;
    }
  }

  /** The usual lines of points, layers and faces. False, with nothing done, for anything else. */
  private boolean plainStatement() {
    if (at + 2 >= end) {
      return false;
    }
    int c0 = text[at];
    int c1 = text[at + 1];
    int reached = PlainLine.OTHER;
    if (c0 == 'f' && c1 == ' ') {
      reached = plain.corners(at + 2);
      if (reached >= 0) {
        beginRun();
        data.faceStart.add(data.cornerVertex.size());
        indices.addCorners(plain.corners, plain.count, line);
      }
    } else if (c0 == 'v' && c1 == ' ' && data.colours == null) {
      reached = plain.numbers(at + 2, 3);
      for (int axis = 0; axis < 3 && reached >= 0; axis++) {
        coordinate(plain.numbers[axis]);
      }
    } else if (c0 == 'v' && (c1 == 't' || c1 == 'n') && text[at + 2] == ' ') {
      int wanted = c1 == 't' ? 2 : 3;
      reached = plain.numbers(at + 3, wanted);
      FloatList values = c1 == 't' ? data.uvs : data.normals;
      for (int n = 0; n < wanted && reached >= 0; n++) {
        values.add((float) plain.numbers[n]);
      }
    }
    at = reached >= 0 ? reached : at;
    return reached >= 0;
  }

  private void statement() throws FormatException {
    if (!more()) {
      if (at < end && text[at] == '#' && data.comments.size() < COMMENTS_KEPT) {
        at++;
        data.comments.add(rest());
      }
      return;
    }
    int c0 = text[at];
    int c1 = at + 1 < end ? text[at + 1] : ' ';
    if (c0 == 'v') {
      vertexStatement(c1);
    } else if (c0 == 'f' && isEnd(c1)) {
      at++;
      face();
    } else {
      keyword();
    }
  }

  private void vertexStatement(int c1) throws FormatException {
    if (isEnd(c1)) {
      at++;
      position();
      return;
    }
    int c2 = at + 2 < end ? text[at + 2] : ' ';
    if (c1 == 't' && isEnd(c2)) {
      at += 2;
      data.uvs.add((float) number("u of a vt"));
      data.uvs.add(more() ? (float) number("v of a vt") : 0f);
      if (more() && number("w of a vt") != 0) {
        data.report.deepUvs++;
      }
    } else if (c1 == 'n' && isEnd(c2)) {
      at += 2;
      data.normals.add((float) number("x of a vn"));
      data.normals.add((float) number("y of a vn"));
      data.normals.add((float) number("z of a vn"));
    } else {
      keyword();
    }
  }

  private void position() throws FormatException {
    for (int axis = 0; axis < 3; axis++) {
      coordinate(number("coordinate of a v"));
    }
    if (!more()) {
      padColours(0);
      return;
    }
    double a = number("weight or colour of a v");
    if (!more()) {
      data.report.weights += a != 1 ? 1 : 0;
      padColours(0);
      return;
    }
    double b = number("colour of a v");
    double c = number("colour of a v");
    if (more()) {
      // x y z w r g b: seven numbers.
      data.report.weights += a != 1 ? 1 : 0;
      a = b;
      b = c;
      c = number("colour of a v");
    }
    if (data.colours == null) {
      data.colours = new FloatList(3 * data.vertexCount());
      padColours(-1);
    }
    data.colours.add((float) a);
    data.colours.add((float) b);
    data.colours.add((float) c);
  }

  private void coordinate(double value) {
    data.largest = Math.max(data.largest, Math.abs(value));
    if (data.doubles != null) {
      data.doubles.add(value);
    } else {
      data.floats.add((float) value);
    }
  }

  /** No number for vertices written without a colour in a file that has colours. */
  private void padColours(int plus) {
    if (data.colours != null) {
      data.colours.fill(Float.NaN, 3 * (data.vertexCount() + plus) - data.colours.size());
    }
  }

  private void face() throws FormatException {
    beginRun();
    int firstCorner = data.cornerVertex.size();
    int corners = 0;
    while (more()) {
      corner();
      corners++;
    }
    if (corners < 3) {
      if (corners == 0) {
        throw broken("the face names no vertex; at least 3 were expected");
      }
      data.report.thinFace(line);
    }
    data.faceStart.add(firstCorner);
  }

  private void corner() throws FormatException {
    int vertex = integer();
    int uv = 0;
    int normal = 0;
    if (at < end && text[at] == '/') {
      at++;
      if (at < end && text[at] != '/' && !wordEnds()) {
        uv = integer();
      }
      if (at < end && text[at] == '/') {
        at++;
        if (!wordEnds()) {
          normal = integer();
        }
      }
    }
    if (!wordEnds()) {
      throw broken("expected v, v/t, v//n or v/t/n but found \"" + word() + "\"");
    }
    indices.addCorner(vertex, uv, normal, line);
  }

  private void beginRun() {
    if (stateChanged) {
      data.beginRun(object, group, material, smoothing);
      stateChanged = false;
    }
  }

  private void keyword() throws FormatException {
    int from = at;
    toWordEnd();
    String key = data.names.ascii(text, from, at);
    switch (key) {
      case "o" -> {
        object = data.objects.size();
        data.objects.add(rest());
        ownerChanged();
      }
      case "g" -> {
        group = groupIds.computeIfAbsent(rest(), this::newGroup);
        ownerChanged();
      }
      case "s" -> {
        data.smoothingSaid = true;
        smoothing = smoothingGroup(rest());
        stateChanged = true;
      }
      case "usemtl" -> {
        material = materialIds.computeIfAbsent(rest(), this::newMaterial);
        stateChanged = true;
      }
      case "mtllib" -> data.libraries.putIfAbsent(rest(), line);
      case "l" -> {
        beginRun();
        data.lineStart.add(data.lineVertex.size());
        while (more()) {
          data.lineVertex.add(indices.vertex(integer(), line));
          toWordEnd();
        }
      }
      case "p" -> {
        beginRun();
        while (more()) {
          data.points.add(indices.vertex(integer(), line));
          toWordEnd();
        }
      }
      case "f", "v", "vt", "vn" -> throw broken("\"" + key + "\" stands without values");
      default -> data.report.unread(key, line);
    }
  }

  private void ownerChanged() {
    data.owners.add(new ObjData.Owner(data.vertexCount(), object, group));
    stateChanged = true;
  }

  private int newGroup(String name) {
    data.groups.add(name.isEmpty() ? List.of() : List.of(name.split("\\s+")));
    return data.groups.size() - 1;
  }

  private int newMaterial(String name) {
    data.materials.add(name);
    return data.materials.size() - 1;
  }

  private int smoothingGroup(String value) {
    if (value.isEmpty() || value.equalsIgnoreCase("off") || value.equalsIgnoreCase("null")) {
      return 0;
    }
    if (value.equalsIgnoreCase("on")) {
      return 1;
    }
    try {
      return Integer.parseInt(value.split("\\s+")[0]);
    } catch (NumberFormatException e) {
      data.report.unread("s " + value, line);
      return 0;
    }
  }

  private double number(String what) throws FormatException {
    skipSpace();
    int from = at;
    toWordEnd();
    if (from == at) {
      throw broken("a number is missing: " + what);
    }
    try {
      return NumberText.parse(text, from, at);
    } catch (NumberFormatException e) {
      at = from;
      throw broken("expected a number (" + what + ") but found \"" + word() + "\"");
    }
  }

  private int integer() throws FormatException {
    int from = at;
    boolean minus = at < end && text[at] == '-';
    at += minus || (at < end && text[at] == '+') ? 1 : 0;
    long value = 0;
    int first = at;
    while (at < end && text[at] >= '0' && text[at] <= '9' && at - first < 11) {
      value = value * 10 + text[at++] - '0';
    }
    if (at == first || value > Integer.MAX_VALUE) {
      at = from;
      throw broken("expected an index but found \"" + word() + "\"");
    }
    return (int) (minus ? -value : value);
  }

  /** Whether the statement goes on: a word that is no comment stands ahead on its line. */
  private boolean more() {
    skipSpace();
    return at < end && text[at] != '#' && text[at] != '\n' && text[at] != '\r';
  }

  private void skipSpace() {
    byte[] b = text;
    int stop = end;
    int i = at;
    while (i < stop) {
      if (isSpace(b[i])) {
        i++;
      } else if (joinsAt(i)) {
        joined++;
        i = TextLines.afterLineEnd(b, stop, i + 1);
      } else {
        break;
      }
    }
    at = i;
  }

  /** Whether a backslash joins the next line at {@code i}. */
  private boolean joinsAt(int i) {
    return text[i] == '\\' && i + 1 < end && (text[i + 1] == '\n' || text[i + 1] == '\r');
  }

  private boolean wordEnds() {
    return at >= end || isEnd(text[at]) || joinsAt(at);
  }

  private void toWordEnd() {
    while (!wordEnds()) {
      at++;
    }
  }

  /** Moves to the end of the line, over the lines that are joined to it. */
  private void toLineEnd() {
    byte[] b = text;
    int i = at;
    while (i < end && b[i] != '\n' && b[i] != '\r') {
      if (joinsAt(i)) {
        joined++;
        i = TextLines.afterLineEnd(b, end, i + 1);
      } else {
        i++;
      }
    }
    at = i;
  }

  private static boolean isSpace(int c) {
    return (c & ~63) == 0 && (SPACES >>> c & 1) != 0;
  }

  /** Whether a word ends before this byte: a space or the end of the line. */
  private static boolean isEnd(int c) {
    return (c & ~63) == 0 && (ENDS >>> c & 1) != 0;
  }

  private String rest() {
    int from = at;
    int joinedBefore = joined;
    toLineEnd();
    String rest = data.names.decode(text, from, at, line);
    return (joined > joinedBefore ? JOIN.matcher(rest).replaceAll(" ") : rest).strip();
  }

  private String word() {
    int from = at;
    toWordEnd();
    return data.names.decode(text, from, Math.min(at, from + 40), line);
  }

  private FormatException broken(String problem) {
    return new FormatException(
        Kind.CORRUPT, resource, "line " + (linesBefore + line), problem + ".");
  }
}
