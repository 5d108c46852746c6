package ferry.stone.core.format.fbx.write;

import ferry.stone.core.format.fbx.raw.FbxBuild;
import ferry.stone.core.format.fbx.raw.FbxChannels;
import ferry.stone.core.format.fbx.raw.FbxCustom;
import ferry.stone.core.format.fbx.raw.FbxName;
import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.texture.PbrTranslation;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * Writes materials. Classic ones as they are; physically based ones as a property set, with the
 * classic values that come nearest beside it for readers that know no such set.
 */
public final class FbxMaterialWriter {
  private static final double PHYSICAL_SPECULAR = 0.04;
  private static final double BRIGHTEST_EXPONENT = 1e4;

  private static final String OPEN_LANGUAGE = "OSL";

  private final Scene scene;
  private long shader;
  private final FbxObjects objects;
  private final FbxMediaWriter media;
  private final Map<Integer, Long> ids = new HashMap<>();

  FbxMaterialWriter(Scene scene, FbxObjects objects, FbxMediaWriter media) {
    this.scene = scene;
    this.objects = objects;
    this.media = media;
  }

  /** Writes all materials; the id of each record by the scene's. */
  Map<Integer, Long> write() throws IOException {
    for (Material material : scene.materials()) {
      ids.put(material.id(), material(material));
    }
    return ids;
  }

  private long material(Material m) throws IOException {
    boolean classic = m.shading() == Material.Shading.PHONG;
    List<FbxRecord> p = new ArrayList<>();
    classic(written(m), p);
    if (!classic) {
      physical(written(m), p);
    }
    flags(m, p);
    p.addAll(FbxCustom.records(m.properties(), p));
    long id =
        objects.add(
            "Material",
            new FbxName(m.name(), "Material"),
            "",
            List.of(
                FbxBuild.record("Version", 102),
                FbxBuild.record("ShadingModel", "phong"),
                FbxBuild.record("MultiLayer", 0),
                FbxBuild.properties(p)));
    for (Map.Entry<Channel, Material.Value> e : m.channels().entrySet()) {
      TextureUse use = e.getValue().texture();
      if (use == null) {
        continue;
      }
      double[] tint = FbxTint.of(e.getKey(), e.getValue());
      long texture = media.texture(use, tint, e.getKey().isColour());
      String property = classicTexture(e.getKey());
      if (property != null) {
        objects.connect(texture, id, property);
      }
      if (!classic || property == null) {
        objects.connect(texture, id, FbxChannels.SET + FbxChannels.name(e.getKey()));
      }
    }
    if (!classic) {
      objects.connect(id, shader());
    }
    return id;
  }

  /**
   * What tells other readers which property is which value of the open set: an implementation in
   * the open shading language with its binding table, one for all materials.
   */
  private long shader() {
    if (shader != 0) {
      return shader;
    }
    shader =
        objects.add(
            "Implementation",
            new FbxName("standardSurface", "Implementation"),
            "",
            List.of(
                FbxBuild.record("Version", 100),
                FbxBuild.properties(
                    List.of(
                        FbxBuild.text("ShaderLanguage", OPEN_LANGUAGE),
                        FbxBuild.text("ShaderLanguageVersion", "1.0"),
                        FbxBuild.text("RenderAPI", OPEN_LANGUAGE),
                        FbxBuild.text("RenderAPIVersion", "1.0"),
                        FbxBuild.text("RootBindingName", "root")))));
    List<FbxRecord> entries = new ArrayList<>();
    entries.add(FbxBuild.record("Version", 100));
    entries.add(
        FbxBuild.properties(
            List.of(FbxBuild.text("TargetName", "root"), FbxBuild.text("TargetType", "shader"))));
    FbxChannels.bindings()
        .forEach(
            (property, name) ->
                entries.add(
                    FbxBuild.record(
                        "Entry", property, "FbxPropertyEntry", name, "FbxSemanticEntry")));
    long table = objects.add("BindingTable", new FbxName("root", "BindingTable"), "", entries);
    objects.connect(table, shader);
    return shader;
  }

  /** The material of faces that have none: without it readers would give them the first. */
  long none(String name) {
    return objects.add(
        "Material",
        new FbxName(name, "Material"),
        "",
        List.of(
            FbxBuild.record("Version", 102),
            FbxBuild.record("ShadingModel", "phong"),
            FbxBuild.record("MultiLayer", 0),
            FbxBuild.properties(
                List.of(FbxBuild.colour("DiffuseColor", new double[] {0.8, 0.8, 0.8})))));
  }

  public static String classicTexture(Channel channel) {
    return switch (channel) {
      case BASE_COLOUR -> "DiffuseColor";
      case AMBIENT -> "AmbientColor";
      case SPECULAR -> "SpecularColor";
      case EMISSIVE -> "EmissiveColor";
      case SHININESS -> "ShininessExponent";
      case NORMAL -> "NormalMap";
      case BUMP -> "Bump";
      case OPACITY -> "TransparentColor";
      case REFLECTION -> "ReflectionColor";
      case DISPLACEMENT -> "DisplacementColor";
      default -> null;
    };
  }

  private double[] coded(double[] rgb) {
    double[] result = {rgb[0], rgb[1], rgb[2]};
    for (int k = 0; scene.linearColours() && k < 3; k++) {
      result[k] = ColourSpace.toSrgb(result[k]);
    }
    return result;
  }

  /** The material as it is written: factors that go into images are 1. */
  private static Material written(Material m) {
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    m.channels()
        .forEach(
            (channel, value) -> {
              double[] f = value.factor();
              boolean black =
                  f != null && value.texture() != null && FbxTint.isBlackBase(channel, f);
              if (FbxTint.of(channel, value) != null || black) {
                double[] ones = new double[f.length];
                Arrays.fill(ones, 1);
                channels.put(channel, new Material.Value(ones, value.texture()));
              } else {
                channels.put(channel, value);
              }
            });
    return m.withChannels(channels);
  }

  private void classic(Material m, List<FbxRecord> p) {
    boolean classic = m.shading() == Material.Shading.PHONG;
    double[] body = m.factor(Channel.BASE_COLOUR, 1, 1, 1);
    p.add(FbxBuild.colour("DiffuseColor", coded(body)));
    p.add(FbxBuild.moving("DiffuseFactor", 1));
    for (Channel channel : List.of(Channel.AMBIENT, Channel.SPECULAR, Channel.EMISSIVE)) {
      double[] value = m.factor(channel, (double[]) null);
      if (value != null && value.length >= 3 && (classic || channel == Channel.EMISSIVE)) {
        String name = classicTexture(channel);
        p.add(FbxBuild.colour(name, coded(value)));
        p.add(FbxBuild.moving(name.replace("Color", "Factor"), 1));
      }
    }
    if (classic && m.factor(Channel.SHININESS, (double[]) null) != null) {
      p.add(FbxBuild.moving("ShininessExponent", m.factor(Channel.SHININESS, 0)[0]));
    }
    if (!classic) {
      double roughness = m.factor(Channel.ROUGHNESS, 1)[0];
      double shine = PHYSICAL_SPECULAR + m.factor(Channel.METALLIC, 0)[0] * (1 - PHYSICAL_SPECULAR);
      p.add(FbxBuild.colour("SpecularColor", new double[] {shine, shine, shine}));
      double exponent = PbrTranslation.exponentOfRoughness(roughness);
      p.add(FbxBuild.moving("ShininessExponent", Math.min(BRIGHTEST_EXPONENT, exponent)));
    }
    m.texture(Channel.BUMP).ifPresent(use -> p.add(FbxBuild.number("BumpFactor", use.amount())));
    double opacity = m.factor(Channel.OPACITY, 1)[0];
    p.add(FbxBuild.colour("TransparentColor", new double[] {1, 1, 1}));
    p.add(FbxBuild.moving("TransparencyFactor", 1 - opacity));
    p.add(FbxBuild.moving("Opacity", opacity));
  }

  private void physical(Material m, List<FbxRecord> p) {
    p.add(FbxBuild.p(FbxChannels.BASE_WEIGHT, "double", "Number", "A", 1.0));
    double strength = strength(m);
    if (m.get(Channel.EMISSIVE).isPresent()) {
      p.add(FbxBuild.p(FbxChannels.EMISSION_WEIGHT, "double", "Number", "A", strength));
    }
    if (m.factor(Channel.BASE_COLOUR, (double[]) null) == null) {
      // What is not said is white; without the property readers make it black.
      String base = FbxChannels.SET + FbxChannels.name(Channel.BASE_COLOUR);
      p.add(FbxBuild.colour(base, new double[] {1, 1, 1}));
    }
    m.channels()
        .forEach(
            (channel, value) -> {
              double[] v = value.factor();
              if (v == null || !Double.isFinite(v[0])) {
                return;
              }
              String name = FbxChannels.SET + FbxChannels.name(channel);
              double[] shown = channel == Channel.EMISSIVE ? scaled(v, 1 / strength) : v;
              p.add(
                  v.length >= 3
                      ? FbxBuild.colour(name, coded(shown))
                      : FbxBuild.p(name, "double", "Number", "A", v[0]));
            });
  }

  /** How much brighter than full the emission is; 1 or more. */
  private static double strength(Material m) {
    double most = 1;
    for (double v : m.factor(Channel.EMISSIVE, 0, 0, 0)) {
      most = Double.isFinite(v) ? Math.max(most, v) : most;
    }
    return most;
  }

  private static double[] scaled(double[] v, double by) {
    return by == 1 ? v : Arrays.stream(v).map(x -> x * by).toArray();
  }

  /** What no property of the format says, so that it comes back. */
  private static void flags(Material m, List<FbxRecord> p) {
    boolean physical = m.shading() != Material.Shading.PHONG;
    if (physical && m.shading() != Material.Shading.METALLIC_ROUGHNESS) {
      p.add(FbxBuild.text(FbxChannels.SHADING, word(m.shading())));
    }
    boolean clear = m.factor(Channel.OPACITY, 1)[0] < 1 || m.texture(Channel.OPACITY).isPresent();
    Material.Alpha told = clear ? Material.Alpha.BLEND : Material.Alpha.OPAQUE;
    if (m.alpha() != told) {
      p.add(FbxBuild.text(FbxChannels.ALPHA, word(m.alpha())));
    }
    if (m.alphaCutoff() != 0.5) {
      p.add(FbxBuild.number(FbxChannels.CUTOFF, m.alphaCutoff()));
    }
    if (m.doubleSided()) {
      p.add(FbxBuild.flag(FbxChannels.DOUBLE_SIDED, true));
    }
  }

  private static String word(Enum<?> value) {
    return value.name().toLowerCase(Locale.ROOT);
  }
}
