package ferry.stone.core.format.usd.read.look;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.FreeNames;
import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.compose.UsdProperty;
import ferry.stone.core.format.usd.compose.UsdStage;
import ferry.stone.core.format.usd.layer.UsdType;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.read.stage.NamedFiles;
import ferry.stone.core.format.usd.read.stage.Said;
import ferry.stone.core.format.usd.read.stage.UsdValues;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Shading networks that are none of ours, kept as they are found: a map of outputs of the material
 * with what they are connected to, and of the prims that say it, so that a landing as USD has them
 * again. Paths are told from the material: {@code coat.outputs:out}. What several materials share
 * stands in each of them then.
 */
final class Networks {
  /** More numbers than networks have. */
  private static final int MOST = 1 << 14;

  private final UsdStage stage;
  private final String material;
  private final Map<String, Object> kept = new LinkedHashMap<>();

  /** Paths of prims outside of the material, with the names that they get in it. */
  private final Map<String, String> outside = new LinkedHashMap<>();

  private final FreeNames names = new FreeNames();
  private int numbers;
  private boolean leaves;
  private boolean whole = true;

  private Networks(UsdStage stage, String material) {
    this.stage = stage;
    this.material = material;
  }

  /**
   * Networks of a material.
   *
   * @param outputs of the material that lead to them
   */
  static Networks of(UsdStage stage, UsdPrim prim, List<String> outputs)
      throws IOException, FormatException {
    Networks all = new Networks(stage, prim.path());
    prim.children().forEach(child -> all.names.take(child.name()));
    for (String output : outputs) {
      List<String> ends = all.local(prim.property(output).targets());
      if (!ends.isEmpty()) {
        all.kept.put(output, ends);
      }
    }
    Map<String, Object> prims = all.prims(prim);
    all.outside(prims);
    if (!prims.isEmpty()) {
      all.kept.put(UsdNames.PRIMS, prims);
    }
    return all;
  }

  /** As values for people. */
  Map<String, Object> kept() {
    return kept;
  }

  /** Whether everything is there: neither too much, nor led into another material. */
  boolean isWhole() {
    return whole && numbers <= MOST;
  }

  /** Whether images are named that are not there. */
  boolean leavesImages() {
    return leaves;
  }

  private Map<String, Object> prims(UsdPrim above) throws IOException, FormatException {
    Map<String, Object> prims = new LinkedHashMap<>();
    for (UsdPrim prim : above.children()) {
      boolean preview =
          ShadeGraph.id(prim).startsWith("UsdPreviewSurface")
              || ShadeGraph.id(prim).startsWith("UsdPrimvarReader")
              || ShadeGraph.id(prim).startsWith("UsdUVTexture")
              || ShadeGraph.id(prim).startsWith("UsdTransform2d");
      if (!preview) {
        prims.put(prim.name(), prim(prim));
      }
    }
    return prims;
  }

  private Map<String, Object> prim(UsdPrim prim) throws IOException, FormatException {
    Map<String, Object> all = new LinkedHashMap<>();
    all.put(UsdNames.PRIM_TYPE, prim.typeName());
    Map<String, Object> types = new LinkedHashMap<>();
    for (String name : prim.propertyNames()) {
      UsdProperty property = prim.property(name);
      if (property.isRelationship()) {
        whole &= property.targets().isEmpty();
        continue;
      }
      types.put(name, property.typeName() + (property.isArray() ? "[]" : ""));
      List<String> ends = local(property.targets());
      UsdValue value = Said.value(property);
      if (!ends.isEmpty()) {
        all.put(name + UsdNames.CONNECT, ends);
      } else if (value != null) {
        numbers += value.length();
        if (value.type().kind() == UsdType.Kind.ASSET) {
          Map<String, Object> found = NamedFiles.of(stage, value, property.valueLayer());
          leaves |= NamedFiles.misses(value, found);
          if (!found.isEmpty()) {
            all.put(name + UsdNames.FILES, found);
          }
        }
        all.put(name, UsdValues.plain(value));
      }
    }
    all.put(UsdNames.TYPES, types);
    Map<String, Object> below = prims(prim);
    if (!below.isEmpty()) {
      all.put(UsdNames.PRIMS, below);
    }
    return all;
  }

  /** Adds what the network is connected to outside of its material, as if it stood inside. */
  private void outside(Map<String, Object> prims) throws IOException, FormatException {
    int done = 0;
    while (done < outside.size()) {
      String path = List.copyOf(outside.keySet()).get(done++);
      UsdPrim prim = stage.prim(path);
      boolean known = prim != null && !prim.typeName().equals("Material");
      whole &= known;
      if (known && numbers <= MOST) {
        prims.put(outside.get(path), prim(prim));
      }
    }
  }

  /** Paths as they are told from the material. */
  private List<String> local(List<String> targets) throws IOException, FormatException {
    List<String> all = new ArrayList<>();
    for (String target : targets) {
      if (target.startsWith(material + "/") || target.startsWith(material + ".")) {
        all.add(
            target.substring(
                material.length() + (target.charAt(material.length()) == '/' ? 1 : 0)));
        continue;
      }
      int dot = target.indexOf('.');
      String top = top(dot < 0 ? target : target.substring(0, dot));
      all.add(outside.computeIfAbsent(top, this::name) + target.substring(top.length()));
    }
    return all;
  }

  /** The graph that a prim stands in, the outermost; itself where there is none. */
  private String top(String path) throws IOException, FormatException {
    for (int end = path.indexOf('/', 1); end > 0; end = path.indexOf('/', end + 1)) {
      UsdPrim above = stage.prim(path.substring(0, end));
      if (above != null && above.typeName().equals("NodeGraph")) {
        return above.path();
      }
    }
    return path;
  }

  private String name(String path) {
    return names.take(path.substring(path.lastIndexOf('/') + 1));
  }
}
