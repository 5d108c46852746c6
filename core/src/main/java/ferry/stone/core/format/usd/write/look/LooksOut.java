package ferry.stone.core.format.usd.write.look;

import ferry.stone.core.format.files.FreeNames;
import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.ValidNames;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.write.shape.PrimvarsOut;
import ferry.stone.core.format.usd.write.spec.Spec;
import ferry.stone.core.format.usd.write.spec.TimeCodes;
import ferry.stone.core.format.usd.write.spec.ValuesOut;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.look.Wrap;
import ferry.stone.core.scene.time.Clip;
import java.io.IOException;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;

/** Materials as preview surfaces: each texture with what reads its UVs and places it. */
public final class LooksOut {
  private static final String SURFACE = "surface";
  private static final double[] GREY = {0.18, 0.18, 0.18};

  private final PrimSpec scope;
  private final String path;
  private final TimeCodes times;
  private final ImagesOut images;
  private final FreeNames names = new FreeNames();
  private final Map<Integer, String> paths = new HashMap<>();

  /**
   * @param scope the prim that holds them
   * @param path of that prim
   */
  public LooksOut(PrimSpec scope, String path, TimeCodes times, ImagesOut images) {
    this.scope = scope;
    this.path = path;
    this.times = times;
    this.images = images;
  }

  /** Path of a material that is written. */
  public String path(int materialId) {
    return paths.get(materialId);
  }

  public void write(Material material) throws IOException {
    String name = names.take(ValidNames.of(material.name()));
    String own = path + "/" + name;
    paths.put(material.id(), own);
    PrimSpec prim = Spec.def(scope, "Material", name);
    if (!name.equals(material.name())) {
      prim.fields().put("displayName", Spec.text("string", material.name()));
    }
    ValuesOut.write(prim, material.properties(), times, material.id(), images);
    Object kept = material.properties().get(UsdNames.NETWORKS);
    NetworksOut.write(prim, own, kept, images);
    FreeNames taken = new FreeNames();
    prim.children().keySet().forEach(taken::take);
    String surface = taken.take(SURFACE);
    if (material.channels().isEmpty() && kept != null) {
      return;
    }
    PropertySpec output = Spec.attribute(prim, "token", false, "outputs:surface");
    Spec.connect(output, own + "/" + surface + ".outputs:surface");
    PrimSpec shader = Spec.def(prim, "Shader", surface);
    Spec.token(shader, "info:id", "UsdPreviewSurface");
    Spec.attribute(shader, "token", false, "outputs:surface");
    new Network(material, prim, own, shader, taken).inputs();
  }

  /** The shaders of one material. */
  private final class Network {
    private final Material material;
    private final PrimSpec prim;
    private final String own;
    private final PrimSpec shader;
    private final FreeNames taken;
    private final Map<String, String> readers = new LinkedHashMap<>();

    Network(Material material, PrimSpec prim, String own, PrimSpec shader, FreeNames taken) {
      this.material = material;
      this.prim = prim;
      this.own = own;
      this.shader = shader;
      this.taken = taken;
    }

    void inputs() throws IOException {
      for (Map.Entry<Channel, Material.Value> entry : material.channels().entrySet()) {
        Preview.Input input = Preview.INPUTS.get(entry.getKey());
        if (input != null) {
          input(entry.getKey(), input, entry.getValue());
        }
      }
      if (material.shading() == Material.Shading.SPECULAR_GLOSSINESS) {
        Spec.set(shader, "inputs:useSpecularWorkflow", Spec.number("int", 1));
      }
      if (material.alpha() == Material.Alpha.MASK) {
        Spec.set(shader, "inputs:opacityThreshold", Spec.number("float", material.alphaCutoff()));
      }
    }

    private void input(Channel channel, Preview.Input input, Material.Value value)
        throws IOException {
      PropertySpec property = Spec.attribute(shader, input.type(), false, "inputs:" + input.name());
      double[] factor = value.factor();
      if (value.texture() == null) {
        if (factor != null) {
          property.value(Preview.value(input, factor));
        }
        Clip.Track track = times.track(material.id(), Clip.MATERIAL + channel);
        if (track != null) {
          property.samples(times.samples(track, false, v -> Preview.value(input, v)));
        }
        return;
      }
      if (channel == Channel.BASE_COLOUR) {
        // What renderers show that do not find the image.
        property.value(Preview.value(input, GREY));
      }
      Spec.connect(property, texture(channel, input, value));
    }

    /** The output of the shader that reads an image, which is there from now on. */
    private String texture(Channel channel, Preview.Input input, Material.Value value)
        throws IOException {
      TextureUse use = value.texture();
      char part = use.component();
      String output = part == 0 ? "rgb" : String.valueOf(part);
      double[] scale = scale(channel, value);
      String key = use.withComponent((char) 0) + java.util.Arrays.toString(scale);
      String reader = readers.get(key);
      if (reader == null) {
        reader = reader(channel, use, scale);
        readers.put(key, reader);
      }
      PrimSpec shaderOfImage = prim.children().get(reader);
      String type = part == 0 ? "float3" : "float";
      if (!shaderOfImage.properties().containsKey("outputs:" + output)) {
        Spec.attribute(shaderOfImage, type, false, "outputs:" + output);
      }
      return own + "/" + reader + ".outputs:" + output;
    }

    /** What multiplies an image, and for a normal map what makes directions of it. */
    private double[] scale(Channel channel, Material.Value value) {
      if (channel == Channel.NORMAL) {
        double strength = 2 * value.texture().amount();
        return new double[] {strength, strength, 2, 1};
      }
      double[] factor = value.factor();
      if (factor == null || value.isOne()) {
        return null;
      }
      if (factor.length >= 3) {
        return new double[] {factor[0], factor[1], factor[2], 1};
      }
      double one = factor[0];
      return new double[] {one, one, one, one};
    }

    private String reader(Channel channel, TextureUse use, double[] scale) throws IOException {
      String stem = ValidNames.of(Preview.INPUTS.get(channel).name() + "_image");
      String name = taken.take(stem);
      String uvs = uvs(use);
      PrimSpec image = Spec.def(prim, "Shader", name);
      Spec.token(image, "info:id", "UsdUVTexture");
      Spec.set(image, "inputs:file", Spec.text("asset", images.path(use.textureId())));
      Spec.connect(
          Spec.attribute(image, "float2", false, "inputs:st"), own + "/" + uvs + ".outputs:result");
      Spec.set(image, "inputs:wrapS", Spec.text("token", edge(use.wrap().u())));
      Spec.set(image, "inputs:wrapT", Spec.text("token", edge(use.wrap().v())));
      Spec.set(
          image,
          "inputs:sourceColorSpace",
          Spec.text("token", channel.isColour() ? "sRGB" : "raw"));
      if (scale != null) {
        Spec.set(image, "inputs:scale", four(scale));
      }
      if (channel == Channel.NORMAL) {
        double half = -scale[0] / 2;
        Spec.set(image, "inputs:bias", four(half, half, -1, 0));
      }
      return name;
    }

    private String uvs(TextureUse use) {
      String key = "uvs " + use.uvSet();
      String reader = readers.get(key);
      if (reader == null) {
        reader = taken.take("uvs");
        readers.put(key, reader);
        PrimSpec shaderOfUvs = Spec.def(prim, "Shader", reader);
        Spec.token(shaderOfUvs, "info:id", "UsdPrimvarReader_float2");
        Spec.set(shaderOfUvs, "inputs:varname", Spec.text("string", PrimvarsOut.uv(use.uvSet())));
        Spec.attribute(shaderOfUvs, "float2", false, "outputs:result");
      }
      if (!use.hasTransform()) {
        return reader;
      }
      String placer = taken.take("place");
      PrimSpec place = Spec.def(prim, "Shader", placer);
      Spec.token(place, "info:id", "UsdTransform2d");
      Spec.connect(
          Spec.attribute(place, "float2", false, "inputs:in"),
          own + "/" + reader + ".outputs:result");
      Spec.set(
          place, "inputs:rotation", Spec.number("float", Math.toDegrees(use.rotationRadians())));
      Spec.set(place, "inputs:scale", two(use.scaleU(), use.scaleV()));
      Spec.set(place, "inputs:translation", two(use.offsetU(), use.offsetV()));
      Spec.attribute(place, "float2", false, "outputs:result");
      return placer;
    }
  }

  private static ferry.stone.core.format.usd.layer.UsdValue four(double... v) {
    return Spec.value(
        "float4", false, new float[] {(float) v[0], (float) v[1], (float) v[2], (float) v[3]});
  }

  private static ferry.stone.core.format.usd.layer.UsdValue two(double u, double v) {
    return Spec.value("float2", false, new float[] {(float) u, (float) v});
  }

  private static String edge(Wrap.Edge edge) {
    return switch (edge) {
      case REPEAT -> "repeat";
      case CLAMP -> "clamp";
      case MIRROR -> "mirror";
    };
  }
}
