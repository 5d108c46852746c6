package ferry.stone.core.sheet;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.texture.PbrTranslation;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Which faces of a scene have which material, for a person who assigns them by hand where a format
 * cannot: part by part, the sets in their order.
 */
public final class LookSheet {
  private static final List<String> HEAD =
      List.of("Part", "Set of faces", "Faces", "First face", "Material", "Base colour", "Images");

  private LookSheet() {}

  /**
   * @param asset name of what landed
   */
  public static Sheet of(String asset, Scene scene) {
    List<String> paths = scene.paths();
    List<List<String>> rows = new ArrayList<>();
    Map<Integer, Integer> places = scene.nodePlaces();
    for (Scene.ShownMesh shown : scene.shownMeshes()) {
      if (shown.mesh().faces().faceCount() > 0) {
        rows(scene, paths.get(places.get(shown.node().id())), shown.mesh(), rows);
      }
    }
    return new Sheet(
        asset + " · looks",
        "Which faces have which material: one set a material, in this order. Faces are counted"
            + " from 0; colours are sRGB.",
        HEAD,
        rows);
  }

  private static void rows(Scene scene, String path, PolygonMesh mesh, List<List<String>> rows) {
    int[][] bySlot = mesh.facesOfSlots();
    Set<FaceSet> told = new LinkedHashSet<>();
    for (int slot = 0; slot < bySlot.length; slot++) {
      int[] faces = bySlot[slot];
      if (faces.length == 0) {
        continue;
      }
      FaceSet set =
          mesh.faceSets().stream()
              .filter(s -> Arrays.equals(s.faces(), faces))
              .findFirst()
              .orElse(null);
      told.add(set);
      String name =
          set != null ? set.name() : faces.length == mesh.faces().faceCount() ? "all" : "";
      rows.add(row(scene, path, name, faces, mesh.materialIds()[slot]));
    }
    for (FaceSet set : mesh.faceSets()) {
      if (!told.contains(set)) {
        int[] own = Arrays.stream(set.faces()).map(mesh::materialOf).distinct().toArray();
        rows.add(row(scene, path, set.name(), set.faces(), own.length == 1 ? own[0] : -1));
      }
    }
  }

  private static List<String> row(
      Scene scene, String path, String set, int[] faces, int materialId) {
    Material material = scene.material(materialId).orElse(null);
    String first = faces.length == 0 ? "" : String.valueOf(faces[0]);
    String count = String.valueOf(faces.length);
    if (material == null) {
      return List.of(path, set, count, first, "", "", "");
    }
    double[] colour = PbrTranslation.translate(material, scene.linearColours()).baseColour();
    return List.of(
        path, set, count, first, material.name(), ColourSpace.hex(colour), images(scene, material));
  }

  private static String images(Scene scene, Material material) {
    List<String> images = new ArrayList<>();
    material
        .channels()
        .forEach(
            (channel, value) -> {
              TextureUse use = value.texture();
              Texture texture = use == null ? null : scene.texture(use.textureId()).orElse(null);
              if (texture != null) {
                images.add(channel.label() + ": " + texture.name());
              }
            });
    return String.join("; ", images);
  }
}
