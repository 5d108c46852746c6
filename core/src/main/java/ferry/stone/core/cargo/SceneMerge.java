package ferry.stone.core.cargo;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.SceneMap;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * Puts scenes read from several files under one name, each below a group named after its file.
 * Files of another unit, other axes or other conventions are brought to those of the first that
 * states its own. Textures of one path and materials that say the same under one name become one.
 */
final class SceneMerge {
  private final SceneBuilder builder;
  private final Findings findings;
  private final boolean oneMaterialAName;
  private final Map<String, Integer> textureByPath = new HashMap<>();
  private final Map<String, Integer> materialBySignature = new HashMap<>();
  private double rate;

  private SceneMerge(String name, boolean oneMaterialAName, Findings findings) {
    builder = new SceneBuilder(name);
    this.oneMaterialAName = oneMaterialAName;
    this.findings = findings;
  }

  /**
   * @param oneMaterialAName whether materials of one name are one, the first; else those that say
   *     the same
   */
  static Scene merge(
      String name,
      List<String> files,
      List<Scene> scenes,
      boolean oneMaterialAName,
      Findings findings) {
    SceneMerge merge = new SceneMerge(name, oneMaterialAName, findings);
    Scene base =
        scenes.stream()
            .filter(s -> s.unitSource() != FrameSource.ASSUMED)
            .findFirst()
            .orElse(scenes.get(0));
    merge
        .builder
        .frame(base.frame(), base.unitSource(), base.axesSource())
        .uvOrigin(base.uvOrigin())
        .linearColours(base.linearColours());
    StringBuilder comments = new StringBuilder();
    for (int i = 0; i < scenes.size(); i++) {
      Scene own = scenes.get(i);
      Scene scene = own;
      if (!SameConventions.hold(own, base)) {
        scene = SameConventions.of(own, base);
        tell(files.get(i), own, base, findings);
      }
      merge.rate(files.get(i), own.framesPerSecond());
      merge.add(scene, CargoPath.stem(files.get(i)));
      own.unread().forEach(merge.builder::unread);
      merge.builder.compose(own.composition());
      Object said = own.properties().get("comments");
      comments.append(said == null ? "" : said + "\n");
    }
    if (!comments.isEmpty()) {
      merge.builder.property("comments", comments.toString());
    }
    return merge.builder.framesPerSecond(merge.rate).build();
  }

  /** Says that a file was brought to the unit and axes of others. */
  static void tell(String file, Scene own, Scene base, Findings findings) {
    if (own.frame().equals(base.frame())) {
      return;
    }
    boolean assumed = own.unitSource() == FrameSource.ASSUMED;
    findings.add(
        Finding.of(
                "brought-to-one-frame",
                assumed ? Severity.LOOK : Severity.NOTE,
                file,
                "The files of the cargo differ in unit or axes: this one was brought to those of"
                    + " the others."
                    + (assumed
                        ? " It states no unit of its own: see whether its size is right."
                        : ""))
            .measured(own.frame().label() + " → " + base.frame().label())
            .evidence(assumed ? "its unit is taken for " + own.frame().label() : "its header"));
  }

  private void rate(String file, double own) {
    if (rate > 0 && own > 0 && rate != own) {
      findings.add(
          Finding.of(
                  "frame-rates-differ",
                  Severity.NOTE,
                  file,
                  "Its motion was made at another rate; it is kept in seconds, so nothing moves.")
              .measured(
                  Figures.plain(own) + " against " + Figures.plain(rate) + " frames a second"));
    }
    rate = rate > 0 ? rate : own;
  }

  private void add(Scene scene, String group) {
    SceneMap map = SceneMap.fresh(scene, builder);
    List<Texture> textures = new ArrayList<>();
    Map<Integer, Integer> textureIds = new HashMap<>();
    for (Texture t : scene.textures()) {
      String key = t.resource() != null ? t.resource() : "?" + t.written();
      Integer known = t.embedded() == null ? textureByPath.get(key) : null;
      if (known == null) {
        known = builder.newId();
        textures.add(t);
        if (t.embedded() == null) {
          textureByPath.put(key, known);
        }
      }
      textureIds.put(t.id(), known);
      map.texture(t.id(), known);
    }
    List<Material> materials = new ArrayList<>();
    for (Material m : scene.materials()) {
      String signature = oneMaterialAName ? m.name() : signature(m, textureIds);
      Integer known = materialBySignature.get(signature);
      if (known == null) {
        known = builder.newId();
        materialBySignature.put(signature, known);
        materials.add(m);
      }
      map.material(m.id(), known);
    }
    int top = builder.add(Node.of(builder.newId(), group, -1, Node.Content.GROUP));
    Scene moved = map.apply(scene.toBuilder().textures(textures).materials(materials).build());
    moved.textures().forEach(builder::add);
    moved.materials().forEach(builder::add);
    for (PolygonMesh mesh : moved.meshes()) {
      builder.add(mesh.toBuilder().variantMaterials(variants(scene, mesh)).build());
    }
    moved.cameras().forEach(builder::add);
    moved.lights().forEach(builder::add);
    for (Node node : moved.nodes()) {
      // A root's parent is −1, which stands for the group.
      builder.add(node.withParent(node.parent() + top + 1));
    }
    moved.skins().forEach(builder::add);
    moved.clips().forEach(builder::add);
    moved.sets().forEach(builder::add);
    moved.copies().forEach(builder::add);
    builder.addCaches(moved.caches());
    builder.addSecondMotions(moved.secondMotions());
    moved.sequences().forEach(builder::add);
    moved.properties().forEach(builder::propertyIfAbsent);
  }

  /** Looks of one name become one. */
  private int[][] variants(Scene scene, PolygonMesh mesh) {
    int[][] old = mesh.variantMaterials();
    int[] places = new int[old.length];
    int count = 0;
    for (int v = 0; v < old.length; v++) {
      places[v] = builder.variant(scene.variants().get(v));
      count = Math.max(count, places[v] + 1);
    }
    int[][] result = new int[count][mesh.materialIds().length];
    for (int[] variant : result) {
      Arrays.fill(variant, -1);
    }
    for (int v = 0; v < old.length; v++) {
      result[places[v]] = old[v];
    }
    return result;
  }

  /** All that a material says, as text: equal texts are equal materials. */
  private static String signature(Material m, Map<Integer, Integer> textures) {
    List<String> parts = new ArrayList<>();
    parts.add(m.name() + m.shading() + m.alpha() + m.alphaCutoff() + m.doubleSided());
    m.channels()
        .forEach(
            (channel, value) -> {
              TextureUse use = value.texture();
              TextureUse shared =
                  use == null ? null : use.withTexture(textures.get(use.textureId()));
              parts.add(channel + Arrays.toString(value.factor()) + shared);
            });
    parts.add(new TreeMap<>(m.properties()).toString());
    return String.join("|", parts);
  }
}
