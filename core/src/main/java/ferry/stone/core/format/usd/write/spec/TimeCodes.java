package ferry.stone.core.format.usd.write.spec;

import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;

/** Tracks and words of the one clip of a file by what they move, and seconds as time codes. */
public final class TimeCodes {
  private static final double WHOLE = 1e-6;

  private final double rate;
  private final Map<Integer, Map<String, Clip.Track>> tracks = new HashMap<>();
  private final Map<Integer, Map<String, Clip.Words>> words = new HashMap<>();

  /**
   * @param rate time codes a second
   * @param clip as the file holds it, {@code null} for none
   */
  public TimeCodes(double rate, Clip clip) {
    this.rate = rate;
    if (clip != null) {
      for (Clip.Track track : clip.tracks()) {
        tracks.computeIfAbsent(track.targetId(), k -> new HashMap<>()).put(track.property(), track);
      }
      for (Clip.Words each : clip.words()) {
        words.computeIfAbsent(each.targetId(), k -> new HashMap<>()).put(each.property(), each);
      }
    }
  }

  public double rate() {
    return rate;
  }

  public double code(double seconds) {
    double code = seconds * rate;
    double whole = Math.rint(code);
    return Math.abs(code - whole) < WHOLE ? whole : code;
  }

  public double[] codes(double[] seconds) {
    double[] codes = new double[seconds.length];
    for (int i = 0; i < codes.length; i++) {
      codes[i] = code(seconds[i]);
    }
    return codes;
  }

  /** What moves a property of a target, {@code null} for nothing. */
  public Clip.Track track(int targetId, String property) {
    return tracks.getOrDefault(targetId, Map.of()).get(property);
  }

  public Map<String, Clip.Track> tracks(int targetId) {
    return tracks.getOrDefault(targetId, Map.of());
  }

  Map<String, Clip.Words> words(int targetId) {
    return words.getOrDefault(targetId, Map.of());
  }

  /**
   * The keys of a track as samples; where it jumps, the value before stands just before it, unless
   * the type jumps by itself.
   *
   * @param value of a key's numbers
   * @param jumps whether values of the type hold until the next by their nature
   */
  public UsdSamples samples(Clip.Track track, boolean jumps, Function<double[], UsdValue> value) {
    int n = track.components();
    boolean doubled = track.interpolation() == Clip.Interpolation.STEP && !jumps;
    List<Double> codes = new ArrayList<>();
    List<UsdValue> values = new ArrayList<>();
    double[] one = new double[n];
    for (int k = 0; k < track.timesSeconds().length; k++) {
      double code = code(track.timesSeconds()[k]);
      if (doubled && k > 0) {
        codes.add(Math.nextDown(code) - Math.max(1e-4, Math.ulp(code)));
        values.add(values.get(values.size() - 1));
      }
      System.arraycopy(track.values(), n * k, one, 0, n);
      codes.add(code);
      values.add(value.apply(one.clone()));
    }
    return Spec.samples(codes.stream().mapToDouble(Double::doubleValue).toArray(), values);
  }
}
