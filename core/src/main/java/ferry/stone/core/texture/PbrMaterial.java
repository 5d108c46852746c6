package ferry.stone.core.texture;

import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import java.util.List;
import java.util.Map;

/**
 * A material as metallic-roughness, glTF 2.0 section 3.9: factors linear, textures still as the
 * source named them.
 *
 * @param baseColour linear r g b and opacity
 * @param emissive linear r g b, 0 to 1
 * @param emissiveStrength multiplies {@code emissive}; 1 or more
 * @param opacity image whose values become the alpha of the base colour, or {@code null}
 * @param shininess image of Phong exponents' factors, turned into roughness, or {@code null}
 * @param phongExponent exponent that {@code shininess} multiplies
 * @param unlit whether light does not count
 * @param layers values of the layers above metallic-roughness: clearcoat, sheen, transmission …;
 *     colours linear
 * @param notes how each value came about, and what could not be carried
 */
public record PbrMaterial(
    double[] baseColour,
    double metallic,
    double roughness,
    double[] emissive,
    double emissiveStrength,
    Material.Alpha alpha,
    double alphaCutoff,
    boolean doubleSided,
    TextureUse base,
    TextureUse opacity,
    TextureUse metallicMap,
    TextureUse roughnessMap,
    TextureUse shininess,
    double phongExponent,
    TextureUse packed,
    TextureUse normal,
    TextureUse bump,
    TextureUse occlusion,
    TextureUse emissiveMap,
    boolean unlit,
    Map<Channel, Material.Value> layers,
    List<Note> notes) {

  public PbrMaterial {
    layers = Map.copyOf(layers);
    notes = List.copyOf(notes);
  }

  /**
   * How one channel fared.
   *
   * @param lost whether it is not carried
   */
  public record Note(String channel, String from, String to, boolean lost) {}
}
