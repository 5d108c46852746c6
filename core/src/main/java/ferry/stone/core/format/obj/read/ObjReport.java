package ferry.stone.core.format.obj.read;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.math.Figures;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** What an OBJ says that is not carried, counted while it is parsed and told at the end. */
final class ObjReport {
  private static final int MOST_KEYS = 40;
  private static final int LONGEST_KEY = 40;

  private final String resource;
  private final Map<String, Integer> unread = new TreeMap<>();
  private String firstUnknown = "";
  private int firstUnknownLine;
  private int thinFaces;
  private int firstThinFace;
  int weights;
  int deepUvs;

  ObjReport(String resource) {
    this.resource = resource;
  }

  void unread(String key, int line) {
    if (firstUnknown.isEmpty()) {
      firstUnknown = key;
      firstUnknownLine = line;
    }
    String shown = key.length() > LONGEST_KEY ? key.substring(0, LONGEST_KEY) + "…" : key;
    if (unread.size() < MOST_KEYS || unread.containsKey(shown)) {
      unread.merge(shown, 1, Integer::sum);
    }
  }

  void thinFace(int line) {
    thinFaces++;
    firstThinFace = firstThinFace == 0 ? line : firstThinFace;
  }

  /**
   * Adds what was counted in a later block of the same file.
   *
   * @param linesBefore lines of the file before that block
   */
  void add(ObjReport later, int linesBefore) {
    if (firstUnknown.isEmpty()) {
      firstUnknown = later.firstUnknown;
      firstUnknownLine = linesBefore + later.firstUnknownLine;
    }
    if (firstThinFace == 0 && later.thinFaces > 0) {
      firstThinFace = linesBefore + later.firstThinFace;
    }
    later.unread.forEach(
        (key, count) -> {
          if (unread.size() < MOST_KEYS || unread.containsKey(key)) {
            unread.merge(key, count, Integer::sum);
          }
        });
    thinFaces += later.thinFaces;
    weights += later.weights;
    deepUvs += later.deepUvs;
  }

  /** A file without vertices is none of ours. */
  void refuseIfEmpty(ObjData data) throws FormatException {
    if (data.vertexCount() == 0) {
      String why =
          firstUnknown.isEmpty()
              ? "the file holds no vertices."
              : "this is not an OBJ: it holds no vertices, and \""
                  + firstUnknown
                  + "\" is no OBJ statement.";
      throw new FormatException(
          Kind.NOT_THIS_FORMAT,
          resource,
          firstUnknown.isEmpty() ? "" : "line " + firstUnknownLine,
          why + " Expected lines such as \"v 0 0 0\". Check that the right file was chosen.");
    }
  }

  void add(Findings findings) {
    if (!unread.isEmpty()) {
      List<String> parts = new ArrayList<>();
      unread.forEach((key, n) -> parts.add(key + " ×" + n));
      findings.add(
          Finding.of(
                  "statements-not-read",
                  Severity.LOOK,
                  resource + ", line " + firstUnknownLine,
                  "Some statements are not carried: " + String.join(", ", parts) + ".")
              .measured(Figures.count(unread.values().stream().mapToInt(i -> i).sum(), "line")));
    }
    if (thinFaces > 0) {
      note(
          findings,
          "faces-too-small",
          thinFaces,
          "face",
          "fewer than 3 corners make no surface",
          "line " + firstThinFace);
    }
    if (weights > 0) {
      note(
          findings,
          "rational-weights",
          weights,
          "vertex",
          "weights other than 1 are for curves and are left out",
          "");
    }
    if (deepUvs > 0) {
      note(findings, "third-uv-coordinate", deepUvs, "UV", "a third coordinate is left out", "");
    }
  }

  private void note(
      Findings findings, String code, int count, String noun, String why, String place) {
    findings.add(
        Finding.of(
                code,
                Severity.LOOK,
                resource + (place.isEmpty() ? "" : ", " + place),
                Figures.count(count, noun) + ": " + why + ".")
            .measured(Figures.count(count)));
  }
}
