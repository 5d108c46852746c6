package ferry.stone.core.view;

import ferry.stone.core.motion.Curves;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.List;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * The curves of a clip on one node, sampled four times a frame, for the page to draw.
 *
 * @param start of the clip in seconds
 * @param end of the clip in seconds
 * @param lines one for each number that moves
 */
public record PreviewCurves(double start, double end, List<Line> lines) {
  private static final int MOST_SAMPLES = 4000;

  /** So that curves between frames show their bend. */
  private static final int A_FRAME = 4;

  private static final String[] AXES = {"X", "Y", "Z"};

  /**
   * @param group what moves: {@code place}, {@code turn}, {@code size}, {@code weight} or {@code
   *     other}
   * @param name of the number within its group: {@code X}, or a morph target
   * @param unit {@code m}, {@code °}, {@code ×}, {@code %} or empty
   * @param values at samples spread evenly from start to end
   * @param keys seconds of the source's keys
   */
  public record Line(String group, String name, String unit, double[] values, double[] keys) {}

  public static PreviewCurves of(Scene scene, Clip clip, int nodeId) {
    int frames = PreviewMotion.frames(scene, clip);
    int samples = 1 + Math.min(MOST_SAMPLES, Math.max(1, A_FRAME * (frames - 1)));
    List<Line> lines = new ArrayList<>();
    for (Clip.Track track : clip.tracks()) {
      if (track.targetId() == nodeId) {
        add(track, clip, samples, scene.frame().metresPerUnit(), lines);
      }
    }
    return new PreviewCurves(clip.startSeconds(), clip.endSeconds(), lines);
  }

  private static void add(
      Clip.Track track, Clip clip, int samples, double metres, List<Line> lines) {
    double[][] values = sampled(track, clip, samples);
    if (track.property().equals(Clip.ROTATION)) {
      three("turn", "°", degrees(values), 1, track, lines);
    } else if (track.property().equals(Clip.TRANSLATION)) {
      three("place", "m", values, metres, track, lines);
    } else if (track.property().equals(Clip.SCALE)) {
      three("size", "×", values, 1, track, lines);
    } else if (track.isMorph()) {
      String name = track.property().substring(Clip.MORPH.length());
      lines.add(
          new Line("weight", name, "%", column(values, 0, 100), track.timesSeconds().clone()));
    } else {
      for (int c = 0; c < track.components(); c++) {
        String name = track.property() + (track.components() > 1 ? " " + (c + 1) : "");
        lines.add(new Line("other", name, "", column(values, c, 1), track.timesSeconds().clone()));
      }
    }
  }

  private static void three(
      String group,
      String unit,
      double[][] values,
      double factor,
      Clip.Track track,
      List<Line> lines) {
    for (int c = 0; c < 3; c++) {
      lines.add(
          new Line(group, AXES[c], unit, column(values, c, factor), track.timesSeconds().clone()));
    }
  }

  private static double[][] sampled(Clip.Track track, Clip clip, int samples) {
    double[][] values = new double[samples][track.components()];
    for (int i = 0; i < samples; i++) {
      double part = (double) i / (samples - 1);
      double t = clip.startSeconds() + part * (clip.endSeconds() - clip.startSeconds());
      Curves.sample(track, t, values[i]);
    }
    return values;
  }

  private static double[] column(double[][] values, int c, double factor) {
    double[] column = new double[values.length];
    for (int i = 0; i < column.length; i++) {
      column[i] = factor * values[i][c];
    }
    return column;
  }

  /** Turns about X, then Y, then Z in degrees; a turn goes on past 180° where the motion does. */
  private static double[][] degrees(double[][] quaternions) {
    double[][] result = new double[quaternions.length][3];
    Quaterniond q = new Quaterniond();
    Vector3d angles = new Vector3d();
    for (int i = 0; i < result.length; i++) {
      double[] v = quaternions[i];
      q.set(v[0], v[1], v[2], v[3]).normalize().getEulerAnglesZYX(angles);
      for (int c = 0; c < 3; c++) {
        double angle = Math.toDegrees(angles.get(c));
        double before = i == 0 ? angle : result[i - 1][c];
        result[i][c] = angle + 360 * Math.rint((before - angle) / 360);
      }
    }
    return result;
  }
}
