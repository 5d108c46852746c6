package ferry.stone.core.format.fbx.read;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.fbx.raw.FbxChannels;
import ferry.stone.core.format.fbx.raw.FbxDocument;
import ferry.stone.core.format.fbx.raw.FbxProperties;
import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.format.fbx.raw.FbxTextParser;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.ReferenceFinder;
import ferry.stone.core.format.files.ReferenceReport;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.look.Wrap;
import ferry.stone.core.texture.ColourSpace;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.joml.Vector3d;

/** Reads materials with their textures; see {@link FbxChannels}. */
public final class FbxMaterialReader {
  /** Custom values of a texture: which part of its image counts, and how it is used. */
  public static final String COMPONENT = "component";

  public static final String AMOUNT = "amount";
  public static final String OPTIONS = "sampler";

  /** A wrap that FBX has no value for. */
  public static final String WRAP = "wrap";

  public static final String UV_SET_NUMBER = "uvSetNumber";

  private final FbxDocument document;
  private final SceneBuilder scene;
  private final ReferenceFinder finder;
  private final String resource;
  private final Findings findings;
  private final Map<Long, Integer> textures = new HashMap<>();
  private final Map<Integer, Texture> added = new HashMap<>();
  private final Resources resources;
  private final Map<String, Integer> uvSets = new HashMap<>();
  private final Set<String> reported = new HashSet<>();

  FbxMaterialReader(
      FbxDocument document,
      SceneBuilder scene,
      ReferenceFinder finder,
      String resource,
      Resources resources,
      Findings findings) {
    this.resources = resources;
    this.document = document;
    this.scene = scene;
    this.finder = finder;
    this.resource = resource;
    this.findings = findings;
  }

  /** Adds all materials; the scene's id of each by the file's. */
  Map<Long, Integer> read() {
    Map<Long, Integer> ids = new HashMap<>();
    // Textures name their UV set: its place is that in the first mesh that has one of this name.
    for (FbxDocument.Item geometry : document.all("Geometry")) {
      List<FbxRecord> sets = geometry.record().all("LayerElementUV");
      for (int i = 0; i < sets.size(); i++) {
        uvSets.putIfAbsent(sets.get(i).at("Name").text(0), i);
      }
    }
    for (FbxDocument.Item item : document.all("Material")) {
      int id = scene.newId();
      ids.put(item.id(), id);
      scene.add(material(id, item));
    }
    return ids;
  }

  private Material material(int id, FbxDocument.Item item) {
    FbxProperties p = item.properties();
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    boolean pbr = physical(p, channels);
    if (!pbr) {
      classic(p, channels);
    }
    textures(item, channels, pbr);
    boolean cut = channels.containsKey(Channel.OPACITY);
    double opacity = cut ? channels.get(Channel.OPACITY).scalar(1) : 1;
    boolean mapped = cut && channels.get(Channel.OPACITY).texture() != null;
    Material.Alpha alpha = opacity < 1 || mapped ? Material.Alpha.BLEND : Material.Alpha.OPAQUE;
    Material.Shading shading = pbr ? Material.Shading.METALLIC_ROUGHNESS : Material.Shading.PHONG;
    return new Material(
        id,
        item.name(),
        one(Material.Shading.values(), p.text(FbxChannels.SHADING), shading),
        channels,
        one(Material.Alpha.values(), p.text(FbxChannels.ALPHA), alpha),
        p.number(FbxChannels.CUTOFF, 0.5),
        p.flag(FbxChannels.DOUBLE_SIDED, false),
        p.custom());
  }

  private static <E extends Enum<E>> E one(E[] all, String word, E otherwise) {
    for (E value : all) {
      if (value.name().equalsIgnoreCase(word)) {
        return value;
      }
    }
    return otherwise;
  }

  private static void classic(FbxProperties p, Map<Channel, Material.Value> channels) {
    colour(p, "DiffuseColor", "DiffuseFactor", Channel.BASE_COLOUR, channels);
    colour(p, "AmbientColor", "AmbientFactor", Channel.AMBIENT, channels);
    colour(p, "SpecularColor", "SpecularFactor", Channel.SPECULAR, channels);
    colour(p, "EmissiveColor", "EmissiveFactor", Channel.EMISSIVE, channels);
    double shininess = p.number("ShininessExponent", p.number("Shininess", Double.NaN));
    if (Double.isFinite(shininess)) {
      channels.put(Channel.SHININESS, new Material.Value(new double[] {shininess}, null));
    }
    double opacity = opacity(p);
    if (opacity < 1) {
      channels.put(Channel.OPACITY, new Material.Value(new double[] {opacity}, null));
    }
  }

  /**
   * Writers disagree: some write opacity, some a transparent colour times a factor. A white colour
   * with factor 1 beside a full opacity is a left-over default, not a clear surface.
   */
  private static double opacity(FbxProperties p) {
    double stated = p.has("Opacity") ? p.number("Opacity", 1) : Double.NaN;
    if (Double.isFinite(stated)) {
      return Math.max(0, Math.min(1, stated));
    }
    double[] colour = p.colour("TransparentColor");
    double factor = p.number("TransparencyFactor", 0);
    double through = colour == null ? factor : factor * (colour[0] + colour[1] + colour[2]) / 3;
    return through >= 1 ? 1 : Math.max(0, 1 - through);
  }

  private static void colour(
      FbxProperties p,
      String name,
      String factorName,
      Channel channel,
      Map<Channel, Material.Value> channels) {
    double[] colour = p.colour(name);
    if (colour == null) {
      return;
    }
    double factor = p.number(factorName, 1);
    for (int i = 0; i < 3; i++) {
      colour[i] *= factor;
    }
    channels.put(channel, new Material.Value(colour, null));
  }

  /** Values of a physically based property set; whether there is one. */
  private static boolean physical(FbxProperties p, Map<Channel, Material.Value> channels) {
    boolean found = false;
    for (String name : p.own().keySet()) {
      Channel channel = name.contains("|") ? FbxChannels.physical(name) : null;
      if (channel == null) {
        continue;
      }
      found |= channel == Channel.BASE_COLOUR || channel == Channel.METALLIC;
      double[] colour = p.colour(name);
      boolean wide = colour != null && channel.isColour();
      double[] value = wide ? colour : new double[] {p.number(name, 0)};
      channels.putIfAbsent(channel, new Material.Value(value, null));
    }
    if (!found) {
      channels.clear();
      return false;
    }
    double strength = p.number(FbxChannels.EMISSION_WEIGHT, 1);
    if (strength != 1 && channels.containsKey(Channel.EMISSIVE)) {
      // Numbers of colours are sRGB here: light is multiplied.
      double[] light = channels.get(Channel.EMISSIVE).factor();
      for (int i = 0; i < light.length; i++) {
        light[i] = ColourSpace.toSrgb(ColourSpace.toLinear(light[i]) * strength);
      }
    }
    channels.remove(Channel.NORMAL);
    channels.remove(Channel.BUMP);
    channels.remove(Channel.OCCLUSION);
    channels.remove(Channel.CLEARCOAT_NORMAL);
    return true;
  }

  private void textures(FbxDocument.Item item, Map<Channel, Material.Value> channels, boolean pbr) {
    for (FbxDocument.Link link : document.sources(item)) {
      FbxDocument.Item texture = link.item();
      FbxDocument.Item layered = null;
      if (texture.kind().equals("LayeredTexture")) {
        List<FbxDocument.Item> layers = document.sources(texture, "Texture");
        if (layers.isEmpty()) {
          continue;
        }
        layered = layers.size() > 1 ? texture : null;
        texture = layers.get(0);
      }
      if (!texture.kind().equals("Texture")) {
        continue;
      }
      Channel channel = FbxChannels.classic(link.property());
      if (channel == null) {
        channel = FbxChannels.physical(link.property());
      }
      if (channel == null) {
        continue;
      }
      TextureUse use = use(texture, item.name(), channel);
      use = layered == null ? use : layers(layered, item.name(), channel, use);
      Material.Value before = channels.get(channel);
      // A texture takes the place of a classic colour, and multiplies a physical one.
      double[] factor = pbr && before != null ? before.factor() : null;
      channels.put(channel, new Material.Value(factor, use));
    }
  }

  /** One image of all layers where they lie alike; else the lowest one alone. */
  private TextureUse layers(
      FbxDocument.Item layered, String material, Channel channel, TextureUse lowest) {
    List<FbxDocument.Item> items = document.sources(layered, "Texture");
    List<Texture> images = new ArrayList<>();
    boolean alike = true;
    for (FbxDocument.Item item : items) {
      TextureUse use = use(item, material, channel);
      alike &= use.withTexture(lowest.textureId()).equals(lowest);
      images.add(added.get(use.textureId()));
    }
    byte[] image = alike ? FbxTextureLayers.blend(layered.record(), images, resources) : null;
    findings.add(
        Finding.of(
                image == null ? "texture-layers-not-read" : "texture-layers",
                image == null ? Severity.LOOK : Severity.NOTE,
                material + " · " + channel.label(),
                image == null
                    ? "Several textures are laid over each other here, but not all were found, lie"
                        + " alike or blend in a known way: the lowest one is taken. Bake them into"
                        + " one image before export."
                    : "Several textures are laid over each other here: they were made one image.")
            .measured(Figures.count(items.size(), "layer")));
    if (image == null) {
      return lowest;
    }
    int id = scene.newId();
    String name = CargoPath.stem(images.get(0).name()) + "_layers.png";
    scene.add(new Texture(id, name, name, null, image));
    return lowest.withTexture(id);
  }

  /** Adds an image to the scene. */
  private int put(Texture texture) {
    scene.add(texture);
    added.put(texture.id(), texture);
    return texture.id();
  }

  private TextureUse use(FbxDocument.Item texture, String material, Channel channel) {
    int id = image(texture, material, channel);
    FbxProperties p = texture.properties();
    Vector3d move =
        p.has("Translation") ? p.vector("Translation", 0) : pair(texture, "ModelUVTranslation", 0);
    Vector3d scale = p.has("Scaling") ? p.vector("Scaling", 1) : pair(texture, "ModelUVScaling", 1);
    Wrap wrap = new Wrap(edge(p, "WrapModeU"), edge(p, "WrapModeV"), false);
    String part = p.text(COMPONENT);
    return new TextureUse(
        id,
        (int) p.number(UV_SET_NUMBER, uvSets.getOrDefault(p.text("UVSet"), 0)),
        move.x,
        move.y,
        scale.x,
        scale.y,
        Math.toRadians(p.vector("Rotation", 0).z),
        Wrap.read(p.text(WRAP), wrap),
        part.isEmpty() ? (char) 0 : part.charAt(0),
        p.number(AMOUNT, 1),
        p.text(OPTIONS));
  }

  private static Wrap.Edge edge(FbxProperties p, String name) {
    return p.number(name, 0) != 0 ? Wrap.Edge.CLAMP : Wrap.Edge.REPEAT;
  }

  /** The scene's image of a texture: several textures may show one. */
  private int image(FbxDocument.Item texture, String material, Channel channel) {
    List<FbxDocument.Item> videos = document.sources(texture, "Video");
    long key = videos.isEmpty() ? texture.id() : videos.get(0).id();
    Integer known = textures.get(key);
    if (known == null) {
      known = add(texture, material, channel);
      textures.put(key, known);
    }
    return known;
  }

  private static Vector3d pair(FbxDocument.Item texture, String name, double otherwise) {
    FbxRecord record = texture.record().at(name);
    return new Vector3d(record.number(0, otherwise), record.number(1, otherwise), otherwise);
  }

  private int add(FbxDocument.Item texture, String material, Channel channel) {
    String relative = texture.record().at("RelativeFilename").text(0);
    String absolute = texture.record().at("FileName").text(0);
    byte[] embedded = null;
    for (FbxDocument.Item video : document.sources(texture, "Video")) {
      embedded = content(video);
      relative = relative.isEmpty() ? video.record().at("RelativeFilename").text(0) : relative;
      absolute = absolute.isEmpty() ? video.record().at("Filename").text(0) : absolute;
    }
    String written = relative.isEmpty() ? absolute : relative;
    int id = scene.newId();
    String name = CargoPath.name(written.replace('\\', '/'));
    if (embedded != null) {
      return put(new Texture(id, name, written, null, embedded));
    }
    var match = finder.find(written, resource);
    if (match.isEmpty() && !absolute.isEmpty()) {
      match = finder.find(absolute, resource);
    }
    String where = material + " · " + channel.label();
    if (match.isEmpty() && reported.add(written)) {
      ReferenceReport.missing(
          findings, "texture-missing", where, "texture", written, "", finder.propose(written));
    } else if (match.isPresent()) {
      ReferenceReport.found(findings, where, written, match.get());
    }
    return put(
        new Texture(
            id, name, written, match.map(ReferenceFinder.Match::resource).orElse(null), null));
  }

  /** Bytes of an image that the file carries inside, or {@code null}. */
  private static byte[] content(FbxDocument.Item video) {
    FbxRecord record = video.record().at("Content");
    if (!record.values().isEmpty() && record.values().get(0) instanceof byte[] bytes) {
      return bytes.length > 0 ? bytes : null;
    }
    StringBuilder text = new StringBuilder();
    for (int i = 0; i < record.values().size(); i++) {
      text.append(record.text(i));
    }
    byte[] bytes = FbxTextParser.base64(text.toString());
    return bytes.length > 0 ? bytes : null;
  }
}
