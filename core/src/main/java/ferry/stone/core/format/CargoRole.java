package ferry.stone.core.format;

import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.Resources;
import java.io.IOException;
import java.util.Set;

/** Which part a file plays in an asset. */
public enum CargoRole {
  SCENE("scene"),
  CACHE("point cache"),
  MATERIALS("materials"),
  TEXTURE("texture"),
  DATA("scene's data"),
  ARCHIVE("archive, not opened"),
  NOTE("note"),
  OTHER("not used");

  private static final Set<String> NOTES = Set.of("txt", "md", "pdf", "html", "json");

  private final String label;

  CargoRole(String label) {
    this.label = label;
  }

  /** Whether such files are read, alone or onto what others hold. */
  public boolean isRead() {
    return this == SCENE || this == CACHE;
  }

  public String label() {
    return label;
  }

  /** The part a file plays, by its ending. */
  public static CargoRole of(String path) {
    String extension = CargoPath.extension(path);
    Format named = Formats.ofEnding(path).orElse(null);
    if (named != null && named.reader().isPresent()) {
      return named.role();
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
    return NOTES.contains(extension) ? NOTE : OTHER;
  }

  /** The part a file plays, by its content where its ending is that of a scene or says nothing. */
  public static CargoRole of(String path, Resources resources) throws IOException {
    CargoRole role = of(path);
    if (role != SCENE && role != OTHER) {
      return role;
    }
    Format found = Formats.of(path, resources).orElse(null);
    return found != null && found.reader().isPresent() ? found.role() : role;
  }
}
