package ferry.stone.core.format;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.losses.CapabilityTable;
import java.io.IOException;
import java.util.Optional;
import java.util.Set;

/**
 * A file format: all that the rest of the program knows of it. Nothing outside its package names
 * it; {@link Formats#ALL} lists it.
 */
public interface Format {
  /** Unique; small letters and digits. What options, shores and the command line call it. */
  String key();

  /** Its name for people, short. */
  String name();

  /** Its name with what tells it from other forms, for a list to choose from. */
  default String label() {
    return name();
  }

  /** Endings of its main files, in small letters, without the dot. */
  Set<String> extensions();

  /**
   * Whether a file begins as this format does. The content decides what a file is; where it says
   * nothing, the ending does.
   *
   * @param head the first bytes, at most {@link Formats#HEAD}
   */
  boolean sniff(byte[] head);

  /** Which part its files play in a cargo. */
  default CargoRole role() {
    return CargoRole.SCENE;
  }

  /** How its files are read; empty when they are not. */
  Optional<SceneReader> reader();

  /** How it is written; empty when it is not. */
  Optional<SceneWriter> writer();

  /** What its files say of their unit and axes. */
  Frames frames();

  /**
   * Holds a file to the rules of its standard, also where our reader forgives.
   *
   * @param findings takes what is broken, by {@link
   *     ferry.stone.core.format.losses.BrokenRules#CODE}
   */
  default void check(String file, Resources files, Findings findings)
      throws IOException, FormatException {}

  /** What it can carry. Formats that are forms of one another share a table. */
  CapabilityTable losses();
}
