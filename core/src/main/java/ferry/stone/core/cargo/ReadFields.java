package ferry.stone.core.cargo;

import ferry.stone.core.field.Field;
import ferry.stone.core.field.Values;
import ferry.stone.core.format.CargoRole;
import ferry.stone.core.format.Format;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.SceneReader;
import ferry.stone.core.format.files.Resources;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** What can be chosen about the reading of a cargo: fields of one name are one choice. */
public final class ReadFields {
  /** Whether numbered files are parts of one scene or frames of one motion. */
  static final String RUNS = "numberedFiles";

  static final String PARTS = "parts";
  static final String FRAMES = "frames";

  /** How fast frames follow each other. */
  static final String RATE = "filesPerSecond";

  /** Whether materials of one name are one, the first. */
  static final String ONE_MATERIAL = "oneMaterialAName";

  /** What several scene files are taken for. */
  static final List<Field> GATHERED =
      List.of(
          Field.text(
              FileUse.FIELD,
              "What is taken of files",
              "",
              "FILE=all|shapes|high|low|materials|looks|motion|cameras|lights|nothing, several apart by"
                  + " semicolons; * stands for any run of characters."),
          Field.flag(
              ONE_MATERIAL,
              "Materials of one name are one",
              false,
              "The first file's is used; else only those that say the same are one."),
          Field.choice(
              MotionFile.FITS,
              "Motion of another file",
              "From rest to rest: what moves a part away from its rest there moves it away from"
                  + " its rest here, in proportion to its length.",
              MotionFile.AS_IT_IS,
              "As it is",
              MotionFile.REST_TO_REST,
              "From rest to rest"));

  /** What does not depend on the formats. */
  static final List<Field> CARGO =
      List.of(
          Field.choice(
              RUNS,
              "Numbered files are",
              "Frames: the first file is the scene, the others say how it moves.",
              PARTS,
              "Parts of one scene",
              FRAMES,
              "Frames of one motion"),
          Field.number(
                  RATE,
                  "Files a second",
                  "",
                  0.01,
                  1000,
                  24,
                  "How fast numbered files follow each other where they are frames.")
              .proposing("24", "24", "25", "25", "30", "30", "60", "60")
              .when(RUNS + "=" + FRAMES));

  private ReadFields() {}

  /** Those of all formats. */
  public static List<Field> all() {
    List<Field> all = new ArrayList<>(CARGO);
    all.addAll(GATHERED);
    all.addAll(of(Formats.ALL));
    return List.copyOf(all);
  }

  /** Those that count for the files of a cargo. */
  public static List<Field> of(Resources resources) throws IOException {
    List<Format> formats = new ArrayList<>();
    List<String> scenes = new ArrayList<>();
    for (String path : resources.paths()) {
      CargoRole role = CargoRole.of(path, resources);
      if (role.isRead()) {
        Formats.of(path, resources).ifPresent(formats::add);
      }
      if (role == CargoRole.SCENE) {
        scenes.add(path);
      }
    }
    List<Field> fields = new ArrayList<>(FrameRun.runs(scenes).isEmpty() ? List.of() : CARGO);
    fields.addAll(scenes.size() > 1 ? GATHERED : List.of());
    fields.addAll(of(formats));
    return List.copyOf(fields);
  }

  /**
   * What is taken of each of several scene files, by their paths; empty where it is one.
   *
   * @param scenes without those that others are made of
   * @param options as they were chosen
   */
  public static Map<String, String> taken(List<String> scenes, Map<String, Object> options) {
    Map<String, String> taken = new LinkedHashMap<>();
    String text = Values.of(all(), options).text(FileUse.FIELD);
    for (String scene : scenes.size() > 1 ? scenes : List.<String>of()) {
      taken.put(scene, FileUse.of(text, scene).word());
    }
    return taken;
  }

  private static List<Field> of(List<Format> formats) {
    Map<String, Field> fields = new LinkedHashMap<>();
    formats.stream()
        .map(Format::reader)
        .flatMap(Optional::stream)
        .map(SceneReader::fields)
        .flatMap(List::stream)
        .forEach(field -> fields.putIfAbsent(field.name(), field));
    return List.copyOf(fields.values());
  }

  /** Names of the formats that have a choice, for help. */
  public static String formats(Field field) {
    return CARGO.contains(field) || GATHERED.contains(field) ? "several files" : named(field);
  }

  private static String named(Field field) {
    return String.join(
        ", ",
        Formats.ALL.stream()
            .filter(
                format ->
                    format.reader().stream()
                        .flatMap(r -> r.fields().stream())
                        .anyMatch(f -> f.name().equals(field.name())))
            .map(Format::name)
            .toList());
  }

  /**
   * Refuses choices that no format has, and values that do not fit.
   *
   * @throws IllegalArgumentException in a sentence
   */
  public static void check(Map<String, Object> options) {
    FileUse.check(Values.of(all(), options).text(FileUse.FIELD));
  }
}
