package ferry.stone.core.format.gltf.raw;

import ferry.stone.core.scene.look.Channel;
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
   * @param otherwise the value when the member is absent
   */
  public record Member(Channel channel, String factor, String texture, double... otherwise) {}

  public record Extension(String name, List<Member> members) {}

  public static final List<Extension> ALL =
      List.of(
          new Extension(
              "KHR_materials_clearcoat",
              List.of(
                  new Member(Channel.CLEARCOAT, "clearcoatFactor", "clearcoatTexture", 0),
                  new Member(
                      Channel.CLEARCOAT_ROUGHNESS,
                      "clearcoatRoughnessFactor",
                      "clearcoatRoughnessTexture",
                      0),
                  new Member(Channel.CLEARCOAT_NORMAL, null, "clearcoatNormalTexture"))),
          new Extension(
              "KHR_materials_sheen",
              List.of(
                  new Member(Channel.SHEEN, "sheenColorFactor", "sheenColorTexture", 0, 0, 0),
                  new Member(
                      Channel.SHEEN_ROUGHNESS,
                      "sheenRoughnessFactor",
                      "sheenRoughnessTexture",
                      0))),
          new Extension(
              "KHR_materials_specular",
              List.of(
                  new Member(Channel.SPECULAR_WEIGHT, "specularFactor", "specularTexture", 1),
                  new Member(
                      Channel.SPECULAR_TINT,
                      "specularColorFactor",
                      "specularColorTexture",
                      1,
                      1,
                      1))),
          new Extension("KHR_materials_ior", List.of(new Member(Channel.IOR, "ior", null, 1.5))),
          new Extension(
              "KHR_materials_transmission",
              List.of(
                  new Member(
                      Channel.TRANSMISSION_WEIGHT,
                      "transmissionFactor",
                      "transmissionTexture",
                      0))),
          new Extension(
              "KHR_materials_volume",
              List.of(
                  new Member(Channel.THICKNESS, "thicknessFactor", "thicknessTexture", 0),
                  new Member(
                      Channel.ATTENUATION_DISTANCE,
                      "attenuationDistance",
                      null,
                      Double.POSITIVE_INFINITY),
                  new Member(Channel.ATTENUATION_COLOUR, "attenuationColor", null, 1, 1, 1))),
          new Extension(
              "KHR_materials_iridescence",
              List.of(
                  new Member(Channel.IRIDESCENCE, "iridescenceFactor", "iridescenceTexture", 0),
                  new Member(Channel.IRIDESCENCE_IOR, "iridescenceIor", null, 1.3),
                  new Member(
                      Channel.IRIDESCENCE_THICKNESS_LEAST,
                      "iridescenceThicknessMinimum",
                      null,
                      100),
                  new Member(
                      Channel.IRIDESCENCE_THICKNESS,
                      "iridescenceThicknessMaximum",
                      "iridescenceThicknessTexture",
                      400))),
          new Extension(
              "KHR_materials_anisotropy",
              List.of(
                  new Member(Channel.ANISOTROPY, "anisotropyStrength", "anisotropyTexture", 0),
                  new Member(Channel.ANISOTROPY_ROTATION, "anisotropyRotation", null, 0))),
          new Extension(
              "KHR_materials_dispersion",
              List.of(new Member(Channel.DISPERSION, "dispersion", null, 0))),
          new Extension(
              "KHR_materials_diffuse_transmission",
              List.of(
                  new Member(
                      Channel.DIFFUSE_TRANSMISSION,
                      "diffuseTransmissionFactor",
                      "diffuseTransmissionTexture",
                      0),
                  new Member(
                      Channel.DIFFUSE_TRANSMISSION_COLOUR,
                      "diffuseTransmissionColorFactor",
                      "diffuseTransmissionColorTexture",
                      1,
                      1,
                      1))));

  private GltfMaterialExtensions() {}
}
