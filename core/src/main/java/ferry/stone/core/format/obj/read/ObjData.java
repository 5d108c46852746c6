package ferry.stone.core.format.obj.read;

import ferry.stone.core.format.obj.raw.NameText;
import ferry.stone.core.math.DoubleList;
import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * The statements of an OBJ, or of one block of it, as flat arrays: what the file says, before it is
 * made a scene.
 */
final class ObjData {
  private static final int ROOM = 1 << 12;

  /** For a state that no statement of a block has set: that at the end of the block before it. */
  static final int INHERITED = -2;

  /** State that faces, lines and points are written under; a new run begins when it changes. */
  record Run(
      int object,
      int group,
      int material,
      int smoothing,
      int firstFace,
      int firstLine,
      int firstPoint) {}

  /** Statement of an object or group and how many vertices stood before it. */
  record Owner(int firstVertex, int object, int group) {}

  /** What stands ahead of a block. */
  record Counts(int lines, int vertices, int uvs, int normals) {
    static final Counts NONE = new Counts(0, 0, 0, 0);

    Counts plus(ObjData data) {
      return new Counts(
          lines + data.lines,
          vertices + data.vertexCount(),
          uvs + data.uvs.size() / 2,
          normals + data.normals.size() / 3);
    }
  }

  FloatList floats;
  DoubleList doubles;
  FloatList colours;
  FloatList uvs = new FloatList(ROOM);
  FloatList normals = new FloatList(ROOM);
  IntList faceStart = new IntList(ROOM);
  IntList cornerVertex = new IntList(ROOM);
  CornerPlaces cornerUv = new CornerPlaces();
  CornerPlaces cornerNormal = new CornerPlaces();
  IntList lineStart = new IntList(16);
  IntList lineVertex = new IntList(16);
  IntList points = new IntList(16);
  List<Run> runs = new ArrayList<>();
  List<Owner> owners = new ArrayList<>();
  List<String> objects = new ArrayList<>();
  List<List<String>> groups = new ArrayList<>();
  List<String> materials = new ArrayList<>();
  Map<String, Integer> libraries = new LinkedHashMap<>();
  List<String> comments = new ArrayList<>();
  NameText names;
  ObjReport report;
  ObjIndices.Named named = new ObjIndices.Named();
  boolean smoothingSaid;
  double largest;
  int lines;
  int object = INHERITED;
  int group = INHERITED;
  int material = INHERITED;
  int smoothing = INHERITED;

  /**
   * @param wide whether positions are kept as doubles
   */
  ObjData(String resource, boolean wide) {
    floats = wide ? null : new FloatList(ROOM);
    doubles = wide ? new DoubleList(ROOM) : null;
    names = new NameText(resource);
    report = new ObjReport(resource);
  }

  void beginRun(int object, int group, int material, int smoothing) {
    runs.add(
        new Run(
            object, group, material, smoothing, faceStart.size(), lineStart.size(), points.size()));
  }

  int vertexCount() {
    return (doubles != null ? doubles.size() : floats.size()) / 3;
  }

  int faceCount() {
    return faceStart.size();
  }

  int faceEnd(int face) {
    return face + 1 < faceStart.size() ? faceStart.get(face + 1) : cornerVertex.size();
  }

  int lineEnd(int line) {
    return line + 1 < lineStart.size() ? lineStart.get(line + 1) : lineVertex.size();
  }

  int endFace(int run) {
    return run + 1 < runs.size() ? runs.get(run + 1).firstFace() : faceStart.size();
  }

  int endLine(int run) {
    return run + 1 < runs.size() ? runs.get(run + 1).firstLine() : lineStart.size();
  }

  int endPoint(int run) {
    return run + 1 < runs.size() ? runs.get(run + 1).firstPoint() : points.size();
  }
}
