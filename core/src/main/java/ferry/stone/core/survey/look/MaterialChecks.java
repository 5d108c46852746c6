package ferry.stone.core.survey.look;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.texture.MaterialDifferences;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Materials of one name but for a number: the same once more, as gathering and copying make them,
 * or different ones that a tool which goes by names would mix up.
 */
public final class MaterialChecks {
  private MaterialChecks() {}

  public static void run(Scene scene, Findings findings) {
    Map<String, List<Material>> byName = new LinkedHashMap<>();
    for (Material material : scene.materials()) {
      byName
          .computeIfAbsent(MaterialDifferences.plainName(material), k -> new ArrayList<>())
          .add(material);
    }
    byName.forEach(
        (name, materials) -> {
          if (materials.size() > 1 && !name.isEmpty()) {
            findings.add(told(scene, name, materials));
          }
        });
  }

  private static Finding told(Scene scene, String name, List<Material> materials) {
    Set<String> apart = new LinkedHashSet<>();
    for (Material other : materials.subList(1, materials.size())) {
      apart.addAll(MaterialDifferences.of(scene, materials.get(0), other));
    }
    boolean same = apart.isEmpty();
    Finding finding =
        Finding.of(
                same ? "materials-alike" : "materials-of-one-name",
                same ? Severity.LOOK : Severity.NOTE,
                name,
                same
                    ? "These materials have one name but for a number, and look the same."
                    : "These materials have one name but for a number, and differ: tools that go by"
                        + " names mix them up.")
            .measured(Figures.count(materials.size(), "material"))
            .evidence(same ? names(materials) : names(materials) + "; " + String.join(", ", apart));
    return same
        ? finding.offer(Offer.step("Join them", "sameMaterials", Map.of("which", "alike")))
        : finding.offer(
            Offer.step("Take the first for all", "sameMaterials", Map.of("which", "named"))
                .asking());
  }

  private static String names(List<Material> materials) {
    return String.join(", ", materials.stream().map(Material::name).toList());
  }
}
