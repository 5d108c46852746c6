package ferry.stone.core.scene.node;

import java.nio.charset.StandardCharsets;

/**
 * Paths of nodes: names from the root joined by {@code /}. A long path keeps its beginning and its
 * end, with a sum of all of it between them, so that the paths of a hierarchy of any depth take
 * memory in proportion to its nodes and stay different where the whole paths are.
 */
public final class NodePaths {
  /** Paths up to so many letters stand in full. */
  public static final int LONGEST = 1000;

  private static final int HEAD = 300;
  private static final int TAIL = 600;
  private static final long BASIS = 0xcbf29ce484222325L;
  private static final long PRIME = 0x100000001b3L;

  /** A path and a sum of the whole of it. */
  public record Path(String text, long sum) {
    /** The path of a node without a parent. */
    public static Path root(String name) {
      return new Path("", BASIS).to(name, "");
    }

    /** The path of a child. */
    public Path child(String name) {
      return to(name, "/");
    }

    private Path to(String name, String joint) {
      long whole = sumOf(sum, joint + name);
      String path = text + joint + name;
      if (path.length() <= LONGEST) {
        return new Path(path, whole);
      }
      String head = path.substring(0, between(path, HEAD));
      String tail = path.substring(between(path, path.length() - TAIL));
      return new Path(head + "…" + Long.toHexString(whole) + "…" + tail, whole);
    }
  }

  private NodePaths() {}

  /** FNV-1a of 64 bits (RFC 9923), which can be carried on from what it was before. */
  private static long sumOf(long before, String next) {
    long sum = before;
    for (byte letter : next.getBytes(StandardCharsets.UTF_8)) {
      sum = (sum ^ letter & 0xff) * PRIME;
    }
    return sum;
  }

  /** A place to cut at, moved so that no letter of two halves is cut in two. */
  private static int between(String text, int at) {
    return Character.isLowSurrogate(text.charAt(at)) ? at + 1 : at;
  }
}
