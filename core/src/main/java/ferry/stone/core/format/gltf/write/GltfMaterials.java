package ferry.stone.core.format.gltf.write;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.gltf.plan.ImagePlan;
import ferry.stone.core.format.gltf.plan.MaterialPlan;
import ferry.stone.core.format.gltf.raw.GltfExtensions;
import ferry.stone.core.format.gltf.raw.GltfExtras;
import ferry.stone.core.format.gltf.raw.GltfMaterialExtensions;
import ferry.stone.core.format.gltf.raw.GltfSampler;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.PbrMaterial;
import ferry.stone.core.texture.ktx.KtxWriter;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/** Writes materials, textures and samplers. */
final class GltfMaterials {

  private final ObjectNode root;
  private final Scene scene;
  private final GltfImages images;
  private final Findings findings;
  private final Set<String> extensions;
  private final Set<String> required = new TreeSet<>();
  private final Map<String, Integer> textures = new HashMap<>();
  private final Map<GltfSampler, Integer> samplers = new HashMap<>();

  GltfMaterials(
      ObjectNode root, Scene scene, GltfImages images, Set<String> extensions, Findings findings) {
    this.root = root;
    this.scene = scene;
    this.images = images;
    this.findings = findings;
    this.extensions = extensions;
  }

  /** The extensions without which an image cannot be shown. */
  Set<String> required() {
    return required;
  }

  void write(Material material, ObjectNode json) {
    MaterialPlan plan = MaterialPlan.of(material, scene, images.source());
    PbrMaterial pbr = plan.pbr();
    if (!material.name().isEmpty()) {
      json.put("name", material.name());
    }
    if (plan.opacityLeftOut()) {
      findings.add(
          Finding.of(
              "opacity-map-placed-otherwise",
              Severity.FIX,
              material.name(),
              "The opacity map is scaled or shifted unlike the base colour: glTF keeps both in one"
                  + " image, so the opacity map is left out."));
    }
    ObjectNode mr = json.putObject("pbrMetallicRoughness");
    Optional<Integer> base = slot(mr, "baseColorTexture", plan.base()).map(Slot::image);
    numbers(mr.putArray("baseColorFactor"), pbr.baseColour());
    boolean packed = slot(mr, "metallicRoughnessTexture", plan.metallicRoughness()).isPresent();
    mr.put("metallicFactor", number(!packed && isMapped(pbr) ? 0 : pbr.metallic()));
    mr.put("roughnessFactor", number(pbr.roughness()));
    slot(json, "normalTexture", plan.normal())
        .filter(slot -> pbr.normal() != null)
        .ifPresent(slot -> amount(slot, "scale"));
    slot(json, "occlusionTexture", plan.occlusion())
        .filter(slot -> pbr.packed() == null)
        .ifPresent(slot -> amount(slot, "strength"));
    emission(plan, json);
    layers(plan, json);
    if (pbr.unlit()) {
      extensions.add(GltfExtensions.UNLIT);
      json.withObject("/extensions/" + GltfExtensions.UNLIT);
    }
    alpha(pbr, json, base);
    if (pbr.doubleSided()) {
      json.put("doubleSided", true);
    }
    GltfExtras.write(json, material.properties(), extensions);
  }

  /** A written slot: its entry, the image it shows and the use that says where. */
  private record Slot(ObjectNode info, int image, TextureUse use) {}

  private Optional<Slot> slot(ObjectNode owner, String key, Optional<ImagePlan> plan) {
    return plan.flatMap(
        p ->
            images
                .made(p, content(key))
                .map(image -> new Slot(texture(owner, key, image, p.use()), image, p.use())));
  }

  private static KtxWriter.Content content(String key) {
    String slot = key.toLowerCase(Locale.ROOT);
    boolean colour = slot.contains("color") || slot.startsWith("emissive");
    return colour
        ? KtxWriter.Content.COLOUR
        : slot.endsWith("normaltexture") ? KtxWriter.Content.NORMALS : KtxWriter.Content.DATA;
  }

  private static void amount(Slot slot, String member) {
    if (slot.use().amount() != 1) {
      slot.info().put(member, number(slot.use().amount()));
    }
  }

  private void layers(MaterialPlan plan, ObjectNode json) {
    for (GltfMaterialExtensions.Extension extension : GltfMaterialExtensions.ALL) {
      ObjectNode values = JsonNodeFactory.instance.objectNode();
      for (GltfMaterialExtensions.Member member : extension.members()) {
        Material.Value value = plan.pbr().layers().get(member.channel());
        if (value != null) {
          layer(values, member, value, plan.layers().get(member.channel()));
        }
      }
      if (!values.isEmpty()) {
        extensions.add(extension.name());
        json.withObject("/extensions").set(extension.name(), values);
      }
    }
  }

  private void layer(
      ObjectNode values,
      GltfMaterialExtensions.Member member,
      Material.Value value,
      ImagePlan image) {
    double[] factor = value.factor();
    if (factor != null && member.factor() != null && Double.isFinite(factor[0])) {
      if (factor.length == 1) {
        values.put(member.factor(), number(factor[0]));
      } else {
        numbers(values.putArray(member.factor()), factor);
      }
    }
    if (member.texture() != null) {
      slot(values, member.texture(), Optional.ofNullable(image))
          .filter(slot -> member.texture().endsWith("NormalTexture"))
          .ifPresent(slot -> amount(slot, "scale"));
    }
  }

  /** A missing metallic image must not leave a full metallic factor behind. */
  private static boolean isMapped(PbrMaterial pbr) {
    return pbr.metallicMap() != null || pbr.packed() != null;
  }

  private void emission(MaterialPlan plan, ObjectNode json) {
    PbrMaterial pbr = plan.pbr();
    Optional<Slot> image = slot(json, "emissiveTexture", plan.emissive());
    double[] e = pbr.emissive();
    boolean onlyMapMissing = pbr.emissiveMap() != null && image.isEmpty();
    if (e[0] + e[1] + e[2] > 0 && !onlyMapMissing) {
      numbers(json.putArray("emissiveFactor"), e);
      if (pbr.emissiveStrength() > 1) {
        extensions.add("KHR_materials_emissive_strength");
        json.withObject("/extensions/KHR_materials_emissive_strength")
            .put("emissiveStrength", number(pbr.emissiveStrength()));
      }
    }
  }

  private void alpha(PbrMaterial pbr, ObjectNode json, Optional<Integer> base) {
    if (pbr.alpha() == Material.Alpha.OPAQUE) {
      return;
    }
    boolean cutOut =
        pbr.baseColour()[3] == 1 && base.isPresent() && images.get(base.get()).cutOut();
    if (cutOut || pbr.alpha() == Material.Alpha.MASK) {
      json.put("alphaMode", "MASK").put("alphaCutoff", number(pbr.alphaCutoff()));
    } else {
      json.put("alphaMode", "BLEND");
    }
  }

  private ObjectNode texture(ObjectNode owner, String key, int image, TextureUse use) {
    GltfSampler wanted = GltfSampler.of(use.options(), use.wrap());
    String id = image + "/" + wanted;
    int index =
        textures.computeIfAbsent(
            id,
            k -> {
              ObjectNode texture = root.withArray("textures").addObject();
              texture.put("sampler", sampler(wanted));
              String needs = images.get(image).needs();
              if (needs == null) {
                texture.put("source", image);
                images.packed(use, image).ifPresent(p -> shown(texture, GltfExtensions.KTX2, p));
              } else {
                required.add(needs);
                shown(texture, needs, image);
              }
              return root.withArray("textures").size() - 1;
            });
    ObjectNode info = owner.putObject(key);
    info.put("index", index);
    if (use.uvSet() != 0) {
      info.put("texCoord", use.uvSet());
    }
    if (use.hasTransform()) {
      extensions.add("KHR_texture_transform");
      ObjectNode t = info.withObject("/extensions/KHR_texture_transform");
      boolean flip = scene.uvOrigin() == UvOrigin.BOTTOM_LEFT;
      TextureUse there = flip ? use.flipped(UvOrigin.TOP_LEFT) : use;
      numbers(t.putArray("offset"), there.offsetU(), there.offsetV());
      numbers(t.putArray("scale"), use.scaleU(), use.scaleV());
      if (use.rotationRadians() != 0) {
        t.put("rotation", number(use.rotationRadians()));
      }
    }
    return info;
  }

  private void shown(ObjectNode texture, String extension, int image) {
    extensions.add(extension);
    texture.withObject("/extensions/" + extension).put("source", image);
  }

  private int sampler(GltfSampler wanted) {
    return samplers.computeIfAbsent(
        wanted,
        k -> {
          wanted.write(root.withArray("samplers").addObject());
          return root.withArray("samplers").size() - 1;
        });
  }

  static void numbers(ArrayNode array, double... values) {
    for (double value : values) {
      array.add(number(value));
    }
  }

  /** Seven digits are enough for a float and keep the file short. */
  private static double number(double value) {
    return Double.parseDouble(Float.toString((float) value));
  }
}
