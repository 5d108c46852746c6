package ferry.stone.core.landing;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.work.Progress;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;

/**
 * Materials of a scene as a file of their own, for another cargo: a GLB with their images inside.
 *
 * @param findings what could not be carried, and what was translated
 */
public record MaterialFile(byte[] bytes, List<String> names, List<Finding> findings) {
  /**
   * @param names of those that are taken; all when empty
   * @param files the scene's own, for its images
   * @throws IllegalArgumentException where one is not there
   */
  public static MaterialFile of(Scene scene, List<String> names, Resources files)
      throws IOException, FormatException {
    Set<String> wanted = new TreeSet<>(names);
    List<Material> taken =
        scene.materials().stream()
            .filter(m -> names.isEmpty() || wanted.contains(m.name()))
            .toList();
    taken.forEach(m -> wanted.remove(m.name()));
    if (!wanted.isEmpty()) {
      throw new IllegalArgumentException(
          "There is no material \"" + wanted.iterator().next() + "\" on the far side.");
    }
    if (taken.isEmpty()) {
      throw new IllegalArgumentException("There are no materials on the far side.");
    }
    Scene only =
        scene.toBuilder()
            .nodes(List.of())
            .meshes(List.of())
            .skins(List.of())
            .clips(List.of())
            .caches(List.of())
            .sequences(List.of())
            .variants(List.of())
            .cameras(List.of())
            .lights(List.of())
            .materials(taken)
            .build();
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    LandingOptions options = LandingOptions.of(Formats.HANDED_ON).with("influences", 0);
    Landing landing =
        Landing.write(only, options, "materials", files, path -> bytes, Progress.NONE);
    return new MaterialFile(
        bytes.toByteArray(), taken.stream().map(Material::name).toList(), landing.findings());
  }
}
