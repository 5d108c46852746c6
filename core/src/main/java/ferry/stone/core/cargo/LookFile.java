package ferry.stone.core.cargo;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/**
 * Gives materials the looks of those of the same name in another file: by the very name, else
 * whatever its case and the number that programs put behind copies ({@code oak.001}).
 */
final class LookFile {
  private LookFile() {}

  /**
   * @param others whether materials of other names come too, on no part yet
   */
  static Scene put(Scene scene, Scene look, String file, boolean others, Findings findings) {
    Map<String, Material> byName = new HashMap<>();
    Map<String, Material> byPlainName = new HashMap<>();
    for (Material material : look.materials()) {
      byName.putIfAbsent(material.name(), material);
      byPlainName.putIfAbsent(plain(material.name()), material);
    }
    SceneBuilder builder = scene.toBuilder();
    Map<Integer, Integer> textures = new HashMap<>();
    List<Material> materials = new ArrayList<>();
    List<String> without = new ArrayList<>();
    Set<Material> used = new HashSet<>();
    int taken = 0;
    for (Material own : scene.materials()) {
      Material other = byName.getOrDefault(own.name(), byPlainName.get(plain(own.name())));
      if (other == null) {
        without.add(own.name());
        materials.add(own);
      } else {
        taken++;
        used.add(other);
        materials.add(dressed(own, other, look, builder, textures));
      }
    }
    if (others) {
      List<Material> more =
          look.materials().stream().filter(m -> !used.contains(m)).distinct().toList();
      for (Material other : more) {
        Material own = other.withId(builder.newId());
        materials.add(dressed(own, other, look, builder, textures));
      }
      findings.add(
          Finding.of(
                  "materials-beside",
                  Severity.NOTE,
                  file,
                  more.isEmpty()
                      ? "Materials of the same name look as they do in this file."
                      : "Materials of other names stand beside those of the scene: the step \"Give a"
                          + " material\" puts them on parts.")
              .measured(taken + " by name, " + more.size() + " beside"));
      return builder.materials(materials).build();
    }
    findings.add(
        Finding.of(
                "materials-taken",
                without.isEmpty() && taken > 0 ? Severity.NOTE : Severity.LOOK,
                file,
                taken == 0
                    ? "No material of another file has the name of one of its materials: nothing"
                        + " of it is used."
                    : "Materials of the same name look as they do in this file."
                        + (without.isEmpty()
                            ? ""
                            : " It has none named \"" + without.get(0) + "\"."))
            .measured(taken + " of " + scene.materials().size() + " materials"));
    return builder.materials(materials).build();
  }

  private static String plain(String name) {
    return name.replaceFirst("[._]\\d{1,4}$", "").toLowerCase(Locale.ROOT);
  }

  /** A material with the look of another, under its own name. */
  private static Material dressed(
      Material own, Material other, Scene look, SceneBuilder builder, Map<Integer, Integer> ids) {
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    other
        .channels()
        .forEach(
            (channel, value) -> {
              TextureUse use = value.texture();
              TextureUse mine =
                  use == null
                      ? null
                      : use.withTexture(
                          ids.computeIfAbsent(use.textureId(), id -> texture(id, look, builder)));
              channels.put(channel, new Material.Value(value.factor(), mine));
            });
    return new Material(
        own.id(),
        own.name(),
        other.shading(),
        channels,
        other.alpha(),
        other.alphaCutoff(),
        other.doubleSided(),
        other.properties());
  }

  private static int texture(int id, Scene look, SceneBuilder builder) {
    Texture texture = look.textures().stream().filter(t -> t.id() == id).findFirst().orElseThrow();
    int fresh = builder.newId();
    builder.add(
        new Texture(
            fresh,
            texture.name(),
            texture.written(),
            texture.resource(),
            texture.embedded(),
            texture.packed()));
    return fresh;
  }
}
