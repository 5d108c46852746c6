package ferry.stone.core.texture.model;

import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.texture.PbrMaterial;
import ferry.stone.core.texture.PbrTranslation;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.SpecularGlossiness;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;

/** What a material reflects over its images, read in the model that it is written in. */
public final class MaterialReflection {
  private static final double[] LINEAR = new double[256];
  private static final double[] WHITE = {1, 1, 1};

  static {
    for (int i = 0; i < LINEAR.length; i++) {
      LINEAR[i] = ColourSpace.toLinear(i / 255.0);
    }
  }

  private record Part(Pixels pixels, char component) {
    double at(int x, int y, int w, int h) {
      return pixels == null
          ? 1
          : (double) pixels.get(pixels.indexFor(x, y, w, h), component, pixels.most())
              / pixels.most();
    }
  }

  private final Function<TextureUse, Pixels> images;
  private final List<TextureUse> uses = new ArrayList<>();
  private final boolean mirrors;
  private final double[] colour;
  private final double[] highlight;
  private final double metallic;
  private final double roughness;
  private final double exponent;
  private final Pixels colours;
  private final Pixels highlights;
  private final Part metal;
  private final Part rough;
  private int width = 1;
  private int height = 1;
  private boolean deep;

  /**
   * @param linear whether the material's colour numbers are linear light; sRGB otherwise
   * @param images pixels of a use, {@code null} where they cannot be had
   * @param reflectance whether the highlight of a Phong material is the light it mirrors at normal
   *     incidence; otherwise it is read as landings read it
   */
  public MaterialReflection(
      Material material, boolean linear, Function<TextureUse, Pixels> images, boolean reflectance) {
    this.images = images;
    Material.Shading shading = material.shading();
    mirrors =
        shading == Material.Shading.SPECULAR_GLOSSINESS
            || shading == Material.Shading.PHONG && reflectance;
    PbrMaterial pbr = PbrTranslation.translate(material, linear);
    colour = pbr.baseColour();
    colours = pixels(pbr.base());
    metallic = mirrors ? 0 : pbr.metallic();
    roughness = rough(material, pbr);
    highlight = mirrors ? highlight(material, linear) : WHITE;
    highlights = mirrors ? pixels(material.texture(Channel.SPECULAR).orElse(null)) : null;
    boolean packed = pbr.packed() != null;
    metal = mirrors ? new Part(null, 'r') : part(packed ? pbr.packed() : pbr.metallicMap(), 'b');
    TextureUse own = packed ? pbr.packed() : pbr.roughnessMap();
    rough = part(own != null ? own : pbr.shininess(), packed ? 'g' : 0);
    exponent = own == null && pbr.shininess() != null ? pbr.phongExponent() : -1;
  }

  private static double rough(Material material, PbrMaterial pbr) {
    boolean said = material.get(Channel.ROUGHNESS).isPresent();
    // The preview surface's own standard (UsdPreviewSurface, inputs:roughness).
    return material.shading() == Material.Shading.SPECULAR_GLOSSINESS && !said
        ? 0.5
        : pbr.roughness();
  }

  private static double[] highlight(Material material, boolean linear) {
    boolean image = material.texture(Channel.SPECULAR).isPresent();
    double[] written = material.factor(Channel.SPECULAR, image ? WHITE : new double[3]);
    double[] three = {written[0], written[Math.min(1, written.length - 1)], 0};
    three[2] = written[Math.min(2, written.length - 1)];
    return linear ? three : ColourSpace.toLinear(three);
  }

  private Pixels pixels(TextureUse use) {
    Pixels pixels = use == null ? null : images.apply(use);
    if (pixels != null) {
      uses.add(use);
      deep |= pixels.isDeep();
      if ((long) pixels.width() * pixels.height() > (long) width * height) {
        width = pixels.width();
        height = pixels.height();
      }
    }
    return pixels;
  }

  private Part part(TextureUse use, int otherwise) {
    Pixels pixels = pixels(use);
    char own = use == null || use.component() == 0 ? (char) otherwise : use.component();
    return new Part(pixels, own == 0 ? 'l' : own);
  }

  /** Of its largest image; 1 for none. */
  public int width() {
    return width;
  }

  public int height() {
    return height;
  }

  /** Whether one of its images has 16 bits a channel. */
  public boolean isDeep() {
    return deep;
  }

  /** How its images lie, or {@code null} where there are none. */
  public TextureUse place() {
    return uses.isEmpty() ? null : uses.get(0);
  }

  /** Whether all its images lie alike on the surface, so that they can become one. */
  public boolean liesAlike() {
    return uses.stream().allMatch(use -> use.liesAs(place()));
  }

  /** What is reflected at a place of a picture of so many pixels. */
  public void at(int x, int y, int w, int h, Reflection into) {
    double stored = rough.at(x, y, w, h);
    into.roughness =
        exponent >= 0
            ? PbrTranslation.roughnessOfExponent(exponent * stored)
            : unit(roughness * stored);
    for (int c = 0; c < 3; c++) {
      into.diffuse[c] = unit(colour[c] * light(colours, c, x, y, w, h));
    }
    if (mirrors) {
      for (int c = 0; c < 3; c++) {
        into.specular[c] = unit(highlight[c] * light(highlights, c, x, y, w, h));
      }
      return;
    }
    double m = unit(metallic * metal.at(x, y, w, h));
    SpecularGlossiness.Specular both =
        SpecularGlossiness.toSpecular(
            new SpecularGlossiness.MetallicRoughness(into.diffuse, m, into.roughness));
    System.arraycopy(both.diffuse(), 0, into.diffuse, 0, 3);
    System.arraycopy(both.specular(), 0, into.specular, 0, 3);
  }

  private static double light(Pixels pixels, int c, int x, int y, int w, int h) {
    if (pixels == null) {
      return 1;
    }
    int index = pixels.indexFor(x, y, w, h);
    char component = "rgb".charAt(c);
    return pixels.isDeep()
        ? ColourSpace.toLinear((double) pixels.get(index, component, Pixels.DEEP) / Pixels.DEEP)
        : LINEAR[pixels.get(index, component)];
  }

  private static double unit(double value) {
    return Math.max(0, Math.min(1, value));
  }
}
