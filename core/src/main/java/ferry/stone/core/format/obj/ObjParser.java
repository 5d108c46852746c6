package ferry.stone.core.format.obj;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.math.DoubleList;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.IntList;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import java.util.Map;

/** Bytes of an OBJ to {@link ObjData}, in one pass that makes no object for a line. */
final class ObjParser {
  private static final int COMMENTS_KEPT = 40;
  private static final int LINES_BETWEEN_REPORTS = 1 << 16;

  private final String resource;
  private final Findings findings;
  private final ObjData data = new ObjData();
  private final ObjIndices indices;
  private final NameText names;
  private final ObjReport report;
  private final Map<String, Integer> groupIds = new java.util.HashMap<>();
  private final Map<String, Integer> materialIds = new java.util.HashMap<>();
  private byte[] text;
  private int at;
  private int end;
  private int line;
  private int object = -1;
  private int group = -1;
  private int material = -1;
  private int smoothing;
  private boolean stateChanged = true;

  private ObjParser(String resource, boolean wide, Findings findings) {
    this.resource = resource;
    this.findings = findings;
    this.names = new NameText(resource, findings);
    this.report = new ObjReport(resource);
    this.indices = new ObjIndices(resource, data);
    if (wide) {
      data.doubles = new DoubleList(3 << 10);
      data.floats = null;
    }
  }

  /**
   * @param wide whether positions are kept as doubles
   * @param size length of the file in bytes, for progress
   */
  static ObjData parse(
      InputStream in,
      String resource,
      long size,
      boolean wide,
      Findings findings,
      Progress progress)
      throws IOException, FormatException {
    ObjParser parser = new ObjParser(resource, wide, findings);
    TextLines lines = new TextLines(in, resource, true);
    int count = 0;
    while (lines.next()) {
      if ((++count & (LINES_BETWEEN_REPORTS - 1)) == 0) {
        progress.checkCancelled();
        progress.report(
            "reading " + resource + ", " + Figures.bytes(lines.bytesRead()),
            size == 0 ? 0 : (double) lines.bytesRead() / size);
      }
      parser.text = lines.buffer();
      parser.at = lines.start();
      parser.end = lines.end();
      parser.line = lines.line();
      parser.statement();
    }
    parser.finish();
    return parser.data;
  }

  private void statement() throws FormatException {
    skipSpace();
    if (at >= end) {
      return;
    }
    int c0 = text[at];
    int c1 = at + 1 < end ? text[at + 1] : ' ';
    if (c0 == 'v') {
      vertexStatement(c1);
    } else if (c0 == 'f' && isSpace(c1)) {
      at++;
      face();
    } else if (c0 == '#') {
      if (data.comments.size() < COMMENTS_KEPT) {
        at++;
        data.comments.add(rest());
      }
    } else {
      keyword();
    }
  }

  private void vertexStatement(int c1) throws FormatException {
    if (isSpace(c1)) {
      at++;
      position();
      return;
    }
    int c2 = at + 2 < end ? text[at + 2] : ' ';
    if (c1 == 't' && isSpace(c2)) {
      at += 2;
      data.uvs.add((float) number("u of a vt"));
      data.uvs.add(more() ? (float) number("v of a vt") : 0f);
      if (more() && number("w of a vt") != 0) {
        report.deepUvs++;
      }
    } else if (c1 == 'n' && isSpace(c2)) {
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
      double value = number("coordinate of a v");
      data.largest = Math.max(data.largest, Math.abs(value));
      if (data.doubles != null) {
        data.doubles.add(value);
      } else {
        data.floats.add((float) value);
      }
    }
    if (!more()) {
      padColours(0);
      return;
    }
    double a = number("weight or colour of a v");
    if (!more()) {
      report.weights += a != 1 ? 1 : 0;
      padColours(0);
      return;
    }
    double b = number("colour of a v");
    double c = number("colour of a v");
    if (more()) {
      // x y z w r g b: seven numbers.
      report.weights += a != 1 ? 1 : 0;
      a = b;
      b = c;
      c = number("colour of a v");
    }
    if (data.colours == null) {
      data.colours = new ferry.stone.core.math.FloatList(3 * data.vertexCount());
      padColours(-1);
    }
    data.colours.add((float) a);
    data.colours.add((float) b);
    data.colours.add((float) c);
  }

  /** White for vertices written without a colour in a file that has colours. */
  private void padColours(int plus) {
    if (data.colours != null) {
      data.colours.fill(1f, 3 * (data.vertexCount() + plus) - data.colours.size());
    }
  }

  private void face() throws FormatException {
    beginRun();
    int firstCorner = data.cornerVertex.size();
    int corners = 0;
    while (more()) {
      if (!plainCorner()) {
        corner();
      }
      corners++;
    }
    if (corners < 3) {
      if (corners == 0) {
        throw broken("the face names no vertex; at least 3 were expected");
      }
      report.thinFace(line);
    }
    data.faceStart.add(firstCorner);
  }

  /**
   * The usual corner, digits and slashes only, in one pass over local variables. False, with
   * nothing done, for anything else.
   */
  private boolean plainCorner() throws FormatException {
    byte[] b = text;
    int stop = end;
    int i = at;
    int part = 0;
    int vertex = 0;
    int uv = 0;
    int value = 0;
    int first = i;
    for (; i < stop; i++) {
      int digit = b[i] - '0';
      if (Integer.compareUnsigned(digit, 10) < 0) {
        value = value * 10 + digit;
      } else {
        if (i - first > 9) {
          return false;
        }
        if (b[i] != '/') {
          break;
        }
        if (part == 0) {
          vertex = value;
        } else if (part == 1) {
          uv = value;
        } else {
          return false;
        }
        part++;
        value = 0;
        first = i + 1;
      }
    }
    if (i - first > 9 || (i < stop && !isSpace(b[i])) || (part == 0 && i == first)) {
      return false;
    }
    int normal = 0;
    if (part == 0) {
      vertex = value;
    } else if (part == 1) {
      uv = value;
    } else {
      normal = value;
    }
    at = i;
    indices.addCorner(vertex, uv, normal, line);
    return true;
  }

  private void corner() throws FormatException {
    int vertex = integer();
    int uv = 0;
    int normal = 0;
    if (at < end && text[at] == '/') {
      at++;
      if (at < end && text[at] != '/' && !isSpace(text[at])) {
        uv = integer();
      }
      if (at < end && text[at] == '/') {
        at++;
        if (at < end && !isSpace(text[at])) {
          normal = integer();
        }
      }
    }
    if (at < end && !isSpace(text[at])) {
      throw broken("expected v, v/t, v//n or v/t/n but found \"" + word() + "\"");
    }
    indices.addCorner(vertex, uv, normal, line);
  }

  private void beginRun() {
    if (stateChanged) {
      data.runs.add(new ObjData.Run(object, group, material, smoothing, data));
      stateChanged = false;
    }
  }

  private void keyword() throws FormatException {
    int from = at;
    while (at < end && !isSpace(text[at])) {
      at++;
    }
    String key = names.ascii(text, from, at);
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
          skipToSpace();
        }
      }
      case "p" -> {
        beginRun();
        while (more()) {
          data.points.add(indices.vertex(integer(), line));
          skipToSpace();
        }
      }
      case "f", "v", "vt", "vn" -> throw broken("\"" + key + "\" stands without values");
      default -> report.unread(key, line);
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
      report.unread("s " + value, line);
      return 0;
    }
  }

  private void finish() throws FormatException {
    report.refuseIfEmpty(data);
    padColours(0);
    indices.finish(findings);
    report.add(findings);
  }

  private double number(String what) throws FormatException {
    skipSpace();
    byte[] b = text;
    int stop = end;
    int from = at;
    int i = from;
    boolean minus = i < stop && b[i] == '-';
    i += minus ? 1 : 0;
    long mantissa = 0;
    int point = -1;
    int first = i;
    for (; i < stop; i++) {
      int digit = b[i] - '0';
      if (Integer.compareUnsigned(digit, 10) < 0) {
        mantissa = mantissa * 10 + digit;
      } else if (b[i] == '.' && point < 0) {
        point = i;
      } else {
        break;
      }
    }
    int digits = i - first - (point < 0 ? 0 : 1);
    if (digits > 0 && digits < 18 && (i >= stop || isSpace(b[i]))) {
      at = i;
      // Exact as in NumberText: a whole number over a power of ten.
      double value = point < 0 ? mantissa : mantissa / NumberText.ten(i - point - 1);
      return minus ? -value : value;
    }
    while (i < stop && !isSpace(b[i])) {
      i++;
    }
    at = i;
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

  private boolean more() {
    skipSpace();
    return at < end && text[at] != '#';
  }

  private void skipSpace() {
    byte[] b = text;
    int stop = end;
    int i = at;
    while (i < stop && b[i] <= ' ' && isSpace(b[i])) {
      i++;
    }
    at = i;
  }

  private void skipToSpace() {
    while (at < end && !isSpace(text[at])) {
      at++;
    }
  }

  private static boolean isSpace(int c) {
    return c == ' ' || c == '\t' || c == 0x0b || c == 0x0c;
  }

  private String rest() {
    return names.decode(text, at, end, line).strip();
  }

  private String word() {
    int from = at;
    skipToSpace();
    return names.decode(text, from, Math.min(at, from + 40), line);
  }

  private FormatException broken(String problem) {
    return new FormatException(Kind.CORRUPT, resource, "line " + line, problem + ".");
  }

  /** Growth helper shared with {@link ObjIndices}: a list of −1 as long as the corners so far. */
  static IntList absent(int count) {
    IntList list = new IntList(Math.max(1 << 10, count * 2));
    list.fill(-1, count);
    return list;
  }
}
