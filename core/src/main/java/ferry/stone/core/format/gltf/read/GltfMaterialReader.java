package ferry.stone.core.format.gltf.read;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.ReferenceFinder;
import ferry.stone.core.format.files.ReferenceReport;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.gltf.raw.GltfContainer;
import ferry.stone.core.format.gltf.raw.GltfExtensions;
import ferry.stone.core.format.gltf.raw.GltfExtras;
import ferry.stone.core.format.gltf.raw.GltfMaterialExtensions;
import ferry.stone.core.format.gltf.raw.GltfSampler;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.LayerParts;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.look.Wrap;
import ferry.stone.core.texture.SpecularGlossiness.Specular;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Reads metallic-roughness materials, their textures and images. */
final class GltfMaterialReader {

  private final GltfContainer container;
  private final SceneBuilder scene;
  private final ReferenceFinder finder;
  private final String resource;
  private final GltfSpecularGlossiness specularGlossiness;
  private final Map<Integer, Integer> textureOfImage = new HashMap<>();

  GltfMaterialReader(
      GltfContainer container,
      SceneBuilder scene,
      ReferenceFinder finder,
      Resources resources,
      String resource) {
    specularGlossiness = new GltfSpecularGlossiness(scene, resources);
    this.container = container;
    this.scene = scene;
    this.finder = finder;
    this.resource = resource;
  }

  /** Adds all materials; their ids in file order. */
  List<Integer> read(Findings findings) throws IOException, FormatException {
    List<Integer> ids = new ArrayList<>();
    JsonNode list = container.root().path("materials");
    for (int m = 0; m < list.size(); m++) {
      int id = scene.newId();
      ids.add(id);
      scene.add(material(id, list.get(m), "/materials/" + m, findings));
    }
    return ids;
  }

  private Material material(int id, JsonNode json, String path, Findings findings)
      throws IOException, FormatException {
    JsonNode mr = json.path("pbrMetallicRoughness");
    String mrPath = path + "/pbrMetallicRoughness";
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    double[] base = factor(mr, "baseColorFactor", 1, 1, 1, 1);
    channels.put(
        Channel.BASE_COLOUR,
        new Material.Value(base, texture(mr, "baseColorTexture", mrPath, findings)));
    channels.put(Channel.OPACITY, new Material.Value(new double[] {base[3]}, null));
    channels.put(
        Channel.METALLIC,
        new Material.Value(new double[] {mr.path("metallicFactor").asDouble(1)}, null));
    channels.put(
        Channel.ROUGHNESS,
        new Material.Value(new double[] {mr.path("roughnessFactor").asDouble(1)}, null));
    TextureUse packed = texture(mr, "metallicRoughnessTexture", mrPath, findings);
    if (packed != null) {
      // Section 3.9.2: roughness is the green part of the image, metallic the blue.
      channels.computeIfPresent(
          Channel.ROUGHNESS, (k, v) -> new Material.Value(v.factor(), packed.withComponent('g')));
      channels.computeIfPresent(
          Channel.METALLIC, (k, v) -> new Material.Value(v.factor(), packed.withComponent('b')));
    }
    specularGlossiness(json, path, channels, findings);
    put(channels, Channel.NORMAL, texture(json, "normalTexture", path, findings));
    TextureUse occlusion = texture(json, "occlusionTexture", path, findings);
    put(channels, Channel.OCCLUSION, occlusion == null ? null : occlusion.withComponent('r'));
    extensions(json, path, channels, findings);
    double[] emissive = factor(json, "emissiveFactor", 0, 0, 0);
    double strength =
        json.at("/extensions/KHR_materials_emissive_strength/emissiveStrength").asDouble(1);
    for (int i = 0; i < 3; i++) {
      emissive[i] *= strength;
    }
    channels.put(
        Channel.EMISSIVE,
        new Material.Value(emissive, texture(json, "emissiveTexture", path, findings)));
    Material.Alpha alpha =
        switch (json.path("alphaMode").asText("OPAQUE")) {
          case "MASK" -> Material.Alpha.MASK;
          case "BLEND" -> Material.Alpha.BLEND;
          default -> Material.Alpha.OPAQUE;
        };
    return new Material(
        id,
        json.path("name").asText(""),
        json.at("/extensions/" + GltfExtensions.UNLIT).isObject()
            ? Material.Shading.UNLIT
            : Material.Shading.METALLIC_ROUGHNESS,
        channels,
        alpha,
        json.path("alphaCutoff").asDouble(0.5),
        json.path("doubleSided").asBoolean(false),
        GltfExtras.properties(json, GltfExtensions.READ, Set.of()));
  }

  private void specularGlossiness(
      JsonNode json, String path, Map<Channel, Material.Value> channels, Findings findings)
      throws IOException, FormatException {
    JsonNode own = json.at("/extensions/" + GltfExtensions.SPECULAR_GLOSSINESS);
    if (!own.isObject()) {
      return;
    }
    String at = path + "/extensions/" + GltfExtensions.SPECULAR_GLOSSINESS;
    double[] diffuse = factor(own, "diffuseFactor", 1, 1, 1, 1);
    double gloss = own.path("glossinessFactor").asDouble(1);
    specularGlossiness.put(
        channels,
        json.path("name").asText(""),
        new Specular(diffuse, factor(own, "specularFactor", 1, 1, 1), gloss),
        diffuse[3],
        texture(own, "diffuseTexture", at, findings),
        texture(own, "specularGlossinessTexture", at, findings),
        findings);
  }

  private void extensions(
      JsonNode json, String path, Map<Channel, Material.Value> channels, Findings findings)
      throws IOException, FormatException {
    for (GltfMaterialExtensions.Extension extension : GltfMaterialExtensions.ALL) {
      JsonNode values = json.at("/extensions/" + extension.name());
      if (!values.isObject()) {
        continue;
      }
      String at = path + "/extensions/" + extension.name();
      for (GltfMaterialExtensions.Member member : extension.members()) {
        double[] factor = null;
        if (member.factor() != null) {
          JsonNode written = values.path(member.factor());
          factor =
              member.otherwise().length == 1
                  ? new double[] {written.asDouble(member.otherwise()[0])}
                  : factor(values, member.factor(), member.otherwise());
        }
        TextureUse texture =
            member.texture() == null ? null : texture(values, member.texture(), at, findings);
        if (factor != null || texture != null) {
          TextureUse part =
              texture == null ? null : texture.withComponent(LayerParts.standard(member.channel()));
          channels.put(member.channel(), new Material.Value(factor, part));
        }
      }
    }
  }

  private static void put(
      Map<Channel, Material.Value> channels, Channel channel, TextureUse texture) {
    if (texture != null) {
      channels.put(channel, new Material.Value(null, texture));
    }
  }

  private static double[] factor(JsonNode json, String key, double... otherwise) {
    JsonNode array = json.path(key);
    if (array.isMissingNode()) {
      return otherwise;
    }
    double[] values = new double[otherwise.length];
    for (int i = 0; i < values.length; i++) {
      values[i] = array.get(i).asDouble(otherwise[i]);
    }
    return values;
  }

  private TextureUse texture(JsonNode owner, String key, String path, Findings findings)
      throws IOException, FormatException {
    JsonNode info = owner.path(key);
    if (info.isMissingNode()) {
      return null;
    }
    String at = path + "/" + key;
    int index = container.integer(info, "index", -1, at);
    JsonNode json = container.item("textures", index, at + "/index");
    JsonNode webp = json.at("/extensions/" + GltfExtensions.WEBP);
    JsonNode ktx2 = json.at("/extensions/" + GltfExtensions.KTX2);
    String source = "/textures/" + index;
    int packed =
        container.integer(ktx2, "source", -1, source + "/extensions/" + GltfExtensions.KTX2);
    // Not read, but told of as an image that cannot be, rather than as none.
    JsonNode avif = json.at("/extensions/" + GltfExtensions.AVIF);
    int last = packed < 0 && avif.isObject() ? avif.path("source").asInt(-1) : packed;
    int image = container.integer(webp.isObject() ? webp : json, "source", last, source);
    if (image < 0) {
      return null;
    }
    Integer id = textureOfImage.get(image);
    if (id == null) {
      Texture read = image(image, source + "/source", findings);
      if (packed >= 0 && packed != image) {
        Texture second = image(packed, source + "/extensions/" + GltfExtensions.KTX2, findings);
        read =
            new Texture(
                read.id(), read.name(), read.written(), read.resource(), read.embedded(), second);
      }
      scene.add(read);
      id = read.id();
      textureOfImage.put(image, id);
    }
    Wrap wrap = Wrap.REPEATED;
    String options = "";
    if (json.has("sampler")) {
      JsonNode sampler =
          container.item("samplers", json.path("sampler").asInt(-1), "/textures/" + index);
      GltfSampler read = GltfSampler.read(sampler);
      wrap = read.wrap();
      options = read.text();
    }
    JsonNode t = info.at("/extensions/KHR_texture_transform");
    double amount = info.path(key.equals("occlusionTexture") ? "strength" : "scale").asDouble(1);
    return new TextureUse(
        id,
        t.path("texCoord").asInt(info.path("texCoord").asInt(0)),
        t.path("offset").path(0).asDouble(0),
        t.path("offset").path(1).asDouble(0),
        t.path("scale").path(0).asDouble(1),
        t.path("scale").path(1).asDouble(1),
        t.path("rotation").asDouble(0),
        wrap,
        (char) 0,
        amount,
        options);
  }

  private Texture image(int index, String from, Findings findings)
      throws IOException, FormatException {
    JsonNode json = container.item("images", index, from);
    String path = "/images/" + index;
    int id = scene.newId();
    String uri = json.path("uri").asText("");
    String mime = json.path("mimeType").asText("");
    String name = json.path("name").asText("image_" + index);
    if (json.has("bufferView")) {
      ByteBuffer view = container.view(json.path("bufferView").asInt(-1), path + "/bufferView");
      container.budget().claim(view.remaining(), path + "/bufferView", "an image");
      byte[] bytes = new byte[view.remaining()];
      view.get(bytes);
      String ending = "." + mime.substring(mime.indexOf('/') + 1).replace("jpeg", "jpg");
      return new Texture(id, name + ending, name, null, bytes);
    } else if (uri.startsWith("data:")) {
      String ending = uri.startsWith("data:image/jpeg") ? ".jpg" : ".png";
      return new Texture(id, name + ending, name, null, container.uriBytes(uri, path));
    } else {
      String written = GltfContainer.decodeUri(uri);
      var match = finder.find(written, resource);
      if (match.isEmpty()) {
        ReferenceReport.missing(
            findings,
            "texture-missing",
            path,
            "texture",
            written,
            resource + " names it",
            finder.propose(written));
      } else {
        ReferenceReport.found(findings, path, written, match.get());
      }
      return new Texture(
          id,
          CargoPath.name(written),
          written,
          match.map(ReferenceFinder.Match::resource).orElse(null),
          null);
    }
  }
}
