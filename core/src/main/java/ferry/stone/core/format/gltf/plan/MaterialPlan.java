package ferry.stone.core.format.gltf.plan;

import ferry.stone.core.format.gltf.raw.GltfMaterialExtensions;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.PbrMaterial;
import ferry.stone.core.texture.PbrTranslation;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * What becomes of one material: its values as metallic-roughness and the image of each slot. One
 * value that the forecast tells and the writer writes.
 *
 * @param layers images of the layers above metallic-roughness
 * @param opacityLeftOut whether the opacity map cannot share the base colour's image because it
 *     lies otherwise on the surface
 */
public record MaterialPlan(
    PbrMaterial pbr,
    Optional<ImagePlan> base,
    Optional<ImagePlan> metallicRoughness,
    Optional<ImagePlan> normal,
    Optional<ImagePlan> occlusion,
    Optional<ImagePlan> emissive,
    Map<Channel, ImagePlan> layers,
    boolean opacityLeftOut) {

  public static MaterialPlan of(Material material, Scene scene, SourceImages source) {
    PbrMaterial pbr = PbrTranslation.translate(material, scene.linearColours());
    boolean apart =
        pbr.base() != null && pbr.opacity() != null && !samePlace(pbr.base(), pbr.opacity());
    boolean phong = pbr.roughnessMap() == null;
    Optional<ImagePlan> packed = ImagePlan.plain(pbr.packed(), source);
    return new MaterialPlan(
        pbr,
        apart || pbr.opacity() == null
            ? ImagePlan.plain(pbr.base(), source)
            : ImagePlan.withAlpha(pbr.base(), pbr.opacity(), source),
        pbr.packed() != null
            ? packed
            : ImagePlan.metallicRoughness(
                phong ? pbr.shininess() : pbr.roughnessMap(),
                phong ? pbr.phongExponent() : 0,
                pbr.metallicMap(),
                source),
        pbr.normal() != null
            ? ImagePlan.plain(pbr.normal(), source)
            : ImagePlan.normal(pbr.bump(), source),
        pbr.packed() != null ? packed : ImagePlan.plain(pbr.occlusion(), source),
        ImagePlan.plain(pbr.emissiveMap(), source),
        layers(pbr, source),
        apart && source.has(pbr.opacity()));
  }

  private static Map<Channel, ImagePlan> layers(PbrMaterial pbr, SourceImages source) {
    Map<Channel, ImagePlan> layers = new EnumMap<>(Channel.class);
    layerTextures(pbr)
        .forEach(
            (channel, use) ->
                ImagePlan.layer(channel, use, source).ifPresent(plan -> layers.put(channel, plan)));
    return layers;
  }

  private static Map<Channel, TextureUse> layerTextures(PbrMaterial pbr) {
    Map<Channel, TextureUse> uses = new EnumMap<>(Channel.class);
    for (GltfMaterialExtensions.Extension extension : GltfMaterialExtensions.ALL) {
      for (GltfMaterialExtensions.Member member : extension.members()) {
        Material.Value value = pbr.layers().get(member.channel());
        if (member.texture() != null && value != null && value.texture() != null) {
          uses.put(member.channel(), value.texture());
        }
      }
    }
    return uses;
  }

  /** Every image that lands, once for each slot. */
  public List<ImagePlan> images() {
    return Stream.concat(
            Stream.of(base, metallicRoughness, normal, pbr.packed() != null ? none() : occlusion)
                .flatMap(Optional::stream),
            Stream.concat(emissive.stream(), layers.values().stream()))
        .toList();
  }

  /** Those of them that hold colours. */
  public Set<ImagePlan> colours() {
    return Stream.concat(
            Stream.concat(base.stream(), emissive.stream()),
            layers.entrySet().stream().filter(e -> e.getKey().isColour()).map(Map.Entry::getValue))
        .collect(Collectors.toSet());
  }

  /** Every texture the material asks for, whether its file is there or not. */
  public List<TextureUse> asked() {
    return Stream.concat(
            Stream.of(
                    pbr.base(),
                    pbr.opacity(),
                    pbr.roughnessMap(),
                    pbr.metallicMap(),
                    pbr.packed(),
                    pbr.shininess(),
                    pbr.normal(),
                    pbr.bump(),
                    pbr.occlusion(),
                    pbr.emissiveMap())
                .filter(Objects::nonNull),
            layerTextures(pbr).values().stream())
        .toList();
  }

  private static Optional<ImagePlan> none() {
    return Optional.empty();
  }

  private static boolean samePlace(TextureUse a, TextureUse b) {
    return a.offsetU() == b.offsetU()
        && a.offsetV() == b.offsetV()
        && a.scaleU() == b.scaleU()
        && a.scaleV() == b.scaleV()
        && a.rotationRadians() == b.rotationRadians();
  }
}
