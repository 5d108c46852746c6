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
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Shading networks that are none of ours, kept as they are found: a map of outputs of the material
 * with what they are connected to, and of the prims that say it, so that a landing as USD has them
 * again. Paths are told from the material: {@code coat.outputs:out}. What several materials share
 * stands in each of them then; another material that a network leads into as a graph of nodes,
 * which is what a material is without its bindings.
 */
final class Networks {
  /** More numbers than networks have. */
  private static final int MOST = 1 << 14;

  private static final String GRAPH = "NodeGraph";

  /** Beginnings of the ids of nodes that the material here has a place for. */
  private static final List<String> PREVIEW =
      List.of("UsdPreviewSurface", "UsdPrimvarReader", "UsdUVTexture", "UsdTransform2d");

  private final UsdStage stage;
  private final String material;
  private final Map<String, Object> kept = new LinkedHashMap<>();

  /** Paths of prims outside of the material, with the names that they get in it. */
  private final Map<String, String> outside = new LinkedHashMap<>();

  /** Names of prims in the material that something leads to. */
  private final Set<String> inside = new HashSet<>();

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
    Map<String, Object> prims = all.prims(prim, false);
    all.reached(prim, prims);
    if (!prims.isEmpty()) {
      all.kept.put(UsdNames.PRIMS, prims);
    }
    return all;
  }

  /** As values for people. */
  Map<String, Object> kept() {
    return kept;
  }

  /** Whether everything is there: neither too much, nor led to what is not there. */
  boolean isWhole() {
    return whole && numbers <= MOST;
  }

  /** Whether images are named that are not there. */
  boolean leavesImages() {
    return leaves;
  }

  /**
   * @param every whether those come too that the material here has a place for
   */
  private Map<String, Object> prims(UsdPrim above, boolean every)
      throws IOException, FormatException {
    Map<String, Object> prims = new LinkedHashMap<>();
    for (UsdPrim prim : above.children()) {
      if (every || !isPreview(prim)) {
        prims.put(prim.name(), prim(prim));
      }
    }
    return prims;
  }

  private static boolean isPreview(UsdPrim prim) throws IOException, FormatException {
    String id = ShadeGraph.id(prim);
    return PREVIEW.stream().anyMatch(id::startsWith);
  }

  private Map<String, Object> prim(UsdPrim prim) throws IOException, FormatException {
    Map<String, Object> all = new LinkedHashMap<>();
    all.put(UsdNames.PRIM_TYPE, isMaterial(prim) ? GRAPH : prim.typeName());
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
    Map<String, Object> below = prims(prim, true);
    if (!below.isEmpty()) {
      all.put(UsdNames.PRIMS, below);
    }
    return all;
  }

  /**
   * Adds what the network leads to: nodes of the preview surface that it shares, and what stands
   * outside of its material, as if it stood inside.
   */
  private void reached(UsdPrim material, Map<String, Object> prims)
      throws IOException, FormatException {
    int done = 0;
    boolean more = true;
    while (more) {
      int before = prims.size();
      for (UsdPrim prim : material.children()) {
        if (inside.contains(prim.name()) && !prims.containsKey(prim.name())) {
          prims.put(prim.name(), prim(prim));
        }
      }
      while (done < outside.size()) {
        String path = List.copyOf(outside.keySet()).get(done++);
        UsdPrim prim = stage.prim(path);
        whole &= prim != null;
        if (prim != null && numbers <= MOST) {
          prims.put(outside.get(path), prim(prim));
        }
      }
      more = prims.size() > before;
    }
  }

  /** Paths as they are told from the material. */
  private List<String> local(List<String> targets) throws IOException, FormatException {
    List<String> all = new ArrayList<>();
    for (String target : targets) {
      if (target.startsWith(material + "/") || target.startsWith(material + ".")) {
        String own =
            target.substring(material.length() + (target.charAt(material.length()) == '/' ? 1 : 0));
        inside.add(own.split("[/.]", 2)[0]);
        all.add(own);
        continue;
      }
      int dot = target.indexOf('.');
      String top = top(dot < 0 ? target : target.substring(0, dot));
      all.add(outside.computeIfAbsent(top, this::name) + target.substring(top.length()));
    }
    return all;
  }

  /**
   * The graph or other material that a prim stands in, the outermost; itself where there is none.
   */
  private String top(String path) throws IOException, FormatException {
    for (int end = path.indexOf('/', 1); end > 0; end = path.indexOf('/', end + 1)) {
      UsdPrim above = stage.prim(path.substring(0, end));
      if (above != null && (above.typeName().equals(GRAPH) || isMaterial(above))) {
        return above.path();
      }
    }
    return path;
  }

  private static boolean isMaterial(UsdPrim prim) {
    return prim.typeName().equals("Material");
  }

  private String name(String path) {
    return names.take(path.substring(path.lastIndexOf('/') + 1));
  }
}
