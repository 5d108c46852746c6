package ferry.stone.core.handling.step.parts;

import ferry.stone.core.field.Field;
import ferry.stone.core.geometry.mesh.MeshMerge;
import ferry.stone.core.geometry.mesh.MeshMove;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.handling.step.place.MotionCarry;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.joml.Matrix4d;

/**
 * Puts chosen meshes into the first of them, where they stand. Their materials stay as slots, every
 * part as a named set of faces; weights and morph targets go along. Parts that move against each
 * other are refused, since one mesh cannot.
 */
public final class MergeParts extends BasicStep<MergeParts.Params> {
  /** Custom value of a mesh: names of the face sets that were parts of their own. */
  public static final String OBJECTS = "mergedObjects";

  /**
   * @param name of the merged part; empty for the first one's
   */
  public record Params(String name) {
    public Params {
      name = name == null ? "" : name.strip();
    }
  }

  public MergeParts() {
    super(
        Group.PARTS,
        "merge",
        "Merge",
        "Puts meshes into one, where they stand. Materials stay on their faces; every part stays a"
            + " named set of faces, so it can be split again.",
        Params.class,
        true,
        Field.text("name", "Name", "", "Name of the merged part; the first one's when empty."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    boolean[] chosen = selection.withBelow(scene);
    List<Integer> places = new ArrayList<>();
    for (int i = 0; i < chosen.length; i++) {
      if (chosen[i] && scene.nodes().get(i).content() instanceof Node.Content.MeshContent) {
        places.add(i);
      }
    }
    if (places.size() < 2) {
      throw new IllegalArgumentException("Choose two meshes or more to merge");
    }
    if (!scene.caches().isEmpty()) {
      Set<Integer> meshes = new HashSet<>();
      places.forEach(p -> meshes.add(content(scene, p).meshId()));
      if (scene.caches().stream().anyMatch(c -> meshes.contains(c.meshId()))) {
        throw new IllegalArgumentException(
            "A chosen part is moved by a point cache; merged it would lose it. Choose others");
      }
    }
    return new Work(scene, places, params).run(progress);
  }

  private static Node.Content.MeshContent content(Scene scene, int place) {
    return (Node.Content.MeshContent) scene.nodes().get(place).content();
  }

  private static final class Work {
    private final Scene scene;
    private final List<Integer> places;
    private final Params params;
    private final Map<Integer, PolygonMesh> meshes;
    private final Matrix4d[] world;
    private final Node target;
    private final List<Matrix4d> toTarget = new ArrayList<>();

    Work(Scene scene, List<Integer> places, Params params) {
      this.scene = scene;
      this.places = places;
      this.params = params;
      meshes = scene.meshesById();
      world = scene.contentMatrices();
      target = scene.nodes().get(places.get(0));
    }

    StepResult run(Progress progress) {
      Matrix4d inverse = new Matrix4d(world[places.get(0)]).invert();
      if (!inverse.isFinite()) {
        throw new IllegalArgumentException("\"" + target.name() + "\" is scaled to nothing");
      }
      refuseApart();
      double[] weights = morphWeights();
      List<MeshMerge.Source> sources = new ArrayList<>();
      for (int place : places) {
        progress.checkCancelled();
        Node.Content.MeshContent content = content(scene, place);
        Matrix4d move =
            place == places.get(0) ? new Matrix4d() : new Matrix4d(inverse).mul(world[place]);
        toTarget.add(move);
        PolygonMesh mesh = meshes.get(content.meshId());
        sources.add(
            new MeshMerge.Source(
                move.equals(new Matrix4d(), 0) ? mesh : MeshMove.by(mesh, move),
                scene.nodes().get(place).name(),
                content.slotMaterials() == null ? mesh.materialIds() : content.slotMaterials()));
      }
      SceneBuilder builder = scene.toBuilder();
      int meshId = builder.newId();
      PolygonMesh merged = MeshMerge.of(sources, scene.variants().size());
      merged = named(merged, sources, meshId);
      Skin skin = skin(builder.newId(), meshId, sources);
      NodeTree tree = new NodeTree(scene);
      String name = params.name().isEmpty() ? target.name() : params.name();
      tree.put(
          target
              .withName(name)
              .withParent(-1)
              .withContent(
                  new Node.Content.MeshContent(
                      meshId, skin == null ? -1 : skin.id(), null, weights)));
      removeOthers(tree);
      List<PolygonMesh> all = new ArrayList<>(scene.meshes());
      all.add(merged);
      List<Skin> skins = new ArrayList<>(scene.skins());
      if (skin != null) {
        skins.add(skin);
      }
      builder.clips(morphTracks());
      Scene result = tree.into(builder.meshes(all).skins(skins)).clips(kept(tree, builder)).build();
      return StepResult.of(
          Orphans.without(result),
          Figures.count(places.size(), "part")
              + " → 1 · "
              + Figures.count(merged.materialIds().length, "slot"));
    }

    private List<Clip> kept(NodeTree tree, SceneBuilder builder) {
      // What moved parts that are gone goes with them; morph weights go to the merged part.
      Set<Integer> gone = new HashSet<>();
      for (int place : places.subList(1, places.size())) {
        int id = scene.nodes().get(place).id();
        if (tree.get(id) == null) {
          gone.add(id);
        }
      }
      List<Clip> clips = new ArrayList<>();
      for (Clip clip : morphTracks()) {
        clips.add(
            clip.withTracks(
                    clip.tracks().stream().filter(t -> !gone.contains(t.targetId())).toList())
                .withKeys(clip.keys().stream().filter(k -> !gone.contains(k.targetId())).toList()));
      }
      return clips;
    }

    private PolygonMesh named(PolygonMesh merged, List<MeshMerge.Source> sources, int id) {
      Map<String, Object> properties = new HashMap<>(merged.properties());
      Set<String> objects = new LinkedHashSet<>();
      for (MeshMerge.Source source : sources) {
        // What was merged before keeps its objects.
        if (source.mesh().properties().get(OBJECTS) instanceof List<?> list) {
          list.forEach(o -> objects.add(o.toString()));
        } else {
          objects.add(source.name());
        }
      }
      properties.put(OBJECTS, List.copyOf(objects));
      return merged.toBuilder()
          .id(id)
          .name(params.name().isEmpty() ? target.name() : params.name())
          .properties(properties)
          .build();
    }

    /** Parts that a clip moves against each other, or that joints move while others do not. */
    private void refuseApart() {
      MotionCarry motion = new MotionCarry(scene);
      boolean anySkin = places.stream().anyMatch(p -> content(scene, p).skinId() >= 0);
      List<Integer> first = movers(places.get(0), motion, anySkin);
      for (int place : places) {
        if (content(scene, place).skinId() < 0 && anySkin && jointAbove(place) < 0) {
          throw new IllegalArgumentException(
              "\""
                  + scene.nodes().get(place).name()
                  + "\" has no skin and hangs on no joint, but others have one. Hang it on a joint"
                  + " first, or leave it out");
        }
        if (anySkin && content(scene, place).skinId() < 0) {
          refuseMovingUnderJoint(place, motion);
        }
        if (!movers(place, motion, anySkin).equals(first)) {
          throw new IllegalArgumentException(
              "\""
                  + scene.nodes().get(place).name()
                  + "\" moves apart from \""
                  + target.name()
                  + "\" in a clip; one mesh cannot. Leave it out");
        }
      }
    }

    private void refuseMovingUnderJoint(int place, MotionCarry motion) {
      int joint = jointAbove(place);
      for (int at = place; at != joint; at = scene.nodes().get(at).parent()) {
        if (motion.moves(scene.nodes().get(at).id())) {
          throw new IllegalArgumentException(
              "\""
                  + scene.nodes().get(at).name()
                  + "\" moves in a clip beside its joint; in one skin it cannot. Leave it out");
        }
      }
    }

    private List<Integer> movers(int place, MotionCarry motion, boolean skinned) {
      List<Integer> movers = new ArrayList<>();
      for (int at = place; at >= 0 && !skinned; at = scene.nodes().get(at).parent()) {
        if (motion.moves(scene.nodes().get(at).id())) {
          movers.add(scene.nodes().get(at).id());
        }
      }
      return movers;
    }

    private int jointAbove(int place) {
      for (int at = scene.nodes().get(place).parent();
          at >= 0;
          at = scene.nodes().get(at).parent()) {
        if (scene.nodes().get(at).content() instanceof Node.Content.Joint) {
          return at;
        }
      }
      return -1;
    }

    /** One skin over all joints; a part without a skin follows the joint above it. */
    private Skin skin(int id, int meshId, List<MeshMerge.Source> sources) {
      if (places.stream().allMatch(p -> content(scene, p).skinId() < 0)) {
        return null;
      }
      Matrix4d[] nodes = scene.worldMatrices();
      Map<Integer, Integer> nodePlaces = scene.nodePlaces();
      SkinMerge merge = new SkinMerge(scene);
      for (int s = 0; s < sources.size(); s++) {
        int place = places.get(s);
        int count = sources.get(s).mesh().points().count();
        Matrix4d back = new Matrix4d(toTarget.get(s)).invert();
        Skin own = scene.skin(content(scene, place).skinId()).orElse(null);
        if (own != null) {
          merge.add(own, back);
        } else {
          int joint = jointAbove(place);
          Matrix4d bind = new Matrix4d(nodes[joint]).invert().mul(world[place]).mul(back);
          merge.addRigid(scene.nodes().get(joint).id(), bind, count, nodePlaces);
        }
      }
      return merge.build(id, meshId, target.name());
    }

    /** Children of the merged parts hang on the part's parent; empty groups above them stay. */
    private void removeOthers(NodeTree tree) {
      Set<Integer> gone = new HashSet<>();
      for (int place : places.subList(1, places.size())) {
        Node node = scene.nodes().get(place);
        if (tree.children(node.id()).isEmpty()) {
          gone.add(node.id());
        } else {
          tree.put(tree.get(node.id()).withContent(Node.Content.GROUP));
        }
      }
      tree.remove(gone);
    }

    private List<String> keys(int place) {
      return MorphTarget.keys(meshes.get(content(scene, place).meshId()).morphs());
    }

    /**
     * Rest weights of the merged mesh's targets, in the order in which {@link MeshMerge} has them.
     */
    private double[] morphWeights() {
      Map<String, Double> weights = new LinkedHashMap<>();
      for (int place : places) {
        Node.Content.MeshContent content = content(scene, place);
        List<MorphTarget> morphs = meshes.get(content.meshId()).morphs();
        List<String> keys = keys(place);
        for (int m = 0; m < keys.size(); m++) {
          double[] own = content.morphWeights();
          double weight = own != null && m < own.length ? own[m] : morphs.get(m).weight();
          Double before = weights.putIfAbsent(keys.get(m), weight);
          if (before != null && before != weight) {
            throw differs(keys.get(m), "at rest");
          }
        }
      }
      return weights.isEmpty()
          ? null
          : weights.values().stream().mapToDouble(Double::doubleValue).toArray();
    }

    private static IllegalArgumentException differs(String morph, String when) {
      return new IllegalArgumentException(
          "The morph target \""
              + morph
              + "\" has different weights on the chosen parts "
              + when
              + "; one mesh has one weight. Rename it on one of them first");
    }

    /** The tracks of morph weights, each once, on the merged part. */
    private List<Clip> morphTracks() {
      Map<Integer, Integer> placeOf = new HashMap<>();
      places.forEach(p -> placeOf.put(scene.nodes().get(p).id(), p));
      List<Clip> clips = new ArrayList<>();
      for (Clip clip : scene.clips()) {
        Map<String, Clip.Track> morphs = new LinkedHashMap<>();
        List<Clip.Track> tracks = new ArrayList<>();
        for (Clip.Track t : clip.tracks()) {
          if (t.isMorph() && placeOf.containsKey(t.targetId())) {
            morphs.putIfAbsent(t.property(), t.withTarget(target.id()));
          } else {
            tracks.add(t);
          }
        }
        for (int place : places) {
          for (String key : keys(place)) {
            Clip.Track merged = morphs.get(Clip.MORPH + key);
            if (merged != null && !sameMotion(merged, track(clip, place, key))) {
              throw differs(key, "in \"" + clip.name() + "\"");
            }
          }
        }
        tracks.addAll(morphs.values());
        List<Clip.Keys> keys =
            clip.keys().stream()
                .filter(
                    k ->
                        k.targetId() == target.id()
                            || !placeOf.containsKey(k.targetId())
                            || !k.property().startsWith(Clip.MORPH))
                .toList();
        clips.add(clip.withTracks(tracks).withKeys(keys));
      }
      return clips;
    }

    private Clip.Track track(Clip clip, int place, String key) {
      int id = scene.nodes().get(place).id();
      return clip.tracks().stream()
          .filter(t -> t.targetId() == id && t.property().equals(Clip.MORPH + key))
          .findFirst()
          .orElse(null);
    }

    private static boolean sameMotion(Clip.Track a, Clip.Track b) {
      return b != null
          && a.interpolation() == b.interpolation()
          && Arrays.equals(a.timesSeconds(), b.timesSeconds())
          && Arrays.equals(a.values(), b.values())
          && Arrays.equals(a.inSlopes(), b.inSlopes())
          && Arrays.equals(a.outSlopes(), b.outSlopes());
    }
  }
}
