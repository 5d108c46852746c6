package ferry.stone.core.format;

import ferry.stone.core.field.Field;
import ferry.stone.core.field.Values;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.files.Output;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Composition;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.shore.Shore;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.List;
import java.util.Map;

/** Writes a scene in a format, and tells beforehand what that will change. */
public interface SceneWriter {
  /** What can be chosen, with the standards of a landing that goes nowhere special. */
  List<Field> fields();

  /** What a shore asks for where that is another than the standard. */
  default Map<String, Object> wanted(Shore shore) {
    return Map.of();
  }

  /** Refuses values that are each right and do not go together, in a sentence. */
  default void check(Values options) {}

  /** What the numbers of the file mean. */
  Frame frame(Values options);

  /** Whether parts have places of their own, so that a root can carry unit and axes. */
  default boolean holdsPlaces() {
    return true;
  }

  /** Whether there are files beside the main one. */
  default boolean isSeveralFiles(Values options) {
    return false;
  }

  /** How the file holds what it is given: what a proof compares it with. */
  Holding holding(Values options);

  /** The far side as the format holds it, in its own frame still. */
  default Scene prepared(Scene far, Values options) {
    return far;
  }

  /** Most joints of a vertex that are kept, 0 for all. */
  default int mostInfluences(Values options) {
    return 0;
  }

  /** Whether a track has a place in the format. */
  default boolean carries(Scene far, Clip.Track track) {
    return false;
  }

  /**
   * Whether the place of a skinned mesh's own node counts for nothing, so that nothing moves it.
   */
  default boolean leavesSkinnedPlaces() {
    return false;
  }

  /** Tells what will change or be lost beside what the table of the format says of the scene. */
  default void foretell(Outlook outlook) {}

  /**
   * Writes the files.
   *
   * @param arrived in the frame of the file
   * @return the main file
   */
  String write(Scene arrived, Values options, Target target) throws IOException, FormatException;

  /**
   * Where to write, and whom to tell.
   *
   * @param stem name of the files without ending
   * @param resources the source's files, for its images
   * @param findings takes what was changed or could not be carried
   * @param variants {@code null} where there are none but those that are chosen
   */
  record Target(
      String stem,
      Resources resources,
      Output output,
      Findings findings,
      Progress progress,
      Variants variants) {
    /** Without other variants. */
    public Target(
        String stem, Resources resources, Output output, Findings findings, Progress progress) {
      this(stem, resources, output, findings, progress, null);
    }
  }

  /** What would be written with another variant chosen. */
  interface Variants {
    Scene with(Composition.Choice choice, String name) throws IOException, FormatException;
  }

  /** Takes what is foretold. */
  interface Told {
    /**
     * @param fate {@code null} for what the format's table says
     */
    void item(
        Capability capability,
        Capability.Fate fate,
        String measured,
        String where,
        List<Integer> nodeIds);

    /** What the writer will say, as its findings. */
    default void said(List<Finding> findings) {
      for (Finding finding : findings) {
        said(finding);
      }
    }

    /** One word of the writer; its code tells what it is about. */
    void said(Finding finding);

    /** A count of something, told unless it is 0 or the table says that it is kept. */
    void count(Capability capability, long count, String noun, String where);
  }

  /**
   * What is to be landed.
   *
   * @param far as the user has it
   * @param arrived in the frame of the file, as it will be handed to the writer
   * @param cargo the source's files, for images that may have to be converted
   */
  record Outlook(Scene far, Scene arrived, Values options, Resources cargo, Told told) {}
}
