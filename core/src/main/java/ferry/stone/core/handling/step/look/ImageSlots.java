package ferry.stone.core.handling.step.look;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.ChannelPacking;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.ImageEdits;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.match.ImageRole;
import java.io.IOException;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** Puts images on channels of materials, and makes the scene that has them. */
final class ImageSlots {
  /** What only Phong materials say: it means nothing beside metallic and roughness. */
  private static final Set<Channel> PHONG_ONLY =
      Set.of(Channel.SPECULAR, Channel.SHININESS, Channel.AMBIENT, Channel.REFLECTION);

  private static final Set<Channel> METALLIC_ROUGHNESS =
      Set.of(Channel.METALLIC, Channel.ROUGHNESS, Channel.OCCLUSION_ROUGHNESS_METALLIC);

  private final Scene scene;
  private final SceneBuilder builder;
  private final Map<Integer, Material> materials = new LinkedHashMap<>();
  private final List<Texture> textures;
  private final Map<String, Integer> byImage = new HashMap<>();
  private final Map<String, Pixels> decoded = new HashMap<>();

  ImageSlots(Scene scene) {
    this.scene = scene;
    builder = scene.toBuilder();
    scene.materials().forEach(m -> materials.put(m.id(), m));
    textures = new ArrayList<>(scene.textures());
    for (Texture texture : textures) {
      if (texture.resource() != null) {
        byImage.putIfAbsent(texture.resource(), texture.id());
      }
    }
  }

  Scene scene() {
    return builder.materials(List.copyOf(materials.values())).textures(textures).build();
  }

  /**
   * The image of a path in the cargo, else of a texture's own name or written path.
   *
   * @throws IllegalArgumentException where there is none
   */
  String image(String named) {
    if (scene.images().paths().contains(named) || byImage.containsKey(named)) {
      return named;
    }
    for (Texture texture : textures) {
      if (texture.isFound() && (texture.name().equals(named) || texture.written().equals(named))) {
        byImage.putIfAbsent(named, texture.id());
        return named;
      }
    }
    List<String> ends =
        scene.images().paths().stream().filter(p -> p.endsWith("/" + named)).toList();
    if (ends.size() == 1) {
      return ends.get(0);
    }
    throw new IllegalArgumentException(
        ends.isEmpty()
            ? "there is no image \"" + named + "\" in the cargo"
            : "\"" + named + "\" is the name of " + ends.size() + " images: say the folder too");
  }

  /** Takes what a channel has away; a material that says nothing else of it has its standard. */
  void clear(int material, Channel channel) {
    Material old = materials.get(material);
    Map<Channel, Material.Value> channels = channels(old);
    channels.remove(channel);
    materials.put(material, old.withChannels(channels));
  }

  void put(int material, ImageRole role, String image) {
    Material old = materials.get(material);
    Map<Channel, Material.Value> channels = channels(old);
    Material.Value before = channels.get(role.channel());
    int texture = role.inverted() ? made(image, role) : texture(image);
    char part = role.inverted() && role.channel() != Channel.NORMAL ? 0 : role.component();
    TextureUse use = like(old).withTexture(texture).withComponent(part);
    // A number that stood for the missing image would darken the one that came.
    boolean broken = before != null && before.texture() != null;
    channels.put(role.channel(), new Material.Value(broken ? before.factor() : null, use));
    Material.Shading shading = old.shading();
    if (METALLIC_ROUGHNESS.contains(role.channel()) && shading != Material.Shading.UNLIT) {
      channels.keySet().removeAll(PHONG_ONLY);
      shading = Material.Shading.METALLIC_ROUGHNESS;
    }
    Material.Alpha alpha = old.alpha();
    if (role.channel() == Channel.OPACITY && alpha == Material.Alpha.OPAQUE) {
      alpha = isCutOut(image, role) ? Material.Alpha.MASK : Material.Alpha.BLEND;
    }
    materials.put(
        material,
        new Material(
            old.id(),
            old.name(),
            shading,
            channels,
            alpha,
            old.alphaCutoff(),
            old.doubleSided(),
            old.properties()));
  }

  private static Map<Channel, Material.Value> channels(Material material) {
    return material.channels().isEmpty()
        ? new EnumMap<>(Channel.class)
        : new EnumMap<>(material.channels());
  }

  /** A new image lies as the others of its material do. */
  private static TextureUse like(Material material) {
    Optional<TextureUse> other =
        material
            .texture(Channel.BASE_COLOUR)
            .or(
                () ->
                    material.channels().values().stream()
                        .map(Material.Value::texture)
                        .filter(t -> t != null)
                        .findFirst());
    return other.map(o -> o.placed(-1, (char) 0)).orElse(TextureUse.of(-1));
  }

  private int texture(String image) {
    return byImage.computeIfAbsent(
        image,
        k -> {
          int id = builder.newId();
          textures.add(new Texture(id, name(image), image, image, null));
          return id;
        });
  }

  /** The opposite of an image, as an image of its own. */
  private int made(String image, ImageRole role) {
    String key = image + " " + role;
    return byImage.computeIfAbsent(
        key,
        k -> {
          Pixels pixels = pixels(image);
          boolean normal =
              role.channel() == Channel.NORMAL || role.channel() == Channel.CLEARCOAT_NORMAL;
          Pixels turned =
              normal
                  ? ImageEdits.greenTurned(pixels)
                  : ImageEdits.opposite(pixels, role.component());
          int id = builder.newId();
          String name =
              stem(image) + (normal ? "_green_up.png" : "_" + word(role.channel()) + ".png");
          textures.add(new Texture(id, name, image, null, ImageCodec.encodePng(turned)));
          return id;
        });
  }

  /** A material whose image of three channels in one stands on each of them. */
  Material apart(int material) {
    Material old = materials.get(material);
    TextureUse three = old.texture(Channel.OCCLUSION_ROUGHNESS_METALLIC).orElse(null);
    if (three == null) {
      return old;
    }
    Map<Channel, Material.Value> channels = channels(old);
    channels.remove(Channel.OCCLUSION_ROUGHNESS_METALLIC);
    channels.put(Channel.OCCLUSION, new Material.Value(null, three.withComponent('r')));
    channels.put(Channel.ROUGHNESS, new Material.Value(null, three.withComponent('g')));
    channels.put(Channel.METALLIC, new Material.Value(null, three.withComponent('b')));
    materials.put(material, old.withChannels(channels));
    return materials.get(material);
  }

  /** A new image; puts of its name find it. */
  String add(String name, Pixels image) {
    byImage.put(name, image(name, image));
    return name;
  }

  /** A new image, by its texture. */
  int image(String name, Pixels image) {
    int id = builder.newId();
    textures.add(new Texture(id, name, name, null, ImageCodec.encodePng(image)));
    return id;
  }

  /** The name of a texture's file without ending. */
  String stem(int texture) {
    return textures.stream()
        .filter(t -> t.id() == texture)
        .findFirst()
        .map(Texture::stem)
        .orElse("image");
  }

  /** A material as it is now. */
  Material material(int id) {
    return materials.get(id);
  }

  /** A material in place of the one of its id. */
  void put(Material material) {
    materials.put(material.id(), material);
  }

  /** The pixels of an image that {@link #image} named. */
  Pixels pixelsOf(String image) {
    return decoded.computeIfAbsent(image, this::pixels);
  }

  /** The pixels of a material's image. */
  Pixels pixelsOf(TextureUse use) {
    Texture texture =
        textures.stream().filter(t -> t.id() == use.textureId()).findFirst().orElse(null);
    if (texture == null || !texture.isFound()) {
      throw new IllegalArgumentException(
          "the image " + (texture == null ? "" : texture.name() + " ") + "is missing");
    }
    String key = "texture " + texture.id();
    byImage.putIfAbsent(key, texture.id());
    return pixelsOf(key);
  }

  private static String word(Channel channel) {
    return channel.label().replace(' ', '_');
  }

  private boolean isCutOut(String image, ImageRole role) {
    Pixels pixels = pixels(image);
    char part = role.component() == 0 ? pixels.hasAlpha() ? 'a' : 'l' : role.component();
    return ChannelPacking.isCutOut(ChannelPacking.withAlpha(null, pixels, part));
  }

  private Pixels pixels(String image) {
    try {
      byte[] file =
          scene.images().paths().contains(image) ? scene.images().read(image) : embedded(image);
      return ImageCodec.decode(file, image);
    } catch (IOException e) {
      throw new IllegalArgumentException(e.getMessage(), e);
    }
  }

  private byte[] embedded(String image) throws IOException {
    Texture texture =
        textures.stream().filter(t -> t.id() == byImage.get(image)).findFirst().orElseThrow();
    return ImagePixels.file(scene, texture);
  }

  private static String name(String path) {
    return path.substring(path.lastIndexOf('/') + 1);
  }

  private static String stem(String path) {
    String name = name(path);
    return name.contains(".") ? name.substring(0, name.lastIndexOf('.')) : name;
  }
}
