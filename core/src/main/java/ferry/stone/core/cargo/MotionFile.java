package ferry.stone.core.cargo;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * Puts the clips of one file onto the parts of the same name in others: by their names without the
 * namespace before them, and by what they hang on where several have one name.
 */
final class MotionFile {
  /** What a part's motion in the other file becomes; see {@link ReadFields}. */
  static final String FITS = "motionFits";

  static final String AS_IT_IS = "asItIs";
  static final String REST_TO_REST = "restToRest";

  private static final double SAME_DEGREES = 1;

  /** Of the bone's length. */
  private static final double SAME_LENGTH = 0.01;

  private final Scene scene;
  private final Scene motion;
  private final String file;
  private final boolean restToRest;
  private final Map<Integer, Node> targets = new LinkedHashMap<>();
  private final Map<Integer, Node> sources = new HashMap<>();
  private final Set<String> left = new TreeSet<>();
  private double turned;
  private double longer;
  private String apart = "";

  private MotionFile(Scene scene, Scene motion, String file, boolean restToRest) {
    this.scene = scene;
    this.motion = motion;
    this.file = file;
    this.restToRest = restToRest;
  }

  /**
   * @param motion in the frame of the scene
   * @param restToRest whether what moves a part away from its rest there moves it away from its
   *     rest here; else its places are taken as they are
   */
  static Scene put(Scene scene, Scene motion, String file, boolean restToRest, Findings findings) {
    MotionFile putting = new MotionFile(scene, motion, file, restToRest);
    putting.match();
    return putting.moved(findings);
  }

  private void match() {
    Map<String, List<Integer>> places = new HashMap<>();
    for (int i = 0; i < scene.nodes().size(); i++) {
      String name = plain(scene.nodes().get(i).name());
      places.computeIfAbsent(name, k -> new ArrayList<>()).add(i);
    }
    List<String> here = scene.paths();
    List<String> there = motion.paths();
    Set<Integer> moved = new HashSet<>();
    motion.clips().forEach(c -> c.tracks().forEach(t -> moved.add(t.targetId())));
    for (int i = 0; i < motion.nodes().size(); i++) {
      Node node = motion.nodes().get(i);
      if (!moved.contains(node.id())) {
        continue;
      }
      int best = -1;
      int most = -1;
      for (int place : places.getOrDefault(plain(node.name()), List.of())) {
        int common = commonEnd(here.get(place), there.get(i));
        if (common > most) {
          most = common;
          best = place;
        }
      }
      if (best < 0) {
        left.add(node.name());
      } else {
        targets.put(node.id(), scene.nodes().get(best));
        sources.put(node.id(), node);
        compare(node, scene.nodes().get(best));
      }
    }
  }

  /** Without the namespace that some programs put before a name. */
  private static String plain(String name) {
    return name.substring(Math.max(name.lastIndexOf(':'), name.lastIndexOf('|')) + 1);
  }

  private static int commonEnd(String a, String b) {
    String[] one = a.split("/");
    String[] other = b.split("/");
    int same = 0;
    while (same < one.length
        && same < other.length
        && plain(one[one.length - 1 - same]).equals(plain(other[other.length - 1 - same]))) {
      same++;
    }
    return same;
  }

  private static Trs rest(Node node) {
    LocalTransform own = node.transform();
    return own instanceof Trs trs ? trs : Trs.nearest(own.toMatrix());
  }

  private void compare(Node there, Node here) {
    Trs a = rest(there);
    Trs b = rest(here);
    double dot = Math.min(1, Math.abs(a.rotation().dot(b.rotation())));
    double angle = Math.toDegrees(2 * Math.acos(dot));
    double length = b.translation().length();
    double off = length == 0 ? 0 : b.translation().distance(a.translation()) / length;
    if (angle > Math.max(turned, SAME_DEGREES) || off > Math.max(longer, SAME_LENGTH)) {
      apart = here.name();
    }
    turned = Math.max(turned, angle);
    longer = Math.max(longer, off);
  }

  private Scene moved(Findings findings) {
    SceneBuilder builder = scene.toBuilder();
    if (scene.framesPerSecond() == 0) {
      builder.framesPerSecond(motion.framesPerSecond());
    }
    Set<String> names = new HashSet<>();
    scene.clips().forEach(c -> names.add(c.name()));
    int clips = 0;
    for (Clip clip : motion.clips()) {
      List<Clip.Track> tracks = new ArrayList<>();
      for (Clip.Track track : clip.tracks()) {
        Node target = targets.get(track.targetId());
        if (target != null) {
          tracks.add(track(track, target));
        }
      }
      if (!tracks.isEmpty()) {
        clips++;
        String name = name(clip.name(), names);
        builder.add(
            new Clip(
                builder.newId(),
                name,
                clip.startSeconds(),
                clip.endSeconds(),
                tracks,
                List.of(),
                List.of()));
      }
    }
    tell(builder, clips, findings);
    return builder.build();
  }

  /** Clips of several files often have one name: then the file's tells them apart. */
  private String name(String own, Set<String> names) {
    String name = own;
    for (int n = 1; !names.add(name); n++) {
      name = CargoPath.stem(file) + (n == 1 ? "" : "_" + n);
    }
    return name;
  }

  private Clip.Track track(Clip.Track track, Node target) {
    Clip.Track mine = track.withTarget(target.id());
    return restToRest && track.isTransform()
        ? RestToRest.of(mine, rest(sources.get(track.targetId())), rest(target))
        : mine;
  }

  private void tell(SceneBuilder builder, int clips, Findings findings) {
    findings.add(
        Finding.of(
                "motion-put-on",
                clips > 0 && left.isEmpty() ? Severity.NOTE : Severity.LOOK,
                file,
                clips == 0
                    ? "None of its moved parts has a part of the same name in another file: nothing"
                        + " of it is used."
                    : "Its motion was put onto the parts of the same name.")
            .measured(
                Figures.count(clips, "clip") + " on " + Figures.count(targets.size(), "part")));
    if (!left.isEmpty()) {
      String message =
          "Parts that it moves have no part of the same name: their motion is left out. First: "
              + left.iterator().next()
              + ".";
      findings.add(
          Finding.of("motion-without-part", Severity.LOOK, file, message)
              .measured(Figures.count(left.size(), "part")));
      builder.unread(file + ": " + message);
    }
    if (turned > SAME_DEGREES || longer > SAME_LENGTH) {
      Finding differs =
          Finding.of(
                  "rest-poses-differ",
                  Severity.LOOK,
                  file,
                  restToRest
                      ? "The rest poses differ: what moved a part away from its rest moves it away"
                          + " from its rest here."
                      : "The rest poses differ, so that parts stand as in that file, which may"
                          + " stretch or twist them.")
              .measured(
                  apart
                      + ": up to "
                      + Figures.plain(Math.round(10 * turned) / 10.0)
                      + "°, lengths up to "
                      + Figures.plain(Math.round(1000 * longer) / 10.0)
                      + " %");
      findings.add(
          restToRest
              ? differs.offer(Offer.read("Take it as it is", FITS, AS_IT_IS))
              : differs.offer(Offer.read("Move from rest to rest", FITS, REST_TO_REST)));
    }
  }
}
