package ferry.stone.core.format.usd.compose;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.layer.UsdArc;
import ferry.stone.core.format.usd.layer.UsdBlock;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.layer.spline.UsdSpline;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/** A prim with all that is said of it, the strongest first. */
public final class UsdPrim {
  private static final Set<String> PLACING = Set.of("visibility", "purpose", "doubleSided");

  private final UsdStage stage;
  private final SitePath path;
  private final List<Place> places = new ArrayList<>();
  private final List<LayerStack.Spec> specs = new ArrayList<>();
  private final boolean below;
  private final PrimNode index;
  private List<String> names;

  /** A place with what its layers say. */
  private record Place(PrimNode node, List<LayerStack.Spec> specs) {}

  /**
   * @param below whether it stands below an instance: what is said of it there does not count
   */
  UsdPrim(UsdStage stage, SitePath path, PrimNode index, boolean below) {
    this.stage = stage;
    this.path = path;
    this.below = below;
    this.index = index;
    for (PrimNode node : index == null ? List.<PrimNode>of() : index.inOrder()) {
      boolean local = node == index || node.kind() == PrimNode.Kind.ROOT;
      List<LayerStack.Spec> own = node.specs();
      if (!own.isEmpty() && !(below && local)) {
        places.add(new Place(node, own));
        specs.addAll(own);
      }
    }
  }

  SitePath site() {
    return path;
  }

  /** From the top down: {@code /Yard/mast}. */
  public String path() {
    return path.toString();
  }

  public String name() {
    return path.isRoot() ? "" : path.steps().get(path.steps().size() - 1);
  }

  /** How the strongest layer that makes it says it; an over alone makes nothing. */
  public PrimSpec.Specifier specifier() {
    for (Place place : places) {
      List<PrimNode> chain = new ArrayList<>();
      TargetPaths.chain(index, place.node(), chain);
      // What inherits from a class is none.
      boolean inherited = chain.stream().anyMatch(n -> n.kind().isClass());
      for (LayerStack.Spec spec : place.specs()) {
        PrimSpec.Specifier own = spec.prim().specifier();
        boolean counts =
            own == PrimSpec.Specifier.DEF || own != PrimSpec.Specifier.OVER && !inherited;
        if (counts) {
          return own;
        }
      }
    }
    return PrimSpec.Specifier.OVER;
  }

  /** Empty where nothing says it. */
  public String typeName() {
    for (LayerStack.Spec spec : specs) {
      if (!spec.prim().typeName().isEmpty()) {
        return spec.prim().typeName();
      }
    }
    return "";
  }

  public boolean isActive() {
    return !UsdStage.isFalse(field("active"));
  }

  /** Whether all below it is that of a prototype. */
  public boolean isInstance() {
    boolean arcs = places.stream().anyMatch(p -> p.node().kind() != PrimNode.Kind.ROOT);
    Object said = field("instanceable");
    return below
        || arcs && said instanceof UsdValue value && value.length() > 0 && value.number(0) != 0;
  }

  /** Whether anything is said of it. */
  boolean isThere() {
    return !specs.isEmpty();
  }

  /**
   * What is shared with other instances: all that arcs of this very prim bring in; {@code null} for
   * a prim that is no instance by itself.
   */
  public String prototype() {
    boolean said =
        field("instanceable") instanceof UsdValue value
            && value.length() > 0
            && value.number(0) != 0;
    if (!said || index == null) {
      return null;
    }
    Set<String> keys = new LinkedHashSet<>();
    index.ownArcs(keys);
    return keys.isEmpty() ? null : String.join("\n", keys);
  }

  /**
   * Where all that makes its shape is said: equal for prims that show one. What only places or
   * hides it, and which material it is bound to, does not count.
   */
  public String shape() {
    // A layer that several stacks have below them says it once.
    Set<String> keys = new LinkedHashSet<>();
    for (Place place : places) {
      for (LayerStack.Spec spec : place.specs()) {
        if (shapes(spec.prim())) {
          keys.add(PrimNode.key(place.node(), spec));
        }
      }
    }
    return String.join("\n", keys);
  }

  private static boolean shapes(PrimSpec prim) {
    for (String name : prim.properties().keySet()) {
      boolean places =
          name.startsWith("xformOp")
              || name.startsWith("material:binding")
              || name.startsWith("subsetFamily")
              || name.startsWith("skel:")
              || name.startsWith("primvars:skel:")
              || PLACING.contains(name);
      if (!places) {
        return true;
      }
    }
    return prim.children().values().stream()
        .anyMatch(c -> !c.typeName().equals("BlendShape") && shapes(c));
  }

  /** Paths of the layers that say something of it, the strongest first. */
  public List<String> layers() {
    Set<String> layers = new LinkedHashSet<>();
    for (LayerStack.Spec spec : specs) {
      layers.add(spec.member().layer().resource());
    }
    return List.copyOf(layers);
  }

  /** Variant sets with the names to choose from, in their order. */
  public Map<String, List<String>> variantSets() {
    Map<String, List<String>> sets = new LinkedHashMap<>();
    for (LayerStack.Spec spec : specs) {
      spec.prim()
          .variantSets()
          .forEach(
              (set, variants) -> {
                List<String> names = sets.computeIfAbsent(set, k -> new ArrayList<>());
                variants.keySet().stream().filter(n -> !names.contains(n)).forEach(names::add);
              });
    }
    return sets;
  }

  /** Whether the variants of a set do nothing but bind materials. */
  public boolean bindsOnly(String set) {
    boolean binds = false;
    for (LayerStack.Spec spec : specs) {
      for (PrimSpec variant : spec.prim().variantSets().getOrDefault(set, Map.of()).values()) {
        if (!bindsOnly(variant)) {
          return false;
        }
        binds |= binds(variant);
      }
    }
    return binds;
  }

  private static boolean bindsOnly(PrimSpec spec) {
    return spec.specifier() == PrimSpec.Specifier.OVER
        && spec.variantSets().isEmpty()
        && Set.of("apiSchemas").containsAll(spec.fields().keySet())
        && spec.properties().keySet().stream().allMatch(n -> n.startsWith("material:binding"))
        && spec.children().values().stream().allMatch(UsdPrim::bindsOnly);
  }

  private static boolean binds(PrimSpec spec) {
    return !spec.properties().isEmpty()
        || spec.children().values().stream().anyMatch(UsdPrim::binds);
  }

  /** The variant that counts in a set, empty where none is chosen. */
  public String variant(String set) {
    String mark = "{" + set + "=";
    for (Place place : places) {
      List<String> steps = place.node().path().steps();
      for (int i = steps.size() - 1; i >= 0 && steps.get(i).startsWith("{"); i--) {
        if (steps.get(i).startsWith(mark)) {
          return steps.get(i).substring(mark.length(), steps.get(i).length() - 1);
        }
      }
    }
    return "";
  }

  /** Files of its payloads as they are written, whether they are loaded or not. */
  public List<String> payloads() {
    List<String> files = new ArrayList<>();
    if (field("payload") instanceof List<?> list) {
      for (Object item : list) {
        if (item instanceof UsdArc arc) {
          files.add(arc.asset().isEmpty() ? arc.prim() : arc.asset());
        }
      }
    }
    return files;
  }

  /** What hangs on it: references, payloads and classes, in the order of strength. */
  public List<Arc> arcs() {
    List<Arc> arcs = new ArrayList<>();
    for (PrimNode node : index == null ? List.<PrimNode>of() : index.inOrder()) {
      boolean named =
          node.kind() != PrimNode.Kind.ROOT
              && node.kind() != PrimNode.Kind.VARIANT
              && node.path().depth() == node.from().depth();
      if (named) {
        String kind = node.kind().name().toLowerCase(java.util.Locale.ROOT);
        arcs.add(new Arc(kind, node.stack().identifier(), node.path().toString()));
      }
    }
    return arcs;
  }

  /**
   * What a prim is made of beside its own layers.
   *
   * @param kind inherit, reference, payload or specialize
   * @param layer path of the layer it leads to
   * @param prim path of the prim there
   */
  public record Arc(String kind, String layer, String prim) {}

  /** A field: dictionaries are put together, edits of lists done, else the strongest counts. */
  public Object field(String name) {
    List<Object> said = new ArrayList<>();
    for (LayerStack.Spec spec : specs) {
      Object own = spec.prim().fields().get(name);
      if (own != null) {
        said.add(own);
      }
    }
    return Fields.together(said);
  }

  /** The prims below that are active, in their order; asked for once. */
  public List<UsdPrim> children() throws IOException, FormatException {
    List<UsdPrim> active = new ArrayList<>();
    for (UsdPrim child : allChildren()) {
      if (child.isActive()) {
        active.add(child);
      }
    }
    return active;
  }

  /** The prims below, whether active or not. */
  public List<UsdPrim> allChildren() throws IOException, FormatException {
    List<UsdPrim> children = new ArrayList<>();
    for (String name : childNames()) {
      UsdPrim child = stage.child(this, name);
      if (!child.specs.isEmpty()) {
        children.add(child);
      }
    }
    return children;
  }

  /** Names of the prims below, in their order, from the weakest place to the strongest. */
  private Set<String> childNames() {
    Set<String> names = new LinkedHashSet<>();
    Set<String> gone = new HashSet<>();
    List<PrimNode> order = index == null ? List.of() : index.inOrder();
    for (int i = order.size() - 1; i >= 0; i--) {
      PrimNode node = order.get(i);
      boolean local = node == index || node.kind() == PrimNode.Kind.ROOT;
      if (!(below && local)) {
        node.stack().relocates().names(node.path(), names, gone);
        UsdStage.childNames(node.specs(), names);
      }
    }
    names.removeAll(gone);
    return names;
  }

  /** Whether a prim of this name may stand below: what is moved elsewhere does not. */
  boolean hasChild(String name) {
    return childNames().contains(name);
  }

  /** Lets go of what is known of it, once nothing below it is asked for any more. */
  public void forget() {
    stage.forget(this);
  }

  /** Names of all properties that anything is said of. */
  public List<String> propertyNames() {
    if (names == null) {
      TreeSet<String> all = new TreeSet<>();
      for (LayerStack.Spec spec : specs) {
        all.addAll(spec.prim().properties().keySet());
      }
      names = List.copyOf(all);
    }
    return names;
  }

  /** Names of the properties that a curve says over time, and no samples. */
  public List<String> curves() {
    TreeSet<String> names = new TreeSet<>();
    for (LayerStack.Spec spec : specs) {
      for (PropertySpec property : spec.prim().properties().values()) {
        if (property.spline() != null && property(property.name()).isCurve()) {
          names.add(property.name());
        }
      }
    }
    return List.copyOf(names);
  }

  /** The curve that says a property over time, as its layer has it; {@code null} for none. */
  UsdSpline curve(String name) {
    return specs.stream()
        .map(s -> s.prim().properties().get(name))
        .filter(p -> p != null && p.spline() != null)
        .map(PropertySpec::spline)
        .findFirst()
        .orElse(null);
  }

  /** A property, {@code null} where nothing is said of it. */
  public UsdProperty property(String name) {
    List<UsdProperty.Opinion> opinions = new ArrayList<>();
    for (Place place : places) {
      for (LayerStack.Spec spec : place.specs()) {
        PropertySpec own = spec.prim().properties().get(name);
        if (own != null) {
          TimeMap times = place.node().times().after(spec.member().times());
          opinions.add(
              new UsdProperty.Opinion(
                  own,
                  times,
                  spec.member().layer().resource(),
                  t -> TargetPaths.carried(index, place.node(), t)));
        }
      }
    }
    return opinions.isEmpty()
        ? null
        : new UsdProperty(name, opinions, stage.range(), Fields::together);
  }

  static boolean isBlocked(Object value) {
    return value instanceof UsdBlock;
  }
}
