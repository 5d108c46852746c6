package ferry.stone.core.proof;

import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.scene.mesh.EdgeSet;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Subdivision;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;

/** What only formats that hold polygons can keep: smoothing, sets of faces, subdivision. */
final class PolygonFacts {
  private final Ledger ledger;
  private final int nodeId;
  private final PolygonMesh near;
  private final PolygonMesh far;
  private final PolygonMesh landed;
  private final boolean holdsSets;
  private final boolean holdsEdgeSets;

  /**
   * @param holdsSets whether the format holds sets of faces
   * @param holdsEdgeSets whether it holds sets of edges
   */
  PolygonFacts(
      Ledger ledger,
      int nodeId,
      PolygonMesh near,
      PolygonMesh far,
      PolygonMesh landed,
      boolean holdsSets,
      boolean holdsEdgeSets) {
    this.holdsEdgeSets = holdsEdgeSets;
    this.holdsSets = holdsSets;
    this.ledger = ledger;
    this.nodeId = nodeId;
    this.near = near;
    this.far = far;
    this.landed = landed;
  }

  void run() {
    if (far.smoothing() != null) {
      row(
          "Smoothing groups",
          near.smoothing() != null,
          landed.smoothing() != null,
          Arrays.equals(far.smoothing(), landed.smoothing()));
    }
    if (far.hardEdges() != null) {
      boolean same =
          landed.hardEdges() != null && landed.hardEdges().length == far.hardEdges().length;
      row("Sharp edges", near.hardEdges() != null, landed.hardEdges() != null, same);
    }
    sets();
    Subdivision wanted = far.subdivision();
    Subdivision found = landed.subdivision();
    if (wanted != null) {
      boolean same =
          found != null
              && found.level() == wanted.level()
              && found.creaseEdges().length == wanted.creaseEdges().length
              && found.creaseVertices().length == wanted.creaseVertices().length
              && found.holes().length == wanted.holes().length;
      ledger.add(
          "Subdivision",
          nodeId,
          words(near.subdivision()),
          words(wanted),
          words(found),
          "",
          same ? Verdict.KEPT : found == null ? Verdict.LOST : Verdict.CHANGED,
          same ? "" : "levels, creases or holes differ");
    }
  }

  private void sets() {
    if (!far.faceSets().isEmpty() && holdsSets) {
      Map<String, String> there = sets(landed);
      long same =
          sets(far).entrySet().stream()
              .filter(set -> set.getValue().equals(there.get(set.getKey())))
              .count();
      ledger.add(
          "Sets of faces",
          nodeId,
          Figures.count(near.faceSets().size()),
          Figures.count(far.faceSets().size()),
          Figures.count(landed.faceSets().size()),
          Figures.count(far.faceSets().size() - same),
          same == far.faceSets().size() ? Verdict.KEPT : Verdict.LOST,
          same == far.faceSets().size() ? "" : "their names or faces differ");
    }
    if (!far.edgeSets().isEmpty() && holdsEdgeSets) {
      Map<String, String> there = edges(landed);
      long same =
          edges(far).entrySet().stream()
              .filter(set -> set.getValue().equals(there.get(set.getKey())))
              .count();
      boolean all = same == far.edgeSets().size();
      ledger.add(
          "Sets of edges",
          nodeId,
          Figures.count(near.edgeSets().size()),
          Figures.count(far.edgeSets().size()),
          Figures.count(landed.edgeSets().size()),
          Figures.count(far.edgeSets().size() - same),
          all ? Verdict.KEPT : Verdict.LOST,
          all ? "" : "their names or edges differ");
    }
  }

  /** The faces of each set by its name. */
  private static Map<String, String> sets(PolygonMesh mesh) {
    Map<String, String> sets = new HashMap<>();
    for (FaceSet set : mesh.faceSets()) {
      int[] faces = set.faces().clone();
      Arrays.sort(faces);
      sets.put(set.name(), Arrays.toString(faces));
    }
    return sets;
  }

  /** The edges of each set by its name, whichever way they are said. */
  private static Map<String, String> edges(PolygonMesh mesh) {
    Map<String, String> sets = new HashMap<>();
    for (EdgeSet set : mesh.edgeSets()) {
      long[] keys = new long[set.count()];
      for (int i = 0; i < keys.length; i++) {
        int a = set.pairs()[2 * i];
        int b = set.pairs()[2 * i + 1];
        keys[i] = (long) Math.min(a, b) << 32 | Math.max(a, b);
      }
      Arrays.sort(keys);
      sets.put(set.family() + ":" + set.name(), Arrays.toString(keys));
    }
    return sets;
  }

  private void row(String fact, boolean had, boolean has, boolean same) {
    ledger.add(
        fact,
        nodeId,
        had ? "yes" : "none",
        "yes",
        has ? "yes" : "—",
        "",
        same ? Verdict.KEPT : has ? Verdict.CHANGED : Verdict.LOST,
        same ? "" : "they differ");
  }

  private static String words(Subdivision s) {
    return s == null
        ? "—"
        : s.level()
            + " levels, "
            + Figures.count(s.creaseEdges().length / 2, "crease")
            + ", "
            + Figures.count(s.holes().length, "hole");
  }
}
