package ferry.stone.core.cargo;

import ferry.stone.core.format.CargoPath;
import java.util.Set;

/** Which part a file plays in an asset. */
public enum CargoRole {
  SCENE("scene"),
  MATERIALS("materials"),
  TEXTURE("texture"),
  DATA("scene's data"),
  ARCHIVE("archive, not opened"),
  NOTE("note"),
  LATER("known, cannot be read yet"),
  OTHER("not used");

  private static final Set<String> SCENES = Set.of("obj", "glb", "gltf", "fbx");
  private static final Set<String> COMING =
      Set.of("usd", "usda", "usdc", "usdz", "abc", "mdd", "pc2", "stl", "ply", "dae");
  private static final Set<String> NOTES = Set.of("txt", "md", "pdf", "html", "json");

  private final String label;

  CargoRole(String label) {
    this.label = label;
  }

  public String label() {
    return label;
  }

  /** The part a file plays, by its ending. */
  public static CargoRole of(String path) {
    String extension = CargoPath.extension(path);
    if (SCENES.contains(extension)) {
      return SCENE;
    }
    if (extension.equals("mtl")) {
      return MATERIALS;
    }
    if (CargoPath.isImage(path)) {
      return TEXTURE;
    }
    if (extension.equals("bin")) {
      return DATA;
    }
    if (extension.equals("zip")) {
      return ARCHIVE;
    }
    if (COMING.contains(extension)) {
      return LATER;
    }
    return NOTES.contains(extension) ? NOTE : OTHER;
  }
}
