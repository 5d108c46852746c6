package ferry.stone.core.format.collada;

import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.ReferenceFinder;
import ferry.stone.core.format.files.ReferenceReport;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.look.Wrap;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Materials of the common profile: constant, lambert, phong and blinn. Opacity after "Determining
 * Transparency" of both releases. Bump and normal maps and the flag for both sides stand in extra
 * techniques, under names in common use, no source.
 */
final class DaeMaterials {
  private static final Set<String> MODELS = Set.of("constant", "lambert", "phong", "blinn");

  private final DaeDocument document;
  private final SceneBuilder scene;
  private final ReferenceFinder finder;
  private final Map<DaeElement, Integer> ids = new LinkedHashMap<>();
  private final Map<DaeElement, Integer> textures = new HashMap<>();
  private final Map<Integer, Map<Channel, String>> setNames = new HashMap<>();
  private final Map<Integer, Material> made = new LinkedHashMap<>();

  DaeMaterials(DaeDocument document, SceneBuilder scene, ReferenceFinder finder) {
    this.document = document;
    this.scene = scene;
    this.finder = finder;
    for (DaeElement material : document.library("library_materials", "material")) {
      int id = scene.newId();
      ids.put(material, id);
      made.put(id, new Effect(material, id).read());
    }
  }

  /** The scene's id of a material, −1 for none. */
  int id(DaeElement material) {
    return material == null ? -1 : ids.getOrDefault(material, -1);
  }

  /** Says which set of UVs a name means where the material is used; the first word counts. */
  void bind(int materialId, String name, int set) {
    Material material = made.get(materialId);
    Map<Channel, String> names = setNames.getOrDefault(materialId, Map.of());
    if (material == null || set == 0 || !names.containsValue(name)) {
      return;
    }
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    channels.putAll(material.channels());
    names.forEach(
        (channel, own) -> {
          Material.Value value = channels.get(channel);
          if (own.equals(name) && value.texture().uvSet() == 0) {
            TextureUse u = value.texture();
            TextureUse moved =
                new TextureUse(
                    u.textureId(),
                    set,
                    u.offsetU(),
                    u.offsetV(),
                    u.scaleU(),
                    u.scaleV(),
                    u.rotationRadians(),
                    u.wrap(),
                    u.component(),
                    u.amount(),
                    u.options());
            channels.put(channel, new Material.Value(value.factor(), moved));
          }
        });
    made.put(materialId, material.withChannels(channels));
  }

  /** Adds all materials to the scene. */
  void add() {
    made.values().forEach(scene::add);
  }

  private int texture(DaeElement image, String where) {
    Integer known = textures.get(image);
    if (known != null) {
      return known;
    }
    DaeElement from = image.child("init_from");
    String url =
        from == null ? "" : (from.child("ref") == null ? from.text : from.child("ref").text);
    String written = path(url.strip());
    int id = scene.newId();
    var match = finder.find(written, document.resource);
    if (match.isEmpty()) {
      ReferenceReport.missing(
          document.findings,
          "texture-missing",
          where,
          "texture",
          written,
          image.place() + " names it",
          finder.propose(written));
    } else {
      ReferenceReport.found(document.findings, where, written, match.get());
    }
    String name = CargoPath.name(CargoPath.relative(written));
    scene.add(
        new Texture(
            id,
            name.isEmpty() ? image.label("image") : name,
            written,
            match.map(ReferenceFinder.Match::resource).orElse(null),
            null));
    textures.put(image, id);
    return id;
  }

  /** A path of a reference: its escapes undone, the word for a local file taken away. */
  static String path(String url) {
    String plain = url;
    if (url.startsWith("file:")) {
      plain = url.substring(5).replaceFirst("^/+", "/");
      plain = plain.matches("/[A-Za-z]:.*") ? plain.substring(1) : plain;
    }
    try {
      return URLDecoder.decode(plain.replace("+", "%2B"), StandardCharsets.UTF_8);
    } catch (IllegalArgumentException e) {
      return plain;
    }
  }

  /** One material's effect. */
  private final class Effect {
    private final DaeElement material;
    private final int id;
    private final Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    private final Map<String, DaeElement> params = new HashMap<>();
    private final Map<Channel, String> sets = new EnumMap<>(Channel.class);
    private boolean doubleSided;

    Effect(DaeElement material, int id) {
      this.material = material;
      this.id = id;
    }

    Material read() {
      DaeElement instance = material.child("instance_effect");
      DaeElement effect = instance == null ? null : document.named(instance, "url", "effect");
      DaeElement profile = effect == null ? null : effect.child("profile_COMMON");
      DaeElement model = null;
      if (profile != null) {
        effect.all("newparam").forEach(p -> params.put(p.attribute("sid"), p));
        profile.all("newparam").forEach(p -> params.put(p.attribute("sid"), p));
        instance.all("setparam").forEach(p -> params.put(p.attribute("ref"), p));
        DaeElement technique = profile.child("technique");
        for (DaeElement child : technique == null ? List.<DaeElement>of() : technique.children) {
          model = MODELS.contains(child.name) ? child : model;
        }
        extras(effect);
        extras(profile);
        if (technique != null) {
          technique.all("newparam").forEach(p -> params.putIfAbsent(p.attribute("sid"), p));
          extras(technique);
        }
      } else if (effect != null) {
        document.say("effect-not-read", effect, "Only effects of the common profile are read.");
      }
      extras(material);
      if (model != null) {
        model(model);
      }
      Material.Value opacity = channels.get(Channel.OPACITY);
      boolean blends = opacity != null && (opacity.texture() != null || opacity.scalar(1) < 1);
      setNames.put(id, sets);
      return new Material(
          id,
          material.label("material"),
          model != null && model.name.equals("constant")
              ? Material.Shading.UNLIT
              : Material.Shading.PHONG,
          channels,
          blends ? Material.Alpha.BLEND : Material.Alpha.OPAQUE,
          0.5,
          doubleSided,
          Map.of());
    }

    private void model(DaeElement model) {
      boolean unlit = model.name.equals("constant");
      colour(model.child("emission"), unlit ? Channel.BASE_COLOUR : Channel.EMISSIVE);
      colour(model.child("ambient"), Channel.AMBIENT);
      colour(model.child("diffuse"), Channel.BASE_COLOUR);
      colour(model.child("specular"), Channel.SPECULAR);
      number(model.child("shininess"), Channel.SHININESS);
      number(model.child("index_of_refraction"), Channel.IOR);
      reflection(model);
      opacity(model);
    }

    /** A colour, or the image that stands in its place. */
    private void colour(DaeElement value, Channel channel) {
      if (value == null) {
        return;
      }
      double[] numbers = numbers(value, "color", "float3", "float4");
      TextureUse texture = use(value.child("texture"), channel);
      double[] factor =
          numbers != null && numbers.length >= 3
              ? new double[] {numbers[0], numbers[1], numbers[2]}
              : null;
      if (factor != null || texture != null) {
        channels.put(channel, new Material.Value(factor, texture));
      }
    }

    private void number(DaeElement value, Channel channel) {
      double[] numbers = value == null ? null : numbers(value, "float");
      if (numbers != null && numbers.length > 0 && Double.isFinite(numbers[0])) {
        channels.put(channel, new Material.Value(new double[] {numbers[0]}, null));
      }
    }

    /** The value itself or the parameter it names. */
    private double[] numbers(DaeElement value, String... kinds) {
      DaeElement holder = value;
      DaeElement param = value.child("param");
      if (param != null && params.containsKey(param.attribute("ref"))) {
        holder = params.get(param.attribute("ref"));
      }
      for (String kind : kinds) {
        if (holder.child(kind) != null) {
          return holder.child(kind).numbers();
        }
      }
      return null;
    }

    private void reflection(DaeElement model) {
      DaeElement reflective = model.child("reflective");
      TextureUse texture =
          reflective == null ? null : use(reflective.child("texture"), Channel.REFLECTION);
      if (texture != null) {
        channels.put(Channel.REFLECTION, new Material.Value(null, texture));
      }
    }

    private void opacity(DaeElement model) {
      DaeElement transparent = model.child("transparent");
      DaeElement amount = model.child("transparency");
      if (transparent == null && amount == null) {
        return;
      }
      double[] own = amount == null ? null : numbers(amount, "float");
      double part = own != null && own.length > 0 && Double.isFinite(own[0]) ? own[0] : 1;
      String mode = transparent == null ? "A_ONE" : transparent.attribute("opaque").strip();
      boolean zero = mode.endsWith("_ZERO");
      TextureUse texture =
          transparent == null ? null : use(transparent.child("texture"), Channel.OPACITY);
      if (texture != null) {
        boolean alpha = mode.isEmpty() || mode.startsWith("A_");
        if (zero) {
          document.say(
              "opacity-map-inverted", transparent, "The map says what is clear: read as it is.");
        }
        channels.put(
            Channel.OPACITY,
            new Material.Value(
                part == 1 ? null : new double[] {part}, texture.withComponent(alpha ? 'a' : 'l')));
        return;
      }
      double[] c = transparent == null ? null : numbers(transparent, "color", "float4", "float3");
      double[] rgba = {1, 1, 1, 1};
      for (int k = 0; c != null && k < Math.min(4, c.length); k++) {
        rgba[k] = Double.isFinite(c[k]) ? c[k] : 1;
      }
      // Luminance of ITU-R BT.709, as the releases say.
      double light = 0.212671 * rgba[0] + 0.71516 * rgba[1] + 0.072169 * rgba[2];
      double through = part * (mode.startsWith("RGB") ? light : rgba[3]);
      double opacity = Math.max(0, Math.min(1, zero ? 1 - through : through));
      if (opacity < 1) {
        channels.put(Channel.OPACITY, new Material.Value(new double[] {opacity}, null));
      }
    }

    private TextureUse use(DaeElement texture, Channel channel) {
      if (texture == null) {
        return null;
      }
      DaeElement image = image(texture.attribute("texture"));
      if (image == null) {
        document.say(
            "texture-unknown",
            texture,
            "\"" + texture.attribute("texture") + "\" names no image: left out.");
        return null;
      }
      sets.put(channel, texture.attribute("texcoord"));
      int textureId = texture(image, material.label("material") + " · " + channel.label());
      TextureUse use = TextureUse.of(textureId);
      return placed(use, texture, sampler(texture.attribute("texture")));
    }

    /** The sampler parameter of a texture, or {@code null} when an image is named at once. */
    private DaeElement sampler(String name) {
      DaeElement param = params.get(name);
      return param == null ? null : param.child("sampler2D");
    }

    private DaeElement image(String name) {
      DaeElement sampler = sampler(name);
      if (sampler == null) {
        DaeElement direct = document.byId(name);
        return direct != null && direct.name.equals("image") ? direct : null;
      }
      if (sampler.child("instance_image") != null) {
        return document.named(sampler.child("instance_image"), "url", "image");
      }
      DaeElement source = sampler.child("source");
      DaeElement surface =
          source == null || !params.containsKey(source.text.strip())
              ? null
              : params.get(source.text.strip()).child("surface");
      DaeElement from = surface == null ? null : surface.child("init_from");
      return from == null ? null : document.byId(from.text.strip());
    }

    /** Tiling in an extra technique: repeatU, repeatV, offsetU, offsetV. Common practice. */
    private TextureUse placed(TextureUse use, DaeElement texture, DaeElement sampler) {
      double[] placed = {1, 1, 0, 0};
      String[] names = {"repeatU", "repeatV", "offsetU", "offsetV"};
      for (DaeElement extra : texture.all("extra")) {
        for (DaeElement technique : extra.all("technique")) {
          for (int i = 0; i < names.length; i++) {
            DaeElement value = technique.child(names[i]);
            placed[i] = value == null ? placed[i] : value.scalar(placed[i]);
          }
        }
      }
      String filter = word(sampler, "magfilter");
      Wrap wrap =
          new Wrap(
              edge(word(sampler, "wrap_s")),
              edge(word(sampler, "wrap_t")),
              filter.equals("NEAREST"));
      return new TextureUse(
          use.textureId(), 0, placed[2], placed[3], placed[0], placed[1], 0, wrap, (char) 0, 1, "");
    }

    private static String word(DaeElement sampler, String name) {
      DaeElement said = sampler == null ? null : sampler.child(name);
      return said == null ? "" : said.text.strip();
    }

    private static Wrap.Edge edge(String word) {
      return switch (word) {
        case "CLAMP", "BORDER" -> Wrap.Edge.CLAMP;
        case "MIRROR" -> Wrap.Edge.MIRROR;
        default -> Wrap.Edge.REPEAT;
      };
    }

    private void extras(DaeElement holder) {
      for (DaeElement extra : holder.all("extra")) {
        for (DaeElement technique : extra.all("technique")) {
          DaeElement both = technique.child("double_sided");
          doubleSided |= both != null && both.scalar(0) == 1;
          map(technique.child("bump"), Channel.BUMP);
          map(technique.child("normal"), Channel.NORMAL);
        }
      }
    }

    private void map(DaeElement holder, Channel channel) {
      TextureUse texture = holder == null ? null : use(holder.child("texture"), channel);
      if (texture != null) {
        channels.put(channel, new Material.Value(null, texture));
      }
    }
  }
}
