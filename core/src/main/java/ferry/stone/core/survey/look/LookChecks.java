package ferry.stone.core.survey.look;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.geometry.look.LookBinding;
import ferry.stone.core.geometry.look.LookMatch;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Whether a look that parts came without stands beside them, as with a cache and its model: on the
 * same faces, else in materials that go with all of their sets.
 */
public final class LookChecks {
  /** Fewer sets may go with anything. */
  private static final int LEAST_SETS = 2;

  /** A part of the name, with place and size: less is a guess. */
  private static final double LIKELY = 0.35;

  private final Scene scene;
  private final Findings findings;
  private final Map<Integer, PolygonMesh> meshes;
  private final Set<Integer> plain = new HashSet<>();
  private final Map<Integer, Material> materials = new HashMap<>();
  private final Map<Top, LookMatch> dressed = new IdentityHashMap<>();

  public LookChecks(Scene scene, Findings findings) {
    this.scene = scene;
    this.findings = findings;
    meshes = scene.meshesById();
    for (Material material : scene.materials()) {
      materials.put(material.id(), material);
      if (material.channels().isEmpty()) {
        plain.add(material.id());
      }
    }
  }

  /** A part at the top, with the meshes that it and what is below it show. */
  private record Top(Node node, List<Shown> shown) {}

  private record Shown(Node node, PolygonMesh mesh) {}

  public void run() {
    List<Top> tops = new ArrayList<>();
    int[] top = new int[scene.nodes().size()];
    for (int i = 0; i < top.length; i++) {
      Node node = scene.nodes().get(i);
      if (node.parent() < 0) {
        top[i] = tops.size();
        tops.add(new Top(node, new ArrayList<>()));
      } else {
        top[i] = top[node.parent()];
      }
      if (node.content() instanceof Node.Content.MeshContent content) {
        tops.get(top[i]).shown.add(new Shown(node, meshes.get(content.meshId())));
      }
    }
    for (Top bare : tops) {
      if (!bare.shown.isEmpty() && bare.shown.stream().noneMatch(s -> hasLook(s.mesh))) {
        beside(bare, tops);
      }
    }
  }

  private boolean hasLook(PolygonMesh mesh) {
    return mesh.usedMaterials().anyMatch(id -> !plain.contains(id));
  }

  private LookMatch match(Top top) {
    List<LookMatch.Source> sources =
        top.shown.stream()
            .filter(s -> hasLook(s.mesh))
            .map(s -> new LookMatch.Source(s.node.name(), s.mesh))
            .toList();
    return new LookMatch(sources, materials);
  }

  private void beside(Top bare, List<Top> tops) {
    for (Top other : tops) {
      if (other == bare) {
        continue;
      }
      LookMatch looks = dressed.computeIfAbsent(other, this::match);
      long same = bare.shown.stream().filter(s -> looks.hasFacesOf(s.mesh)).count();
      if (2 * same > bare.shown.size()) {
        tell(
            bare,
            other,
            "has the same faces with one.",
            Map.of("look", other.node.id()),
            Figures.count(same, "part") + " of " + bare.shown.size());
        return;
      }
      long sets = bare.shown.stream().mapToLong(s -> s.mesh.faceSets().size()).sum();
      if (sets >= LEAST_SETS && bare.shown.stream().allMatch(s -> goWith(looks, s))) {
        tell(
            bare,
            other,
            "has materials that go with all of their sets, by names, places and sizes.",
            Map.of("look", other.node.id(), "least", 100 * LIKELY),
            Figures.count(sets, "set"));
        return;
      }
    }
  }

  private static boolean goWith(LookMatch looks, Shown shown) {
    Set<Integer> taken = new HashSet<>();
    return shown.mesh.faceSets().isEmpty()
        || looks.of(shown.node.name(), shown.mesh).bindings().stream()
            .filter(b -> !LookBinding.set(b.key()).isEmpty())
            .allMatch(
                b -> b.materialId() >= 0 && b.confidence() >= LIKELY && taken.add(b.materialId()));
  }

  private void tell(Top bare, Top other, String why, Map<String, Object> step, String measured) {
    findings.add(
        Finding.of(
                "look-beside",
                Severity.LOOK,
                bare.node.name(),
                "These parts have no look, and \"" + other.node.name() + "\" " + why)
            .measured(measured)
            .nodes(bare.shown.stream().map(s -> s.node.id()).toList())
            .offer(Offer.step("Put it on", "putLook", step).on(List.of(bare.node.id()))));
  }
}
