package ferry.stone.core.format.usd.write.shape;

import ferry.stone.core.format.files.FreeNames;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.write.spec.Spec;
import ferry.stone.core.format.usd.write.spec.TimeCodes;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.List;

/** Weights of the shapes of all meshes that one skeleton moves. */
public final class WeightsOut {
  private final FreeNames names = new FreeNames();
  private final List<String> tokens = new ArrayList<>();
  private final List<Double> rest = new ArrayList<>();
  private final List<Clip.Track> tracks = new ArrayList<>();

  /**
   * Takes a shape.
   *
   * @param track {@code null} where its weight rests
   * @return what it is called there
   */
  String add(String name, double weight, Clip.Track track) {
    String token = names.take(name);
    tokens.add(token);
    rest.add(weight);
    tracks.add(track);
    return token;
  }

  /** Whether all weights are 0 at all times, which need not be said. */
  public boolean isEmpty() {
    return rest.stream().allMatch(w -> w == 0) && tracks.stream().allMatch(t -> t == null);
  }

  public void write(PrimSpec animation, TimeCodes times) {
    Spec.uniform(animation, "blendShapes", Spec.tokens(tokens));
    PropertySpec weights = Spec.attribute(animation, "float", true, "blendShapeWeights");
    float[] still = new float[rest.size()];
    for (int i = 0; i < still.length; i++) {
      still[i] = rest.get(i).floatValue();
    }
    weights.value(Spec.value("float", true, still));
    Keys keys = Keys.of(tracks);
    if (keys.seconds().length > 0) {
      weights.samples(ShapeOut.sampled(times.codes(keys.seconds()), s -> at(keys, s)));
    }
  }

  private UsdValue at(Keys keys, int moment) {
    float[] all = new float[tokens.size()];
    for (int i = 0; i < all.length; i++) {
      all[i] = (float) keys.at(tracks.get(i), moment, new double[] {rest.get(i)})[0];
    }
    return Spec.value("float", true, all);
  }
}
