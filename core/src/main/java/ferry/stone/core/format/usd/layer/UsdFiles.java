package ferry.stone.core.format.usd.layer;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.RandomBytes;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.usd.layer.text.UsdaParser;
import java.io.IOException;
import java.util.HashMap;
import java.util.Map;

/**
 * The layers of a cargo, each read once: text, crate or package by what they are and not by their
 * ending. A file inside of a package is named {@code yard.usdz[textures/oak.png]}, one of a package
 * in a package {@code yard.usdz[parts/boat.usdz[oak.png]]}.
 */
public final class UsdFiles {
  private static final int HEAD = 16;
  private static final int LARGEST_TEXT = Integer.MAX_VALUE - 16;

  private final Resources files;
  private final Budget budget;
  private final Map<String, UsdLayer> layers = new HashMap<>();
  private final Map<String, UsdPackage> packages = new HashMap<>();

  public UsdFiles(Resources files, Budget budget) {
    this.files = files;
    this.budget = budget;
  }

  /** What the layers may make us allocate. */
  public Budget budget() {
    return budget;
  }

  /**
   * @param path in the cargo, and inside of packages
   * @throws FormatException when it is no layer, or not there
   */
  public UsdLayer layer(String path) throws IOException, FormatException {
    UsdLayer known = layers.get(path);
    if (known == null) {
      known = read(path);
      layers.put(path, known);
    }
    return known;
  }

  /** Whether there is such a file. */
  public boolean has(String path) throws IOException, FormatException {
    return bytes(path) != null;
  }

  private UsdLayer read(String path) throws IOException, FormatException {
    RandomBytes file = bytes(path);
    if (file == null) {
      throw new FormatException(Kind.MISSING, path, "", "the layer is not in the cargo.");
    }
    byte[] head = new byte[(int) Math.min(HEAD, file.size())];
    file.read(0, head, 0, head.length);
    if (UsdPackage.isPackage(head)) {
      return layer(inside(path, opened(path, file).root()));
    }
    if (CrateReader.isCrate(head)) {
      return CrateReader.read(path, file, budget);
    }
    if (!UsdaParser.isText(head)) {
      throw new FormatException(
          Kind.NOT_THIS_FORMAT,
          path,
          "byte 0",
          "this is no layer of USD: neither text (#usda 1.0), nor a crate (PXR-USDC), nor a"
              + " package. Export or copy it again.");
    }
    if (file.size() > LARGEST_TEXT) {
      throw new FormatException(
          Kind.TOO_LARGE, path, "", "a text layer has at most 2 GB. Save it as a crate.");
    }
    budget.claim(file.size(), "byte 0", "the text of the layer");
    byte[] text = new byte[(int) file.size()];
    file.read(0, text, 0, text.length);
    return UsdaParser.parse(path, text);
  }

  /** A file inside of a package: inside of its brackets where it is in a package itself. */
  private static String inside(String path, String name) {
    int end = path.length();
    while (path.charAt(end - 1) == ']') {
      end--;
    }
    return path.substring(0, end) + "[" + name + "]" + path.substring(end);
  }

  /** The bytes of a file, {@code null} where it is not there. */
  public RandomBytes bytes(String path) throws IOException, FormatException {
    int end = path.length();
    while (end > 0 && path.charAt(end - 1) == ']') {
      end--;
    }
    String[] parts = path.substring(0, end).split("\\[");
    String at = parts[0];
    RandomBytes file = files.contains(at) ? files.random(at) : null;
    for (int i = 1; i < parts.length && file != null; i++) {
      file = opened(at, file).file(parts[i]);
      at = inside(at, parts[i]);
    }
    return file;
  }

  private UsdPackage opened(String path, RandomBytes file) throws IOException, FormatException {
    UsdPackage known = packages.get(path);
    if (known == null) {
      known = new UsdPackage(path, file);
      packages.put(path, known);
    }
    return known;
  }
}
