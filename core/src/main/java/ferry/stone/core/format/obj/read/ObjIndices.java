package ferry.stone.core.format.obj.read;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.math.Figures;

/**
 * Turns the written indices of a block into places from 0 in the whole file. An index above the
 * count so far may name something that stands further down; what is still out of range at the end
 * is refused or dropped.
 */
final class ObjIndices {
  /** Ends the parsing of a block that names things by counting backwards past an unknown start. */
  static final class CountsNeeded extends RuntimeException {
    private static final long serialVersionUID = 1;

    CountsNeeded() {
      super("an index counts backwards", null, false, false);
    }
  }

  private final String resource;
  private final ObjData data;
  private final ObjData.Counts before;
  private int highestVertex = -1;
  private int highestVertexLine;
  private int highestUv = -1;
  private int highestNormal = -1;

  /**
   * @param before what stands ahead of the block, or {@code null} while that is not known
   */
  ObjIndices(String resource, ObjData data, ObjData.Counts before) {
    this.resource = resource;
    this.data = data;
    this.before = before;
  }

  /** Adds a corner from written indices; 0 stands for an absent UV or normal. */
  void addCorner(int vertex, int uv, int normal, int line) throws FormatException {
    int point = vertex(vertex, line);
    data.cornerVertex.add(point);
    int uvPlace = uv - 1;
    if (uv < 0) {
      uvPlace = known().uvs() + data.uvs.size() / 2 + uv;
      if (uvPlace < 0) {
        data.named.badUvs++;
        data.named.badLine(line);
      }
    }
    highestUv = Math.max(highestUv, uvPlace);
    data.cornerUv.add(Math.max(-1, uvPlace), point, data.cornerVertex);
    int normalPlace = normal - 1;
    if (normal < 0) {
      normalPlace = known().normals() + data.normals.size() / 3 + normal;
      if (normalPlace < 0) {
        data.named.badNormals++;
        data.named.badLine(line);
      }
    }
    highestNormal = Math.max(highestNormal, normalPlace);
    data.cornerNormal.add(Math.max(-1, normalPlace), point, data.cornerVertex);
  }

  /**
   * Adds corners that count forwards.
   *
   * @param written {@code int[3*c]}: vertex from 1, UV and normal, 0 for an absent one
   */
  void addCorners(int[] written, int count, int line) {
    for (int c = 0; c < 3 * count; c += 3) {
      int point = written[c] - 1;
      if (point > highestVertex) {
        highestVertex = point;
        highestVertexLine = line;
      }
      int uv = written[c + 1] - 1;
      int normal = written[c + 2] - 1;
      highestUv = Math.max(highestUv, uv);
      highestNormal = Math.max(highestNormal, normal);
      data.cornerVertex.add(point);
      data.cornerUv.add(uv, point, data.cornerVertex);
      data.cornerNormal.add(normal, point, data.cornerVertex);
    }
  }

  /** Place of a written vertex index. */
  int vertex(int written, int line) throws FormatException {
    if (written > 0) {
      if (written - 1 > highestVertex) {
        highestVertex = written - 1;
        highestVertexLine = line;
      }
      return written - 1;
    }
    int count = known().vertices() + data.vertexCount();
    int place = count + written;
    if (written == 0 || place < 0) {
      throw outOfRange(resource, written, before.lines() + line, count);
    }
    return place;
  }

  private ObjData.Counts known() {
    if (before == null) {
      throw new CountsNeeded();
    }
    return before;
  }

  /** Leaves what was named with the block's data. */
  void finish() {
    data.named.vertex = highestVertex;
    data.named.vertexLine = highestVertexLine;
    data.named.uv = highestUv;
    data.named.normal = highestNormal;
  }

  private static FormatException outOfRange(String resource, int written, int line, int count) {
    return new FormatException(
        Kind.CORRUPT,
        resource,
        "line " + line,
        "vertex "
            + written
            + " is named, but "
            + (written == 0
                ? "vertices are counted from 1"
                : "the file has only "
                    + Figures.count(count, "vertex")
                    + (written < 0 ? " up to here" : ""))
            + ". The file is damaged or cut short: export it again.");
  }

  /** The highest places that were named, and the wrong ones, of a block or of the whole file. */
  static final class Named {
    private int vertex = -1;
    private int vertexLine;
    private int uv = -1;
    private int normal = -1;
    private int badUvs;
    private int badNormals;
    private int badLine;

    private void badLine(int line) {
      badLine = badLine == 0 ? line : badLine;
    }

    /**
     * @param linesBefore to be added to the other's line numbers
     */
    void add(Named other, int linesBefore) {
      if (other.vertex > vertex) {
        vertex = other.vertex;
        vertexLine = linesBefore + other.vertexLine;
      }
      uv = Math.max(uv, other.uv);
      normal = Math.max(normal, other.normal);
      badUvs += other.badUvs;
      badNormals += other.badNormals;
      if (other.badLine > 0) {
        badLine(linesBefore + other.badLine);
      }
    }

    /** Checks what could not be checked before the whole file was read. */
    void check(ObjData data, String resource, Findings findings) throws FormatException {
      if (vertex >= data.vertexCount()) {
        throw outOfRange(resource, vertex + 1, vertexLine, data.vertexCount());
      }
      if (uv >= data.uvs.size() / 2) {
        badUvs += data.cornerUv.drop(data.uvs.size() / 2, data.cornerVertex);
      }
      if (normal >= data.normals.size() / 3) {
        badNormals += data.cornerNormal.drop(data.normals.size() / 3, data.cornerVertex);
      }
      report(findings, resource, badUvs, "uv-index-out-of-range", "UV");
      report(findings, resource, badNormals, "normal-index-out-of-range", "normal");
    }

    private void report(Findings findings, String resource, int count, String code, String what) {
      if (count > 0) {
        findings.add(
            Finding.of(
                    code,
                    Severity.FIX,
                    resource + (badLine > 0 ? ", line " + badLine : ""),
                    "Face corners name a "
                        + what
                        + " that is not in the file; they are read without"
                        + " one.")
                .measured(Figures.count(count, "corner")));
      }
    }
  }
}
