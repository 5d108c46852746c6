package ferry.stone.core.format.gltf.raw;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Material slots of a mesh, and the materials that KHR_materials_variants puts in their place. */
public final class GltfVariants {
  private static final int REFERENCE = 16;

  private final GltfContainer container;
  private final List<Integer> materialIds;
  private final int count;
  private final Map<List<Integer>, Integer> slots = new LinkedHashMap<>();

  public GltfVariants(GltfContainer container, List<Integer> materialIds) {
    this.container = container;
    this.materialIds = materialIds;
    count = container.root().at("/extensions/" + GltfExtensions.VARIANTS + "/variants").size();
  }

  /** Slot of a primitive: one for each material with its variants, −1 when it has none at all. */
  public int slot(JsonNode primitive, int material, String path) throws FormatException {
    container.budget().claim(REFERENCE * (1L + count), path, "a primitive's materials");
    Integer[] looks = new Integer[1 + count];
    Arrays.fill(looks, -1);
    looks[0] = material < 0 ? -1 : materialIds.get(material);
    String at = path + "/extensions/" + GltfExtensions.VARIANTS + "/mappings";
    JsonNode mappings = primitive.at("/extensions/" + GltfExtensions.VARIANTS + "/mappings");
    for (int m = 0; m < mappings.size(); m++) {
      int other = container.integer(mappings.get(m), "material", -1, at + "/" + m);
      container.item("materials", other, at + "/" + m + "/material");
      for (JsonNode variant : mappings.get(m).path("variants")) {
        int v = variant.asInt(-1);
        if (v < 0 || v >= count) {
          throw container.error(
              Kind.CORRUPT,
              at + "/" + m + "/variants",
              "names variant " + variant + ", but there are " + count + ".");
        }
        looks[1 + v] = materialIds.get(other);
      }
    }
    List<Integer> key = List.of(looks);
    boolean bare = key.stream().allMatch(id -> id < 0);
    return bare ? -1 : slots.computeIfAbsent(key, k -> slots.size());
  }

  /** Material of each slot. */
  public int[] materials() {
    return column(0);
  }

  private int[] column(int place) {
    return slots.keySet().stream().mapToInt(key -> key.get(place)).toArray();
  }

  /** Material of each slot in each variant; none when no variant changes this mesh. */
  public int[][] variants() {
    List<int[]> result = new ArrayList<>();
    boolean any = false;
    for (int v = 0; v < count; v++) {
      result.add(column(1 + v));
      any |= Arrays.stream(result.get(v)).anyMatch(id -> id >= 0);
    }
    return any ? result.toArray(new int[0][]) : new int[0][];
  }

  /** Says which materials a primitive takes in which variants. */
  public static void write(
      ObjectNode primitive,
      PolygonMesh mesh,
      int slot,
      Map<Integer, Integer> materialIndex,
      Set<String> extensions) {
    Map<Integer, List<Integer>> variants = new LinkedHashMap<>();
    for (int v = 0; slot >= 0 && v < mesh.variantMaterials().length; v++) {
      Integer material = materialIndex.get(mesh.variantMaterials()[v][slot]);
      if (material != null) {
        variants.computeIfAbsent(material, k -> new ArrayList<>()).add(v);
      }
    }
    if (variants.isEmpty()) {
      return;
    }
    extensions.add(GltfExtensions.VARIANTS);
    ArrayNode mappings =
        primitive.withObject("/extensions/" + GltfExtensions.VARIANTS).putArray("mappings");
    variants.forEach(
        (material, list) -> {
          ObjectNode mapping = mappings.addObject().put("material", material);
          ArrayNode array = mapping.putArray("variants");
          list.forEach(array::add);
        });
  }
}
