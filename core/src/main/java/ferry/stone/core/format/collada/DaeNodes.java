package ferry.stone.core.format.collada;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.IdentityHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.joml.Matrix4d;

/**
 * The hierarchy of the scene that the file names. What stands in a library of nodes is copied to
 * each place that names it.
 */
final class DaeNodes {
  private static final int NODE_BYTES = 400;
  private static final int DEEPEST = 100_000;

  private final DaeDocument document;
  private final DaeFrames frames;
  private final DaeShapes shapes;
  private final SceneBuilder scene;
  private final Budget budget;
  private final List<Node> nodes = new ArrayList<>();
  private final Set<DaeElement> instanced = new LinkedHashSet<>();
  private final Map<DaeElement, List<Made>> made = new IdentityHashMap<>();

  /**
   * A node made of an element.
   *
   * @param toFile what brings its numbers to those of the file, or {@code null}
   */
  record Made(int nodeId, DaeTransform transform, Matrix4d toFile) {}

  /** An element to be made into a node, and the chain of elements above it. */
  private record Open(DaeElement element, int parent, Above above) {}

  private record Above(DaeElement element, Above above, int depth) {
    boolean has(DaeElement other) {
      for (Above a = this; a != null; a = a.above()) {
        if (a.element() == other) {
          return true;
        }
      }
      return false;
    }
  }

  DaeNodes(
      DaeDocument document, DaeFrames frames, DaeShapes shapes, SceneBuilder scene, Budget budget) {
    this.document = document;
    this.frames = frames;
    this.shapes = shapes;
    this.scene = scene;
    this.budget = budget;
  }

  /** Makes all nodes below a visual scene, parents before children. */
  void read(DaeElement visualScene) throws FormatException {
    Deque<Open> open = new ArrayDeque<>();
    push(open, visualScene, -1, null);
    while (!open.isEmpty()) {
      Open next = open.pop();
      budget.claim(NODE_BYTES, next.element().place(), "The hierarchy");
      int place = node(next);
      Above above =
          new Above(
              next.element(), next.above(), next.above() == null ? 1 : next.above().depth() + 1);
      push(open, next.element(), place, above);
    }
  }

  private void push(Deque<Open> open, DaeElement holder, int parent, Above above) {
    List<Open> below = new ArrayList<>();
    for (DaeElement child : holder.children) {
      DaeElement element =
          switch (child.name) {
            case "node" -> child;
            case "instance_node" -> instanced(child);
            default -> null;
          };
      if (element == null) {
        continue;
      }
      if (above != null && (above.depth() > DEEPEST || above.has(element))) {
        document.say("node-inside-itself", child, "The node stands inside itself: left out.");
        continue;
      }
      below.add(new Open(element, parent, above));
    }
    for (int i = below.size() - 1; i >= 0; i--) {
      open.push(below.get(i));
    }
  }

  private DaeElement instanced(DaeElement instance) {
    DaeElement named = document.named(instance, "url", "node");
    if (named != null) {
      instanced.add(named);
    }
    return named;
  }

  /** Branches that the file holds once and shows several times. */
  List<CopySet> copies() {
    List<CopySet> sets = new ArrayList<>();
    for (DaeElement element : instanced) {
      int[] ids = of(element).stream().mapToInt(Made::nodeId).toArray();
      if (ids.length > 1) {
        sets.add(new CopySet(CopySet.Kind.BRANCHES, -1, ids));
      }
    }
    return sets;
  }

  private int node(Open open) throws FormatException {
    DaeElement element = open.element();
    DaeTransform transform = DaeTransform.of(document, element);
    Matrix4d toFile = frames.toFile(element);
    LocalTransform local = transform.local();
    if (toFile != null) {
      local = DaeTransform.plain(conjugated(transform.matrix(), toFile));
    }
    int id = scene.newId();
    int place = nodes.size();
    Node node =
        Node.of(id, element.label("node"), open.parent(), Node.Content.GROUP).withTransform(local);
    made.computeIfAbsent(element, k -> new ArrayList<>()).add(new Made(id, transform, toFile));
    List<DaeShapes.Shown> shown = shapes.shown(element);
    boolean joint = element.attribute("type").equals("JOINT");
    if (shown.size() == 1 && !joint) {
      nodes.add(node.withContent(shown.get(0).content()));
      shapes.placed(shown.get(0), id);
      return place;
    }
    nodes.add(joint ? node.withContent(new Node.Content.Joint(0)) : node);
    for (DaeShapes.Shown each : shown) {
      int own = scene.newId();
      nodes.add(Node.of(own, each.name(), place, each.content()));
      shapes.placed(each, own);
    }
    return place;
  }

  /** A matrix of one frame's numbers in another's. */
  static Matrix4d conjugated(Matrix4d matrix, Matrix4d toFile) {
    return new Matrix4d(toFile).mul(matrix).mul(new Matrix4d(toFile).invert());
  }

  /** All nodes, for skins to be put onto and to be added. */
  List<Node> nodes() {
    return nodes;
  }

  /** The nodes that were made of an element. */
  List<Made> of(DaeElement element) {
    return made.getOrDefault(element, List.of());
  }

  /** The first node whose element has a sid, else an id, below some roots; {@code null}: none. */
  DaeElement joint(String name, List<DaeElement> roots) {
    DaeElement byId = null;
    Deque<DaeElement> open = new ArrayDeque<>(roots);
    while (!open.isEmpty()) {
      DaeElement element = open.poll();
      if (element.name.equals("node")) {
        if (element.attribute("sid").equals(name) && made.containsKey(element)) {
          return element;
        }
        boolean same =
            element.attribute("id").equals(name) || element.attribute("name").equals(name);
        byId = byId == null && same && made.containsKey(element) ? element : byId;
      }
      for (DaeElement child : element.children) {
        if (child.name.equals("node")) {
          open.add(child);
        } else if (child.name.equals("instance_node")) {
          DaeElement named = document.byId(child.attribute("url").replaceFirst("^#", ""));
          // What stands inside itself was not made, so this ends.
          if (named != null && made.containsKey(named) && !roots.contains(named)) {
            open.addAll(named.all("node"));
          }
        }
      }
    }
    return byId;
  }
}
