package ferry.stone.core.format.usd.read.look;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.read.stage.Said;
import ferry.stone.core.format.usd.read.stage.UsdReading;
import ferry.stone.core.format.usd.read.stage.UsdValues;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.time.Clip;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Materials by their paths: the preview surface of the standard with what is connected to it.
 * Inputs that are not said are what the standard says of them.
 */
public final class UsdLooks {
  static final String SURFACE = "UsdPreviewSurface";

  private static final String INPUT = "inputs:";
  private static final double[] GREY = {0.18, 0.18, 0.18};

  /** Inputs by the channel that they are, those that are numbers. */
  private static final Map<Channel, String> INPUTS = new EnumMap<>(Channel.class);

  static {
    INPUTS.put(Channel.BASE_COLOUR, "diffuseColor");
    INPUTS.put(Channel.EMISSIVE, "emissiveColor");
    INPUTS.put(Channel.METALLIC, "metallic");
    INPUTS.put(Channel.ROUGHNESS, "roughness");
    INPUTS.put(Channel.CLEARCOAT, "clearcoat");
    INPUTS.put(Channel.CLEARCOAT_ROUGHNESS, "clearcoatRoughness");
    INPUTS.put(Channel.OPACITY, "opacity");
    INPUTS.put(Channel.IOR, "ior");
    INPUTS.put(Channel.NORMAL, "normal");
    INPUTS.put(Channel.DISPLACEMENT, "displacement");
    INPUTS.put(Channel.OCCLUSION, "occlusion");
  }

  /** What the standard says where a file does not, of inputs that are always kept. */
  private static final Map<Channel, double[]> ALWAYS =
      new EnumMap<>(
          Map.of(
              Channel.BASE_COLOUR, GREY,
              Channel.METALLIC, new double[] {0},
              Channel.ROUGHNESS, new double[] {0.5}));

  private final UsdReading reading;
  private final ShadeGraph graph;
  private final UsdTextures textures;
  private final Map<String, Look> looks = new HashMap<>();
  private final Map<String, Integer> ids = new LinkedHashMap<>();
  private final Map<String, Boolean> sides = new HashMap<>();

  /**
   * A material as it was read, before it is known which UV set of a mesh it reads.
   *
   * @param sets name of the UVs that each texture reads, by channel
   */
  private record Look(Material material, Map<Channel, String> sets) {}

  public UsdLooks(UsdReading reading, UsdTextures textures, ShadeGraph graph) {
    this.reading = reading;
    this.textures = textures;
    this.graph = graph;
  }

  /**
   * The id of a material on a mesh, −1 where there is none.
   *
   * @param key what tells it from others: its path, as the first of all instances has it
   * @param uvs names of the mesh's UVs in their order
   * @param both whether the mesh shows both sides
   */
  public int id(String path, String key, List<String> uvs, boolean both)
      throws IOException, FormatException {
    if (path.isEmpty()) {
      return -1;
    }
    Look look = known(path, key);
    if (look == null) {
      return -1;
    }
    Map<Channel, Integer> places = places(path, look, uvs);
    String own = key + places + both;
    Integer there = ids.get(own);
    if (there != null) {
      return there;
    }
    int id = reading.scene().newId();
    ids.put(own, id);
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    channels.putAll(look.material.channels());
    places.forEach(
        (channel, set) ->
            channels.computeIfPresent(
                channel, (c, v) -> new Material.Value(v.factor(), set(v.texture(), set))));
    if (sides.putIfAbsent(key, both) != null && sides.get(key) != both) {
      reading
          .report()
          .note(
              "material-twice",
              path,
              "Some parts show both of their sides and some one: the material is there for each.");
    }
    reading.scene().add(look.material.withId(id).withChannels(channels).withDoubleSided(both));
    motion(path, id);
    return id;
  }

  /** Takes a material that nothing shows, where it is not there already. */
  public void unseen(String path, String key) throws IOException, FormatException {
    if (!looks.containsKey(key)) {
      id(path, key, List.of(), false);
    }
  }

  /** The material of a path, which is read where it is new; {@code null} and told for none. */
  private Look known(String path, String key) throws IOException, FormatException {
    Look look = looks.get(key);
    if (look != null) {
      return look;
    }
    UsdPrim prim = graph.prim(path);
    if (prim == null) {
      reading
          .report()
          .lost(
              "reference-broken",
              path,
              "A part is bound to this material, which is not there: it has none here.");
      return null;
    }
    look = look(prim);
    looks.put(key, look);
    return look;
  }

  /** Which UV set of a mesh each texture reads; the first where it has none of the name. */
  private Map<Channel, Integer> places(String path, Look look, List<String> uvs) {
    Map<Channel, Integer> places = new EnumMap<>(Channel.class);
    look.sets.forEach(
        (channel, set) -> {
          places.put(channel, Math.max(0, uvs.indexOf(set)));
          if (!set.isEmpty() && !uvs.isEmpty() && !uvs.contains(set)) {
            reading
                .report()
                .note(
                    "uv-set-not-there",
                    path,
                    "Its textures read the UVs \""
                        + set
                        + "\", which a part that shows it has not.");
          }
        });
    return places;
  }

  private static TextureUse set(TextureUse use, int set) {
    return use == null
        ? null
        : new TextureUse(
            use.textureId(),
            set,
            use.offsetU(),
            use.offsetV(),
            use.scaleU(),
            use.scaleV(),
            use.rotationRadians(),
            use.wrap(),
            use.component(),
            use.amount(),
            use.options());
  }

  private Look look(UsdPrim prim) throws IOException, FormatException {
    ShadeGraph.Source surface = graph.source(prim, "outputs:surface");
    UsdPrim shader = surface == null ? null : surface.shader();
    String id = shader == null ? "" : ShadeGraph.id(shader);
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    Map<Channel, String> sets = new EnumMap<>(Channel.class);
    boolean specular = false;
    double threshold = 0;
    if (id.equals(SURFACE)) {
      for (Map.Entry<Channel, String> input : INPUTS.entrySet()) {
        put(shader, input.getKey(), input.getValue(), channels, sets);
      }
      specular = number(shader, "useSpecularWorkflow", 0) != 0;
      if (specular) {
        put(shader, Channel.SPECULAR, "specularColor", channels, sets);
        channels.remove(Channel.METALLIC);
      }
      threshold = number(shader, "opacityThreshold", 0);
    }
    Material.Value opacity = channels.get(Channel.OPACITY);
    boolean clear = opacity != null && (opacity.texture() != null || opacity.scalar(1) < 1);
    Material.Alpha alpha =
        threshold > 0 ? Material.Alpha.MASK : clear ? Material.Alpha.BLEND : Material.Alpha.OPAQUE;
    Map<String, Object> custom = new LinkedHashMap<>();
    others(prim, shader, id, custom);
    UsdValues values = new UsdValues(reading, prim, 0);
    values.fields(custom);
    values.attributes(
        custom, n -> !n.startsWith(INPUT) && !n.startsWith("outputs:") && !UsdNames.isSchema(n));
    return new Look(
        new Material(
            0,
            Said.name(prim),
            specular ? Material.Shading.SPECULAR_GLOSSINESS : Material.Shading.METALLIC_ROUGHNESS,
            channels,
            alpha,
            threshold > 0 ? threshold : 0.5,
            false,
            custom),
        sets);
  }

  /** Keeps networks of other renderers as they are, and tells of them. */
  private void others(UsdPrim prim, UsdPrim shader, String id, Map<String, Object> custom)
      throws IOException, FormatException {
    List<String> left = new ArrayList<>();
    List<String> outputs = new ArrayList<>();
    for (String name : prim.propertyNames()) {
      boolean other = name.matches("outputs:(.*:)?(surface|displacement|volume)");
      if (other && !name.equals("outputs:surface") && !prim.property(name).targets().isEmpty()) {
        left.add("\"" + name.substring("outputs:".length()) + "\"");
        outputs.add(name);
      }
    }
    if (shader != null && !id.equals(SURFACE)) {
      left.add(0, id.isEmpty() ? "\"surface\"" : "\"" + id + "\"");
      outputs.add(0, "outputs:surface");
    }
    if (left.isEmpty()) {
      return;
    }
    Networks networks = Networks.of(reading.stage(), prim, outputs);
    String what = "Its network " + String.join(", ", left) + " is no preview surface";
    String beside = id.equals(SURFACE) ? ", the preview surface beside it is shown." : ".";
    if (!networks.isWhole()) {
      reading.report().lost("network-not-read", prim.path(), what + ": it is not read" + beside);
      return;
    }
    custom.put(UsdNames.NETWORKS, networks.kept());
    if (networks.leavesImages()) {
      reading
          .report()
          .lost(
              "network-not-read",
              prim.path(),
              what
                  + ": it is kept as it is, without those of its images that are not in the cargo"
                  + beside);
    } else {
      reading
          .report()
          .note("network-kept", prim.path(), what + ": it lands in USD as it is" + beside);
    }
  }

  private double number(UsdPrim shader, String input, double otherwise)
      throws IOException, FormatException {
    ShadeGraph.Source source = graph.source(shader, INPUT + input);
    UsdValue value = source == null ? null : source.value();
    return value == null || value.length() == 0 ? otherwise : Said.decimals(value)[0];
  }

  private void put(
      UsdPrim shader,
      Channel channel,
      String input,
      Map<Channel, Material.Value> channels,
      Map<Channel, String> sets)
      throws IOException, FormatException {
    ShadeGraph.Source source = graph.source(shader, INPUT + input);
    double[] factor = ALWAYS.get(channel);
    UsdTextures.Use use = null;
    if (source != null && source.shader() != null) {
      use = textures.use(source, channel);
      // What a texture shows is not multiplied by what stands beside it.
      factor = use == null ? factor : use.factor();
      if (use == null) {
        UsdValue beside = source.value();
        factor = beside == null ? factor : Said.decimals(beside);
      }
    } else if (source != null && source.value() != null) {
      factor = Said.decimals(source.value());
    }
    boolean plainNormal = channel == Channel.NORMAL && use == null;
    if (plainNormal || factor == null && use == null) {
      return;
    }
    channels.put(
        channel,
        new Material.Value(
            factor == null ? null : Arrays.copyOf(factor, factor.length),
            use == null ? null : use.texture()));
    if (use != null) {
      sets.put(channel, use.uvs());
    }
  }

  /** Inputs that change over time. */
  private void motion(String path, int id) throws IOException, FormatException {
    UsdPrim prim = graph.prim(path);
    ShadeGraph.Source surface = graph.source(prim, "outputs:surface");
    if (surface == null || surface.shader() == null) {
      return;
    }
    for (Map.Entry<Channel, String> input : INPUTS.entrySet()) {
      ShadeGraph.Source source = graph.source(surface.shader(), INPUT + input.getValue());
      if (source != null && source.shader() == null && Said.moves(source.property())) {
        int width = input.getKey().isColour() ? 3 : 1;
        reading.track(
            id,
            Clip.MATERIAL + input.getKey(),
            source.property(),
            Clip.Interpolation.LINEAR,
            width,
            v -> v.length() < width ? null : Arrays.copyOf(v.doubles(), width));
      }
    }
  }
}
