package ferry.stone.core.texture.model;

import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Material.Shading;
import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.texture.PbrTranslation;
import ferry.stone.core.texture.PixelSink;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.SpecularGlossiness;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.Map;
import java.util.Set;
import java.util.function.BiFunction;

/**
 * A material in another model, pixel by pixel: metallic and roughness; diffuse and specular with
 * roughness; or Phong. Between the first two by the published conversion (see {@link
 * SpecularGlossiness}), between roughness and Phong's exponent by {@link PbrTranslation}.
 */
public final class ModelChange {
  private static final Set<Channel> OWN =
      Set.of(
          Channel.BASE_COLOUR,
          Channel.METALLIC,
          Channel.ROUGHNESS,
          Channel.OCCLUSION_ROUGHNESS_METALLIC,
          Channel.SPECULAR,
          Channel.SHININESS,
          Channel.AMBIENT,
          Channel.REFLECTION);

  private final MaterialReflection from;
  private final Shading to;
  private final int width;
  private final int height;
  private final double[][] values;
  private final PixelSink first;
  private final PixelSink second;
  private final PixelSink third;
  private final boolean[] varies = new boolean[3];
  private double most;

  /**
   * @param from all images lying alike
   * @param to no {@link Shading#UNLIT}
   */
  public ModelChange(MaterialReflection from, Shading to) {
    this.from = from;
    this.to = to;
    width = from.width();
    height = from.height();
    int full = from.isDeep() ? Pixels.DEEP : Pixels.FULL;
    first = new PixelSink(width, height, full);
    second = new PixelSink(width, height, full);
    third = new PixelSink(width, height, full);
    values = new double[3][3];
    most = to == Shading.PHONG ? exponents() : 1;
    fill(full);
  }

  /** The largest exponent, by which those of the image are told. */
  private double exponents() {
    Reflection r = new Reflection();
    double found = 1;
    for (int i = 0; i < width * height; i++) {
      from.at(i % width, i / width, width, height, r);
      found = Math.max(found, PbrTranslation.exponentOfRoughness(r.roughness));
    }
    return found;
  }

  private void fill(int full) {
    Reflection r = new Reflection();
    double[][] at = new double[3][3];
    for (int i = 0; i < width * height; i++) {
      from.at(i % width, i / width, width, height, r);
      said(r, at);
      put(first, i, at[0], true, full);
      put(second, i, at[1], to != Shading.METALLIC_ROUGHNESS, full);
      put(third, i, at[2], false, full);
      for (int k = 0; k < 3; k++) {
        if (i == 0) {
          values[k] = at[k].clone();
        }
        varies[k] |= !Arrays.equals(values[k], at[k]);
      }
    }
  }

  /** The colour, what goes beside it, and a number, as the model says them. */
  private void said(Reflection r, double[][] into) {
    if (to == Shading.METALLIC_ROUGHNESS) {
      SpecularGlossiness.MetallicRoughness made =
          SpecularGlossiness.toMetallic(
              new SpecularGlossiness.Specular(r.diffuse, r.specular, 1 - r.roughness));
      System.arraycopy(made.baseColour(), 0, into[0], 0, 3);
      into[1][0] = 1;
      into[1][1] = r.roughness;
      into[1][2] = made.metallic();
      return;
    }
    System.arraycopy(r.diffuse, 0, into[0], 0, 3);
    System.arraycopy(r.specular, 0, into[1], 0, 3);
    double number =
        to == Shading.PHONG ? PbrTranslation.exponentOfRoughness(r.roughness) / most : r.roughness;
    Arrays.fill(into[2], number);
  }

  private static void put(PixelSink sink, int i, double[] value, boolean colour, int full) {
    sink.put(
        i,
        full,
        level(value[0], colour, full),
        level(value[1], colour, full),
        level(value[2], colour, full));
  }

  private static int level(double value, boolean colour, int full) {
    double stored = colour ? ColourSpace.toSrgb(Math.max(0, Math.min(1, value))) : value;
    return (int) Math.round(full * Math.max(0, Math.min(1, stored)));
  }

  /**
   * The material in the new model.
   *
   * @param linear whether its colour numbers are to be linear light
   * @param images takes a new image by its name and says its texture
   */
  public Material material(
      Material old, boolean linear, BiFunction<String, Pixels, Integer> images) {
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    old.channels()
        .forEach(
            (channel, value) -> {
              if (!OWN.contains(channel)) {
                channels.put(channel, value);
              }
            });
    channels.put(Channel.BASE_COLOUR, colour(old.name() + "_colour", 0, first, linear, images));
    if (to == Shading.METALLIC_ROUGHNESS) {
      int image = varies[1] ? images.apply(old.name() + "_rough_metal", second.pixels(false)) : -1;
      channels.put(Channel.ROUGHNESS, number(image, 'g', values[1][1]));
      channels.put(Channel.METALLIC, number(image, 'b', values[1][2]));
    } else {
      Channel channel = to == Shading.PHONG ? Channel.SHININESS : Channel.ROUGHNESS;
      channels.put(Channel.SPECULAR, colour(old.name() + "_specular", 1, second, linear, images));
      String name = old.name() + (to == Shading.PHONG ? "_shininess" : "_roughness");
      int image = varies[2] ? images.apply(name, third.pixels(false)) : -1;
      Material.Value value = number(image, 'g', values[2][0]);
      double factor = (value.factor() == null ? 1 : value.factor()[0]) * most;
      channels.put(
          channel, most == 1 ? value : new Material.Value(new double[] {factor}, value.texture()));
    }
    return new Material(
        old.id(),
        old.name(),
        to,
        channels,
        old.alpha(),
        old.alphaCutoff(),
        old.doubleSided(),
        old.properties());
  }

  private Material.Value colour(
      String name,
      int which,
      PixelSink sink,
      boolean linear,
      BiFunction<String, Pixels, Integer> images) {
    if (varies[which]) {
      int image = images.apply(name, sink.pixels(false));
      return new Material.Value(null, from.place().placed(image, (char) 0));
    }
    double[] written = values[which].clone();
    for (int c = 0; c < 3 && !linear; c++) {
      written[c] = ColourSpace.toSrgb(written[c]);
    }
    return new Material.Value(written, null);
  }

  private Material.Value number(int image, char part, double value) {
    return image < 0
        ? new Material.Value(new double[] {value}, null)
        : new Material.Value(null, from.place().placed(image, part));
  }
}
