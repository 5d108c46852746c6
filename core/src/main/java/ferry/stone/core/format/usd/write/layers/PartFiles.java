package ferry.stone.core.format.usd.write.layers;

import ferry.stone.core.format.usd.layer.ListOp;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.layer.UsdArc;
import ferry.stone.core.format.usd.layer.UsdLayer;
import ferry.stone.core.format.usd.write.UsdOptions.Parts;
import ferry.stone.core.format.usd.write.spec.Spec;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Parts as files of their own, which the main file refers to. A part is what stands below the only
 * prim at the top, or at the top where there are several. It stays in the main file where something
 * in it speaks of another part, or where it has no shape. What several parts share stands in one
 * more file, which all of them have below them.
 */
final class PartFiles {
  private static final Set<String> SHAPES =
      Set.of("Mesh", "Points", "BasisCurves", "NurbsCurves", "PointInstancer");

  private static final String REFERENCES = "references";

  private final PrimSpec root;
  private final Parts how;
  private final String stem;
  private final String ending;
  private final Map<String, Object> frame;
  private final List<LayerFile> files = new ArrayList<>();
  private PrimSpec classes;
  private boolean shares;

  /**
   * @param root of the layer of shapes, which is changed
   */
  PartFiles(PrimSpec root, Parts how, String stem, String ending) {
    this.root = root;
    this.how = how;
    this.stem = stem;
    this.ending = ending;
    frame = Specs.frame(root);
  }

  /** Takes the parts out and gives their files. */
  List<LayerFile> take() {
    List<PrimSpec> tops = new ArrayList<>();
    for (PrimSpec prim : root.children().values()) {
      if (prim.specifier() == PrimSpec.Specifier.CLASS) {
        classes = prim;
      } else {
        tops.add(prim);
      }
    }
    boolean one = tops.size() == 1 && tops.get(0).children().size() > 1;
    PrimSpec holder = one ? tops.get(0) : root;
    String above = one ? "/" + holder.name() : "";
    for (PrimSpec part : List.copyOf(holder.children().values())) {
      if (part != classes && !isInstance(part) && hasShape(part)) {
        part(holder, part, above + "/" + part.name());
      }
    }
    if (shares) {
      root.children().remove(classes.name());
      PrimSpec shared = layer(classes);
      shared.fields().remove("defaultPrim");
      files.add(new LayerFile(sharedName(), new UsdLayer("", shared, List.of())));
    }
    return files;
  }

  /** Whether a file holds what several parts share; {@link #sharedName} then. */
  boolean shares() {
    return shares;
  }

  String sharedName() {
    return stem + "_shared." + ending;
  }

  private static boolean hasShape(PrimSpec prim) {
    return SHAPES.contains(prim.typeName())
        || prim.children().values().stream().anyMatch(c -> isInstance(c) || hasShape(c));
  }

  /** One by itself is nothing but a reference already. */
  private static boolean isInstance(PrimSpec prim) {
    return prim.fields().containsKey("instanceable");
  }

  private void part(PrimSpec holder, PrimSpec part, String path) {
    Outside outside = new Outside(path, classes == null ? "" : "/" + classes.name());
    outside.look(part);
    if (outside.speaksOfOthers) {
      return;
    }
    shares |= outside.shares;
    String name = stem + "_part_" + part.name() + "." + ending;
    PrimSpec own = moved(part, path, "/" + part.name());
    PrimSpec stays = new PrimSpec(part.name());
    stays.specifier(part.specifier());
    stays.typeName(part.typeName());
    for (String property : List.copyOf(own.properties().keySet())) {
      if (property.startsWith("xformOp") || property.equals("visibility")) {
        stays.properties().put(property, own.properties().remove(property));
      }
    }
    String field = how == Parts.PAYLOADS ? "payload" : REFERENCES;
    stays.fields().put(field, Specs.prepended(List.of(Specs.arc("./" + name, ""))));
    holder.children().put(part.name(), stays);
    PrimSpec layer = layer(own);
    layer.fields().put("defaultPrim", Spec.text("token", part.name()));
    List<UsdArc> below =
        outside.shares ? List.of(Specs.arc("./" + sharedName(), "")) : List.<UsdArc>of();
    files.add(new LayerFile(name, new UsdLayer("", layer, below)));
  }

  private PrimSpec layer(PrimSpec top) {
    PrimSpec layer = new PrimSpec("");
    layer.fields().putAll(new LinkedHashMap<>(frame));
    layer.children().put(top.name(), top);
    return layer;
  }

  /** Whether a part speaks of what is not in it. */
  private static final class Outside {
    private final String path;
    private final String shared;
    private boolean speaksOfOthers;
    private boolean shares;

    Outside(String path, String shared) {
      this.path = path;
      this.shared = shared;
    }

    void look(PrimSpec prim) {
      if (prim.fields().get(REFERENCES) instanceof ListOp<?> arcs) {
        arcs.prepended().forEach(arc -> target(((UsdArc) arc).prim()));
      }
      for (PropertySpec property : prim.properties().values()) {
        if (property.targets() != null) {
          property.targets().explicit().forEach(this::target);
        }
      }
      prim.children().values().forEach(this::look);
    }

    private void target(String target) {
      boolean ofClass = !shared.isEmpty() && target.startsWith(shared + "/");
      shares |= ofClass;
      boolean own = target.equals(path) || target.startsWith(path + "/");
      speaksOfOthers |= !ofClass && !own && !target.startsWith(path + ".");
    }
  }

  /** A copy whose paths begin at another place. */
  private static PrimSpec moved(PrimSpec prim, String from, String to) {
    PrimSpec copy = Specs.head(prim);
    copy.fields().putAll(prim.fields());
    if (copy.fields().remove(REFERENCES) instanceof ListOp<?> arcs) {
      // What the main file says of a class reaches those that inherit it from other files.
      List<String> classes = arcs.prepended().stream().map(a -> ((UsdArc) a).prim()).toList();
      copy.fields().put("inheritPaths", ListOp.explicit(classes));
    }
    prim.properties().forEach((name, own) -> copy.properties().put(name, moved(own, from, to)));
    prim.children().forEach((name, child) -> copy.children().put(name, moved(child, from, to)));
    return copy;
  }

  private static PropertySpec moved(PropertySpec property, String from, String to) {
    if (property.targets() == null) {
      return property;
    }
    PropertySpec copy = Specs.still(property);
    copy.samples(property.samples());
    copy.targets(
        ListOp.explicit(
            property.targets().explicit().stream()
                .map(t -> t.startsWith(from) ? to + t.substring(from.length()) : t)
                .toList()));
    return copy;
  }
}
