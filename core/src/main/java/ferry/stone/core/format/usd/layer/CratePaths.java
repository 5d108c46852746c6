package ferry.stone.core.format.usd.layer;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.BinaryCursor;
import java.io.IOException;
import java.util.ArrayDeque;

/**
 * The paths of a crate: a tree in which each entry says by a jump whether it has children, which
 * follow it, and siblings, which stand further on.
 */
final class CratePaths {
  /** Of an entry that has children and no sibling. */
  private static final int ONLY_CHILDREN = -1;

  /** Longest path, so that no file makes very many very long ones. */
  private static final int LONGEST = 1 << 16;

  private final CrateFile file;

  CratePaths(CrateFile file) {
    this.file = file;
  }

  /** An entry with the path that is above it. */
  private record Next(int entry, String parent) {}

  String[] read(BinaryCursor in) throws IOException, FormatException {
    long at = in.position();
    int count = file.longCount(in, "paths");
    int encoded = file.longCount(in, "entries of paths");
    int[] indices = file.packedInts(in, encoded);
    int[] elements = file.packedInts(in, encoded);
    int[] jumps = file.packedInts(in, encoded);
    String[] paths = new String[count];
    ArrayDeque<Next> open = new ArrayDeque<>();
    if (encoded > 0) {
      open.push(new Next(0, null));
    }
    int made = 0;
    while (!open.isEmpty()) {
      Next next = open.pop();
      int entry = next.entry();
      String parent = next.parent();
      while (true) {
        if (entry < 0 || entry >= encoded || ++made > encoded) {
          throw file.corrupt(at, "the paths run in a circle or beyond their table.");
        }
        int index = indices[entry];
        if (index < 0 || index >= count || paths[index] != null) {
          throw file.corrupt(at, "a path has a place that is not free.");
        }
        paths[index] = parent == null ? "/" : below(parent, elements[entry], at);
        int jump = jumps[entry];
        boolean children = jump > 0 || jump == ONLY_CHILDREN;
        boolean sibling = jump >= 0;
        if (children && sibling) {
          open.push(new Next(entry + jump, parent));
        }
        if (children) {
          parent = paths[index];
        } else if (!sibling) {
          break;
        }
        entry++;
      }
    }
    return paths;
  }

  private String below(String parent, int element, long at) throws FormatException {
    boolean property = element < 0;
    String name = file.token(Math.abs((long) element), at);
    String path;
    if (property) {
      path = parent + "." + name;
    } else if (name.startsWith("{") || name.startsWith("[")) {
      path = parent + name;
    } else {
      path = parent.endsWith("/") || parent.endsWith("}") ? parent + name : parent + "/" + name;
    }
    if (path.length() > LONGEST) {
      throw file.corrupt(at, "a path is longer than " + LONGEST + " signs.");
    }
    file.claim(2L * path.length(), at, "the paths");
    return path;
  }
}
