package ferry.stone.core.proof;

import ferry.stone.core.format.files.FileTree;
import ferry.stone.core.format.flat.ArrangedParts;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.scene.Scene;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Compares the hierarchy with that of the file, as any other reader lists it. */
final class TreeProof {
  private final Ledger ledger;
  private final Scene near;
  private final FileTree file;
  private final Landed landed;
  private final List<String> wanted;
  private final FileTree arrived;
  private final boolean root;
  private final boolean listed;
  private final double tolerance;

  /**
   * @param handled the far side as it is in its own frame
   * @param arrived the same in metres with Y up, possibly under a root of its own
   * @param tolerance by which an origin may be off, in metres
   */
  TreeProof(
      Ledger ledger,
      Scene near,
      Scene handled,
      Scene arrived,
      FileTree file,
      Landed landed,
      double tolerance) {
    this.ledger = ledger;
    this.near = near;
    this.file = file;
    this.landed = landed;
    this.tolerance = tolerance;
    wanted = handled.paths();
    listed = landed.holding().listsCopies(arrived);
    // A root that the format itself needs is among the parts that are wanted.
    boolean own = !wanted.isEmpty() && file.count() > 0 && isRoot(wanted, file.paths().get(0));
    root = landed.said(ArrangedParts.ROOT) && !own;
    this.arrived = FileTree.of(arrived);
  }

  /** Whether everything that is wanted stands below a part of a name. */
  private static boolean isRoot(List<String> paths, String name) {
    return paths.stream().allMatch(p -> p.equals(name) || p.startsWith(name + "/"));
  }

  void run() {
    count();
    Map<String, Deque<Integer>> found = new HashMap<>();
    for (int i = 0; i < file.count(); i++) {
      found.computeIfAbsent(plain(file.paths().get(i)), k -> new ArrayDeque<>()).add(i);
    }
    int[] places = new int[wanted.size()];
    for (int i = 0; i < places.length; i++) {
      Deque<Integer> same = found.get(wanted.get(i));
      places[i] = same == null || same.isEmpty() ? -1 : same.poll();
    }
    names(places);
    origins(places);
    seen(places);
  }

  /** Which nodes are hidden, by themselves or by one above. */
  private void seen(int[] places) {
    int above = arrived.count() - wanted.size();
    int hidden = 0;
    int other = 0;
    String first = "";
    for (int i = 0; i < places.length; i++) {
      boolean was = arrived.seen()[i + above];
      hidden += was ? 0 : 1;
      if (places[i] >= 0 && file.seen()[places[i]] != was) {
        first = other++ == 0 ? wanted.get(i) : first;
      }
    }
    if (hidden == 0 && other == 0) {
      return;
    }
    ledger
        .about(Capability.SHOWN_PARTS)
        .measure(Measure.count(hidden, hidden, hidden - other))
        .add(
            "Hidden parts",
            -1,
            Figures.count(hidden),
            Figures.count(hidden),
            Figures.count(other) + " otherwise",
            Figures.count(other),
            other == 0 ? Verdict.KEPT : Verdict.LOST,
            other == 0 ? "" : "first: " + first);
  }

  /** A path of the file without the root that was added above. */
  private String plain(String path) {
    if (!root) {
      return path;
    }
    int slash = path.indexOf('/');
    boolean below = slash >= 0 && path.substring(0, slash).equals(rootName());
    return below ? path.substring(slash + 1) : path.equals(rootName()) ? "\0" : path;
  }

  private String rootName() {
    return file.count() == 0 ? "" : file.paths().get(0);
  }

  /** Why the file's hierarchy is another, or {@code null}. */
  private Capability why() {
    if (root) {
      return Capability.ROOT_TRANSFORM;
    }
    if (landed.said(ArrangedParts.HELPERS)) {
      return Capability.HELPERS;
    }
    if (landed.said(ArrangedParts.UNSHEARED)) {
      return Capability.SHEAR;
    }
    if (landed.said(ArrangedParts.PACKED)) {
      return Capability.PACKING;
    }
    if (landed.arrangement() != null) {
      return landed.arrangement();
    }
    if (landed.said("levels-beside") || landed.said("levels-as-variants")) {
      return Capability.DETAIL_LEVELS;
    }
    if (listed || landed.said("copies-in-instancer")) {
      return Capability.LISTED_COPIES;
    }
    if (landed.said("part-names-changed")) {
      return Capability.HIERARCHY;
    }
    return landed.said(ArrangedParts.ROOT) ? Capability.ROOT_TRANSFORM : null;
  }

  private void count() {
    int more = file.count() - wanted.size();
    ledger
        .about(why())
        .measure(Measure.count(near.nodes().size(), wanted.size(), file.count()))
        .add(
            "Nodes as other programs list them",
            -1,
            Figures.count(near.nodes().size()),
            Figures.count(wanted.size()),
            Figures.count(file.count()),
            more == 0 ? "0" : String.format("%+d", more),
            more == 0 ? Verdict.KEPT : more < 0 && why() == null ? Verdict.LOST : Verdict.CHANGED,
            more == 0
                ? ""
                : root
                    ? "one root carries unit, axes and place"
                    : more < 0 ? "fewer than there were" : "some were added");
  }

  private void names(int[] places) {
    int same = 0;
    List<String> rest = new ArrayList<>();
    for (int i = 0; i < places.length; i++) {
      if (places[i] >= 0) {
        same++;
      } else {
        rest.add(wanted.get(i));
      }
    }
    int gone = missing();
    boolean explained = why() != null && !root;
    ledger
        .about(why())
        .measure(Measure.count(near.nodes().size(), wanted.size(), same))
        .add(
            "Names and paths",
            -1,
            Figures.count(near.nodes().size()),
            Figures.count(wanted.size()),
            Figures.count(same) + " the same",
            Figures.count(wanted.size() - same),
            rest.isEmpty() ? Verdict.KEPT : gone > 0 && !explained ? Verdict.LOST : Verdict.CHANGED,
            rest.isEmpty()
                ? ""
                : (gone > 0 ? "first: " : "all names are there, but not all at their place: ")
                    + rest.get(0));
  }

  /** How many names of nodes did not arrive at all, wherever they hang. */
  private int missing() {
    Map<String, Integer> counts = new HashMap<>();
    file.paths().forEach(p -> counts.merge(last(p), 1, Integer::sum));
    int missing = 0;
    for (String path : wanted) {
      missing += counts.merge(last(path), -1, Integer::sum) < 0 ? 1 : 0;
    }
    return missing;
  }

  private static String last(String path) {
    return path.substring(path.lastIndexOf('/') + 1);
  }

  /** Where the origins of nodes stand: what a program turns and scales a part about. */
  private void origins(int[] places) {
    double most = 0;
    String where = "";
    int moved = 0;
    int compared = 0;
    int above = arrived.count() - wanted.size();
    for (int i = 0; i < places.length; i++) {
      if (places[i] < 0) {
        continue;
      }
      compared++;
      double off = distance(arrived.origins(), i + above, file.origins(), places[i]);
      moved += off > tolerance ? 1 : 0;
      if (off > most) {
        most = off;
        where = wanted.get(i);
      }
    }
    if (compared == 0) {
      return;
    }
    ledger
        .about(landed.arrangement() != null ? landed.arrangement() : landed.poses())
        .off(most)
        .add(
            "Origins of nodes",
            -1,
            Figures.count(near.nodes().size()),
            Figures.count(wanted.size()),
            Figures.count(compared - moved) + " in place",
            Proof.millimetres(most),
            moved == 0 ? Verdict.KEPT : Verdict.CHANGED,
            moved == 0 ? "" : Figures.count(moved, "node") + " moved, the farthest: " + where);
  }

  private static double distance(double[] a, int i, double[] b, int j) {
    double dx = a[3 * i] - b[3 * j];
    double dy = a[3 * i + 1] - b[3 * j + 1];
    double dz = a[3 * i + 2] - b[3 * j + 2];
    double d = Math.sqrt(dx * dx + dy * dy + dz * dz);
    // What is nowhere on both sides is the same.
    return Double.isNaN(d) ? 0 : d;
  }
}
