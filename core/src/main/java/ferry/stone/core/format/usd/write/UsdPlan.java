package ferry.stone.core.format.usd.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.abc.write.MaterialSets;
import ferry.stone.core.format.flat.ArrangedParts;
import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.write.look.Preview;
import ferry.stone.core.format.usd.write.rig.Rig;
import ferry.stone.core.format.usd.write.rig.SkelRoots;
import ferry.stone.core.geometry.triangle.GeometricFold;
import ferry.stone.core.motion.ClipPoses;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Subdivision;
import ferry.stone.core.scene.mesh.Table;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.MatrixTransform;
import ferry.stone.core.scene.node.LocalTransform.PivotTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.scene.node.Visibility;
import ferry.stone.core.scene.time.ChangedSequence;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.SampledPlaces;
import ferry.stone.core.texture.ColourSpace;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.joml.Matrix4d;
import org.joml.Matrix4dc;

/**
 * What a stage holds of a scene: one clip on one time line, materials as preview surfaces, joints
 * in skeletons of their own with what hung on them beside. Forecast, writer and proof ask it alike.
 */
public final class UsdPlan {
  private static final double SAME = 1e-9;

  private final Scene scene;
  private final UsdOptions options;
  private final Clip clip;
  private final Rig rig;
  private final Instanced instanced;
  private final Findings said = new Findings();
  private final HeldMotion motion;
  private Scene held;

  public UsdPlan(Scene scene, UsdOptions options) {
    Scene folded = withoutShapesAbove(GeometricFold.fold(scene));
    this.options = options;
    long tops = folded.nodes().stream().filter(n -> n.parent() < 0).count();
    boolean joined = (options.oneRoot() || keepsVariants(scene, options)) && tops > 1;
    this.scene = joined || SkelRoots.needed(folded) ? withRoot(folded) : folded;
    clip =
        this.scene.clips().stream()
            .filter(c -> options.clip().isBlank() || c.name().equals(options.clip()))
            .findFirst()
            .orElse(null);
    rig = new Rig(this.scene);
    instanced = new Instanced(options.copies() ? this.scene : alone(this.scene), rig);
    motion = new HeldMotion(this.scene, clip, rate());
  }

  /** A kept shape in other numbers than its part has would take along what stands below it. */
  private Scene withoutShapesAbove(Scene scene) {
    Set<Integer> parents = new HashSet<>();
    for (Node node : scene.nodes()) {
      if (!UsdNames.isSubset(node)) {
        parents.add(node.parent());
      }
    }
    List<Node> nodes = new ArrayList<>();
    for (int i = 0; i < scene.nodes().size(); i++) {
      Node node = scene.nodes().get(i);
      boolean above =
          parents.contains(i)
              && node.content() instanceof Content.KeptShape shape
              && UsdNames.hasNumbers(shape.schema())
              && !node.geometric().toMatrix().equals(new Matrix4d(), 0);
      if (above) {
        said.add(
            Finding.of(
                "shape-not-kept",
                Severity.FIX,
                node.name(),
                "A shape that is kept in the numbers of its source cannot have parts below it in"
                    + " another unit: it lands as a group. Move the parts out of it first."));
      }
      nodes.add(
          above ? node.withContent(Content.GROUP).withGeometric(LocalTransform.IDENTITY) : node);
    }
    return scene.toBuilder().nodes(nodes).build();
  }

  /** Whether variants are written, which are those of one prim at the top. */
  static boolean keepsVariants(Scene scene, UsdOptions options) {
    return options.variants() && !scene.composition().choices().isEmpty();
  }

  /** Without copies: each is a part of its own. */
  private static Scene alone(Scene scene) {
    return scene.toBuilder().copies(List.of()).build();
  }

  /** Whether what several parts show stands once. */
  boolean keepsCopies() {
    return options.copies();
  }

  /** Everything that a skeleton moves stands below one part: the format wants it so. */
  private Scene withRoot(Scene scene) {
    said.add(ArrangedParts.root());
    SceneBuilder builder = scene.toBuilder();
    List<Node> nodes = new ArrayList<>();
    nodes.add(
        Node.of(
            builder.newId(), scene.name().isEmpty() ? "root" : scene.name(), -1, Content.GROUP));
    for (Node node : scene.nodes()) {
      nodes.add(node.withParent(node.parent() + 1));
    }
    return builder.nodes(nodes).build();
  }

  /** Time codes a second. */
  double rate() {
    return options.rate() > 0
        ? options.rate()
        : scene.framesPerSecond() > 0 ? scene.framesPerSecond() : UsdOptions.USUAL_RATE;
  }

  /**
   * The scene as the file holds it.
   *
   * @param stem name of the file, which its clip gets
   */
  public Scene held(String stem) {
    if (held != null) {
      return held;
    }
    said.addAll(
        NotWritten.of(
            scene,
            clip,
            options.layers() == UsdOptions.Layers.CLIPS,
            options.container() == UsdOptions.Container.PACKAGE));
    said.addAll(Preview.said(scene));
    if (instanced.hasOthers()) {
      said.add(
          Finding.of(
              "copies-as-parts",
              Severity.LOOK,
              "",
              "Copies inside of copies, and those that joints or shapes move, are written as parts of"
                  + " their own, which show the same meshes."));
    }
    if (instanced.listsMore()) {
      said.add(
          Finding.of(
              "copies-in-instancer",
              Severity.LOOK,
              "",
              "Point instancers list their places: other programs show them all, as one part each."));
    }
    List<Node> nodes = nodes();
    if (clip != null) {
      motion.others();
    }
    SceneBuilder builder =
        scene.toBuilder()
            .nodes(nodes)
            .meshes(scene.meshes().stream().map(this::lean).toList())
            .materials(Preview.held(scene))
            .cameras(
                scene.cameras().stream()
                    .map(c -> HeldCamera.of(c, scene.frame().metresPerUnit(), said))
                    .toList())
            .sets(List.of())
            .copies(instanced.sets())
            .secondMotions(List.of())
            .sequences(
                scene.sequences().stream()
                    .<MeshSequence>map(s -> new ChangedSequence(s, s.id(), s.meshId(), this::lean))
                    .toList())
            .linearColours(true)
            .uvOrigin(UvOrigin.BOTTOM_LEFT)
            .framesPerSecond(rate());
    builder.clips(clips(stem));
    held = builder.build();
    return held;
  }

  /** The clip that is written, under the name of the file; none where it moves nothing. */
  private List<Clip> clips(String stem) {
    if (clip == null) {
      return List.of();
    }
    if (motion.moved().isEmpty() && clip.words().isEmpty()) {
      said.add(
          Finding.of(
              "clip-not-written",
              Severity.NOTE,
              clip.name(),
              "The clip moves nothing that the format knows: it is not there."));
      return List.of();
    }
    return List.of(
        new Clip(
            clip.id(),
            stem,
            clip.startSeconds(),
            clip.endSeconds(),
            motion.moved(),
            List.of(),
            clip.words()));
  }

  /** The clips that are not on the stage's time line. */
  List<Clip> otherClips() {
    return scene.clips().stream().filter(c -> c != clip).toList();
  }

  /** Which branches are instances. */
  Instanced instanced() {
    return instanced;
  }

  /** Which joints make which skeleton, by places in the scene that is held. */
  Rig rig() {
    return rig;
  }

  /** Whether a track has a place in the format. */
  public static boolean carries(Clip.Track track) {
    return HeldMotion.carries(track);
  }

  /** Places of the groups that hold skeletons and what these move. */
  Set<Integer> skelRoots() {
    return SkelRoots.of(scene, rig);
  }

  /** What is changed, apart from what the table of the format says; after {@link #held}. */
  public List<Finding> said() {
    return said.list();
  }

  private List<Node> nodes() {
    List<Node> nodes = new ArrayList<>();
    boolean[] seen = Shown.of(scene);
    Set<Integer> skinned = new HashSet<>();
    List<Integer> riders = new ArrayList<>();
    for (int i = 0; i < scene.nodes().size(); i++) {
      Node node =
          scene.nodes().get(i).withVisibility(seen[i] ? Visibility.INHERITED : Visibility.HIDDEN);
      boolean hasSkin =
          node.content() instanceof Content.MeshContent content && content.skinId() >= 0;
      boolean rides = node.parent() >= 0 && rig.isJoint(node.parent()) && !rig.isJoint(i);
      if (rides) {
        int holder = rig.holder(rig.skeleton(node.parent()));
        node = hasSkin ? rider(node, holder) : rider(node, i, holder);
        riders.add(node.id());
      } else {
        node = node.withTransform(plain(node.transform()));
        motion.node(node);
      }
      node = rig.isJoint(i) ? joint(node) : motion.withMovingValues(node);
      if (hasSkin) {
        skinned.add(i);
      }
      nodes.add(node);
    }
    helpers(riders.size());
    return nodes;
  }

  /** Parts that the format needs besides those of the scene, or at another place. */
  private void helpers(int riders) {
    boolean[] parents = new boolean[scene.nodes().size()];
    for (int i = 0; i < parents.length; i++) {
      int parent = scene.nodes().get(i).parent();
      if (parent >= 0 && !rig.isJoint(i) && !UsdNames.isSubset(scene.nodes().get(i))) {
        parents[parent] = true;
      }
    }
    int shapes = 0;
    for (int i = 0; i < parents.length; i++) {
      boolean mesh = scene.nodes().get(i).content() instanceof Content.MeshContent;
      shapes += mesh && parents[i] && !rig.isJoint(i) ? 1 : 0;
    }
    int skeletons = rig.skeletons().size();
    if (riders + shapes + skeletons > 0) {
      int all = riders + shapes + skeletons;
      said.add(
          riders > 0
              ? ArrangedParts.added(
                  all, "joints stand in a skeleton, and parts below joints beside it")
              : skeletons > 0
                  ? ArrangedParts.added(
                      all, "joints stand in a skeleton, which is a part of its own")
                  : ArrangedParts.helpers(all, "a shape of the format holds no parts"));
    }
  }

  /** A joint is a place and nothing else. */
  private Node joint(Node node) {
    boolean more =
        !node.properties().isEmpty()
            || !(node.content() instanceof Content.Joint)
                && !(node.content() instanceof Content.Group);
    if (more) {
      said.add(
          Finding.of(
              "joint-values-not-written",
              Severity.LOOK,
              node.name(),
              "A joint is a place there and nothing else: its custom values and what it shows do"
                  + " not land."));
    }
    LocalTransform transform = node.transform();
    LocalTransform place = isMoved(node) ? Trs.nearest(transform.toMatrix()) : plain(transform);
    return node.withContent(new Content.Joint(0))
        .withProperties(Map.of())
        .withVisibility(Visibility.INHERITED)
        .withTransform(place instanceof PivotTransform ? Trs.nearest(transform.toMatrix()) : place);
  }

  private boolean isMoved(Node node) {
    return clip != null
        && clip.tracks().stream().anyMatch(t -> t.targetId() == node.id() && t.isTransform());
  }

  /** A skinned mesh, whose own place does not count. */
  private static Node rider(Node node, int holder) {
    return node.withParent(holder).withTransform(LocalTransform.IDENTITY);
  }

  /** What hung on a joint, with the motion of that joint. */
  private Node rider(Node node, int place, int holder) {
    Pose rest = Pose.rest(scene);
    Matrix4d still = local(rest, place, holder);
    Trs trs = Trs.nearest(still);
    Node result = node.withParent(holder);
    if (clip == null) {
      boolean near = trs.toMatrix().equals(still, SAME);
      return result.withTransform(near ? trs : new MatrixTransform(still));
    }
    double[] times = motion.frames();
    ClipPoses poses = ClipPoses.of(scene, clip);
    SampledPlaces sampled = new SampledPlaces(times);
    for (double time : times) {
      sampled.add(local(poses.at(time), place, holder));
    }
    motion.moved().addAll(sampled.tracks(node.id(), trs));
    for (Clip.Track track : clip.tracks()) {
      if (track.targetId() == node.id() && !track.isTransform()) {
        motion.take(track);
      }
    }
    return result.withTransform(trs);
  }

  private static Matrix4d local(Pose pose, int place, int holder) {
    Matrix4dc above = holder < 0 ? new Matrix4d() : pose.world()[holder];
    return new Matrix4d(above).invert().mul(pose.world()[place]);
  }

  /** A transform as the format says it. */
  private static LocalTransform plain(LocalTransform transform) {
    boolean said =
        transform instanceof Trs
            || transform instanceof MatrixTransform
            || transform instanceof PivotTransform pivot && XformOut.isSaid(pivot);
    if (said) {
      return transform;
    }
    Matrix4d matrix = transform.toMatrix();
    Trs trs = Trs.nearest(matrix);
    return trs.toMatrix().equals(matrix, SAME) ? trs : new MatrixTransform(matrix);
  }

  private PolygonMesh lean(PolygonMesh mesh) {
    PolygonMesh dressed = MaterialSets.isSingle(mesh) ? mesh : MaterialSets.added(scene, mesh);
    Subdivision how = dressed.subdivision();
    List<Attribute> layers = new ArrayList<>();
    dressed.attributes().forEach(layer -> layers.add(layer.withTable(table(layer))));
    return dressed.toBuilder()
        .smoothing(null)
        .hardEdges(null)
        .attributes(layers)
        .properties(Map.of())
        .subdivision(
            how == null
                ? null
                : new Subdivision(
                    how.scheme(),
                    0,
                    how.creaseEdges(),
                    how.creaseSharpness(),
                    how.creaseVertices(),
                    how.vertexSharpness(),
                    how.holes()))
        .build();
  }

  /** The numbers as the format means them: V from below, colours linear. */
  private Table table(Attribute layer) {
    boolean flip = layer.semantic() == Semantic.UV && scene.uvOrigin() == UvOrigin.TOP_LEFT;
    boolean linear = layer.semantic() == Semantic.COLOUR && !scene.linearColours();
    if (!flip && !linear) {
      return layer.table();
    }
    int width = layer.components();
    float[] numbers = layer.values().clone();
    for (int i = 0; i < numbers.length; i++) {
      if (flip && i % width == 1) {
        numbers[i] = 1 - numbers[i];
      } else if (linear && i % width < 3) {
        numbers[i] = (float) ColourSpace.toLinear(numbers[i]);
      }
    }
    boolean half = layer.table() instanceof Table.Floats floats && floats.half();
    return new Table.Floats(numbers, width, half && !linear);
  }
}
