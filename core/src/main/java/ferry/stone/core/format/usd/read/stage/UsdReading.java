package ferry.stone.core.format.usd.read.stage;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.ReadReport;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.compose.UsdProperty;
import ferry.stone.core.format.usd.compose.UsdStage;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.math.DoubleList;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.PointCache;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/**
 * What all parts of the reader share.
 *
 * @param rate time codes a second
 * @param metresPerUnit of the stage
 * @param asOthers whether prims that a landing of ours added are parts, as everybody else reads
 *     them
 * @param tracks what moves so far
 * @param keys what some of the tracks were made from
 */
public record UsdReading(
    UsdStage stage,
    ReadReport report,
    SceneBuilder scene,
    double rate,
    double metresPerUnit,
    boolean asOthers,
    List<Clip.Track> tracks,
    List<Clip.Keys> keys,
    List<Clip.Words> words,
    List<PointCache> caches,
    List<MeshSequence> sequences) {

  public UsdReading(
      UsdStage stage,
      ReadReport report,
      SceneBuilder scene,
      double rate,
      double metresPerUnit,
      boolean asOthers) {
    this(
        stage,
        report,
        scene,
        rate,
        metresPerUnit,
        asOthers,
        new ArrayList<>(),
        new ArrayList<>(),
        new ArrayList<>(),
        new ArrayList<>(),
        new ArrayList<>());
  }

  /** The same of another stage; what it tells is told already. */
  public UsdReading of(UsdStage other) {
    ReadReport silent = report.silent();
    return new UsdReading(other, silent, scene, rate, metresPerUnit, asOthers);
  }

  public double seconds(double code) {
    return code / rate;
  }

  /**
   * Adds what an attribute of numbers does over time.
   *
   * @param components numbers that count of each sample
   * @param change what the numbers of a sample become; as many again
   */
  public void track(
      int targetId,
      String track,
      UsdProperty property,
      Clip.Interpolation interpolation,
      int components,
      Change change)
      throws IOException, FormatException {
    UsdSamples samples = property == null ? null : property.samples();
    if (samples == null || samples.codes().length < 2) {
      return;
    }
    double[] codes = samples.codes();
    report.claim(8L * (components + 1) * codes.length, property.name(), "its samples");
    DoubleList seconds = new DoubleList(codes.length);
    DoubleList values = new DoubleList(codes.length * components);
    for (int s = 0; s < codes.length; s++) {
      if (samples.value(s) instanceof UsdValue value) {
        double[] changed = change.of(value);
        if (changed != null) {
          seconds.add(seconds(codes[s]));
          for (double number : changed) {
            values.add(number);
          }
        }
      }
    }
    double[] all = values.toArray();
    boolean moves = false;
    for (int i = components; i < all.length; i++) {
      moves |= all[i] != all[i % components];
    }
    if (moves) {
      tracks.add(
          new Clip.Track(
              targetId, track, interpolation, components, seconds.toArray(), all, null, null));
    }
  }

  /** What a sample becomes; {@code null} for nothing. */
  public interface Change {
    double[] of(UsdValue value) throws FormatException;
  }

  /** Says that an attribute changes over time and is read as it is at first. */
  public void still(UsdPrim prim, String... names) {
    for (String name : names) {
      if (Said.moves(prim, name)) {
        report.lost(
            "value-motion-not-read",
            prim.path(),
            "\"" + name + "\" changes over time: it is read as it is at first.");
      }
    }
  }
}
