package ferry.stone.core.format.gltf.raw;

import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.LayerParts;
import java.util.List;

/**
 * The material extensions whose values are channels, as tables that reader and writer share. Names,
 * members and defaults are those of the ratified extensions in the standard's registry.
 */
public final class GltfMaterialExtensions {
  /**
   * One member of an extension.
   *
   * @param factor its number or numbers, or {@code null} when there is only a texture
   * @param texture its texture, or {@code null}
   */
  public record Member(Channel channel, String factor, String texture) {
    /** The numbers when the member is absent. */
    public double[] otherwise() {
      return LayerParts.otherwise(channel);
    }
  }

  public record Extension(String name, List<Member> members) {}

  public static final List<Extension> ALL =
      List.of(
          new Extension(
              "KHR_materials_clearcoat",
              List.of(
                  new Member(Channel.CLEARCOAT, "clearcoatFactor", "clearcoatTexture"),
                  new Member(
                      Channel.CLEARCOAT_ROUGHNESS,
                      "clearcoatRoughnessFactor",
                      "clearcoatRoughnessTexture"),
                  new Member(Channel.CLEARCOAT_NORMAL, null, "clearcoatNormalTexture"))),
          new Extension(
              "KHR_materials_sheen",
              List.of(
                  new Member(Channel.SHEEN, "sheenColorFactor", "sheenColorTexture"),
                  new Member(
                      Channel.SHEEN_ROUGHNESS, "sheenRoughnessFactor", "sheenRoughnessTexture"))),
          new Extension(
              "KHR_materials_specular",
              List.of(
                  new Member(Channel.SPECULAR_WEIGHT, "specularFactor", "specularTexture"),
                  new Member(
                      Channel.SPECULAR_TINT, "specularColorFactor", "specularColorTexture"))),
          new Extension("KHR_materials_ior", List.of(new Member(Channel.IOR, "ior", null))),
          new Extension(
              "KHR_materials_transmission",
              List.of(
                  new Member(
                      Channel.TRANSMISSION_WEIGHT, "transmissionFactor", "transmissionTexture"))),
          new Extension(
              "KHR_materials_volume",
              List.of(
                  new Member(Channel.THICKNESS, "thicknessFactor", "thicknessTexture"),
                  new Member(Channel.ATTENUATION_DISTANCE, "attenuationDistance", null),
                  new Member(Channel.ATTENUATION_COLOUR, "attenuationColor", null))),
          new Extension(
              "KHR_materials_iridescence",
              List.of(
                  new Member(Channel.IRIDESCENCE, "iridescenceFactor", "iridescenceTexture"),
                  new Member(Channel.IRIDESCENCE_IOR, "iridescenceIor", null),
                  new Member(
                      Channel.IRIDESCENCE_THICKNESS_LEAST, "iridescenceThicknessMinimum", null),
                  new Member(
                      Channel.IRIDESCENCE_THICKNESS,
                      "iridescenceThicknessMaximum",
                      "iridescenceThicknessTexture"))),
          new Extension(
              "KHR_materials_anisotropy",
              List.of(
                  new Member(Channel.ANISOTROPY, "anisotropyStrength", "anisotropyTexture"),
                  new Member(Channel.ANISOTROPY_ROTATION, "anisotropyRotation", null))),
          new Extension(
              "KHR_materials_dispersion",
              List.of(new Member(Channel.DISPERSION, "dispersion", null))),
          new Extension(
              "KHR_materials_diffuse_transmission",
              List.of(
                  new Member(
                      Channel.DIFFUSE_TRANSMISSION,
                      "diffuseTransmissionFactor",
                      "diffuseTransmissionTexture"),
                  new Member(
                      Channel.DIFFUSE_TRANSMISSION_COLOUR,
                      "diffuseTransmissionColorFactor",
                      "diffuseTransmissionColorTexture"))));

  private GltfMaterialExtensions() {}
}
