package ferry.stone.core.format.fbx.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.fbx.raw.FbxBuild;
import ferry.stone.core.format.fbx.raw.FbxCustom;
import ferry.stone.core.format.fbx.raw.FbxName;
import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.format.fbx.read.FbxMaterialReader;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.Output;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.files.TextureBytes;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.look.Wrap;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.texture.ChannelPacking;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.Tint;
import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** Writes textures, and their images inside the file or beside it. Each image goes once. */
final class FbxMediaWriter {
  private static final String FOLDER = "textures/";

  private final Scene scene;
  private final FbxObjects objects;
  private final boolean embed;
  private final Resources resources;
  private final Output output;
  private final Findings findings;
  private static final Map<Character, String> WORDS =
      Map.of('r', "red", 'g', "green", 'b', "blue", 'a', "alpha");

  private final Map<Integer, Media> media = new HashMap<>();
  private final Map<String, Media> parts = new HashMap<>();
  private final Map<String, Long> uses = new HashMap<>();
  private final Map<String, Integer> names = new HashMap<>();

  /** An image's record and the path it is found by. */
  private record Media(long id, String name, String path, boolean split) {}

  FbxMediaWriter(
      Scene scene,
      FbxObjects objects,
      boolean embed,
      Resources resources,
      Output output,
      Findings findings) {
    this.scene = scene;
    this.objects = objects;
    this.embed = embed;
    this.resources = resources;
    this.output = output;
    this.findings = findings;
  }

  /**
   * The record of a use of a texture.
   *
   * @param tint to multiply into the image, or {@code null}
   * @param colour whether the image is colour
   */
  long texture(TextureUse use, double[] tint, boolean colour) throws IOException {
    String key = use + Arrays.toString(tint) + colour;
    Long known = uses.get(key);
    if (known != null) {
      return known;
    }
    char part = use.component() == 'l' || use.component() == 'm' ? 0 : use.component();
    Media image =
        part == 0 && tint == null
            ? image(use.textureId())
            : made(use.textureId(), part, tint, colour);
    TextureUse there =
        scene.uvOrigin() == UvOrigin.BOTTOM_LEFT ? use : use.flipped(UvOrigin.BOTTOM_LEFT);
    List<FbxRecord> p = new ArrayList<>();
    p.add(FbxBuild.text("UVSet", uvSet(use.uvSet())));
    p.add(FbxBuild.flag("UseMaterial", true));
    p.add(FbxBuild.vector("Translation", there.offsetU(), there.offsetV(), 0));
    p.add(FbxBuild.vector("Rotation", 0, 0, Math.toDegrees(there.rotationRadians())));
    p.add(FbxBuild.vector("Scaling", there.scaleU(), there.scaleV(), 1));
    p.add(FbxBuild.choice("WrapModeU", use.wrap().u() == Wrap.Edge.CLAMP ? 1 : 0));
    p.add(FbxBuild.choice("WrapModeV", use.wrap().v() == Wrap.Edge.CLAMP ? 1 : 0));
    Map<String, Object> extra = new HashMap<>();
    if (use.component() != 0) {
      extra.put(FbxMaterialReader.COMPONENT, image.split() ? "l" : "" + use.component());
    }
    if (use.amount() != 1) {
      extra.put(FbxMaterialReader.AMOUNT, use.amount());
    }
    if (use.wrap().isMirrored() || use.wrap().sharp()) {
      extra.put(FbxMaterialReader.WRAP, use.wrap().text());
    }
    if (!use.options().isEmpty()) {
      extra.put(FbxMaterialReader.OPTIONS, use.options());
    }
    if (use.uvSet() != 0) {
      extra.put(FbxMaterialReader.UV_SET_NUMBER, use.uvSet());
    }
    p.addAll(FbxCustom.records(extra, p));
    FbxName name = new FbxName(image.name(), "Texture");
    long id =
        objects.add(
            "Texture",
            name,
            "",
            List.of(
                FbxBuild.record("Type", "TextureVideoClip"),
                FbxBuild.record("Version", 202),
                FbxBuild.record("TextureName", name),
                FbxBuild.properties(p),
                FbxBuild.record("Media", new FbxName(image.name(), "Video")),
                FbxBuild.record("FileName", image.path()),
                FbxBuild.record("RelativeFilename", image.path()),
                FbxBuild.record("ModelUVTranslation", there.offsetU(), there.offsetV()),
                FbxBuild.record("ModelUVScaling", there.scaleU(), there.scaleV()),
                FbxBuild.record("Texture_Alpha_Source", "None")));
    objects.connect(image.id(), id);
    uses.put(key, id);
    return id;
  }

  /** Textures name their UV set; meshes agree on the names where they come from one source. */
  private String uvSet(int set) {
    for (PolygonMesh mesh : scene.meshes()) {
      var sets = mesh.all(ferry.stone.core.scene.mesh.Attribute.Semantic.UV);
      if (set < sets.size()) {
        return sets.get(set).name();
      }
    }
    return "";
  }

  /**
   * What of an image counts as an image of its own: the format has no word for a part, and takes a
   * texture for all there is to a value.
   */
  private Media made(int textureId, char part, double[] tint, boolean colour) throws IOException {
    String key = textureId + "/" + part + Arrays.toString(tint) + colour;
    Media known = parts.get(key);
    if (known != null) {
      return known;
    }
    Texture texture = scene.texture(textureId).orElseThrow();
    Media made;
    try {
      Pixels pixels =
          texture.isFound()
              ? ImageCodec.decode(TextureBytes.read(texture, resources), texture.name())
              : null;
      if (pixels == null) {
        return image(textureId);
      }
      String name = CargoPath.stem(texture.name());
      if (part != 0) {
        pixels = ChannelPacking.grey(pixels, part);
        name += "_" + WORDS.get(part);
        say(
            "channels-split",
            texture,
            "FBX cannot say which part of an image counts: its "
                + WORDS.get(part)
                + " became a grey image of its own.");
      }
      if (tint != null) {
        pixels = Tint.of(pixels, tint, colour, scene.linearColours());
        name += "_tinted";
        say(
            "texture-tinted",
            texture,
            "In FBX a texture takes the place of the value that it"
                + " multiplies: the value was multiplied into the image.");
      }
      name += ".png";
      made = write(name, FOLDER + unique(name), ImageCodec.encodePng(pixels), part != 0);
    } catch (IOException e) {
      made = image(textureId);
    }
    parts.put(key, made);
    return made;
  }

  private void say(String code, Texture texture, String message) {
    findings.add(Finding.of(code, Severity.NOTE, texture.name(), message).measured("1 image"));
  }

  private Media image(int textureId) throws IOException {
    Media known = media.get(textureId);
    if (known != null) {
      return known;
    }
    Texture texture =
        TextureBytes.unpacked(scene.texture(textureId).orElseThrow(), resources, findings);
    byte[] bytes = TextureBytes.orTell(texture, resources, findings);
    String path = bytes == null ? texture.written() : FOLDER + unique(texture.name());
    Media made = write(texture.name(), path, bytes, false);
    media.put(textureId, made);
    return made;
  }

  private Media write(String name, String path, byte[] bytes, boolean split) throws IOException {
    List<FbxRecord> children = new ArrayList<>();
    children.add(FbxBuild.record("Type", "Clip"));
    children.add(FbxBuild.properties(List.of(FbxBuild.p("Path", "KString", "XRefUrl", "", path))));
    children.add(FbxBuild.record("UseMipMap", 0));
    children.add(FbxBuild.record("Filename", path));
    children.add(FbxBuild.record("RelativeFilename", path));
    if (bytes != null && embed) {
      children.add(FbxBuild.record("Content", (Object) bytes));
    } else if (bytes != null) {
      try (OutputStream out = output.create(path)) {
        out.write(bytes);
      }
    }
    long id = objects.add("Video", new FbxName(name, "Video"), "Clip", children);
    return new Media(id, name, path, split);
  }

  private String unique(String name) {
    String clean = CargoPath.name(name.replace('\\', '/')).replaceAll("[:*?\"<>|\\p{Cntrl}]", "_");
    int count = names.merge(clean.toLowerCase(Locale.ROOT), 1, Integer::sum);
    if (count == 1) {
      return clean;
    }
    int dot = clean.lastIndexOf('.');
    String stem = dot < 0 ? clean : clean.substring(0, dot);
    return unique(stem + "_" + count + (dot < 0 ? "" : clean.substring(dot)));
  }
}
