package ferry.stone.core.format.obj.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.obj.raw.MtlKeys;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Material.Alpha;
import ferry.stone.core.scene.look.Material.Shading;
import ferry.stone.core.scene.look.Material.Value;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.look.Wrap;
import ferry.stone.core.texture.ColourSpace;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/** Materials as MTL holds them: colours as sRGB, images placed from the bottom left. */
final class ObjMaterials {
  private final Scene scene;
  private final boolean pbrKeys;
  private final Findings said;
  private final List<Material> held = new ArrayList<>();

  ObjMaterials(Scene scene, boolean pbrKeys, Findings said) {
    this.scene = scene;
    this.pbrKeys = pbrKeys;
    this.said = said;
    ObjNames names = new ObjNames("material", false);
    for (Material material : scene.materials()) {
      held.add(held(material).withName(names.next(material.name())));
    }
    if (names.changed() > 0) {
      said.add(
          Finding.of(
                  "material-names-changed",
                  Severity.NOTE,
                  names.firstChanged(),
                  "Readers find materials by name: each is one line and there once.")
              .measured(Figures.count(names.changed(), "material")));
    }
  }

  List<Material> held() {
    return held;
  }

  private Material held(Material material) {
    List<String> lost = new ArrayList<>();
    Map<Channel, Value> channels = new EnumMap<>(Channel.class);
    material
        .channels()
        .forEach(
            (channel, value) -> {
              Value there = value(channel, value, lost);
              if (there.factor() != null || there.texture() != null) {
                channels.put(channel, there);
              }
            });
    boolean open = material.alpha() != Alpha.OPAQUE;
    if (!open && channels.remove(Channel.OPACITY) != null) {
      lost.add("opacity of an opaque surface");
    }
    if (material.alpha() == Alpha.MASK) {
      lost.add("cut-out by opacity");
    }
    if (material.doubleSided()) {
      lost.add("both sides shown");
    }
    if (material.shading() == Shading.UNLIT) {
      lost.add("unlit");
    }
    Map<Channel, Value> written = modelled(material, channels, lost);
    if (!lost.isEmpty()) {
      said.add(
          Finding.of(
                  "material-values-not-carried",
                  Severity.FIX,
                  material.name(),
                  "MTL has no key for: " + String.join(", ", lost) + ".")
              .measured(Figures.count(lost.size(), "value")));
    }
    return new Material(
        material.id(),
        material.name(),
        written.keySet().stream().anyMatch(ObjMaterials::tellsPbr)
            ? Shading.METALLIC_ROUGHNESS
            : Shading.PHONG,
        written,
        blends(written.get(Channel.OPACITY)) ? Alpha.BLEND : Alpha.OPAQUE,
        material.alphaCutoff(),
        false,
        material.properties());
  }

  /** What tells a reader which model is meant. */
  private static boolean tellsPbr(Channel channel) {
    return channel == Channel.ROUGHNESS
        || channel == Channel.METALLIC
        || channel == Channel.OCCLUSION_ROUGHNESS_METALLIC;
  }

  private static boolean blends(Value opacity) {
    return opacity != null && (opacity.texture() != null || opacity.scalar(1) < 1);
  }

  private Value value(Channel channel, Value value, List<String> lost) {
    double[] factor = value.factor();
    if (factor != null && !Arrays.stream(factor).allMatch(Double::isFinite)) {
      lost.add(channel.label() + ", which is no number");
      factor = null;
    }
    if (factor != null) {
      double[] coded = factor(channel, factor);
      boolean neutral = value.texture() != null && value.isOne();
      if (coded == null && !neutral) {
        lost.add(channel.label());
      }
      factor = coded;
    }
    return new Value(factor, use(channel, value.texture(), lost));
  }

  /** The numbers that the key takes; {@code null} when there is no key, or none for so many. */
  private double[] factor(Channel channel, double[] factor) {
    if (!MtlKeys.VALUE_KEYS.containsKey(channel)) {
      return null;
    }
    boolean three =
        switch (channel) {
          case BASE_COLOUR, AMBIENT, SPECULAR, EMISSIVE, TRANSMISSION -> true;
          default -> false;
        };
    double[] all = factor.length < 3 ? new double[] {factor[0], factor[0], factor[0]} : factor;
    if (!three) {
      boolean grey = factor.length < 3 || all[0] == all[1] && all[1] == all[2];
      return grey ? new double[] {all[0]} : null;
    }
    double[] coded = new double[3];
    for (int k = 0; k < 3; k++) {
      coded[k] = scene.linearColours() ? ColourSpace.toSrgb(all[k]) : all[k];
    }
    return coded;
  }

  private TextureUse use(Channel channel, TextureUse use, List<String> lost) {
    if (use == null) {
      return null;
    }
    if (!MtlKeys.MAP_KEYS.containsKey(channel)) {
      lost.add(channel.label() + " texture");
      return null;
    }
    if (use.uvSet() > 0) {
      lost.add(channel.label() + " texture, which lies on a further set of UVs");
      return null;
    }
    TextureUse upright =
        scene.uvOrigin() == UvOrigin.BOTTOM_LEFT ? use : use.flipped(UvOrigin.BOTTOM_LEFT);
    if (use.rotationRadians() != 0) {
      lost.add("turn of the " + channel.label() + " texture");
    }
    if (!use.wrap().isPlain()) {
      lost.add("border or pixels of the " + channel.label() + " texture: " + use.wrap().words());
    }
    boolean strong = channel == Channel.BUMP || channel == Channel.NORMAL;
    if (use.amount() != 1 && !strong) {
      lost.add("strength of the " + channel.label() + " texture");
    }
    Texture texture = scene.texture(use.textureId()).orElseThrow();
    char part = use.component();
    if (isSplit(part) && texture.isFound()) {
      said.add(
          Finding.of(
                  "channels-split",
                  Severity.NOTE,
                  texture.name(),
                  "Not all readers take one part of an image: the "
                      + channel.label()
                      + " got a grey image of its own.")
              .measured("1 image"));
    }
    return new TextureUse(
        use.textureId(),
        0,
        upright.offsetU(),
        upright.offsetV(),
        upright.scaleU(),
        upright.scaleV(),
        0,
        use.wrap().isPlain() ? use.wrap() : Wrap.REPEATED,
        part,
        strong ? use.amount() : 1,
        use.options());
  }

  /** Whether a part of an image becomes an image of its own. */
  static boolean isSplit(char part) {
    return part == 'r' || part == 'g' || part == 'b' || part == 'a';
  }

  private Map<Channel, Value> modelled(
      Material material, Map<Channel, Value> channels, List<String> lost) {
    boolean pbr = material.shading() == Shading.METALLIC_ROUGHNESS;
    if (pbr && pbrKeys && channels.keySet().stream().noneMatch(ObjMaterials::tellsPbr)) {
      // Unsaid, both are 1 in glTF 2.0; a reader of MTL would take it for a classic material.
      channels.put(Channel.METALLIC, new Value(new double[] {1}, null));
      channels.put(Channel.ROUGHNESS, new Value(new double[] {1}, null));
    }
    if (pbrKeys || channels.keySet().stream().noneMatch(MtlKeys.EXTENDED::contains)) {
      return channels;
    }
    said.add(
        Finding.of(
                "material-translated",
                Severity.NOTE,
                material.name(),
                "Metal and roughness became a highlight: Kd, Ks and Ns, as chosen.")
            .measured("1 material"));
    return ClassicLook.of(channels, lost);
  }
}
