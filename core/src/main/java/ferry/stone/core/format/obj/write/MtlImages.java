package ferry.stone.core.format.obj.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.Output;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.files.TextureBytes;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.ChannelPacking;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import java.io.IOException;
import java.io.OutputStream;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/** Puts images into a folder beside the file, each once, and one part of an image as grey. */
public final class MtlImages {
  private static final String FOLDER = "textures/";
  private static final Map<Character, String> WORDS =
      Map.of('r', "red", 'g', "green", 'b', "blue", 'a', "alpha");

  private final Scene scene;
  private final Resources resources;
  private final Output output;
  private final Findings findings;
  private final Map<String, Named> written = new HashMap<>();
  private final Set<String> taken = new HashSet<>();

  /**
   * An image as a material names it.
   *
   * @param path from the material file
   * @param isPart whether the file is just the part that counts
   */
  public record Named(String path, boolean isPart) {}

  public MtlImages(Scene scene, Resources resources, Output output, Findings findings) {
    this.scene = scene;
    this.resources = resources;
    this.output = output;
    this.findings = findings;
  }

  public Named of(TextureUse use) throws IOException {
    char part = ObjMaterials.isSplit(use.component()) ? use.component() : 0;
    String key = use.textureId() + "/" + (int) part;
    Named known = written.get(key);
    if (known == null) {
      Texture texture = scene.texture(use.textureId()).orElseThrow();
      known = write(TextureBytes.unpacked(texture, resources, findings), part);
      written.put(key, known);
    }
    return known;
  }

  private Named write(Texture texture, char part) throws IOException {
    Named asWritten = new Named(texture.written().replaceAll("\\p{Cntrl}", "_"), false);
    byte[] bytes = TextureBytes.orTell(texture, resources, findings);
    if (bytes == null) {
      return asWritten;
    }
    if (part != 0) {
      try {
        Pixels grey = ChannelPacking.grey(ImageCodec.decode(bytes, texture.name()), part);
        String name = CargoPath.stem(texture.name()) + "_" + WORDS.get(part) + ".png";
        return new Named(put(name, ImageCodec.encodePng(grey)), true);
      } catch (IOException e) {
        // What cannot be decoded goes as it is; the option says which part counts.
        findings.add(
            Finding.of(
                "part-of-image-not-taken",
                Severity.FIX,
                texture.name(),
                "The image cannot be read here, so it lands whole: its "
                    + WORDS.get(part)
                    + " is meant."));
      }
    }
    return new Named(put(texture.name(), bytes), false);
  }

  private String put(String name, byte[] bytes) throws IOException {
    // White space ends a name for some readers.
    String clean =
        CargoPath.name(name.replace('\\', '/')).replaceAll("[\\s:*?\"<>|\\p{Cntrl}]+", "_");
    int dot = clean.lastIndexOf('.');
    String stem = dot < 0 ? clean : clean.substring(0, dot);
    String path = FOLDER + clean;
    for (int i = 2; !taken.add(path.toLowerCase(Locale.ROOT)); i++) {
      path = FOLDER + stem + "_" + i + (dot < 0 ? "" : clean.substring(dot));
    }
    try (OutputStream out = output.create(path)) {
      out.write(bytes);
    }
    return path;
  }
}
