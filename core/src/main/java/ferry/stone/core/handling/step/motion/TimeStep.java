package ferry.stone.core.handling.step.motion;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Figures;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.motion.TimeChange;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.scene.time.Samples;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** Steps on time: they change clips, caches and changing meshes alike, all or those of a name. */
abstract class TimeStep<P extends Record> extends BasicStep<P> {
  static final double LONGEST = 1e6;

  static final Field NAMED =
      Field.text(
          "named",
          "Named",
          "",
          "Names of the clips and caches, like walk*; empty for all, which then stay together.");

  static final Field UNIT =
      Field.choice(
          "unit",
          "Counted in",
          "Frames go by the rate of the time line.",
          "frames",
          "Frames",
          "seconds",
          "Seconds");

  TimeStep(String kind, String label, String help, Class<P> params, Field... fields) {
    super(Group.MOTION, kind, label, help, params, false, fields);
  }

  /** What is chosen. */
  static final class Chosen {
    private final Scene scene;
    private final List<Clip> clips;
    private final List<PointCache> caches;
    private final List<MeshSequence> sequences;
    private final double rate;

    private Chosen(Scene scene, String named) {
      this.scene = scene;
      Pattern pattern = named.isBlank() ? null : Selection.names(named.strip());
      clips = scene.clips().stream().filter(c -> fits(pattern, c.name())).toList();
      caches = scene.caches().stream().filter(c -> fits(pattern, c.name())).toList();
      sequences = scene.sequences().stream().filter(s -> fits(pattern, s.name())).toList();
      rate = Caches.rate(scene);
    }

    private static boolean fits(Pattern pattern, String name) {
      return pattern == null || pattern.matcher(name).matches();
    }

    int count() {
      return clips.size() + caches.size() + sequences.size();
    }

    double start() {
      return Stream.concat(
              clips.stream().map(Clip::startSeconds), samples().map(Samples::startSeconds))
          .min(Double::compare)
          .orElse(Double.POSITIVE_INFINITY);
    }

    double end() {
      return Stream.concat(clips.stream().map(Clip::endSeconds), samples().map(Samples::endSeconds))
          .max(Double::compare)
          .orElse(Double.NEGATIVE_INFINITY);
    }

    private Stream<Samples> samples() {
      return Stream.concat(caches.stream(), sequences.stream());
    }

    double rate() {
      return rate;
    }

    List<Clip> played() {
      List<Clip> played = new ArrayList<>(clips);
      if (clips.isEmpty()) {
        List<Integer> ids = samples().map(Samples::id).toList();
        Caches.timeline(scene).stream().filter(c -> ids.contains(c.id())).forEach(played::add);
      }
      return played;
    }

    /** The scene with these changed. */
    Scene changed(TimeChange change) {
      return scene.toBuilder()
          .clips(scene.clips().stream().map(c -> clips.contains(c) ? change.of(c) : c).toList())
          .caches(scene.caches().stream().map(c -> caches.contains(c) ? change.of(c) : c).toList())
          .sequences(
              scene.sequences().stream()
                  .map(s -> sequences.contains(s) ? change.of(s) : s)
                  .toList())
          .build();
    }
  }

  /** Seconds of a number that a step counts in frames or seconds. */
  static double seconds(double number, String unit, double rate) {
    return unit.equals("frames") ? number / rate : number;
  }

  static Chosen chosen(Scene scene, String named) {
    return new Chosen(scene, named == null ? "" : named);
  }

  /** Nothing of these names moves. */
  static StepResult nothing(Scene scene) {
    return StepResult.of(scene, "nothing moves");
  }

  /** Frames and seconds of what a scene has now. */
  static String span(Scene scene, String named) {
    Chosen now = chosen(scene, named);
    double rate = now.rate();
    double first = now.start() * rate;
    double last = now.end() * rate;
    return "frames "
        + plain(first)
        + "–"
        + plain(last)
        + ", "
        + Figures.count(Math.round(Math.floor(last - first + 1e-6)) + 1, "frame")
        + ", "
        + plain(now.start())
        + "–"
        + plain(now.end())
        + " s";
  }

  static String plain(double number) {
    return Figures.plain(Math.round(1000 * number) / 1000.0);
  }
}
