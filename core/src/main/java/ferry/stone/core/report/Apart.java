package ferry.stone.core.report;

import ferry.stone.core.format.files.Resources;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.Frame;
import ferry.stone.core.proof.PartMatch;
import ferry.stone.core.proof.pair.PairProof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.view.Deviation;
import ferry.stone.core.view.picture.Picture;
import ferry.stone.core.view.picture.ViewFrom;
import ferry.stone.core.work.Progress;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.HashMap;
import java.util.Map;

/**
 * How far the surfaces of a second scene lie from the parts of a first that they are, matched as
 * the proof matches them: in figures, and as a picture.
 */
public final class Apart {
  /** Triangles of larger scenes are not held against each other for pictures. */
  public static final long MOST_TRIANGLES = 2_000_000;

  /** Metres below which two surfaces are one in a picture. */
  private static final double NOTHING = 1e-7;

  private final Picture picture;
  private final Map<Integer, float[]> distances = new HashMap<>();
  private final Map<String, Integer> second = new HashMap<>();
  private double most;
  private String where = "";

  private Apart(Picture picture) {
    this.picture = picture;
  }

  /** Whether the scenes are small enough for it. */
  public static boolean isPossible(Scene scene) {
    return scene.meshes().stream().mapToLong(m -> m.faces().triangleCount()).sum()
        <= MOST_TRIANGLES;
  }

  /**
   * @param files of the second, for its textures
   * @param how the second is put on the spot of the first, and parts that were matched by hand
   * @throws IllegalArgumentException for scenes that are too large, in a sentence
   */
  public static Apart of(
      Scene first, Scene second, Resources files, PairProof.How how, Progress progress) {
    if (!isPossible(first) || !isPossible(second)) {
      throw new IllegalArgumentException(
          "Pictures of where two assets lie apart are drawn up to "
              + Figures.count(MOST_TRIANGLES, "triangle")
              + " a side; the facts hold for all of it.");
    }
    Scene placed = PairProof.placed(first, second, how.together());
    Scene a = Rebase.intoData(first, Frame.Y_UP_METRE);
    Scene b = Rebase.intoData(placed, Frame.Y_UP_METRE);
    Apart apart = new Apart(Picture.of(placed, files, Double.NaN, progress));
    apart.measure(a, b, new PartMatch(a, b, how.byHand()), progress);
    return apart;
  }

  private void measure(Scene a, Scene b, PartMatch match, Progress progress) {
    Map<Integer, Integer> same = new HashMap<>();
    for (int i = 0; i < match.wanted().size(); i++) {
      Scene.ShownMesh found = match.landed(i);
      if (found != null) {
        same.put(found.node().id(), match.wanted().get(i).node().id());
        second.put(match.wanted().get(i).path(), found.node().id());
      }
    }
    Deviation deviation = Deviation.between(b, a, same);
    for (Scene.ShownMesh shown : b.shownMeshes()) {
      progress.checkCancelled();
      ByteBuffer bytes =
          ByteBuffer.wrap(deviation.of(shown.node().id(), progress)).order(ByteOrder.LITTLE_ENDIAN);
      float[] own = new float[bytes.remaining() / Float.BYTES];
      bytes.asFloatBuffer().get(own);
      distances.put(shown.node().id(), own);
      double farthest = farthest(own);
      if (farthest > most) {
        most = farthest;
        where = shown.path();
      }
    }
  }

  private static double farthest(float[] distances) {
    double most = 0;
    for (float each : distances) {
      most = Float.isFinite(each) && each > most ? each : most;
    }
    return most;
  }

  /** Whether they lie nowhere apart. */
  public boolean isNothing() {
    return most <= NOTHING;
  }

  /** Metres that they lie apart at most. */
  public double most() {
    return most;
  }

  /** Path of the part of the second with the largest distance. */
  public String where() {
    return where;
  }

  /**
   * The second scene in the colours of its distances, of which the largest has the strongest.
   *
   * @param part path of a part of the first: only what it was held against; {@code null} for all,
   *     and all of it where nothing was held against that part
   */
  public Pixels taken(ViewFrom from, int width, int height, String part, Progress progress) {
    Integer only = part == null ? null : second.get(part);
    double strongest = only == null ? most : farthest(distances.get(only));
    Picture shown = only == null ? picture : picture.of(only);
    return shown.taken(from, width, height, distances::get, Math.max(strongest, NOTHING), progress);
  }
}
