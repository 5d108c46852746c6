package ferry.stone.core.format.gltf.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.flat.ArrangedParts;
import ferry.stone.core.geometry.frame.ShearSplit;
import ferry.stone.core.geometry.triangle.GeometricFold;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Track;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Brings a scene into the shape that glTF asks for, without moving anything: no geometric
 * transforms; skinned meshes at the top, where section 3.7.3.3 wants them, since their own place
 * does not count; one common root above the joints of each skin.
 */
final class GltfArrangement {
  private final Scene scene;
  private final Findings findings;
  private final Set<Integer> parents = new HashSet<>();

  private GltfArrangement(Scene scene, Findings findings) {
    this.scene = scene;
    this.findings = findings;
    scene.nodes().forEach(n -> parents.add(n.parent()));
  }

  static Scene arrange(Scene scene, Findings findings) {
    Scene whole = GeometricFold.fold(scene);
    int children = whole.nodes().size() - scene.nodes().size();
    ShearSplit split = ShearSplit.of(whole, node -> true);
    if (!split.nodeIds().isEmpty()) {
      String where = name(whole, split.nodeIds().get(0));
      findings.add(ArrangedParts.unsheared(split.nodeIds(), where));
    }
    Scene folded = split.scene();
    levels(scene, findings);
    if (children > 0) {
      findings.add(ArrangedParts.helpers(children, "what some parts show is turned inside them"));
    }
    if (folded.skins().isEmpty()) {
      return folded;
    }
    Scene lifted = new GltfArrangement(folded, findings).liftSkinned();
    return new GltfArrangement(lifted, findings).joinRoots();
  }

  /** Coarser levels stand outside the scene: only readers that know MSFT_lod find them. */
  private static void levels(Scene scene, Findings findings) {
    int beside = 0;
    int[] children = new int[scene.nodes().size()];
    for (Node node : scene.nodes()) {
      if (node.parent() >= 0) {
        boolean group =
            scene.nodes().get(node.parent()).content() instanceof Node.Content.DetailGroup;
        beside += group && children[node.parent()]++ > 0 ? 1 : 0;
      }
    }
    if (beside > 0) {
      findings.add(
          Finding.of(
                  "levels-beside",
                  Severity.LOOK,
                  "",
                  "Coarser levels stand beside the hierarchy, where MSFT_lod names them: programs"
                      + " that do not know this extension show the finest level alone.")
              .measured(ferry.stone.core.math.Figures.count(beside, "level")));
    }
  }

  private static String name(Scene scene, int nodeId) {
    return scene.nodes().stream()
        .filter(n -> n.id() == nodeId)
        .map(Node::name)
        .findFirst()
        .orElse("");
  }

  private Scene liftSkinned() {
    SceneBuilder builder = scene.toBuilder();
    List<Node> nodes = new ArrayList<>();
    Map<Integer, Integer> shownBy = new HashMap<>();
    Set<Integer> still = new HashSet<>();
    List<Node> tops = new ArrayList<>();
    int[] newPlace = new int[scene.nodes().size()];
    int moved = 0;
    for (int i = 0; i < newPlace.length; i++) {
      Node node = scene.nodes().get(i);
      Node placed = node.withParent(node.parent() < 0 ? -1 : newPlace[node.parent()]);
      boolean skinned =
          node.content() instanceof Node.Content.MeshContent content
              && scene.skin(content.skinId()).isPresent();
      boolean leaf = !parents.contains(i);
      if (skinned && leaf) {
        newPlace[i] = -1;
        tops.add(placed.withParent(-1).withTransform(LocalTransform.IDENTITY));
        still.add(node.id());
        moved += node.parent() >= 0 || node.transform() != LocalTransform.IDENTITY ? 1 : 0;
      } else if (skinned) {
        newPlace[i] = nodes.size();
        nodes.add(placed.withContent(Node.Content.GROUP));
        int id = builder.newId();
        shownBy.put(node.id(), id);
        tops.add(Node.of(id, node.name() + GeometricFold.SHAPE, -1, node.content()));
        moved++;
      } else {
        newPlace[i] = nodes.size();
        nodes.add(placed);
      }
    }
    nodes.addAll(tops);
    if (!shownBy.isEmpty()) {
      findings.add(
          ArrangedParts.helpers(
              shownBy.size(), "skinned meshes that parts hang on stand at the top"));
    }
    if (moved > 0) {
      findings.add(
          Finding.of(
                  "skinned-at-top",
                  Severity.NOTE,
                  "",
                  "glTF wants skinned meshes at the top of the hierarchy, since only their joints"
                      + " move them: they were put there. Nothing moves by it.")
              .measured(moved + (moved == 1 ? " part" : " parts")));
    }
    return builder.nodes(nodes).clips(lifted(shownBy, still)).build();
  }

  /** Weights go with the mesh; what would move a mesh that only joints move goes. */
  private List<Clip> lifted(Map<Integer, Integer> shownBy, Set<Integer> still) {
    List<Clip> clips = new ArrayList<>();
    for (Clip clip : scene.clips()) {
      List<Track> tracks = new ArrayList<>();
      for (Track track : clip.tracks()) {
        if (track.isMorph() && shownBy.containsKey(track.targetId())) {
          tracks.add(track.withTarget(shownBy.get(track.targetId())));
        } else if (!track.isTransform() || !still.contains(track.targetId())) {
          tracks.add(track);
        }
      }
      clips.add(clip.withTracks(tracks));
    }
    return clips;
  }

  /** Puts joint trees of one skin that have no common root under a new one. */
  private Scene joinRoots() {
    Map<Integer, Integer> places = scene.nodePlaces();
    int[] top = new int[scene.nodes().size()];
    for (int i = 0; i < top.length; i++) {
      int parent = scene.nodes().get(i).parent();
      top[i] = parent < 0 ? i : top[parent];
    }
    Set<Integer> apart = new HashSet<>();
    for (Skin skin : scene.skins()) {
      Set<Integer> tops = new HashSet<>();
      for (int id : skin.jointNodeIds()) {
        tops.add(top[places.get(id)]);
      }
      if (tops.size() > 1) {
        apart.addAll(tops);
      }
    }
    if (apart.isEmpty()) {
      return scene;
    }
    SceneBuilder builder = scene.toBuilder();
    List<Node> nodes = new ArrayList<>();
    nodes.add(Node.of(builder.newId(), "skeleton", -1, Node.Content.GROUP));
    for (int i = 0; i < top.length; i++) {
      Node node = scene.nodes().get(i);
      int parent = node.parent() >= 0 ? node.parent() + 1 : apart.contains(i) ? 0 : -1;
      nodes.add(node.withParent(parent));
    }
    findings.add(
        Finding.of(
            "skeleton-root-added",
            Severity.NOTE,
            "skeleton",
            "The joints of a skin had no common root, which glTF asks for: one was added."));
    return builder.nodes(nodes).build();
  }
}
