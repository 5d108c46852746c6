package ferry.stone.core.format.usd.write.look;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.FreeNames;
import ferry.stone.core.format.files.RandomBytes;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.files.TextureBytes;
import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.layer.UsdFiles;
import ferry.stone.core.format.usd.write.spec.NamedFilesOut;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.ImageInfo;
import java.io.IOException;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * Images beside the layer or in its package. PNG and JPEG go as they are; a package takes no others
 * of those that are read here, so others become PNG in it, and those that few readers know
 * everywhere.
 */
public final class ImagesOut implements NamedFilesOut {
  private static final String FOLDER = "textures/";

  /** What packages hold beside layers, as the standard's package specification lists it. */
  private static final Set<String> PACKED =
      Set.of("png", "jpg", "jpeg", "exr", "avif", "m4a", "mp3", "wav");

  /** Bytes of a file that a value names. */
  private static final long MOST = 1L << 30;

  /** What readers of layers beside packages know too. */
  private static final Set<String> KNOWN = Set.of("bmp", "tga", "tif", "tiff", "exr", "hdr");

  private final Scene scene;
  private final Resources resources;
  private final Findings findings;
  private final boolean inPackage;
  private final FreeNames names = new FreeNames();
  private final Map<Integer, String> paths = new HashMap<>();
  private Map<String, byte[]> files = new LinkedHashMap<>();
  private boolean shares;

  public ImagesOut(Scene scene, Resources resources, Findings findings, boolean inPackage) {
    this.scene = scene;
    this.resources = resources;
    this.findings = findings;
    this.inPackage = inPackage;
  }

  /** Those of another variant of the scene, among the same files: equal ones are there once. */
  public ImagesOut of(Scene other) {
    ImagesOut more = new ImagesOut(other, resources, new Findings(), inPackage);
    more.files = files;
    more.shares = true;
    return more;
  }

  /**
   * Takes files along under the path that is written where that lies below the layer, else among
   * the others; tiles of one image stay together.
   */
  @Override
  public String keep(String written, Map<?, ?> found) throws IOException {
    Map<String, byte[]> own = new LinkedHashMap<>();
    String pattern = Pattern.quote(written).replace(UsdNames.TILE, "\\E\\d{4}\\Q");
    for (Map.Entry<?, ?> entry : found.entrySet()) {
      String name = String.valueOf(entry.getKey());
      byte[] bytes = name.matches(pattern) ? bytes(String.valueOf(entry.getValue())) : null;
      if (bytes != null) {
        own.put(name, bytes);
      }
    }
    if (own.isEmpty() || inPackage && !isForPackages(written)) {
      return written;
    }
    String plain = written.startsWith("./") ? written.substring(2) : written;
    boolean below =
        !plain.startsWith("/")
            && !plain.contains("..")
            && !plain.contains("[")
            && !plain.contains("\\")
            && !plain.contains(":");
    for (int set = 0; ; set++) {
      String folder = set == 0 ? "" : FOLDER + set + "/";
      String path = below && set == 0 ? plain : (folder.isEmpty() ? FOLDER : folder) + last(plain);
      Map<String, byte[]> placed = new LinkedHashMap<>();
      for (Map.Entry<String, byte[]> each : own.entrySet()) {
        placed.put(tile(written, path, each.getKey()), each.getValue());
      }
      boolean free =
          placed.entrySet().stream()
              .allMatch(e -> !files.containsKey(e.getKey()) || same(e.getKey(), e.getValue()));
      if (free) {
        files.putAll(placed);
        return path.equals(plain) ? written : path;
      }
    }
  }

  /** Whether packages may hold a file of this kind. */
  public static boolean isForPackages(String path) {
    return PACKED.contains(CargoPath.extension(last(path)));
  }

  private boolean same(String path, byte[] bytes) {
    return Arrays.equals(files.get(path), bytes);
  }

  /** Without folders, and without the package that it stands in. */
  private static String last(String path) {
    String name = path.endsWith("]") ? path.substring(path.lastIndexOf('[') + 1) : path;
    name = name.replace("]", "").replace('\\', '/');
    return CargoPath.name(name).replaceAll("[^\\w.\\-<>]+", "_");
  }

  /** The path of one tile by that of all of them. */
  private static String tile(String written, String path, String one) {
    int at = written.indexOf(UsdNames.TILE);
    return at < 0 ? path : path.replace(UsdNames.TILE, one.substring(at, at + 4));
  }

  /** Of a file of the cargo, also inside of packages; {@code null} where it is not there. */
  private byte[] bytes(String resource) throws IOException {
    try {
      RandomBytes file = new UsdFiles(resources, Budget.of(resource, resources)).bytes(resource);
      if (file == null || file.size() > MOST) {
        return null;
      }
      byte[] all = new byte[(int) file.size()];
      file.read(0, all, 0, all.length);
      return all;
    } catch (FormatException e) {
      return null;
    }
  }

  /** All images by their paths. */
  public Map<String, byte[]> files() {
    return files;
  }

  /** Whether an image that is there becomes another kind of file. */
  public boolean converts(Texture texture) {
    if (!texture.isFound()) {
      return false;
    }
    String name = CargoPath.name(texture.name());
    try {
      return !isAsIs(ImageCodec.probe(TextureBytes.read(texture, resources), name), name);
    } catch (IOException e) {
      return false;
    }
  }

  private boolean isAsIs(ImageInfo info, String name) {
    return info.isPngOrJpeg() || !inPackage && KNOWN.contains(CargoPath.extension(name));
  }

  /** Path of a texture as the layer names it; of one that is not there as its source did. */
  String path(int textureId) {
    return paths.computeIfAbsent(textureId, this::add);
  }

  private String add(int textureId) {
    Texture texture = scene.texture(textureId).orElseThrow();
    byte[] bytes = TextureBytes.orTell(texture, resources, findings);
    if (bytes == null) {
      String written = texture.written().replace('\\', '/');
      return written.isEmpty() ? texture.name() : written;
    }
    String name = CargoPath.name(texture.name());
    try {
      ImageInfo info = ImageCodec.probe(bytes, name);
      boolean asIs = info.isPngOrJpeg() || !inPackage && KNOWN.contains(CargoPath.extension(name));
      if (!asIs) {
        bytes = ImageCodec.encodePng(ImageCodec.decode(bytes, name));
        findings.add(
            Finding.of(
                "image-converted",
                Severity.NOTE,
                name,
                "Few readers of the format know images of this kind: it became PNG."));
        name = CargoPath.stem(name) + ".png";
      } else if (info.isPngOrJpeg()) {
        name = CargoPath.stem(name) + (info.kind().equals("png") ? ".png" : ".jpg");
      }
    } catch (IOException e) {
      findings.add(Finding.of("texture-unreadable", Severity.FIX, name, e.getMessage()));
    }
    String stem = CargoPath.stem(name).replaceAll("[^\\w.\\-]+", "_");
    String ending = name.substring(CargoPath.stem(name).length());
    String path = FOLDER + names.take(stem) + ending;
    while (shares && files.containsKey(path) && !Arrays.equals(files.get(path), bytes)) {
      path = FOLDER + names.take(stem) + ending;
    }
    files.put(path, bytes);
    return path;
  }
}
