package ferry.stone.core.handling;

/**
 * A part as steps and links name it: by its path and how-manieth of that path it is, so that it is
 * found again when the cargo is read anew and ids are handed out otherwise.
 *
 * @param path names from the root joined by {@code /}
 * @param ordinal which of the parts of that path, from 1
 * @param count how many parts had that path when it was named
 * @param made whether an earlier step made the part; else it is one of the near side
 */
public record PartRef(String path, int ordinal, int count, boolean made) {
  public PartRef {
    if (path == null) {
      throw new IllegalArgumentException("A part is named by its path");
    }
    ordinal = Math.max(1, ordinal);
    count = Math.max(ordinal, count);
  }

  /** For people. */
  public String label() {
    return count > 1 ? path + " (" + ordinal + " of " + count + ")" : path;
  }
}
