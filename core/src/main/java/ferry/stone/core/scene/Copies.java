package ferry.stone.core.scene;

import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.scene.node.Purpose;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Which copies of a scene are still copies: a step that changed one of them made it a part of its
 * own. O(n) in the nodes below them.
 */
public final class Copies {
  private final Scene scene;
  private final Map<Integer, Integer> places;
  private final Map<Integer, PolygonMesh> meshes;
  private final List<List<Integer>> children = new ArrayList<>();
  private final Set<Integer> moved = new HashSet<>();
  private final Set<Integer> still = new HashSet<>();

  /**
   * @param moving whether places may move on straight lines between keys
   */
  private Copies(Scene scene, boolean moving) {
    this.scene = scene;
    places = scene.nodePlaces();
    meshes = scene.meshesById();
    for (int i = 0; i < scene.nodes().size(); i++) {
      children.add(new ArrayList<>());
      int parent = scene.nodes().get(i).parent();
      if (parent >= 0) {
        children.get(parent).add(i);
      }
    }
    for (Clip clip : scene.clips()) {
      for (Clip.Track track : clip.tracks()) {
        moved.add(track.targetId());
        boolean straight = track.interpolation() != Clip.Interpolation.STEP;
        if (!moving || !track.isTransform() || !straight) {
          still.add(track.targetId());
        }
      }
    }
  }

  /** The sets of two and more parts that are alike, with everything below them. */
  public static List<CopySet> standing(Scene scene) {
    return standing(scene, false);
  }

  private static List<CopySet> standing(Scene scene, boolean moving) {
    if (scene.copies().isEmpty()) {
      return List.of();
    }
    Copies copies = new Copies(scene, moving);
    return scene.copies().stream().map(copies::alike).filter(set -> set != null).toList();
  }

  /** Those that are listed as places of one mesh. */
  public static List<CopySet> listed(Scene scene) {
    return standing(scene).stream().filter(s -> s.kind() == CopySet.Kind.PLACES).toList();
  }

  /** The same with those whose places move. */
  public static List<CopySet> listedAndMoving(Scene scene) {
    return standing(scene, true).stream().filter(s -> s.kind() == CopySet.Kind.PLACES).toList();
  }

  /** Those of whole branches. */
  public static List<CopySet> branches(Scene scene) {
    return standing(scene).stream().filter(s -> s.kind() == CopySet.Kind.BRANCHES).toList();
  }

  /** The name that a copy has which is only a place in a list. */
  public static String name(String holder, int copy) {
    return holder + "_" + (copy + 1);
  }

  private CopySet alike(CopySet set) {
    int[] there = Arrays.stream(set.nodeIds()).filter(places::containsKey).toArray();
    if (set.kind() == CopySet.Kind.PLACES) {
      return isList(set, there) ? set : null;
    }
    Map<List<Object>, List<Integer>> byLook = new LinkedHashMap<>();
    for (int id : there) {
      byLook.computeIfAbsent(look(places.get(id)), k -> new ArrayList<>()).add(id);
    }
    List<Integer> most = List.of();
    for (List<Integer> same : byLook.values()) {
      most = same.size() > most.size() ? same : most;
    }
    return most.size() < 2 ? null : set.of(most.stream().mapToInt(Integer::intValue).toArray());
  }

  /** Whether a node and its children are still nothing but places of one mesh. */
  private boolean isList(CopySet set, int[] there) {
    Integer holder = places.get(set.holderId());
    if (holder == null
        || there.length == 0
        || there.length != set.nodeIds().length
        || !(scene.nodes().get(holder).content() instanceof Content.Group)
        || children.get(holder).size() != there.length) {
      return false;
    }
    List<Object> look = look(places.get(there[0]));
    for (int i = 0; i < there.length; i++) {
      int place = places.get(there[i]);
      if (scene.nodes().get(place).parent() != holder
          || !isPlace(place, name(scene.nodes().get(holder).name(), i))
          || !look(place).equals(look)) {
        return false;
      }
    }
    return true;
  }

  private boolean isPlace(int place, String name) {
    Node node = scene.nodes().get(place);
    LocalTransform transform = node.transform();
    return node.content() instanceof Content.MeshContent content
        && meshes.containsKey(content.meshId())
        && meshes.get(content.meshId()).morphs().isEmpty()
        && content.skinId() < 0
        && node.name().equals(name)
        && node.visible()
        && node.purpose() == Purpose.DEFAULT
        && node.properties().isEmpty()
        && node.geometric() == LocalTransform.IDENTITY
        && (transform instanceof Trs || transform == LocalTransform.IDENTITY)
        && children.get(place).isEmpty()
        && !still.contains(node.id());
  }

  /** All that a branch shows, but for the name and place of its top. */
  private List<Object> look(int top) {
    List<Object> look = new ArrayList<>();
    Deque<Integer> open = new ArrayDeque<>();
    open.push(top);
    while (!open.isEmpty()) {
      int place = open.pop();
      Node node = scene.nodes().get(place);
      look.add(content(node.content()));
      look.add(node.geometric());
      look.add(node.visibility());
      look.add(node.purpose());
      look.add(node.properties());
      look.add(children.get(place).size());
      if (place != top) {
        look.add(node.name());
        look.add(node.transform());
        look.add(moved.contains(node.id()) ? node.id() : -1);
      }
      children.get(place).forEach(open::push);
    }
    return look;
  }

  private static List<Object> content(Content content) {
    if (content instanceof Content.MeshContent mesh) {
      return List.of(
          "mesh",
          mesh.meshId(),
          mesh.skinId(),
          Arrays.toString(mesh.slotMaterials()),
          Arrays.toString(mesh.morphWeights()));
    }
    if (content instanceof Content.KeptShape kept) {
      return List.of("kept", kept.schema(), Arrays.toString(kept.materialIds()));
    }
    if (content instanceof Content.DetailGroup group) {
      return List.of("levels", Arrays.toString(group.thresholds()), group.measure());
    }
    return List.of(content);
  }
}
