package ferry.stone.core.cargo;

import ferry.stone.core.field.Values;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.scene.Scene;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Several scene files as one asset: what is taken of each, and how it goes together. */
final class Gathering {
  private final String name;
  private final Findings findings;
  private final boolean oneMaterialAName;
  private final boolean restToRest;
  private final Map<String, FileUse> uses = new LinkedHashMap<>();
  private final List<String> standing = new ArrayList<>();
  private final List<Scene> scenes = new ArrayList<>();
  private final Map<String, Scene> looks = new LinkedHashMap<>();
  private final Map<String, Scene> motions = new LinkedHashMap<>();

  /**
   * @param files all scene files
   * @throws FormatException where nothing is left that stands by itself
   */
  Gathering(String name, List<String> files, ReadContext context) throws FormatException {
    this.name = name;
    findings = context.findings();
    Values values = context.values(ReadFields.GATHERED);
    oneMaterialAName = values.flag(ReadFields.ONE_MATERIAL);
    restToRest = values.text(MotionFile.FITS).equals(MotionFile.REST_TO_REST);
    String taken = values.text(FileUse.FIELD);
    for (String file : files) {
      // One file alone is all there is, whatever it was taken for among others.
      uses.put(file, files.size() == 1 ? FileUse.ALL : FileUse.of(taken, file));
    }
    if (uses.values().stream().noneMatch(FileUse::stands)) {
      throw new FormatException(
          FormatException.Kind.MISSING,
          files.get(0),
          "",
          "nothing is left to stand in the scene: of every file only materials, motion or nothing"
              + " is taken. Take all, or the shapes, of one at least.");
    }
  }

  /** The files that are read. */
  List<String> read() {
    return uses.keySet().stream().filter(f -> uses.get(f) != FileUse.NOTHING).toList();
  }

  void add(String file, Scene scene) {
    switch (uses.get(file)) {
      case MATERIALS, LOOKS -> looks.put(file, scene);
      case MOTION -> motions.put(file, scene);
      default -> {
        standing.add(file);
        scenes.add(TakenPart.of(scene, uses.get(file)));
      }
    }
  }

  /** What stands in the scene, looking and moving as the others say. */
  Scene scene() {
    Scene scene =
        scenes.size() == 1
            ? scenes.get(0)
            : LevelFiles.put(
                SceneMerge.merge(name, standing, scenes, oneMaterialAName, findings),
                standing,
                uses,
                findings);
    for (var look : looks.entrySet()) {
      boolean others = uses.get(look.getKey()) == FileUse.LOOKS;
      Scene alike = alike(look.getValue(), scene);
      scene = LookFile.put(scene, alike, look.getKey(), others, findings);
    }
    for (var motion : motions.entrySet()) {
      SceneMerge.tell(motion.getKey(), motion.getValue(), scene, findings);
      Scene alike = alike(motion.getValue(), scene);
      scene = MotionFile.put(scene, alike, motion.getKey(), restToRest, findings);
    }
    return scene;
  }

  private static Scene alike(Scene own, Scene base) {
    return SameConventions.hold(own, base) ? own : SameConventions.of(own, base);
  }
}
