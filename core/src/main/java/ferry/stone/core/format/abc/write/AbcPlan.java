package ferry.stone.core.format.abc.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.geometry.mesh.MeshMove;
import ferry.stone.core.geometry.mesh.TurnedNormals;
import ferry.stone.core.geometry.triangle.GeometricFold;
import ferry.stone.core.math.Figures;
import ferry.stone.core.motion.BakedCache;
import ferry.stone.core.motion.ClipPoses;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Subdivision;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.scene.time.ChangedSequence;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.scene.time.RenamedCache;
import ferry.stone.core.scene.time.ResampledCache;
import ferry.stone.core.scene.time.RetimedCache;
import ferry.stone.core.scene.time.RetimedSequence;
import ferry.stone.core.scene.time.Samples;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.joml.Matrix4d;

/**
 * What an archive holds of a scene: motion as samples, what joints and targets do as points over
 * time, one clip. Forecast, writer and proof ask it alike.
 */
public final class AbcPlan {
  private final Scene scene;
  private final AbcOptions options;
  private final AbcTimes times;
  private final Clip clip;
  private final AbcMotion motion;
  private final Map<Integer, PolygonMesh> byId;
  private final Map<Integer, PointCache> cacheOf = new HashMap<>();
  private final Map<Integer, MeshSequence> sequenceOf = new HashMap<>();
  private final Pose rest;
  private final boolean[] moves;
  private SceneBuilder held;
  private final List<PointCache> caches = new ArrayList<>();
  private final List<MeshSequence> sequences = new ArrayList<>();
  private final List<PolygonMesh> meshes = new ArrayList<>();
  private final Set<Integer> taken = new HashSet<>();
  private final AbcNames names = new AbcNames();

  public AbcPlan(Scene scene, AbcOptions options) {
    this.scene = GeometricFold.fold(scene);
    this.options = options;
    times = new AbcTimes(scene, options);
    clip =
        this.scene.clips().stream()
            .filter(c -> options.clip().isBlank() || c.name().equals(options.clip()))
            .findFirst()
            .orElse(null);
    motion = new AbcMotion(this.scene, times, clip);
    byId = this.scene.meshesById();
    scene.caches().forEach(c -> cacheOf.putIfAbsent(c.meshId(), c));
    scene.sequences().forEach(s -> sequenceOf.putIfAbsent(s.meshId(), s));
    rest = Pose.rest(this.scene);
    moves = motion.moving();
  }

  /**
   * The scene as the file holds it, with the hierarchy still as it was.
   *
   * @param stem name of the file, which its clip gets
   */
  public Scene held(String stem) throws IOException {
    held = scene.toBuilder();
    List<Node> nodes = new ArrayList<>();
    boolean[] seen = scene.seen();
    for (int i = 0; i < seen.length; i++) {
      Node node = scene.nodes().get(i);
      boolean shows =
          node.content() instanceof Content.MeshContent
              || node.content() instanceof Content.CameraContent;
      if (!options.inWorld()) {
        nodes.add(kept(node, i));
      } else if (shows) {
        nodes.add(alone(node.withVisible(seen[i]), i));
      }
    }
    List<Samples> samples = new ArrayList<>(caches);
    samples.addAll(sequences);
    Clip whole = motion.clip(stem, held.newId(), samples);
    return held.nodes(names.of(nodes))
        .meshes(meshes)
        .skins(List.of())
        .caches(caches)
        .sequences(sequences)
        .clips(whole == null ? List.of() : List.of(whole))
        .copies(options.inWorld() ? List.of() : scene.copies())
        .sets(List.of())
        .lights(List.of())
        .cameras(
            scene.cameras().stream()
                .filter(c -> !AbcMotion.isFlat(c))
                .map(motion::atFirst)
                .toList())
        .materials(scene.materials().stream().map(AbcPlan::named).toList())
        .textures(List.of())
        .build();
  }

  /** A material that has a name only. */
  private static Material named(Material material) {
    return new Material(
        material.id(),
        material.name(),
        Material.Shading.METALLIC_ROUGHNESS,
        Map.of(),
        Material.Alpha.OPAQUE,
        0.5,
        false,
        Map.of());
  }

  private Node kept(Node bare, int place) throws IOException {
    Node node = motion.values(bare);
    node = node.withTransform(motion.placed(node));
    return node.content() instanceof Content.MeshContent content
        ? node.withContent(mesh(content, place, false))
        : node;
  }

  /** A part at the top, with all that places it in its points, or in its own place. */
  private Node alone(Node bare, int place) throws IOException {
    Matrix4d world = rest.world()[place];
    Node node = motion.values(bare);
    Node top = node.withParent(-1).withTransform(LocalTransform.IDENTITY);
    if (node.content() instanceof Content.MeshContent content) {
      return top.withContent(mesh(content, place, moves[place] || !isIdentity(world)));
    }
    return top.withTransform(moves[place] ? motion.inWorld(node, place) : Trs.nearest(world));
  }

  private static boolean isIdentity(Matrix4d matrix) {
    return matrix.equals(new Matrix4d(), 1e-12);
  }

  /**
   * What a node shows.
   *
   * @param placed whether its place goes into the points
   */
  private Content.MeshContent mesh(Content.MeshContent content, int place, boolean placed)
      throws IOException {
    PolygonMesh mesh = byId.get(content.meshId());
    MeshSequence sequence = sequenceOf.get(mesh.id());
    PointCache own = cacheOf.get(mesh.id());
    boolean deforms = own == null && sequence == null && deforms(content, mesh, place);
    if (!placed && !deforms && content.slotMaterials() == null) {
      if (taken.add(mesh.id())) {
        add(mesh, own == null ? null : timed(own), sequence, mesh.id());
      }
      return Content.MeshContent.of(mesh.id());
    }
    // What this node makes of the mesh is its own.
    int id = taken.add(mesh.id()) ? mesh.id() : held.newId();
    PolygonMesh dressed = content.slotMaterials() == null ? mesh : dressed(mesh, content);
    PointCache cache = own == null ? null : timed(own);
    if (placed) {
      dressed = MeshMove.by(dressed, rest.world()[place]);
    }
    if (placed && sequence != null) {
      sequence = new PlacedSequence(sequence, ClipPoses.of(scene, clip), place);
    } else if (placed || deforms) {
      cache = baked(mesh, own, content, place, placed);
      if (cache == null && deforms) {
        dressed = stilled(dressed, Deform.world(scene, rest, place), place, placed);
      }
    }
    add(dressed, cache, sequence, id);
    return Content.MeshContent.of(id);
  }

  private static PolygonMesh dressed(PolygonMesh mesh, Content.MeshContent content) {
    return mesh.toBuilder().materials(content.slotMaterials(), mesh.faceSlot()).build();
  }

  private boolean deforms(Content.MeshContent content, PolygonMesh mesh, int place) {
    boolean bends = motion.of(scene.nodes().get(place)).stream().anyMatch(Clip.Track::isMorph);
    double[] weights = rest.morphWeights()[place];
    for (int m = 0; weights != null && m < weights.length; m++) {
      bends |= weights[m] != 0;
    }
    return content.skinId() >= 0 || bends && !mesh.morphs().isEmpty();
  }

  private PointCache timed(PointCache cache) {
    if (times.asTheSource()) {
      int[] inside = times.own(cache);
      return inside.length == cache.sampleCount()
          ? cache
          : new RetimedCache(cache, inside, AbcTimes.seconds(cache, inside));
    }
    double[] at = times.frames(cache.startSeconds(), cache.endSeconds());
    return new ResampledCache(cache, at, at);
  }

  /** What moves the points of a part, {@code null} where nothing does. */
  private PointCache baked(
      PolygonMesh mesh, PointCache own, Content.MeshContent content, int place, boolean placed) {
    if (own == null && clip == null) {
      return null;
    }
    Clip played =
        clip != null
            ? clip
            : new Clip(-1, "", own.startSeconds(), own.endSeconds(), List.<Clip.Track>of());
    double start = own == null ? played.startSeconds() : own.startSeconds();
    double end = own == null ? played.endSeconds() : own.endSeconds();
    boolean still = own == null && !moves[place] && content.skinId() < 0;
    Node node = scene.nodes().get(place);
    if (still && motion.of(node).stream().noneMatch(Clip.Track::isMorph)) {
      return null;
    }
    double[] at =
        own != null && times.asTheSource()
            ? AbcTimes.seconds(own, times.own(own))
            : times.frames(start, end);
    return new BakedCache(held.newId(), mesh.name(), scene, played, place, at, placed);
  }

  private PolygonMesh stilled(PolygonMesh mesh, double[] world, int place, boolean placed) {
    double[] points = world;
    if (!placed) {
      Matrix4d own = new Matrix4d(rest.world()[place]).invert();
      Coordinates moved = Coordinates.of(world).transform(own);
      for (int i = 0; i < points.length; i++) {
        points[i] = moved.at(i);
      }
    }
    return at(mesh, points);
  }

  /** A mesh whose points stand elsewhere, and its normals with them. */
  private static PolygonMesh at(PolygonMesh mesh, double[] points) {
    float[] floats = new float[points.length];
    for (int i = 0; i < floats.length; i++) {
      floats[i] = (float) points[i];
    }
    return at(mesh.withPoints(Coordinates.of(points)), mesh, floats);
  }

  private static PolygonMesh at(PolygonMesh changed, PolygonMesh from, float[] points) {
    Attribute normals = from.first(Attribute.Semantic.NORMAL).orElse(null);
    return normals == null
        ? changed
        : changed.withFirst(
            Attribute.Semantic.NORMAL,
            normals.withValues(new TurnedNormals(from, normals).at(points)));
  }

  /** The mesh stands where its first sample is, as whoever reads the file sees it. */
  private void add(PolygonMesh mesh, PointCache cache, MeshSequence sequence, int id)
      throws IOException {
    PolygonMesh first = mesh;
    if (cache != null && cache.pointCount() == mesh.points().count()) {
      float[] points = new float[3 * cache.pointCount()];
      cache.read(0, 0, cache.pointCount(), points);
      first = at(mesh.withPoints(Coordinates.of(points)), mesh, points);
      caches.add(new RenamedCache(cache, held.newId(), id));
    } else if (sequence != null) {
      int[] samples = times.own(sequence);
      double[] at = AbcTimes.seconds(sequence, samples);
      if (!times.asTheSource()) {
        at = times.frames(sequence.startSeconds(), sequence.endSeconds());
        samples = Arrays.stream(at).mapToInt(sequence::sampleAt).toArray();
      }
      MeshSequence kept = new RetimedSequence(sequence, samples, at);
      first = kept.mesh(0);
      sequences.add(new ChangedSequence(kept, held.newId(), id, this::lean));
    }
    meshes.add(lean(first).toBuilder().id(id).morphs(List.of()).build());
  }

  /** Without what was not asked for, with a set for each material. */
  private PolygonMesh lean(PolygonMesh mesh) {
    PolygonMesh dressed =
        options.setsFromMaterials() ? MaterialSets.added(scene, mesh) : MaterialSets.told(mesh);
    // Groups and edges have no place there: what they mean is said by normals.
    PolygonMesh plain =
        dressed.toBuilder()
            .smoothing(null)
            .hardEdges(null)
            .subdivision(withoutLevels(dressed.subdivision()))
            .build();
    return plain.withAttributes(
        mesh.attributes().stream()
            .filter(a -> a.semantic() != Attribute.Semantic.TANGENT)
            .filter(a -> options.normals() || a.semantic() != Attribute.Semantic.NORMAL)
            .filter(a -> options.uvs() || a.semantic() != Attribute.Semantic.UV)
            .toList());
  }

  private static Subdivision withoutLevels(Subdivision how) {
    return how == null
        ? null
        : new Subdivision(
            how.scheme(),
            0,
            how.creaseEdges(),
            how.creaseSharpness(),
            how.creaseVertices(),
            how.vertexSharpness(),
            how.holes());
  }

  /** Whether a track has a place in the format. */
  public static boolean carries(Clip.Track track) {
    return AbcMotion.carries(track);
  }

  /** What of the clips has no place, in words; the forecast counts it. */
  public List<Finding> notCarried() {
    return AbcMotion.notCarried(scene);
  }

  /**
   * What is changed, apart from what the table of the format says; of names after {@link #held}.
   */
  public List<Finding> said() {
    Findings said = new Findings();
    said.addAll(names.said());
    for (Clip other : scene.clips()) {
      if (other != clip) {
        said.add(
            Finding.of(
                "clip-not-chosen",
                Severity.FIX,
                other.name(),
                "An archive has one time line: this clip does not land. Land it in a file of its"
                    + " own."));
      }
    }
    if (clip != null) {
      double[] at = times.frames(clip.startSeconds(), clip.endSeconds());
      said.add(
          Finding.of(
                  "motion-sampled",
                  Severity.NOTE,
                  clip.name(),
                  "The motion is written as samples, under the file's name; how it runs between"
                      + " them is left to whoever reads it, and at rest everything stands as at"
                      + " the first.")
              .measured(
                  Figures.count(at.length, "frame") + " at " + Figures.plain(times.rate()) + "/s"));
    }
    for (Camera camera : scene.cameras()) {
      if (AbcMotion.isFlat(camera)) {
        said.add(
            Finding.of(
                "camera-not-carried",
                Severity.FIX,
                camera.name(),
                "The format has cameras with an angle of view only: this one without perspective"
                    + " lands as a group."));
      }
    }
    for (PolygonMesh mesh : scene.meshes()) {
      if (mesh.subdivision() != null && mesh.subdivision().level() > 0) {
        said.add(
            Finding.of(
                "subdivision-levels-not-carried",
                Severity.NOTE,
                mesh.name(),
                "How many levels are shown is left to whoever reads it; creases, sharp vertices and"
                    + " holes land."));
      }
    }
    return said.list();
  }
}
