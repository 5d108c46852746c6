package ferry.stone.core.view;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;
import java.util.zip.Deflater;
import java.util.zip.DeflaterOutputStream;

/**
 * Positions of point caches in some frames of a clip, for motion that a page cannot hold whole:
 * whole steps of the box around them, 65,535 along each side, so that what is drawn is off by half
 * a step at most.
 *
 * <table>
 * <caption>Layout, little-endian</caption>
 * <tr><td>uint32</td><td>length of the JSON, a multiple of 4</td></tr>
 * <tr><td>JSON</td><td>{@code from} and {@code count} of the frames; {@code bytes} of each; {@code caches}, in the order of
 * {@link PreviewMotion}: {@code count} of vertices, {@code low}: the box's least x, y, z, {@code
 * step}: length of a step along each</td></tr>
 * <tr><td>each frame deflated (zlib)</td><td>for each cache the low bytes of x, y, z of all vertices,
 * then the high bytes: steps in the first frame, then how many more than the frame before, both
 * modulo 65,536</td></tr>
 * </table>
 */
public final class PointFrames {
  /** Steps along a side of the box. */
  private static final int STEPS = 65_535;

  /** Positions that are worked on at once. */
  private static final long MOST_BYTES = 32L << 20;

  private PointFrames() {}

  /** How many frames are best asked for at once. */
  static int atOnce(long vertices) {
    return (int) Math.max(1, Math.min(64, MOST_BYTES / Math.max(1, 12 * vertices)));
  }

  /**
   * @param from first frame
   * @param wanted how many; fewer come where the clip ends or a block may not hold so many
   */
  public static byte[] of(Scene scene, Clip clip, int from, int wanted, PointShapes shapes)
      throws IOException {
    List<MovedPoints> points = MovedPoints.of(scene, shapes);
    long vertices = points.stream().mapToLong(MovedPoints::vertexCount).sum();
    int all = PreviewMotion.frames(scene, clip);
    int first = Math.max(0, Math.min(from, all - 1));
    int count = Math.max(1, Math.min(Math.min(wanted, all - first), atOnce(vertices)));
    float[][][] positions = new float[points.size()][count][];
    double[][] boxes = new double[points.size()][];
    for (int p = 0; p < points.size(); p++) {
      for (int f = 0; f < count; f++) {
        positions[p][f] = points.get(p).at(PreviewMotion.moment(scene, clip, first + f));
      }
      boxes[p] = box(positions[p]);
    }
    short[][][] steps = new short[points.size()][count][];
    IntStream.range(0, points.size() * count)
        .parallel()
        .forEach(
            i -> {
              int p = i / count;
              steps[p][i % count] = steps(positions[p][i % count], boxes[p]);
            });
    byte[][] frames = new byte[count][];
    IntStream.range(0, count).parallel().forEach(f -> frames[f] = packed(steps, f));
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    byte[] json = head(first, points, boxes, frames);
    out.writeBytes(
        ByteBuffer.allocate(4).order(ByteOrder.LITTLE_ENDIAN).putInt(json.length).array());
    out.writeBytes(json);
    for (byte[] frame : frames) {
      out.writeBytes(frame);
    }
    return out.toByteArray();
  }

  private static byte[] head(
      int from, List<MovedPoints> points, double[][] boxes, byte[][] frames) {
    ObjectNode head = JsonNodeFactory.instance.objectNode();
    head.put("from", from).put("count", frames.length);
    ArrayNode bytes = head.putArray("bytes");
    for (byte[] frame : frames) {
      bytes.add(frame.length);
    }
    ArrayNode caches = head.putArray("caches");
    for (int p = 0; p < points.size(); p++) {
      ObjectNode cache = caches.addObject().put("count", points.get(p).vertexCount());
      ArrayNode low = cache.putArray("low");
      ArrayNode step = cache.putArray("step");
      for (int c = 0; c < 3; c++) {
        low.add(boxes[p][c]);
        step.add(boxes[p][3 + c]);
      }
    }
    return Preview.padded(head);
  }

  private static byte[] packed(short[][][] steps, int frame) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    Deflater fast = new Deflater(Deflater.BEST_SPEED);
    try (DeflaterOutputStream packed = new DeflaterOutputStream(out, fast, 1 << 16)) {
      for (short[][] cache : steps) {
        packed.write(planes(cache[frame], frame == 0 ? null : cache[frame - 1]));
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    } finally {
      fast.end();
    }
    return out.toByteArray();
  }

  /** Least x, y, z, and the length of a step along each. */
  private static double[] box(float[][] frames) {
    double[] box = new double[6];
    Arrays.fill(box, 0, 3, Double.POSITIVE_INFINITY);
    Arrays.fill(box, 3, 6, Double.NEGATIVE_INFINITY);
    for (float[] frame : frames) {
      for (int c = 0; c < 3; c++) {
        float low = Float.POSITIVE_INFINITY;
        float high = Float.NEGATIVE_INFINITY;
        for (int i = c; i < frame.length; i += 3) {
          float value = frame[i];
          // What is no number is neither below nor above.
          low = value < low && value > Float.NEGATIVE_INFINITY ? value : low;
          high = value > high && value < Float.POSITIVE_INFINITY ? value : high;
        }
        box[c] = Math.min(box[c], low);
        box[3 + c] = Math.max(box[3 + c], high);
      }
    }
    for (int c = 0; c < 3; c++) {
      boolean some = box[3 + c] >= box[c];
      box[3 + c] = some ? (box[3 + c] - box[c]) / STEPS : 0;
      box[c] = some ? box[c] : 0;
    }
    return box;
  }

  private static short[] steps(float[] frame, double[] box) {
    short[] steps = new short[frame.length];
    for (int c = 0; c < 3; c++) {
      double a = box[3 + c] > 0 ? 1 / box[3 + c] : 0;
      double low = box[c];
      for (int i = c; i < steps.length; i += 3) {
        // What is nowhere becomes 0.
        steps[i] = (short) (int) ((frame[i] - low) * a + 0.5);
      }
    }
    return steps;
  }

  private static byte[] planes(short[] steps, short[] before) {
    byte[] planes = new byte[2 * steps.length];
    for (int i = 0; i < steps.length; i++) {
      int value = before == null ? steps[i] : steps[i] - before[i];
      planes[i] = (byte) value;
      planes[steps.length + i] = (byte) (value >> 8);
    }
    return planes;
  }
}
