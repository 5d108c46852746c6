package ferry.stone.core.format.usd.write.look;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.FreeNames;
import ferry.stone.core.format.files.ReferenceFinder;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.files.TextureBytes;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.ImageInfo;
import java.io.IOException;
import java.io.InputStream;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;

/**
 * Images beside the layer or in its package. PNG and JPEG go as they are; a package takes no others
 * of those that are read here, so others become PNG in it, and those that few readers know
 * everywhere.
 */
public final class ImagesOut {
  private static final String FOLDER = "textures/";

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

  /** Takes an image along under the path that a layer names, where the cargo has it. */
  void keep(String written) throws IOException {
    String path = written.startsWith("./") ? written.substring(2) : written;
    boolean below = !path.isEmpty() && !path.startsWith("/") && !path.contains("..");
    if (!below || files.containsKey(path)) {
      return;
    }
    ReferenceFinder finder = new ReferenceFinder(resources, Map.of());
    ReferenceFinder.Match match = finder.find(path, "").orElse(null);
    if (match != null) {
      try (InputStream in = resources.open(match.resource())) {
        files.put(path, in.readAllBytes());
      }
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
