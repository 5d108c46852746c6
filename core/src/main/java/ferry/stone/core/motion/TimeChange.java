package ferry.stone.core.motion;

import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.scene.time.ResampledCache;
import ferry.stone.core.scene.time.RetimedCache;
import ferry.stone.core.scene.time.RetimedSequence;
import ferry.stone.core.scene.time.Samples;
import java.util.Arrays;
import java.util.List;
import java.util.function.UnaryOperator;
import java.util.stream.DoubleStream;
import java.util.stream.IntStream;

/** What is done to time: to clips, caches and changing meshes alike. */
public interface TimeChange {
  double SAME = 1e-9;

  Clip of(Clip clip);

  /** Which moments are sampled, and when they are shown. */
  Moments moments(Samples samples);

  /**
   * Moments of the old time line on the new one.
   *
   * @param before on the old one
   * @param now rising, as many
   */
  record Moments(double[] before, double[] now) {}

  /**
   * A cache with points as they are where all moments are samples, else between two on the line.
   */
  default PointCache of(PointCache cache) {
    Moments moments = moments(cache);
    boolean own = Arrays.stream(moments.before).allMatch(t -> isSample(cache, t));
    return own
        ? new RetimedCache(cache, samples(cache, moments.before), moments.now)
        : new ResampledCache(cache, moments.before, moments.now);
  }

  /** A changing mesh, which is the one before between two samples. */
  default MeshSequence of(MeshSequence sequence) {
    Moments moments = moments(sequence);
    return new RetimedSequence(sequence, samples(sequence, moments.before), moments.now);
  }

  /**
   * A clip with its tracks and texts changed, without keys of other forms.
   *
   * @param words what becomes of the texts that change
   */
  private static Clip changed(
      Clip clip,
      double start,
      double end,
      UnaryOperator<Clip.Track> track,
      UnaryOperator<Clip.Words> words) {
    return new Clip(
        clip.id(),
        clip.name(),
        start,
        end,
        clip.tracks().stream().map(track).toList(),
        List.of(),
        clip.words().stream().map(words).toList());
  }

  /**
   * The part between two moments; what lies wholly outside stands still.
   *
   * @param to not before {@code from}
   */
  static TimeChange cut(double from, double to) {
    return new TimeChange() {
      @Override
      public Clip of(Clip clip) {
        double a = Math.max(from, Math.min(clip.startSeconds(), to));
        double b = Math.min(to, Math.max(clip.endSeconds(), a));
        return changed(clip, a, b, t -> TrackTime.cut(t, a, b), w -> words(w, a, b));
      }

      @Override
      public Moments moments(Samples samples) {
        double[] at = inside(samples, from, to);
        return new Moments(at, at);
      }
    };
  }

  private static Clip.Words words(Clip.Words words, double from, double to) {
    double[] all = words.timesSeconds();
    int[] kept =
        IntStream.range(0, all.length).filter(k -> all[k] > from && all[k] <= to).toArray();
    double[] times = new double[kept.length + 1];
    String[] values = new String[times.length];
    times[0] = from;
    values[0] = words.at(from);
    for (int k = 0; k < kept.length; k++) {
      times[k + 1] = all[kept[k]];
      values[k + 1] = words.values().get(kept[k]);
    }
    return new Clip.Words(words.targetId(), words.property(), times, List.of(values));
  }

  private static boolean isSample(Samples samples, double moment) {
    return Math.abs(samples.timeSeconds(near(samples, moment)) - moment) <= SAME;
  }

  private static int near(Samples samples, double moment) {
    return samples.sampleAt(moment + SAME);
  }

  private static int[] samples(Samples samples, double[] at) {
    return Arrays.stream(at).mapToInt(t -> near(samples, t)).toArray();
  }

  /** Moments of samples inside a range, and its ends where the samples reach beyond them. */
  private static double[] inside(Samples samples, double from, double to) {
    double[] between =
        Arrays.stream(samples.allSeconds()).filter(t -> t > from + SAME && t < to - SAME).toArray();
    double start = Math.max(from, Math.min(samples.startSeconds(), to));
    double end = Math.min(to, Math.max(samples.endSeconds(), start));
    double[] at = new double[between.length + (end > start + SAME ? 2 : 1)];
    int first = 0;
    if (between.length == 0 || between[0] > start + SAME) {
      at[first++] = start;
    }
    System.arraycopy(between, 0, at, first, between.length);
    first += between.length;
    if (end > at[Math.max(0, first - 1)] + SAME) {
      at[first++] = end;
    }
    return Arrays.copyOf(at, first);
  }

  /**
   * Every moment t at {@code scale * t + offset}.
   *
   * @param scale above 0
   */
  static TimeChange mapped(double scale, double offset) {
    return new TimeChange() {
      @Override
      public Clip of(Clip clip) {
        return changed(
            clip,
            scale * clip.startSeconds() + offset,
            scale * clip.endSeconds() + offset,
            t -> TrackTime.mapped(t, scale, offset),
            w -> new Clip.Words(w.targetId(), w.property(), times(w.timesSeconds()), w.values()));
      }

      private double[] times(double[] seconds) {
        return Arrays.stream(seconds).map(t -> scale * t + offset).toArray();
      }

      @Override
      public Moments moments(Samples samples) {
        double[] at = samples.allSeconds();
        return new Moments(at, times(at));
      }
    };
  }

  /**
   * Every moment t at {@code whole - t}: the end comes first.
   *
   * @param whole start and end together
   */
  static TimeChange reversed(double whole) {
    return new TimeChange() {
      @Override
      public Clip of(Clip clip) {
        double end = clip.endSeconds();
        return changed(
            clip,
            whole - end,
            whole - clip.startSeconds(),
            t -> TrackTime.reversed(t, whole, end),
            w -> back(w, end));
      }

      private Clip.Words back(Clip.Words words, double end) {
        double[] times = words.timesSeconds();
        int count = times.length;
        int kept = count > 1 && times[count - 1] >= end ? count - 1 : count;
        double[] at = new double[kept];
        String[] values = new String[kept];
        for (int k = 0; k < kept; k++) {
          int from = kept - 1 - k;
          at[k] = whole - (from == count - 1 ? Math.max(end, times[from]) : times[from + 1]);
          values[k] = words.values().get(from);
        }
        return new Clip.Words(words.targetId(), words.property(), at, List.of(values));
      }

      @Override
      public Moments moments(Samples samples) {
        double[] own = samples.allSeconds();
        double[] at = new double[own.length];
        Arrays.setAll(at, s -> own[own.length - 1 - s]);
        return new Moments(at, Arrays.stream(at).map(t -> whole - t).toArray());
      }
    };
  }

  /**
   * The first pose held before, and the last one after.
   *
   * @param before seconds, 0 for none
   * @param after seconds, 0 for none
   */
  static TimeChange held(double before, double after) {
    return new TimeChange() {
      @Override
      public Clip of(Clip clip) {
        double start = clip.startSeconds() - before;
        double end = clip.endSeconds() + after;
        return changed(
            clip,
            start,
            end,
            t -> TrackTime.cut(t, clip.startSeconds(), clip.endSeconds()).held(start, end),
            w -> w);
      }

      @Override
      public Moments moments(Samples samples) {
        DoubleStream own = Arrays.stream(samples.allSeconds());
        DoubleStream early = once(samples.startSeconds(), before);
        double[] at =
            DoubleStream.concat(DoubleStream.concat(early, own), once(samples.endSeconds(), after))
                .toArray();
        double[] now = at.clone();
        now[0] -= before;
        now[now.length - 1] += after;
        return new Moments(at, now);
      }

      private DoubleStream once(double moment, double held) {
        return held > 0 ? DoubleStream.of(moment) : DoubleStream.empty();
      }
    };
  }

  /** A key or sample at each frame, straight between them. */
  static TimeChange sampled(double rate) {
    return new TimeChange() {
      private double[] frames(double start, double end) {
        int count = (int) Math.min(1 << 20, Math.floor((end - start) * rate + 1e-6) + 1);
        double last = start + (count - 1) / rate;
        boolean rest = end - last > 1e-6;
        double[] at = new double[count + (rest ? 1 : 0)];
        for (int s = 0; s < count; s++) {
          at[s] = start + s / rate;
        }
        if (rest) {
          at[count] = end;
        }
        return at;
      }

      @Override
      public Clip of(Clip clip) {
        double[] at = frames(clip.startSeconds(), clip.endSeconds());
        return changed(
            clip, clip.startSeconds(), clip.endSeconds(), t -> TrackTime.sampled(t, at), w -> w);
      }

      @Override
      public Moments moments(Samples samples) {
        double[] at = frames(samples.startSeconds(), samples.endSeconds());
        return new Moments(at, at);
      }
    };
  }
}
