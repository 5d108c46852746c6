package ferry.stone.core.format.usd.write.layers;

import ferry.stone.core.format.usd.layer.ListOp;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/**
 * What a layer says, divided among three: the shapes and where they stand, the materials and what
 * they are bound to, and everything over time. Laid over each other they say the same again.
 */
final class LayerSplit {
  private static final String BINDING = "MaterialBindingAPI";
  private static final String BOUND = "material:binding";
  private static final List<String> VARIANTS = List.of("variantSetNames", "variantSelection");
  private static final Set<String> LOOKS = Set.of("Material", "Shader", "NodeGraph");

  final PrimSpec geometry = new PrimSpec("");
  final PrimSpec look = new PrimSpec("");
  final PrimSpec motion = new PrimSpec("");

  LayerSplit(PrimSpec root) {
    geometry.fields().putAll(Specs.frame(root));
    look.fields().putAll(Specs.frame(root));
    motion.fields().putAll(Specs.frame(root));
    for (String name : List.of("startTimeCode", "endTimeCode")) {
      if (root.fields().containsKey(name)) {
        motion.fields().put(name, root.fields().get(name));
      }
    }
    for (PrimSpec child : root.children().values()) {
      divide(child, geometry, List.of(child.name()));
    }
  }

  private void divide(PrimSpec prim, PrimSpec parent, List<String> path) {
    if (isLook(prim)) {
      PrimSpec holder = Specs.over(look, path.subList(0, path.size() - 1));
      holder.children().put(prim.name(), material(prim, path));
      return;
    }
    PrimSpec shape = Specs.head(prim);
    parent.children().put(prim.name(), shape);
    prim.fields().forEach((name, value) -> field(shape, path, name, value));
    variants(prim, shape, path);
    for (PropertySpec property : prim.properties().values()) {
      if (property.name().startsWith(BOUND)) {
        Specs.over(look, path).properties().put(property.name(), property);
      } else {
        shape.properties().put(property.name(), timed(property, path));
      }
    }
    for (PrimSpec child : prim.children().values()) {
      List<String> below = new ArrayList<>(path);
      below.add(child.name());
      divide(child, shape, below);
    }
  }

  /** Sets that bind are looks; what else variants say is geometry. */
  private void variants(PrimSpec prim, PrimSpec shape, List<String> path) {
    if (prim.variantSets().isEmpty()) {
      return;
    }
    boolean binds =
        prim.variantSets().values().stream()
            .flatMap(set -> set.values().stream())
            .allMatch(LayerSplit::binds);
    PrimSpec holder = binds ? Specs.over(look, path) : shape;
    holder.variantSets().putAll(prim.variantSets());
    for (String field : VARIANTS) {
      shape.fields().remove(field);
      holder.fields().put(field, prim.fields().get(field));
    }
  }

  private static boolean binds(PrimSpec variant) {
    return variant.properties().keySet().stream().allMatch(n -> n.startsWith(BOUND))
        && variant.children().values().stream().allMatch(LayerSplit::binds);
  }

  /** A group of materials and nothing else, or one of what they are made of. */
  private static boolean isLook(PrimSpec prim) {
    return LOOKS.contains(prim.typeName())
        || prim.typeName().equals("Scope")
            && !prim.children().isEmpty()
            && prim.children().values().stream().allMatch(LayerSplit::isLook);
  }

  private PrimSpec material(PrimSpec prim, List<String> path) {
    PrimSpec copy = Specs.head(prim);
    copy.fields().putAll(prim.fields());
    prim.properties().forEach((name, own) -> copy.properties().put(name, timed(own, path)));
    for (PrimSpec child : prim.children().values()) {
      List<String> below = new ArrayList<>(path);
      below.add(child.name());
      copy.children().put(child.name(), material(child, below));
    }
    return copy;
  }

  /** The property without its samples, which go to the motion. */
  private PropertySpec timed(PropertySpec property, List<String> path) {
    if (property.samples() == null) {
      return property;
    }
    PropertySpec moving = Specs.declared(property);
    moving.samples(property.samples());
    Specs.over(motion, path).properties().put(property.name(), moving);
    return Specs.still(property);
  }

  @SuppressWarnings("unchecked")
  private void field(PrimSpec shape, List<String> path, String name, Object value) {
    if (!name.equals(Specs.APIS) || !((ListOp<String>) value).prepended().contains(BINDING)) {
      shape.fields().put(name, value);
      return;
    }
    List<String> rest = new ArrayList<>(((ListOp<String>) value).prepended());
    rest.remove(BINDING);
    if (!rest.isEmpty()) {
      shape.fields().put(name, Specs.prepended(rest));
    }
    Specs.over(look, path).fields().put(name, Specs.prepended(List.of(BINDING)));
  }
}
