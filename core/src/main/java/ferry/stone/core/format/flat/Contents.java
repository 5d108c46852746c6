package ferry.stone.core.format.flat;

import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.geometry.curve.NurbsAlone;
import ferry.stone.core.geometry.mesh.MeshClean;
import ferry.stone.core.scene.Composition;
import ferry.stone.core.scene.Copies;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.node.Light;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.InheritedTransform;
import ferry.stone.core.scene.node.LocalTransform.PivotTransform;
import ferry.stone.core.scene.node.LocalTransform.ScaleInheritance;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Purpose;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.node.Visibility;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;
import org.joml.Vector3d;

/**
 * How much of each {@link Capability} a scene holds, as far as that is told by the scene alone.
 * What depends on how it is landed is told by the forecast. O(c) for c corners at most.
 */
public final class Contents {
  private static final double SAME = 1e-9;

  private final Scene scene;

  /**
   * @param count how many
   * @param noun of what
   * @param where the first
   * @param nodeIds parts that hold it
   */
  public record Found(long count, String noun, String where, List<Integer> nodeIds) {
    static final Found NONE = new Found(0, "part", "", List.of());
  }

  public Contents(Scene scene) {
    this.scene = scene;
  }

  public Found find(Capability capability) {
    return switch (capability.group()) {
      case Capability.GEOMETRY -> geometry(capability);
      case Capability.PARTS, Capability.RIG -> hierarchy(capability);
      default -> rest(capability);
    };
  }

  private Found geometry(Capability capability) {
    return switch (capability) {
      case POLYGONS -> meshes(m -> m.faces().triangleCount() > 0 && !m.faces().allTriangles());
      case NORMALS -> meshes(Contents::hasNormals);
      case UVS -> meshes(m -> m.first(Attribute.Semantic.UV).isPresent());
      case COLOURS -> meshes(m -> m.first(Attribute.Semantic.COLOUR).isPresent());
      case FURTHER_SETS ->
          meshes(
              m ->
                  m.all(Attribute.Semantic.UV).size() > 1
                      || m.all(Attribute.Semantic.COLOUR).size() > 1);
      case PARTLY_LAYERED -> partlyLayered();
      case SHARED_VERTICES -> meshes(Contents::sharesVertices);
      case SEAMS -> meshes(VertexValues::hasSeams);
      case LINES -> meshes(m -> hasLines(m) && m.faces().faceCount() == 0);
      case LINES_BESIDE_FACES -> meshes(m -> hasLines(m) && m.faces().faceCount() > 0);
      case CURVES ->
          meshes(m -> m.loose() != null && m.loose().form() != null && !NurbsAlone.is(m));
      case NURBS_CURVES -> meshes(NurbsAlone::is);
      case POINTS -> meshes(m -> m.loose() != null && m.loose().points().length > 0);
      case EMPTY_MESHES -> meshes(m -> m.faces().triangleCount() == 0 && !shows(m.loose()));
      case UNUSED_VERTICES -> meshes(m -> MeshClean.unused(m).size() > 0);
      case NOT_NUMBERS -> meshes(Contents::hasNowhere);
      case SMOOTHING -> meshes(m -> m.smoothing() != null && !hasNormals(m));
      case SMOOTHING_BESIDE -> meshes(m -> m.smoothing() != null && hasNormals(m));
      case SHARP_EDGES -> meshes(m -> m.hardEdges() != null && !hasNormals(m));
      case SHARP_EDGES_BESIDE -> meshes(m -> m.hardEdges() != null && hasNormals(m));
      case OWN_TANGENTS -> meshes(m -> m.first(Attribute.Semantic.TANGENT).isPresent());
      case SUBDIVISION -> meshes(m -> m.subdivision() != null);
      case FACE_SETS -> faceSets();
      case EDGE_SETS -> meshes(m -> !m.edgeSets().isEmpty());
      case CUSTOM_LAYERS -> layers(LayerKinds::isPlain);
      case KEPT_SHAPES -> nodes(n -> n.content() instanceof Node.Content.KeptShape);
      case TEXT_LAYERS -> layers(LayerKinds::isText);
      case LAYER_TYPES -> layers(a -> !LayerKinds.isPlain(a) && !LayerKinds.isText(a));
      case BROKEN_LAYERS ->
          meshes(m -> m.attributes().stream().anyMatch(a -> !FittingLayers.fits(m, a)));
      default -> Found.NONE;
    };
  }

  private Found hierarchy(Capability capability) {
    return switch (capability) {
      case SEVERAL_PARTS -> several();
      case HIERARCHY -> nodes(this::isPlaced);
      case SHARED_MESHES -> shared();
      case LISTED_COPIES -> copies(Copies.listed(scene));
      case BRANCH_COPIES -> copies(Copies.branches(scene));
      case HIDDEN_PARTS -> nodes(n -> !n.visible());
      case SHOWN_PARTS -> shownBelowHidden();
      case PURPOSES -> nodes(n -> n.purpose() != Purpose.DEFAULT);
      case CUSTOM_VALUES -> nodes(n -> !n.properties().isEmpty());
      case SKINS -> skins(s -> true);
      case MORPHS -> meshes(m -> !m.morphs().isEmpty());
      case PIVOTS -> nodes(n -> pivots(n.transform()));
      case INHERITED_SCALE -> nodes(n -> inherits(n.transform()));
      case NODE_SETS -> list(scene.sets(), "set", s -> s.name());
      case DETAIL_LEVELS -> nodes(n -> n.content() instanceof Node.Content.DetailGroup);
      case DETAIL_DISTANCES ->
          nodes(
              n ->
                  n.content() instanceof Node.Content.DetailGroup g
                      && g.measure() == Node.Content.DetailGroup.Measure.DISTANCE);
      case VERTICES_WITHOUT_JOINT -> skins(Contents::leavesVertices);
      case IN_BETWEENS -> meshes(m -> m.morphs().stream().anyMatch(Contents::isBetween));
      default -> Found.NONE;
    };
  }

  private Found rest(Capability capability) {
    return switch (capability) {
      case CLIPS -> list(scene.clips(), "clip", c -> c.name());
      case CAMERAS -> list(scene.cameras(), "camera", c -> c.name());
      case CAMERA_LENSES ->
          list(
              scene.cameras().stream().filter(c -> c.lens() != null).toList(),
              "camera",
              c -> c.name());
      case OPEN_CAMERAS ->
          list(
              scene.cameras().stream()
                  .filter(c -> Double.isInfinite(c.far()) || c.aspect() <= 0)
                  .toList(),
              "camera",
              c -> c.name());
      case LIGHTS -> list(scene.lights(), "light", l -> l.name());
      case MATERIALS -> list(scene.materials(), "material", m -> m.name());
      case POINT_CACHES -> list(scene.caches(), "cache", c -> c.name());
      case TEXTS_OVER_TIME ->
          list(
              scene.clips().stream().flatMap(c -> c.words().stream()).toList(),
              "value",
              w -> w.property().substring(Clip.CUSTOM.length()));
      case CHANGING_MESHES -> list(scene.sequences(), "mesh", s -> s.name());
      case EMPTY_CLIPS ->
          list(
              scene.clips().stream().filter(c -> c.tracks().isEmpty()).toList(),
              "clip",
              c -> c.name());
      case TIME_BEFORE_ZERO ->
          list(
              scene.clips().stream().filter(c -> c.startSeconds() < 0).toList(),
              "clip",
              c -> c.name());
      case AREA_LIGHTS -> lights(scene, Light.Kind.AREA);
      case DOME_LIGHTS -> lights(scene, Light.Kind.DOME);
      case PACKED_IMAGES ->
          list(
              scene.textures().stream().filter(t -> t.packed() != null).toList(),
              "image",
              t -> t.name());
      case UNCHOSEN -> list(unchosen(), "variant", v -> v);
      case NOT_READ -> list(scene.unread(), "item", u -> u);
      case VARIANTS -> list(scene.variants(), "look", v -> v);

      default -> Found.NONE;
    };
  }

  private List<String> unchosen() {
    List<String> all = new ArrayList<>();
    for (Composition.Choice choice : scene.composition().choices()) {
      for (String name : choice.names()) {
        if (!name.equals(choice.chosen())) {
          all.add(choice.text(name));
        }
      }
    }
    return all;
  }

  private interface Name<T> {
    String of(T item);
  }

  private static <T> Found list(List<T> items, String noun, Name<T> name) {
    return items.isEmpty()
        ? Found.NONE
        : new Found(items.size(), noun, name.of(items.get(0)), List.of());
  }

  private static Found lights(Scene scene, Light.Kind kind) {
    return list(
        scene.lights().stream().filter(l -> l.kind() == kind).toList(), "light", l -> l.name());
  }

  private Found nodes(Predicate<Node> fits) {
    List<Integer> ids = new ArrayList<>();
    String first = "";
    for (Node node : scene.nodes()) {
      if (fits.test(node)) {
        first = ids.isEmpty() ? node.name() : first;
        ids.add(node.id());
      }
    }
    return ids.isEmpty() ? Found.NONE : new Found(ids.size(), "part", first, ids);
  }

  private Found shownBelowHidden() {
    boolean[] seen = scene.seen();
    List<Integer> ids = new ArrayList<>();
    String first = "";
    for (Node node : scene.nodes()) {
      boolean below = node.parent() >= 0 && !seen[node.parent()];
      if (below && node.visibility() == Visibility.SHOWN) {
        first = ids.isEmpty() ? node.name() : first;
        ids.add(node.id());
      }
    }
    return ids.isEmpty() ? Found.NONE : new Found(ids.size(), "part", first, ids);
  }

  /** Meshes that fit, and the parts that show them. */
  private Found meshes(Predicate<PolygonMesh> fits) {
    Set<Integer> meshIds = new HashSet<>();
    String first = "";
    for (PolygonMesh mesh : scene.meshes()) {
      if (fits.test(mesh)) {
        first = meshIds.isEmpty() ? mesh.name() : first;
        meshIds.add(mesh.id());
      }
    }
    if (meshIds.isEmpty()) {
      return Found.NONE;
    }
    Found shown =
        nodes(
            n ->
                n.content() instanceof Node.Content.MeshContent content
                    && meshIds.contains(content.meshId()));
    return new Found(meshIds.size(), "mesh", first, shown.nodeIds());
  }

  private static boolean sharesVertices(PolygonMesh mesh) {
    return mesh.faces().cornerCount() > 0
        && (mesh.faces().cornerCount() > mesh.points().count() || !isSoup(mesh));
  }

  /** Whether the corners are the vertices, one after another. */
  private static boolean isSoup(PolygonMesh mesh) {
    for (int c = 0; c < mesh.faces().cornerCount(); c++) {
      if (mesh.faces().vertex(c) != c) {
        return false;
      }
    }
    return true;
  }

  private boolean isPlaced(Node node) {
    return node.parent() >= 0
        || !(node.content() instanceof Node.Content.MeshContent)
        || !FlatParts.isIdentity(node.transform())
        || !FlatParts.isIdentity(node.geometric());
  }

  private Found partlyLayered() {
    List<PolygonMesh> shown =
        scene.shownMeshes().stream()
            .map(Scene.ShownMesh::mesh)
            .filter(m -> m.faces().triangleCount() > 0)
            .toList();
    for (Attribute.Semantic semantic : FlatParts.LAYERS) {
      long with = shown.stream().filter(m -> m.first(semantic).isPresent()).count();
      if (with > 0 && with < shown.size()) {
        return meshes(m -> m.faces().triangleCount() > 0 && m.first(semantic).isEmpty());
      }
    }
    return Found.NONE;
  }

  private Found several() {
    Found shown = nodes(n -> n.content() instanceof Node.Content.MeshContent);
    return shown.count() > 1 ? shown : Found.NONE;
  }

  /** Parts whose mesh an earlier part shows. */
  private Found shared() {
    Set<Integer> seen = new HashSet<>();
    return nodes(n -> n.content() instanceof Node.Content.MeshContent c && !seen.add(c.meshId()));
  }

  private static Found copies(List<CopySet> sets) {
    long count = sets.stream().mapToLong(s -> s.nodeIds().length).sum();
    List<Integer> ids =
        sets.stream().flatMapToInt(s -> Arrays.stream(s.nodeIds())).boxed().toList();
    return count == 0 ? Found.NONE : new Found(count, "copy", "", ids);
  }

  private Found skins(Predicate<Skin> fits) {
    List<Skin> found = scene.skins().stream().filter(fits).toList();
    return list(found, "skin", s -> s.name());
  }

  private Found faceSets() {
    long count = scene.meshes().stream().mapToLong(m -> m.faceSets().size()).sum();
    if (count == 0) {
      return Found.NONE;
    }
    Found holders = meshes(m -> !m.faceSets().isEmpty());
    String first =
        scene.meshes().stream()
            .flatMap(m -> m.faceSets().stream())
            .findFirst()
            .orElseThrow()
            .name();
    return new Found(count, "set", first, holders.nodeIds());
  }

  static boolean shows(LooseElements loose) {
    return loose != null && (loose.lineCount() > 0 || loose.points().length > 0);
  }

  private static boolean hasNormals(PolygonMesh mesh) {
    return mesh.first(Attribute.Semantic.NORMAL).isPresent();
  }

  private static boolean hasLines(PolygonMesh mesh) {
    return mesh.loose() != null && mesh.loose().lineCount() > 0;
  }

  /** Meshes with a custom layer of a kind. */
  private Found layers(Predicate<Attribute> kind) {
    return meshes(m -> m.all(Attribute.Semantic.OTHER).stream().anyMatch(kind));
  }

  /** Whether a vertex has no place. */
  public static boolean hasNowhere(PolygonMesh mesh) {
    return !mesh.points().isFinite();
  }

  private static boolean isBetween(MorphTarget morph) {
    return morph.shapes().size() > 1;
  }

  private static boolean leavesVertices(Skin skin) {
    for (int v = 0; v + 1 < skin.offsets().length; v++) {
      if (skin.offsets()[v] == skin.offsets()[v + 1]) {
        return true;
      }
    }
    return false;
  }

  private static PivotTransform own(LocalTransform transform) {
    return transform instanceof PivotTransform p
        ? p
        : transform instanceof InheritedTransform inherited ? inherited.own() : null;
  }

  private static boolean pivots(LocalTransform transform) {
    PivotTransform p = own(transform);
    Vector3d zero = new Vector3d();
    return p != null
        && !(p.rotationOffset().equals(zero, SAME)
            && p.rotationPivot().equals(zero, SAME)
            && p.preRotation().equals(zero, SAME)
            && p.postRotation().equals(zero, SAME)
            && p.scalingOffset().equals(zero, SAME)
            && p.scalingPivot().equals(zero, SAME)
            && p.order() == LocalTransform.EulerOrder.XYZ);
  }

  private static boolean inherits(LocalTransform transform) {
    PivotTransform p = own(transform);
    return p != null && p.inheritance() != ScaleInheritance.NORMAL;
  }
}
