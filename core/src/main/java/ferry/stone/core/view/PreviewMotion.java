package ferry.stone.core.view;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.motion.ClipPoses;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.motion.SeenOver;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Purpose;
import ferry.stone.core.scene.time.Clip;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.joml.Matrix4d;
import org.joml.Matrix4dc;

/**
 * A clip as the page's views play it: where every moving node stands in each frame, evaluated here
 * so that all formats play alike.
 *
 * <table>
 * <caption>Layout, little-endian</caption>
 * <tr><td>uint32</td><td>length of the JSON, a multiple of 4</td></tr>
 * <tr><td>JSON</td><td>{@code start}, {@code end} in seconds, {@code framesPerSecond}, {@code frames}
 * of the whole clip, {@code from} and {@code count} of those here, {@code nodes}: ids of the moving
 * nodes, {@code morphs}: id and number of weights of the nodes with morph targets, {@code shown}: ids of nodes that come and go, {@code points}:
 * for each point cache the nodes that show its mesh and the number of vertices of {@link Preview},
 * {@code pointBlock}: 0 where their positions are here, else how many frames of {@link PointFrames} are best asked for at once</td></tr>
 * <tr><td>float32</td><td>for each frame and node 12 numbers: x, y, z of the four columns of its
 * matrix; then for each frame the weights of each node with morph targets; then for each frame 1 or 0 for each node of {@code shown}; then for each frame
 * the positions of each cache, in the mesh's own numbers</td></tr>
 * </table>
 */
public final class PreviewMotion {
  private static final int MOST_FRAMES = 20_000;
  private static final long MOST_BYTES = 48L << 20;
  private static final int NUMBERS = 12;

  /** Positions of all frames together come along below this; else the page asks for some. */
  private static final long MOST_POINT_BYTES = 48L << 20;

  private PreviewMotion() {}

  /** How many frames a clip has, both ends counted. */
  public static int frames(Scene scene, Clip clip) {
    double length = Math.max(0, clip.endSeconds() - clip.startSeconds());
    return (int) Math.min(MOST_FRAMES, Math.ceil(length * Caches.rate(scene) - 1e-3) + 1);
  }

  /**
   * @param toView carries the scene's world to the view's
   * @param from first frame wanted
   * @return as many frames from there as one block may hold
   */
  public static byte[] of(Scene scene, Clip clip, Matrix4dc toView, int from, PointShapes shapes)
      throws IOException {
    int frames = frames(scene, clip);
    List<Integer> moving = moving(scene, clip);
    List<Integer> morphing = new ArrayList<>();
    Purpose[] purposes = scene.purposes();
    Pose rest = Pose.rest(scene);
    long numbers = (long) NUMBERS * moving.size();
    for (int i = 0; i < scene.nodes().size(); i++) {
      if (rest.morphWeights()[i] != null) {
        morphing.add(i);
        numbers += rest.morphWeights()[i].length;
      }
    }
    List<Integer> shown =
        SeenOver.of(scene, clip).places().stream().filter(i -> inPicture(purposes[i])).toList();
    numbers += shown.size();
    List<MovedPoints> points = MovedPoints.of(scene, shapes);
    long vertices = points.stream().mapToLong(MovedPoints::vertexCount).sum();
    boolean apart = 12 * vertices * frames > MOST_POINT_BYTES;
    int blocks = apart ? PointFrames.atOnce(vertices) : 0;
    numbers += apart ? 0 : 3 * vertices;
    int first = Math.max(0, Math.min(from, frames - 1));
    int most = (int) Math.max(1, MOST_BYTES / Math.max(1, 4 * numbers));
    int count = Math.min(frames - first, most);
    Head head = new Head(frames, first, count, moving, morphing, shown, points, blocks);
    byte[] json = head.json(scene, clip, rest);
    ByteBuffer out =
        ByteBuffer.allocate((int) (4 + json.length + 4 * numbers * count))
            .order(ByteOrder.LITTLE_ENDIAN);
    out.putInt(json.length).put(json);
    float[][] weights = new float[count][];
    Matrix4d m = new Matrix4d();
    double[] columns = new double[16];
    ClipPoses poses = ClipPoses.of(scene, clip);
    for (int f = 0; f < count; f++) {
      Pose pose = poses.at(moment(scene, clip, first + f));
      for (int place : moving) {
        toView.mul(pose.world()[place], m);
        m.mul(scene.nodes().get(place).geometric().toMatrix());
        m.get(columns);
        for (int c = 0; c < 16; c++) {
          if (c % 4 != 3) {
            out.putFloat((float) columns[c]);
          }
        }
      }
      weights[f] = weights(pose, morphing);
    }
    for (float[] frame : weights) {
      for (float weight : frame) {
        out.putFloat(weight);
      }
    }
    putSeen(scene, clip, head, SeenOver.of(scene, clip), out);
    putPoints(scene, clip, head, out);
    return Arrays.copyOf(out.array(), out.position());
  }

  static double moment(Scene scene, Clip clip, int frame) {
    return Math.min(clip.endSeconds(), clip.startSeconds() + frame / Caches.rate(scene));
  }

  private static void putSeen(Scene scene, Clip clip, Head head, SeenOver seen, ByteBuffer out) {
    int end = head.from() + head.count();
    for (int f = head.from(); f < end && !head.shown().isEmpty(); f++) {
      boolean[] now = seen.at(moment(scene, clip, f));
      for (int place : head.shown()) {
        out.putFloat(now[place] ? 1 : 0);
      }
    }
  }

  private static void putPoints(Scene scene, Clip clip, Head head, ByteBuffer out)
      throws IOException {
    for (int f = head.from(); f < head.from() + head.count() && head.pointBlock() == 0; f++) {
      for (MovedPoints moved : head.points()) {
        for (float coordinate : moved.at(moment(scene, clip, f))) {
          out.putFloat(coordinate);
        }
      }
    }
  }

  private static boolean inPicture(Purpose purpose) {
    return purpose == Purpose.DEFAULT || purpose == Purpose.RENDER;
  }

  private static float[] weights(Pose pose, List<Integer> morphing) {
    int count = morphing.stream().mapToInt(i -> pose.morphWeights()[i].length).sum();
    float[] result = new float[count];
    int at = 0;
    for (int place : morphing) {
      for (double weight : pose.morphWeights()[place]) {
        result[at++] = (float) weight;
      }
    }
    return result;
  }

  /** Places of the nodes that a clip moves, with all below them. */
  private static List<Integer> moving(Scene scene, Clip clip) {
    Set<Integer> targets = new HashSet<>();
    clip.tracks().stream().filter(Clip.Track::isTransform).forEach(t -> targets.add(t.targetId()));
    boolean[] moves = new boolean[scene.nodes().size()];
    List<Integer> moving = new ArrayList<>();
    for (int i = 0; i < moves.length; i++) {
      Node node = scene.nodes().get(i);
      moves[i] = targets.contains(node.id()) || (node.parent() >= 0 && moves[node.parent()]);
      if (moves[i]) {
        moving.add(i);
      }
    }
    return moving;
  }

  /** What a block says of itself. */
  private record Head(
      int frames,
      int from,
      int count,
      List<Integer> moving,
      List<Integer> morphing,
      List<Integer> shown,
      List<MovedPoints> points,
      int pointBlock) {

    byte[] json(Scene scene, Clip clip, Pose rest) {
      ObjectNode head = JsonNodeFactory.instance.objectNode();
      head.put("start", clip.startSeconds()).put("end", clip.endSeconds());
      head.put("framesPerSecond", Caches.rate(scene)).put("frames", frames);
      head.put("from", from).put("count", count);
      ArrayNode nodes = head.putArray("nodes");
      moving.forEach(i -> nodes.add(scene.nodes().get(i).id()));
      ArrayNode morphs = head.putArray("morphs");
      for (int i : morphing) {
        morphs
            .addObject()
            .put("node", scene.nodes().get(i).id())
            .put("count", rest.morphWeights()[i].length);
      }
      ArrayNode come = head.putArray("shown");
      shown.forEach(i -> come.add(scene.nodes().get(i).id()));
      head.put("pointBlock", pointBlock);
      ArrayNode caches = head.putArray("points");
      for (MovedPoints moved : points) {
        ObjectNode json = caches.addObject().put("count", moved.vertexCount());
        moved.nodeIds().forEach(json.putArray("nodes")::add);
      }
      return Preview.padded(head);
    }
  }
}
