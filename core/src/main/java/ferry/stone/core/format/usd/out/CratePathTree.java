package ferry.stone.core.format.usd.out;

import ferry.stone.core.math.IntList;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** The paths of a crate as a tree: each entry is followed by its children, then by its siblings. */
final class CratePathTree {
  private final IntList indices = new IntList(1024);
  private final IntList elements = new IntList(1024);
  private final List<Integer> jumps = new ArrayList<>();
  private final CrateTables tables;

  /** A path with those below it, by their last parts. */
  private static final class Entry {
    private final TreeMap<String, Entry> below = new TreeMap<>();
    private int index = -1;
  }

  CratePathTree(CrateTables tables) {
    this.tables = tables;
    Entry root = new Entry();
    // Paths that are above others are paths too.
    List<Map.Entry<String, Integer>> all = new ArrayList<>(tables.paths().entrySet());
    for (Map.Entry<String, Integer> path : all) {
      if (!path.getKey().isEmpty()) {
        put(root, path.getKey()).index = path.getValue();
      }
    }
    fill(root, "");
    write(root, "/");
    patch();
  }

  int[] indices() {
    return indices.toArray();
  }

  int[] elements() {
    return elements.toArray();
  }

  int[] jumps() {
    return jumps.stream().mapToInt(Integer::intValue).toArray();
  }

  private static Entry put(Entry root, String path) {
    Entry at = root;
    for (String part : parts(path)) {
      at = at.below.computeIfAbsent(part, k -> new Entry());
    }
    return at;
  }

  /** {@code /a{s=v}b.p} as a, {s=v}, b, .p. */
  static List<String> parts(String path) {
    List<String> parts = new ArrayList<>();
    int from = 1;
    while (from < path.length()) {
      char first = path.charAt(from);
      int end = from;
      if (first == '{') {
        end = path.indexOf('}', from) + 1;
      } else if (first == '.') {
        end = path.length();
      } else {
        while (end < path.length() && "/{.".indexOf(path.charAt(end)) < 0) {
          end++;
        }
      }
      parts.add(path.substring(from, end));
      from = end < path.length() && path.charAt(end) == '/' ? end + 1 : end;
    }
    return parts;
  }

  /** Gives a place to entries that are only above others. */
  private void fill(Entry entry, String path) {
    if (entry.index < 0) {
      entry.index = tables.path(path);
    }
    entry.below.forEach(
        (part, child) -> {
          boolean bare = part.startsWith("{") || part.startsWith(".") || path.endsWith("}");
          fill(child, path + (bare ? "" : "/") + part);
        });
  }

  private final List<int[]> ends = new ArrayList<>();

  private void write(Entry root, String name) {
    one(root, name, false);
  }

  /** Writes an entry and all below it. */
  private void one(Entry entry, String part, boolean sibling) {
    int place = jumps.size();
    indices.add(entry.index);
    boolean property = part.startsWith(".");
    int token = tables.token(property ? part.substring(1) : part.equals("/") ? "" : part);
    elements.add(property ? -token : token);
    boolean children = !entry.below.isEmpty();
    jumps.add(children ? (sibling ? 1 : -1) : (sibling ? 0 : -2));
    int left = entry.below.size();
    for (Map.Entry<String, Entry> child : entry.below.entrySet()) {
      one(child.getValue(), child.getKey(), --left > 0);
    }
    if (children && sibling) {
      ends.add(new int[] {place, jumps.size()});
    }
  }

  /** Where children and siblings follow, the jump leads to the siblings. */
  private void patch() {
    for (int[] end : ends) {
      jumps.set(end[0], end[1] - end[0]);
    }
  }
}
