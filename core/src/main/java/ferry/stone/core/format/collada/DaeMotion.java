package ferry.stone.core.format.collada;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.KeyCurve;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Clips: those that the file names, else all its motion as one. A channel moves one number, or all
 * numbers, of a transform of a node or of the weights of a morph.
 */
final class DaeMotion {
  /** {@code id/sid.MEMBER} or {@code id/sid(3)(1)}: section "Addressing" of both releases. */
  private static final Pattern END =
      Pattern.compile("([^.(]*)(?:\\.([A-Za-z0-9_]+)|\\((\\d+)\\)(?:\\((\\d+)\\))?)?");

  private final DaeDocument document;
  private final DaeNodes nodes;
  private final DaeShapes shapes;
  private final SceneBuilder scene;
  private final Budget budget;

  DaeMotion(
      DaeDocument document, DaeNodes nodes, DaeShapes shapes, SceneBuilder scene, Budget budget) {
    this.document = document;
    this.nodes = nodes;
    this.shapes = shapes;
    this.scene = scene;
    this.budget = budget;
  }

  void read(String name) throws FormatException {
    Set<DaeElement> all = new LinkedHashSet<>(document.library("library_animations", "animation"));
    Set<DaeElement> inClips = new LinkedHashSet<>();
    for (DaeElement clip : document.library("library_animation_clips", "animation_clip")) {
      Set<DaeElement> own = new LinkedHashSet<>();
      for (DaeElement instance : clip.all("instance_animation")) {
        DaeElement animation = document.named(instance, "url", "animation");
        if (animation != null) {
          own.add(animation);
        }
      }
      inClips.addAll(own);
      double start = DaeNumbers.real(clip.attribute("start"));
      double end = DaeNumbers.real(clip.attribute("end"));
      clip(clip.label("clip"), own, start, end);
    }
    all.removeAll(inClips);
    if (!all.isEmpty()) {
      String own = all.size() == 1 ? all.iterator().next().label(name) : name;
      clip(own, all, Double.NaN, Double.NaN);
    }
  }

  private void clip(String name, Set<DaeElement> animations, double start, double end)
      throws FormatException {
    Map<DaeElement, DaeNodeMotion> moving = new LinkedHashMap<>();
    List<Clip.Track> tracks = new ArrayList<>();
    Deque<DaeElement> open = new ArrayDeque<>(animations);
    while (!open.isEmpty()) {
      DaeElement animation = open.pop();
      animation.all("animation").forEach(open::push);
      for (DaeElement channel : animation.all("channel")) {
        channel(channel, moving, tracks);
      }
    }
    for (Map.Entry<DaeElement, DaeNodeMotion> entry : moving.entrySet()) {
      for (DaeNodes.Made node : nodes.of(entry.getKey())) {
        tracks.addAll(entry.getValue().tracks(document, entry.getKey(), node, budget));
      }
    }
    double first = Double.isFinite(start) ? start : Double.POSITIVE_INFINITY;
    double last = Double.isFinite(end) ? end : Double.NEGATIVE_INFINITY;
    for (Clip.Track track : tracks) {
      double[] times = track.timesSeconds();
      first = Double.isFinite(start) ? first : Math.min(first, times[0]);
      last = Double.isFinite(end) ? last : Math.max(last, times[times.length - 1]);
    }
    boolean timed = Double.isFinite(first) && Double.isFinite(last) && last >= first;
    if (!tracks.isEmpty() || timed) {
      scene.add(new Clip(scene.newId(), name, timed ? first : 0, timed ? last : 0, tracks));
    }
  }

  private void channel(
      DaeElement channel, Map<DaeElement, DaeNodeMotion> moving, List<Clip.Track> tracks)
      throws FormatException {
    DaeElement sampler = document.named(channel, "source", "sampler");
    String target = channel.attribute("target").strip();
    if (sampler == null || target.isEmpty()) {
      return;
    }
    String[] path = target.split("/");
    Matcher end = END.matcher(path[path.length - 1]);
    if (!end.matches()) {
      notCarried(channel, target);
      return;
    }
    String id = path.length == 1 ? end.group(1) : path[0];
    DaeElement element = document.byId(id);
    for (int i = 1; i + 1 < path.length && element != null; i++) {
      element = bySid(element, path[i]);
    }
    if (element != null && element.name.equals("node") && path.length > 1) {
      DaeTransform transform =
          nodes.of(element).isEmpty() ? null : nodes.of(element).get(0).transform();
      int op = transform == null ? -1 : place(transform, end.group(1));
      DaeCurves curves = op < 0 ? null : DaeCurves.of(document, sampler);
      if (curves != null) {
        moving
            .computeIfAbsent(element, k -> new DaeNodeMotion())
            .add(op, component(transform.ops.get(op), end), curves);
        return;
      }
      if (op >= 0) {
        return;
      }
    }
    if (!morph(element, path, end, sampler, tracks)) {
      notCarried(channel, target);
    }
  }

  private void notCarried(DaeElement channel, String target) {
    document.say(
        "motion-outside-scene",
        channel,
        "Motion of \"" + target + "\" is left out: only nodes and morph weights are moved.");
  }

  private static int place(DaeTransform transform, String sid) {
    for (int i = 0; i < transform.ops.size(); i++) {
      if (transform.ops.get(i).sid().equals(sid)) {
        return i;
      }
    }
    return -1;
  }

  /** The number of the transform that is meant, −1 for all. */
  private static int component(DaeTransform.Op op, Matcher end) {
    if (end.group(2) != null) {
      return switch (end.group(2)) {
        case "X", "R", "U", "S" -> 0;
        case "Y", "G", "V", "T" -> 1;
        case "Z", "B", "P" -> 2;
        case "ANGLE", "W", "A" -> op.kind().equals("rotate") ? 3 : -1;
        default -> -1;
      };
    }
    if (end.group(3) == null) {
      return -1;
    }
    int first = whole(end.group(3));
    return end.group(4) == null ? first : 4 * first + whole(end.group(4));
  }

  private static int whole(String digits) {
    return digits.length() > 4 ? Integer.MAX_VALUE / 8 : Integer.parseInt(digits);
  }

  /** The first element below another that has a sid, level by level. */
  private static DaeElement bySid(DaeElement above, String sid) {
    Deque<DaeElement> open = new ArrayDeque<>(above.children);
    while (!open.isEmpty()) {
      DaeElement element = open.poll();
      if (element.attribute("sid").equals(sid)) {
        return element;
      }
      open.addAll(element.children);
    }
    return null;
  }

  /** Weights of morph targets: the source of the weights, or its array, and a number in it. */
  private boolean morph(
      DaeElement element, String[] path, Matcher end, DaeElement sampler, List<Clip.Track> tracks)
      throws FormatException {
    DaeElement named = element;
    if (path.length > 1 && element != null) {
      DaeElement inside = document.byId(end.group(1));
      named = inside != null ? inside : bySid(element, end.group(1));
    }
    DaeElement morph = named;
    while (morph != null && !morph.name.equals("morph")) {
      morph = morph.parent;
    }
    if (morph == null || end.group(3) == null && end.group(2) != null) {
      return false;
    }
    boolean found = false;
    for (Map.Entry<Integer, DaeElement> entry : shapes.morphs().entrySet()) {
      if (entry.getValue() != morph) {
        continue;
      }
      DaeCurves curves = DaeCurves.of(document, sampler);
      if (curves == null) {
        return true;
      }
      PolygonMesh mesh = shapes.mesh(entry.getKey());
      List<String> keys = MorphTarget.keys(mesh.morphs());
      int first = end.group(3) == null ? 0 : whole(end.group(3));
      int count = end.group(3) == null ? Math.min(curves.curves().length, keys.size()) : 1;
      for (int m = first; m < Math.min(keys.size(), first + count); m++) {
        KeyCurve curve = curves.curves()[end.group(3) == null ? m : 0];
        for (int node : shapes.showing(entry.getKey())) {
          tracks.add(weight(node, keys.get(m), curve));
        }
        found = true;
      }
    }
    return found;
  }

  private static Clip.Track weight(int node, String key, KeyCurve curve) {
    String property = Clip.MORPH + key;
    if (curve.all(KeyCurve.HOLD) && curve.seconds().length > 1) {
      return new Clip.Track(
          node, property, Clip.Interpolation.STEP, 1, curve.seconds(), curve.values(), null, null);
    }
    if (curve.all(KeyCurve.LINE)) {
      return new Clip.Track(
          node,
          property,
          Clip.Interpolation.LINEAR,
          1,
          curve.seconds(),
          curve.values(),
          null,
          null);
    }
    double[] times = DaeNodeMotion.moments(List.of(curve));
    double[] values = Arrays.stream(times).map(curve::at).toArray();
    return new Clip.Track(node, property, Clip.Interpolation.LINEAR, 1, times, values, null, null);
  }
}
