package ferry.stone.core.proof.pair;

import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.Ledger;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Measure;
import ferry.stone.core.scene.Scene;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/** Compares how nodes of the same path turn, shear and scale what is below them. */
final class NodeAxes {
  private static final double SAME_DEGREES = 1e-3;
  private static final double SAME_SIZE = 1e-5;

  private final Ledger ledger;
  private final Scene first;
  private int compared;
  private double turned;
  private double sized;
  private String turnedMost = "";
  private String sizedMost = "";

  private NodeAxes(Ledger ledger, Scene first) {
    this.ledger = ledger;
    this.first = first;
  }

  /**
   * Two rows, and one of nodes that only the second has.
   *
   * @param first in metres with Y up, as the second
   */
  static void list(Ledger ledger, Scene first, Scene second) {
    ledger.group("Parts");
    List<String> paths = first.paths();
    List<String> others = second.paths();
    Map<String, Integer> places = new HashMap<>();
    for (int i = 0; i < others.size(); i++) {
      places.putIfAbsent(others.get(i), i);
    }
    Matrix4d[] was = first.worldMatrices();
    Matrix4d[] is = second.worldMatrices();
    NodeAxes axes = new NodeAxes(ledger, first);
    for (int i = 0; i < was.length; i++) {
      Integer there = places.get(paths.get(i));
      if (there != null) {
        axes.compare(paths.get(i), was[i], is[there]);
      }
    }
    axes.rows();
    Set<String> more = new TreeSet<>(others);
    paths.forEach(more::remove);
    if (!more.isEmpty()) {
      ledger.measure(Measure.count(0, 0, more.size()));
      ledger.add(
          "Nodes that only the second file has",
          -1,
          "0",
          "0",
          Figures.count(more.size()),
          "+" + more.size(),
          Verdict.CHANGED,
          "first: " + more.iterator().next());
    }
  }

  private void compare(String path, Matrix4d was, Matrix4d is) {
    compared++;
    for (int axis = 0; axis < 3; axis++) {
      Vector3d own = was.getColumn(axis, new Vector3d());
      Vector3d found = is.getColumn(axis, new Vector3d());
      double angle = Math.toDegrees(own.angle(found));
      double ratio = Math.abs(found.length() / own.length() - 1);
      if (angle > turned) {
        turned = angle;
        turnedMost = path;
      }
      if (ratio > sized) {
        sized = ratio;
        sizedMost = path;
      }
    }
  }

  private void rows() {
    if (compared > 0) {
      String degrees = Figures.plain(Math.round(1e4 * turned) / 1e4) + "°";
      row("Axes of nodes", "deg", turned, degrees, turned <= SAME_DEGREES, turnedMost);
      String percent = Figures.plain(Math.round(1e6 * sized) / 1e4) + " %";
      row("Sizes of nodes", "1", sized, percent, sized <= SAME_SIZE, sizedMost);
    }
  }

  private void row(
      String fact, String unit, double off, String differs, boolean same, String where) {
    String all = Figures.count(first.nodes().size());
    ledger.measure(new Measure(unit, null, null, null, off));
    ledger.add(
        fact,
        -1,
        all,
        all,
        Figures.count(compared) + " compared",
        differs,
        same ? Verdict.KEPT : Verdict.CHANGED,
        same ? "" : "most: " + where);
  }
}
