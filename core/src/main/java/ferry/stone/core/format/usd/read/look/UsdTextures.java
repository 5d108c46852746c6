package ferry.stone.core.format.usd.read.look;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.RandomBytes;
import ferry.stone.core.format.files.ReferenceFinder;
import ferry.stone.core.format.files.ReferenceReport;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.compose.UsdProperty;
import ferry.stone.core.format.usd.layer.UsdFiles;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.read.stage.Said;
import ferry.stone.core.format.usd.read.stage.UsdReading;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.look.Wrap;
import java.io.IOException;
import java.util.HashMap;
import java.util.Map;

/**
 * Textures of the preview surface: what reads an image, how it is placed, and by which UVs. Scale
 * and bias of a normal map say how its colours are directions; a scale of others multiplies what
 * the image shows.
 */
public final class UsdTextures {
  private static final String READER = "UsdUVTexture";
  private static final String PLACER = "UsdTransform2d";
  private static final double[] ONE = {1, 1, 1, 1};
  private static final double[] NONE = {0, 0, 0, 0};

  private final UsdReading reading;
  private final UsdFiles files;
  private final ReferenceFinder finder;
  private final ShadeGraph graph;
  private final Map<String, Integer> known = new HashMap<>();

  public UsdTextures(UsdReading reading, UsdFiles files, ReferenceFinder finder, ShadeGraph graph) {
    this.reading = reading;
    this.files = files;
    this.finder = finder;
    this.graph = graph;
  }

  /**
   * A texture as a channel uses it.
   *
   * @param factor that multiplies it, {@code null} for none
   * @param uvs name of the UVs that it reads, empty where it does not say
   */
  record Use(TextureUse texture, double[] factor, String uvs) {}

  /** What a source shows as a texture; {@code null} and told where it is none. */
  Use use(ShadeGraph.Source source, Channel channel) throws IOException, FormatException {
    UsdPrim reader = source.shader();
    if (!ShadeGraph.id(reader).equals(READER)) {
      String id = ShadeGraph.id(reader);
      reading
          .report()
          .lost(
              "network-not-read",
              reader.path(),
              "What feeds the "
                  + channel.label()
                  + " is no image ("
                  + (id.isEmpty() ? "it names no shader" : "\"" + id + "\"")
                  + "): it is left out.");
      return null;
    }
    ShadeGraph.Source file = graph.source(reader, "inputs:file");
    UsdValue named = file == null ? null : file.value();
    if (named == null || named.text() == null || named.text().isEmpty()) {
      reading
          .report()
          .lost("texture-unknown", reader.path(), "It reads an image and names no file: left out.");
      return null;
    }
    int texture = texture(named.text(), file.property(), reader.path());
    Placed placed = placed(reader);
    double[] scale = numbers(reader, "scale", ONE);
    double[] bias = numbers(reader, "bias", NONE);
    char component = source.output().length() == 1 ? source.output().charAt(0) : 0;
    double[] factor = null;
    double amount = 1;
    if (channel == Channel.NORMAL) {
      amount = strength(reader, scale, bias);
    } else {
      factor = factor(reader, channel, component, scale, bias);
    }
    colourSpace(reader, channel);
    return new Use(
        new TextureUse(
            texture,
            0,
            placed.offsetU,
            placed.offsetV,
            placed.scaleU,
            placed.scaleV,
            placed.radians,
            wrap(reader),
            component,
            amount,
            ""),
        factor,
        placed.uvs);
  }

  private double[] factor(
      UsdPrim reader, Channel channel, char component, double[] scale, double[] bias) {
    boolean moved = false;
    for (double b : bias) {
      moved |= b != 0;
    }
    if (moved) {
      reading
          .report()
          .lost(
              "texture-bias-not-read",
              reader.path(),
              "A bias is added to what the image shows, which no channel holds: it is left out.");
    }
    int at = Math.max(0, "rgba".indexOf(component));
    if (channel.isColour() && component == 0) {
      return new double[] {scale[0], scale[1], scale[2]};
    }
    return new double[] {scale[at]};
  }

  /** How strong a normal map is: 1 for a scale of 2 and a bias of −1. */
  private double strength(UsdPrim reader, double[] scale, double[] bias) {
    boolean green = scale[1] < 0 && bias[1] > 0;
    boolean usual =
        Math.abs(scale[0] + 2 * bias[0]) < 1e-6
            && Math.abs(Math.abs(scale[1]) - scale[0]) < 1e-6
            && Math.abs(scale[2] - 2) < 1e-6;
    if (green) {
      reading
          .report()
          .lost(
              "normal-map-turned",
              reader.path(),
              "The green of its normal map points down and is turned as it is read: here it is read"
                  + " as it is. Turn the green of the image.");
    } else if (!usual) {
      reading
          .report()
          .lost(
              "texture-bias-not-read",
              reader.path(),
              "The scale and bias of its normal map are not those that make directions (2 and −1):"
                  + " they are left out.");
    }
    return usual ? scale[0] / 2 : 1;
  }

  private void colourSpace(UsdPrim reader, Channel channel) throws IOException, FormatException {
    String space = text(reader, "sourceColorSpace", "auto");
    boolean unlike =
        space.equals("raw") && channel.isColour() || space.equals("sRGB") && !channel.isColour();
    if (unlike) {
      reading
          .report()
          .lost(
              "colour-space-not-read",
              reader.path(),
              "The image of the "
                  + channel.label()
                  + " is said to be "
                  + (channel.isColour() ? "data" : "sRGB")
                  + ": here it counts as "
                  + (channel.isColour() ? "sRGB." : "data."));
    }
  }

  /** How an image lies on a surface. */
  private record Placed(
      double offsetU, double offsetV, double scaleU, double scaleV, double radians, String uvs) {}

  private Placed placed(UsdPrim reader) throws IOException, FormatException {
    ShadeGraph.Source source = graph.source(reader, "inputs:st");
    if (source == null || source.shader() == null) {
      return new Placed(0, 0, 1, 1, 0, "");
    }
    UsdPrim shader = source.shader();
    if (!ShadeGraph.id(shader).equals(PLACER)) {
      return new Placed(0, 0, 1, 1, 0, varname(shader));
    }
    double[] scale = numbers(shader, "scale", 1, 1);
    double[] offset = numbers(shader, "translation", 0, 0);
    double turn = numbers(shader, "rotation", 0)[0];
    ShadeGraph.Source inside = graph.source(shader, "inputs:in");
    String uvs = inside == null || inside.shader() == null ? "" : varname(inside.shader());
    return new Placed(offset[0], offset[1], scale[0], scale[1], Math.toRadians(turn), uvs);
  }

  private String varname(UsdPrim shader) throws IOException, FormatException {
    return ShadeGraph.id(shader).startsWith("UsdPrimvarReader") ? text(shader, "varname", "") : "";
  }

  private String text(UsdPrim shader, String input, String otherwise)
      throws IOException, FormatException {
    ShadeGraph.Source source = graph.source(shader, "inputs:" + input);
    UsdValue value = source == null ? null : source.value();
    return value == null || value.text() == null ? otherwise : value.text();
  }

  private double[] numbers(UsdPrim shader, String input, double... otherwise)
      throws IOException, FormatException {
    ShadeGraph.Source source = graph.source(shader, "inputs:" + input);
    UsdValue value = source == null ? null : source.value();
    return value == null || value.length() < otherwise.length ? otherwise : Said.decimals(value);
  }

  private Wrap wrap(UsdPrim reader) throws IOException, FormatException {
    return new Wrap(edge(reader, "wrapS"), edge(reader, "wrapT"), false);
  }

  private Wrap.Edge edge(UsdPrim reader, String input) throws IOException, FormatException {
    String word = text(reader, input, "useMetadata");
    if (word.equals("black")) {
      reading
          .report()
          .note(
              "texture-border-black",
              reader.path(),
              "Beyond its border the image is black; here its edge goes on.");
    }
    return switch (word) {
      case "mirror" -> Wrap.Edge.MIRROR;
      case "clamp", "black" -> Wrap.Edge.CLAMP;
      default -> Wrap.Edge.REPEAT;
    };
  }

  /** The id of an image; of a package its bytes are taken out. */
  private int texture(String written, UsdProperty property, String at)
      throws IOException, FormatException {
    String layer = property.valueLayer();
    String path = reading.stage().find(written, layer).orElse(null);
    String key = path == null ? layer + "|" + written : path;
    Integer there = known.get(key);
    if (there != null) {
      return there;
    }
    int id = reading.scene().newId();
    known.put(key, id);
    String name = CargoPath.name(written.replace("]", ""));
    boolean inside = path != null && path.endsWith("]");
    byte[] bytes = null;
    if (inside) {
      RandomBytes file = files.bytes(path);
      reading.report().claim(file.size(), at, "an image");
      bytes = new byte[Math.toIntExact(file.size())];
      file.read(0, bytes, 0, bytes.length);
    } else if (path == null) {
      ReferenceReport.missing(
          reading.report().findings(),
          "texture-missing",
          reading.report().resource() + " " + at,
          "texture",
          written,
          layer + " names it",
          finder.propose(written));
    }
    reading.scene().add(new Texture(id, name, written, inside ? null : path, bytes));
    return id;
  }
}
