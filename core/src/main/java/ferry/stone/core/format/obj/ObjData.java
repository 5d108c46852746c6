package ferry.stone.core.format.obj;

import ferry.stone.core.math.DoubleList;
import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** The statements of an OBJ as flat arrays: what the file says, before it is made a scene. */
final class ObjData {
  /** State that faces, lines and points are written under; a new run begins when it changes. */
  static final class Run {
    final int object;
    final int group;
    final int material;
    final int smoothing;
    final int firstFace;
    final int firstLine;
    final int firstPoint;

    Run(int object, int group, int material, int smoothing, ObjData data) {
      this.object = object;
      this.group = group;
      this.material = material;
      this.smoothing = smoothing;
      firstFace = data.faceStart.size();
      firstLine = data.lineStart.size();
      firstPoint = data.points.size();
    }
  }

  /** Statement of an object or group and how many vertices stood before it. */
  record Owner(int firstVertex, int object, int group) {}

  FloatList floats = new FloatList(3 << 10);
  DoubleList doubles;
  FloatList colours;
  final FloatList uvs = new FloatList(2 << 10);
  final FloatList normals = new FloatList(3 << 10);
  final IntList faceStart = new IntList(1 << 10);
  final IntList cornerVertex = new IntList(3 << 10);
  IntList cornerUv;
  IntList cornerNormal;
  final IntList lineStart = new IntList(16);
  final IntList lineVertex = new IntList(16);
  final IntList points = new IntList(16);
  final List<Run> runs = new ArrayList<>();
  final List<Owner> owners = new ArrayList<>();
  final List<String> objects = new ArrayList<>();
  final List<List<String>> groups = new ArrayList<>();
  final List<String> materials = new ArrayList<>();
  final Map<String, Integer> libraries = new LinkedHashMap<>();
  final List<String> comments = new ArrayList<>();
  boolean smoothingSaid;
  double largest;

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
    return run + 1 < runs.size() ? runs.get(run + 1).firstFace : faceStart.size();
  }

  int endLine(int run) {
    return run + 1 < runs.size() ? runs.get(run + 1).firstLine : lineStart.size();
  }

  int endPoint(int run) {
    return run + 1 < runs.size() ? runs.get(run + 1).firstPoint : points.size();
  }
}
