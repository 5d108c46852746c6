package ferry.stone.core.format.obj;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.IntList;

/**
 * Turns written indices into places from 0. An index above the count so far may name something that
 * stands further down; what is still out of range at the end is refused or dropped.
 */
final class ObjIndices {
  private final String resource;
  private final ObjData data;
  private int highestVertex = -1;
  private int highestVertexLine;
  private int highestUv = -1;
  private int highestNormal = -1;
  private int badUvs;
  private int badNormals;
  private int badLine;

  ObjIndices(String resource, ObjData data) {
    this.resource = resource;
    this.data = data;
  }

  /** Adds a corner from written indices; 0 stands for an absent UV or normal. */
  void addCorner(int vertex, int uv, int normal, int line) throws FormatException {
    int corners = data.cornerVertex.size();
    data.cornerVertex.add(vertex(vertex, line));
    if (uv != 0 && data.cornerUv == null) {
      data.cornerUv = ObjParser.absent(corners);
    }
    if (normal != 0 && data.cornerNormal == null) {
      data.cornerNormal = ObjParser.absent(corners);
    }
    if (data.cornerUv != null) {
      int place = uv > 0 ? uv - 1 : uv == 0 ? -1 : data.uvs.size() / 2 + uv;
      if (uv < 0 && place < 0) {
        badUvs++;
        badLine = badLine == 0 ? line : badLine;
      }
      highestUv = Math.max(highestUv, place);
      data.cornerUv.add(Math.max(-1, place));
    }
    if (data.cornerNormal != null) {
      int place = normal > 0 ? normal - 1 : normal == 0 ? -1 : data.normals.size() / 3 + normal;
      if (normal < 0 && place < 0) {
        badNormals++;
        badLine = badLine == 0 ? line : badLine;
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
    int place = data.vertexCount() + written;
    if (written == 0 || place < 0) {
      throw outOfRange(written, line);
    }
    return place;
  }

  private FormatException outOfRange(int written, int line) {
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
                    + Figures.count(data.vertexCount(), "vertex")
                    + (written < 0 ? " up to here" : ""))
            + ". The file is damaged or cut short: export it again.");
  }

  /** Checks what could not be checked before the whole file was read. */
  void finish(Findings findings) throws FormatException {
    if (highestVertex >= data.vertexCount()) {
      throw outOfRange(highestVertex + 1, highestVertexLine);
    }
    if (data.cornerUv != null && highestUv >= data.uvs.size() / 2) {
      badUvs += drop(data.cornerUv, data.uvs.size() / 2, uvs -> data.cornerUv = uvs);
    }
    if (data.cornerNormal != null && highestNormal >= data.normals.size() / 3) {
      badNormals += drop(data.cornerNormal, data.normals.size() / 3, n -> data.cornerNormal = n);
    }
    report(findings, badUvs, "uv-index-out-of-range", "UV");
    report(findings, badNormals, "normal-index-out-of-range", "normal");
  }

  private static int drop(IntList list, int count, java.util.function.Consumer<IntList> use) {
    IntList kept = new IntList(list.size());
    int bad = 0;
    for (int i = 0; i < list.size(); i++) {
      boolean out = list.get(i) >= count;
      bad += out ? 1 : 0;
      kept.add(out ? -1 : list.get(i));
    }
    use.accept(kept);
    return bad;
  }

  private void report(Findings findings, int count, String code, String what) {
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
