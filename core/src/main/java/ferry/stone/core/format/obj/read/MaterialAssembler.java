package ferry.stone.core.format.obj.read;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.ReferenceFinder;
import ferry.stone.core.format.files.ReferenceReport;
import ferry.stone.core.format.obj.raw.MtlKeys;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.look.Wrap;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** Makes scene materials of MTL blocks and finds the images they name. */
final class MaterialAssembler {
  private final SceneBuilder scene;
  private final ReferenceFinder finder;
  private final Findings findings;
  private final Map<String, Integer> textureIds = new HashMap<>();

  MaterialAssembler(SceneBuilder scene, ReferenceFinder finder, Findings findings) {
    this.scene = scene;
    this.finder = finder;
    this.findings = findings;
  }

  /** Adds used materials in order of use, then those that are only defined; ids by name. */
  Map<String, Integer> assemble(
      List<String> used, Map<String, MtlMaterial> definitions, String resource) {
    Map<String, Integer> ids = new HashMap<>();
    List<String> order = new ArrayList<>(used);
    definitions.keySet().stream().filter(name -> !used.contains(name)).forEach(order::add);
    for (String name : order) {
      if (name.isEmpty() || name.equals("(null)")) {
        continue;
      }
      MtlMaterial definition = definitions.get(name);
      int id = scene.newId();
      if (definition == null) {
        findings.add(
            Finding.of(
                "material-undefined",
                Severity.FIX,
                name,
                "The material \""
                    + name
                    + "\" is used but no material file defines it; it lands"
                    + " grey under its name."));
        scene.add(
            new Material(
                id,
                name,
                Material.Shading.PHONG,
                Map.of(),
                Material.Alpha.OPAQUE,
                0.5,
                false,
                Map.of("undefined", true)));
      } else {
        scene.add(material(id, definition));
      }
      ids.put(name, id);
    }
    return ids;
  }

  private Material material(int id, MtlMaterial mtl) {
    Map<Channel, double[]> factors = new EnumMap<>(Channel.class);
    mtl.values.forEach(
        (key, value) -> {
          Channel channel = MtlKeys.VALUE_CHANNELS.get(key);
          if (channel != null) {
            factors.put(channel, value);
          }
        });
    if (mtl.values.containsKey("tr") && !mtl.values.containsKey("d")) {
      // Tr is transparency: 1 − d. Common practice; the standard has no such key for a number.
      factors.put(Channel.OPACITY, new double[] {1 - mtl.values.get("tr")[0]});
    }
    Map<Channel, TextureUse> textures = new EnumMap<>(Channel.class);
    mtl.maps.forEach(
        (key, map) -> {
          Channel channel = MtlKeys.MAP_CHANNELS.get(key);
          if (channel != null) {
            textures.putIfAbsent(channel, use(map, channel, mtl));
          }
        });
    Map<String, Object> properties = new TreeMap<>();
    if (mtl.maps.containsKey("map_rma")) {
      properties.put("map_rma", mtl.maps.get("map_rma").path());
    }
    if (mtl.values.containsKey("illum")) {
      properties.put("illum", mtl.values.get("illum")[0]);
    }
    if (!mtl.unread.isEmpty()) {
      properties.put("unread", String.join("; ", mtl.unread));
      findings.add(
          Finding.of(
              "material-keys-not-read",
              Severity.NOTE,
              mtl.file + ", " + mtl.name,
              "Kept as text, not translated: " + String.join("; ", mtl.unread) + "."));
    }
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    for (Channel channel : Channel.values()) {
      if (factors.containsKey(channel) || textures.containsKey(channel)) {
        channels.put(channel, new Material.Value(factors.get(channel), textures.get(channel)));
      }
    }
    boolean blends =
        textures.containsKey(Channel.OPACITY)
            || (factors.containsKey(Channel.OPACITY) && factors.get(Channel.OPACITY)[0] < 1);
    boolean pbr =
        channels.containsKey(Channel.ROUGHNESS)
            || channels.containsKey(Channel.METALLIC)
            || channels.containsKey(Channel.OCCLUSION_ROUGHNESS_METALLIC);
    return new Material(
        id,
        mtl.name,
        pbr ? Material.Shading.METALLIC_ROUGHNESS : Material.Shading.PHONG,
        channels,
        blends ? Material.Alpha.BLEND : Material.Alpha.OPAQUE,
        0.5,
        false,
        properties);
  }

  private TextureUse use(MtlMaterial.MapStatement map, Channel channel, MtlMaterial mtl) {
    int id = textureIds.computeIfAbsent(map.path(), path -> texture(path, channel, mtl));
    return new TextureUse(
        id,
        0,
        map.offset()[0],
        map.offset()[1],
        map.scale()[0],
        map.scale()[1],
        0,
        Wrap.of(map.clamp()),
        map.component(),
        map.amount(),
        map.options());
  }

  private int texture(String written, Channel channel, MtlMaterial mtl) {
    int id = scene.newId();
    var match = finder.find(written, mtl.file);
    String where = mtl.name + " · " + channel.label();
    if (match.isEmpty()) {
      ReferenceReport.missing(
          findings,
          "texture-missing",
          where,
          "texture",
          written,
          mtl.file + " names it",
          finder.propose(written));
    } else {
      ReferenceReport.found(findings, where, written, match.get());
    }
    scene.add(
        new Texture(
            id,
            CargoPath.name(CargoPath.relative(written)),
            written,
            match.map(ReferenceFinder.Match::resource).orElse(null),
            null));
    return id;
  }
}
