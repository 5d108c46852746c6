package ferry.stone.core.proof;

import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.geometry.triangle.RenderPrimitive;
import ferry.stone.core.math.Figures;
import ferry.stone.core.motion.ClipPoses;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.InfluenceCut;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.IntStream;

/** Compares joints, skins, morph targets, clips, cameras and lights: names, numbers and poses. */
final class RigProof {
  /** Poses agree when vertices differ by less than this part of the asset's diagonal. */
  private static final double POSE_TOLERANCE = 1e-5;

  private final Ledger ledger;
  private final Scene near;
  private final Scene far;
  private final Scene read;
  private final double size;
  private final List<Match> matches = new ArrayList<>();
  private final Landed landing;
  private final PartMatch parts;
  private int notCompared;

  /**
   * A part on both sides.
   *
   * @param sourceVertex vertex of the far mesh for each landed one, or {@code null} when their
   *     numbers do not fit
   */
  private record Match(int farPlace, int readPlace, int[] sourceVertex) {}

  RigProof(Ledger ledger, Scene near, Scene far, Scene read, PartMatch parts, Landed landing) {
    this.parts = parts;
    this.landing = landing;
    this.ledger = ledger;
    this.near = near;
    this.far = far;
    this.read = read;
    size = Proof.size(far);
  }

  void run(Progress progress) {
    boolean morphs = far.meshes().stream().anyMatch(m -> !m.morphs().isEmpty());
    if (far.skins().isEmpty() && far.clips().isEmpty() && !morphs) {
      camerasAndLights();
      return;
    }
    match();
    ledger.group("Skeleton and morph targets");
    joints();
    influences();
    morphTargets();
    if (!far.skins().isEmpty()) {
      pose("Vertices under their joints, rest pose", Pose.rest(far), Pose.rest(read));
    }
    ledger.group("Motion");
    clips(progress);
    camerasAndLights();
  }

  private void match() {
    Map<Integer, PolygonMesh> farMeshes = far.meshesById();
    Map<Integer, PolygonMesh> readMeshes = read.meshesById();
    Map<Integer, Integer> readPlaces = read.nodePlaces();
    Map<List<Integer>, int[]> sources = new HashMap<>();
    int shown = 0;
    for (int i = 0; i < far.nodes().size(); i++) {
      Node node = far.nodes().get(i);
      if (node.content() instanceof Node.Content.MeshContent content) {
        Scene.ShownMesh landed = parts.landed(shown++);
        if (landed == null) {
          notCompared++;
          continue;
        }
        int meshId = ((Node.Content.MeshContent) landed.node().content()).meshId();
        List<Integer> pair = List.of(content.meshId(), meshId);
        if (!sources.containsKey(pair)) {
          sources.put(
              pair, sourceVertices(farMeshes.get(content.meshId()), readMeshes.get(meshId)));
        }
        int[] source = sources.get(pair);
        matches.add(new Match(i, readPlaces.get(landed.node().id()), source));
        notCompared += source != null ? 0 : 1;
      }
    }
  }

  /**
   * The far vertex behind each landed one, −1 for those of lines and points: landing writes
   * triangles in this order. {@code null} when their corners do not fit.
   */
  private int[] sourceVertices(PolygonMesh mesh, PolygonMesh landed) {
    if (!landing.holding().isByPrimitives()) {
      int count = mesh.points().count();
      return count == landed.points().count() ? IntStream.range(0, count).toArray() : null;
    }
    List<RenderPrimitive> primitives = landing.holding().order(far, mesh);
    int corners = primitives.stream().mapToInt(p -> p.indices().length).sum();
    if (corners != landed.faces().cornerCount()) {
      return null;
    }
    int[] all = new int[landed.points().count()];
    Arrays.fill(all, -1);
    int corner = 0;
    for (RenderPrimitive p : primitives) {
      for (int i : p.indices()) {
        all[landed.faces().vertex(corner++)] = p.sourceVertex()[i];
      }
    }
    return all;
  }

  private static Set<String> jointNames(Scene scene) {
    Map<Integer, Integer> places = scene.nodePlaces();
    Set<String> names = new HashSet<>();
    for (Skin skin : scene.skins()) {
      for (int id : skin.jointNodeIds()) {
        names.add(scene.nodes().get(places.get(id)).name());
      }
    }
    return names;
  }

  private void joints() {
    if (far.skins().isEmpty()) {
      return;
    }
    ledger.count(
        "Skins",
        -1,
        near.skins().size(),
        far.skins().size(),
        read.skins().size(),
        "skins are missing");
    Set<String> wanted = jointNames(far);
    Set<String> missing = new HashSet<>(wanted);
    missing.removeAll(jointNames(read));
    ledger.measure(
        Measure.count(jointNames(near).size(), wanted.size(), wanted.size() - missing.size()));
    ledger.add(
        "Joints by name",
        -1,
        Figures.count(jointNames(near).size()),
        Figures.count(wanted.size()),
        Figures.count(wanted.size() - missing.size()) + " the same",
        Figures.count(missing.size()),
        missing.isEmpty() ? Verdict.KEPT : Verdict.LOST,
        missing.isEmpty() ? "" : "first: " + missing.iterator().next());
  }

  private void influences() {
    if (far.skins().isEmpty()) {
      return;
    }
    int wanted = influences(far);
    int found = influences(read);
    ledger
        .about(Capability.INFLUENCES)
        .measure(Measure.count(influences(near), wanted, found))
        .add(
            "Most joints of a vertex",
            -1,
            Figures.count(influences(near)),
            Figures.count(wanted),
            Figures.count(found),
            Figures.count(found - wanted),
            wanted == found ? Verdict.KEPT : Verdict.CHANGED,
            wanted == found ? "" : "the strongest were kept and scaled to 1");
  }

  /** Most joints that move a vertex of any skin. */
  private static int influences(Scene scene) {
    return scene.skins().stream().mapToInt(Skin::mostInfluences).max().orElse(0);
  }

  private void morphTargets() {
    Scene whole = landing.holding().expected(far);
    Pose wantedRest = Pose.rest(whole);
    Pose foundRest = Pose.rest(read);
    for (Match match : matches) {
      PolygonMesh wanted = mesh(whole, match.farPlace());
      PolygonMesh found = mesh(read, match.readPlace());
      if (wanted.morphs().isEmpty()) {
        continue;
      }
      List<String> names = MorphTarget.keys(wanted.morphs());
      List<String> landed = MorphTarget.keys(found.morphs());
      int source = mesh(far, match.farPlace()).morphs().size();
      ledger
          .about(Capability.IN_BETWEENS)
          .measure(Measure.count(source, source, landed.size()))
          .add(
              "Morph targets of " + wanted.name(),
              -1,
              Figures.count(source),
              Figures.count(source),
              Figures.count(landed.size()),
              Figures.count(landed.size() - source),
              !names.equals(landed)
                  ? Verdict.LOST
                  : source == names.size() ? Verdict.KEPT : Verdict.CHANGED,
              names.equals(landed) ? String.join(", ", names) : "names or order differ");
      if (names.equals(landed) && match.sourceVertex() != null) {
        for (int m = 0; m < names.size(); m++) {
          double off =
              farthest(
                  Deform.world(whole, only(wantedRest, match.farPlace(), m), match.farPlace()),
                  Deform.world(read, only(foundRest, match.readPlace(), m), match.readPlace()),
                  match.sourceVertex());
          ledger
              .about(landing.poses())
              .off(off)
              .add(
                  "Shape of " + names.get(m),
                  -1,
                  "",
                  "fully on",
                  "fully on",
                  Proof.millimetres(off),
                  off <= POSE_TOLERANCE * size ? Verdict.KEPT : Verdict.CHANGED,
                  "");
        }
      }
    }
  }

  /** The rest pose with one target of one part fully on and its others off. */
  private static Pose only(Pose rest, int place, int morph) {
    double[][] weights = rest.morphWeights().clone();
    weights[place] = new double[weights[place].length];
    weights[place][morph] = 1;
    return new Pose(rest.world(), weights);
  }

  private static PolygonMesh mesh(Scene scene, int place) {
    int id = ((Node.Content.MeshContent) scene.nodes().get(place).content()).meshId();
    return scene.mesh(id).orElseThrow();
  }

  private static double farthest(double[] wanted, double[] found, int[] source) {
    double most = 0;
    for (int v = 0; v < source.length; v++) {
      if (source[v] < 0) {
        continue;
      }
      double dx = wanted[3 * source[v]] - found[3 * v];
      double dy = wanted[3 * source[v] + 1] - found[3 * v + 1];
      double dz = wanted[3 * source[v] + 2] - found[3 * v + 2];
      most = Math.max(most, dx * dx + dy * dy + dz * dz);
    }
    return Math.sqrt(most);
  }

  private double farthest(Scene moved, Pose wanted, Pose found) {
    double most = 0;
    for (Match match : matches) {
      if (match.sourceVertex() != null) {
        most =
            Math.max(
                most,
                farthest(
                    Deform.world(moved, wanted, match.farPlace()),
                    Deform.world(read, found, match.readPlace()),
                    match.sourceVertex()));
      }
    }
    return most;
  }

  private void pose(String fact, Pose wanted, Pose found) {
    double off = farthest(far, wanted, found);
    ledger
        .about(landing.poses())
        .off(off)
        .add(
            fact,
            -1,
            "",
            Figures.count(matches.size(), "part"),
            Figures.count(matches.size(), "part"),
            Proof.millimetres(off),
            poseVerdict(off),
            poseNote(off));
  }

  private void clips(Progress progress) {
    if (far.clips().isEmpty()) {
      return;
    }
    ledger
        .about(Capability.EMPTY_CLIPS)
        .count(
            "Clips",
            -1,
            near.clips().size(),
            far.clips().size(),
            read.clips().size(),
            "clips are missing");
    NodeMotionProof joints = new NodeMotionProof(ledger, far, read, POSE_TOLERANCE * size);
    Map<String, Deque<Clip>> byName = new HashMap<>();
    read.clips().forEach(c -> byName.computeIfAbsent(c.name(), k -> new ArrayDeque<>()).add(c));
    for (Clip clip : far.clips()) {
      progress.checkCancelled();
      Deque<Clip> same = byName.get(clip.name());
      Clip landed = same == null ? null : same.poll();
      String name = clip.name().isEmpty() ? "(no name)" : clip.name();
      if (landed == null) {
        ledger
            .about(Capability.EMPTY_CLIPS)
            .add("Clip " + name, -1, "yes", "yes", "—", "", Verdict.LOST, "it did not land");
        continue;
      }
      double wanted = clip.endSeconds() - clip.startSeconds();
      double found = landed.endSeconds() - landed.startSeconds();
      ledger.measure(new Measure("s", wanted, wanted, found, Math.abs(found - wanted)));
      ledger.add(
          "Length of " + name,
          -1,
          seconds(wanted),
          seconds(wanted),
          seconds(found),
          seconds(Math.abs(found - wanted)),
          Math.abs(found - wanted) < 1e-4 ? Verdict.KEPT : Verdict.CHANGED,
          "");
      double[] moments = moments(clip);
      double off = farthest(clip, landed, moments);
      boolean sampled = landing.said("motion-sampled");
      ledger
          .about(landing.poses() == null && sampled ? Capability.CLIPS : landing.poses())
          .off(off)
          .add(
              "Vertices during " + name,
              -1,
              "",
              moments.length + " moments",
              moments.length + " moments",
              Proof.millimetres(off),
              poseVerdict(off),
              poseNote(off));
      joints.compare(name, clip, landed, moments, sampled ? Capability.CLIPS : null);
    }
  }

  /** At which moments a clip is compared, where the file says anything. */
  private double[] moments(Clip clip) {
    long vertices = 0;
    for (Match match : matches) {
      vertices += mesh(far, match.farPlace()).points().count();
    }
    return Arrays.stream(Moments.of(clip, vertices))
        .map(moment -> landing.holding().moment(clip, moment))
        .distinct()
        .toArray();
  }

  /** The farthest that a vertex is off at any of the moments. */
  private double farthest(Clip clip, Clip landed, double[] moments) {
    double off = 0;
    Scene moved = withoutLostCaches();
    ClipPoses wantedPoses = ClipPoses.of(moved, clip);
    ClipPoses foundPoses = ClipPoses.of(read, landed);
    for (double at : moments) {
      double moment = landed.startSeconds() + at - clip.startSeconds();
      Pose wantedPose = wantedPoses.at(at);
      double here = farthest(moved, wantedPose, foundPoses.at(moment));
      // A jump at this very moment may be told a 32-bit rounding earlier or later.
      for (int side = -1; side <= 1 && here > POSE_TOLERANCE * size; side += 2) {
        double beside = moment + side * 2.0 * Math.ulp((float) moment);
        here = Math.min(here, farthest(moved, wantedPose, foundPoses.at(beside)));
      }
      off = Math.max(off, here);
    }
    return off;
  }

  /** Caches that the format does not hold are told as such: the rest of the motion is compared. */
  private Scene withoutLostCaches() {
    boolean lost = landing.fate(Capability.POINT_CACHES) == Fate.LOST;
    return lost && !far.caches().isEmpty() ? far.toBuilder().caches(List.of()).build() : far;
  }

  /** Joints that were left out may move a vertex a little; beyond that its place is lost. */
  private Verdict poseVerdict(double off) {
    if (isTooFar(off)) {
      return Verdict.LOST;
    }
    return off <= POSE_TOLERANCE * size && notCompared == 0 ? Verdict.KEPT : Verdict.CHANGED;
  }

  private boolean isTooFar(double off) {
    return landing.poses() == Capability.INFLUENCES
        && off > InfluenceCut.allowedMetres(far, landing.skinMove());
  }

  private String poseNote(double off) {
    return isTooFar(off)
        ? "joints were left out; the shore lets a vertex move by "
            + Proof.millimetres(InfluenceCut.allowedMetres(far, landing.skinMove()))
        : notComparedNote();
  }

  private String notComparedNote() {
    return notCompared == 0
        ? ""
        : Figures.count(notCompared, "part") + " did not land vertex by vertex: not compared";
  }

  private static String seconds(double s) {
    return String.format(Locale.ROOT, "%.3f s", s);
  }

  private void camerasAndLights() {
    if (far.cameras().isEmpty() && far.lights().isEmpty()) {
      return;
    }
    ledger.group("Cameras and lights");
    new CameraProof(ledger, far, read, landing).compare();
    new LightProof(ledger, far, read, landing).compare();
  }
}
