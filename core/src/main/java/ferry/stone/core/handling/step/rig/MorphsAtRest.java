package ferry.stone.core.handling.step.rig;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.handling.step.surface.ChosenMeshes;
import ferry.stone.core.math.Figures;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Takes morph targets out of effect at rest: to zero, or with their shape in the base. */
public final class MorphsAtRest extends BasicStep<MorphsAtRest.Params> {
  private static final Field HOW_CHOICE =
      Field.choice(
          "how",
          "How",
          "What becomes of the shape that shows now.",
          "zero",
          "off: the base shape shows",
          "bake",
          "into the base: what shows stays");

  /**
   * @param how {@code zero} (the base shape shows) or {@code bake} (what shows stays)
   * @param named pattern of the targets' names; empty for all
   */
  public record Params(String how, String named) {
    public Params {
      how = HOW_CHOICE.chosen(how);
      named = named == null ? "" : named.strip();
    }

    boolean fits(String name) {
      return named.isEmpty() || Selection.names(named).matcher(name).matches();
    }
  }

  public MorphsAtRest() {
    super(
        Group.SURFACE,
        "morphRest",
        "Morph targets at rest",
        "Takes morph targets out of effect at rest, or puts their shape into the base. Clips go on"
            + " as before.",
        Params.class,
        true,
        HOW_CHOICE,
        Field.text("named", "Named", "", "Names of the targets, like smile*; empty for all."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Map<Integer, double[]> taken = new HashMap<>();
    ChosenMeshes chosen = ChosenMeshes.of(scene, selection);
    Map<Integer, PolygonMesh> meshes = new HashMap<>();
    chosen.meshesIn(scene).forEach(m -> meshes.put(m.id(), m));
    List<Node> nodes = new ArrayList<>();
    int changed = 0;
    for (Node node : scene.nodes()) {
      PolygonMesh mesh =
          node.content() instanceof Node.Content.MeshContent content
              ? meshes.get(content.meshId())
              : null;
      if (mesh == null || mesh.morphs().isEmpty()) {
        nodes.add(node);
        continue;
      }
      double[] off = inEffect(node, mesh, params);
      double[] before = taken.putIfAbsent(mesh.id(), off);
      if (params.how().equals("bake") && before != null && !Arrays.equals(before, off)) {
        throw new IllegalArgumentException(
            "\""
                + mesh.name()
                + "\" is shown by several parts with other weights. Make copies of it first");
      }
      for (double w : off) {
        changed += w != 0 ? 1 : 0;
      }
      nodes.add(without(node, off));
    }
    List<PolygonMesh> now = new ArrayList<>();
    for (PolygonMesh mesh : scene.meshes()) {
      progress.checkCancelled();
      double[] off = taken.get(mesh.id());
      now.add(off == null ? mesh : changed(mesh, off, params));
    }
    Scene result = scene.toBuilder().meshes(now).nodes(nodes).build();
    return StepResult.of(
        params.how().equals("bake") ? baked(result, scene, taken) : result,
        Figures.count(changed, "target"));
  }

  /** Weights at rest of the targets that are meant, 0 for the others. */
  private static double[] inEffect(Node node, PolygonMesh mesh, Params params) {
    double[] own = ((Node.Content.MeshContent) node.content()).morphWeights();
    double[] weights = new double[mesh.morphs().size()];
    for (int m = 0; m < weights.length; m++) {
      MorphTarget morph = mesh.morphs().get(m);
      double weight = own != null && m < own.length ? own[m] : morph.weight();
      weights[m] = params.fits(morph.name()) ? weight : 0;
    }
    return weights;
  }

  private static Node without(Node node, double[] off) {
    Node.Content.MeshContent content = (Node.Content.MeshContent) node.content();
    if (content.morphWeights() == null) {
      return node;
    }
    double[] weights = content.morphWeights().clone();
    for (int m = 0; m < weights.length; m++) {
      weights[m] = m < off.length && off[m] != 0 ? 0 : weights[m];
    }
    return node.withContent(content.withMorphWeights(weights));
  }

  private static PolygonMesh changed(PolygonMesh mesh, double[] off, Params params) {
    List<MorphTarget> morphs = new ArrayList<>();
    for (MorphTarget morph : mesh.morphs()) {
      boolean meant = params.fits(morph.name()) && morph.weight() != 0;
      morphs.add(meant ? new MorphTarget(morph.name(), 0, morph.shapes()) : morph);
    }
    PolygonMesh still = mesh.toBuilder().morphs(morphs).build();
    boolean any = Arrays.stream(off).anyMatch(w -> w != 0);
    if (!any || params.how().equals("zero")) {
      return still;
    }
    double[] points = Deform.morphed(mesh, off);
    return still.withPoints(
        mesh.points().isDouble() ? Coordinates.of(points) : Coordinates.of(floats(points)));
  }

  private static float[] floats(double[] values) {
    float[] result = new float[values.length];
    for (int i = 0; i < result.length; i++) {
      result[i] = (float) values[i];
    }
    return result;
  }

  /** Weights that clips move count from what is in the base now. */
  private static Scene baked(Scene result, Scene before, Map<Integer, double[]> taken) {
    Map<Integer, PolygonMesh> ofNode = new HashMap<>();
    Map<Integer, PolygonMesh> meshes = before.meshesById();
    for (Node node : before.nodes()) {
      if (node.content() instanceof Node.Content.MeshContent content
          && taken.containsKey(content.meshId())) {
        ofNode.put(node.id(), meshes.get(content.meshId()));
      }
    }
    List<Clip> clips = new ArrayList<>();
    for (Clip clip : result.clips()) {
      List<Clip.Track> tracks = new ArrayList<>();
      List<Clip.Keys> keys = new ArrayList<>(clip.keys());
      for (Clip.Track track : clip.tracks()) {
        PolygonMesh mesh = track.isMorph() ? ofNode.get(track.targetId()) : null;
        double off = mesh == null ? 0 : weightOf(track, mesh, taken.get(mesh.id()));
        tracks.add(off == 0 ? track : lowered(track, off));
        if (off != 0) {
          keys.removeIf(
              k -> k.targetId() == track.targetId() && k.property().equals(track.property()));
        }
      }
      clips.add(clip.withTracks(tracks).withKeys(keys));
    }
    return result.toBuilder().clips(clips).build();
  }

  private static double weightOf(Clip.Track track, PolygonMesh mesh, double[] off) {
    String key = track.property().substring(Clip.MORPH.length());
    int target = MorphTarget.keys(mesh.morphs()).indexOf(key);
    if (target < 0 || off[target] == 0) {
      return 0;
    }
    if (mesh.morphs().get(target).shapes().size() > 1) {
      throw new IllegalArgumentException(
          "A clip moves \""
              + key
              + "\", which has in-betweens: its shape cannot go into the base. Set it to 0");
    }
    return off[target];
  }

  private static Clip.Track lowered(Clip.Track track, double off) {
    return track.withValues(
        Arrays.stream(track.values()).map(v -> v - off).toArray(),
        track.inSlopes(),
        track.outSlopes());
  }
}
