package ferry.stone.core.scene.look;

import java.util.Locale;

/**
 * What an image does beyond its border, along each of its sides, and between its pixels.
 *
 * @param sharp whether each pixel is seen as a square; they are blended otherwise
 */
public record Wrap(Edge u, Edge v, boolean sharp) {
  /** Beyond the border. */
  public enum Edge {
    REPEAT,
    CLAMP,
    MIRROR
  }

  public static final Wrap REPEATED = new Wrap(Edge.REPEAT, Edge.REPEAT, false);
  public static final Wrap CLAMPED = new Wrap(Edge.CLAMP, Edge.CLAMP, false);

  public static Wrap of(boolean clamped) {
    return clamped ? CLAMPED : REPEATED;
  }

  /** Whether a format that knows one word for both sides holds it. */
  public boolean isPlain() {
    return equals(REPEATED) || equals(CLAMPED);
  }

  public boolean isMirrored() {
    return u == Edge.MIRROR || v == Edge.MIRROR;
  }

  /** In words for people. */
  public String words() {
    String edges = u == v ? word(u) : word(u) + " across, " + word(v) + " up";
    return edges + (sharp ? ", sharp pixels" : "");
  }

  private static String word(Edge edge) {
    return switch (edge) {
      case REPEAT -> "repeats";
      case CLAMP -> "ends at its border";
      case MIRROR -> "mirrored at its border";
    };
  }

  /** As a value of a file, to be read by {@link #read}. */
  public String text() {
    return (u + " " + v + (sharp ? " SHARP" : "")).toLowerCase(Locale.ROOT);
  }

  /** What {@link #text} wrote, else {@code other}. */
  public static Wrap read(String text, Wrap other) {
    String[] words = text.toUpperCase(Locale.ROOT).split(" ");
    try {
      return words.length < 2
          ? other
          : new Wrap(Edge.valueOf(words[0]), Edge.valueOf(words[1]), words.length > 2);
    } catch (IllegalArgumentException e) {
      return other;
    }
  }
}
