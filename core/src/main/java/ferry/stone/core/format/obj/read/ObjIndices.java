package ferry.stone.core.format.obj.read;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.IntList;

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
    int corners = data.cornerVertex.size();
    data.cornerVertex.add(vertex(vertex, line));
    if (uv != 0 && data.cornerUv == null) {
      data.cornerUv = absent(corners);
    }
    if (normal != 0 && data.cornerNormal == null) {
      data.cornerNormal = absent(corners);
    }
    if (data.cornerUv != null) {
      int place = uv - 1;
      if (uv < 0) {
        place = known().uvs() + data.uvs.size() / 2 + uv;
        if (place < 0) {
          data.named.badUvs++;
          data.named.badLine(line);
        }
      }
      highestUv = Math.max(highestUv, place);
      data.cornerUv.add(Math.max(-1, place));
    }
    if (data.cornerNormal != null) {
      int place = normal - 1;
      if (normal < 0) {
        place = known().normals() + data.normals.size() / 3 + normal;
        if (place < 0) {
          data.named.badNormals++;
          data.named.badLine(line);
        }
      }
      highestNormal = Math.max(highestNormal, place);
      data.cornerNormal.add(Math.max(-1, place));
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

  private static IntList absent(int count) {
    IntList list = new IntList(Math.max(1 << 12, count * 2));
    list.fill(-1, count);
    return list;
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
      if (data.cornerUv != null && uv >= data.uvs.size() / 2) {
        badUvs += drop(data.cornerUv, data.uvs.size() / 2);
      }
      if (data.cornerNormal != null && normal >= data.normals.size() / 3) {
        badNormals += drop(data.cornerNormal, data.normals.size() / 3);
      }
      report(findings, resource, badUvs, "uv-index-out-of-range", "UV");
      report(findings, resource, badNormals, "normal-index-out-of-range", "normal");
    }

    private static int drop(IntList list, int count) {
      int bad = 0;
      for (int i = 0; i < list.size(); i++) {
        if (list.get(i) >= count) {
          list.set(i, -1);
          bad++;
        }
      }
      return bad;
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
