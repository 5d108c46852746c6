package ferry.stone.core.format.files;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/** Relative paths inside a cargo: {@code /} between parts, no {@code ..}, no drive, no root. */
public final class CargoPath {
  private static final Set<String> IMAGES =
      Set.of(
          "png", "jpg", "jpeg", "tga", "bmp", "tif", "tiff", "webp", "gif", "exr", "hdr", "psd",
          "dds", "ktx2");
  private static final int LONGEST = 1000;

  private CargoPath() {}

  /**
   * The path a file from outside may be stored under; empty when it would lead outside the cargo's
   * folder or is no usable name.
   */
  public static Optional<String> safe(String outside) {
    String path = outside.replace('\\', '/');
    if (path.startsWith("/") || path.matches("^[A-Za-z]:.*") || path.length() > LONGEST) {
      return Optional.empty();
    }
    StringBuilder result = new StringBuilder();
    for (String part : path.split("/")) {
      if (part.isEmpty() || part.equals(".")) {
        continue;
      }
      if (part.equals("..") || part.indexOf('\0') >= 0 || part.length() > 255) {
        return Optional.empty();
      }
      for (int i = 0; i < part.length(); i++) {
        if (Character.isISOControl(part.charAt(i))) {
          return Optional.empty();
        }
      }
      result.append(result.isEmpty() ? "" : "/").append(part);
    }
    return result.isEmpty() ? Optional.empty() : Optional.of(result.toString());
  }

  /** A reference written in a file as a relative path: drive, root and leading dots cut off. */
  public static String relative(String written) {
    String path = written.strip().replace('\\', '/').replaceFirst("^file:/*", "/");
    path = path.replaceFirst("^[A-Za-z]:", "");
    while (path.startsWith("/") || path.startsWith("./")) {
      path = path.substring(path.startsWith("/") ? 1 : 2);
    }
    return path;
  }

  /** Joins and resolves {@code .} and {@code ..}, never above the cargo's folder. */
  public static String resolve(String folder, String relative) {
    Deque<String> parts = new ArrayDeque<>();
    for (String part : (folder.isEmpty() ? relative : folder + "/" + relative).split("/")) {
      if (part.equals("..")) {
        parts.pollLast();
      } else if (!part.isEmpty() && !part.equals(".")) {
        parts.addLast(part);
      }
    }
    return String.join("/", parts);
  }

  public static String folder(String path) {
    int slash = path.lastIndexOf('/');
    return slash < 0 ? "" : path.substring(0, slash);
  }

  public static String name(String path) {
    return path.substring(path.lastIndexOf('/') + 1);
  }

  /** The file name without its ending. */
  public static String stem(String path) {
    String name = name(path);
    int dot = name.lastIndexOf('.');
    return dot <= 0 ? name : name.substring(0, dot);
  }

  /** The ending in lower case without the dot; empty if there is none. */
  public static String extension(String path) {
    String name = name(path);
    int dot = name.lastIndexOf('.');
    return dot <= 0 ? "" : name.substring(dot + 1).toLowerCase(Locale.ROOT);
  }

  public static boolean isImage(String path) {
    return IMAGES.contains(extension(path));
  }
}
