package ferry.stone.core.view;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import org.joml.Matrix4d;

/** A block of {@link PreviewMotion} taken apart by the layout that its documentation states. */
final class MotionBlock {
  final JsonNode head;
  private final ByteBuffer numbers;
  private final int weights;
  private final int points;

  MotionBlock(byte[] bytes) throws IOException {
    ByteBuffer all = ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
    int length = all.getInt(0);
    head = new ObjectMapper().readTree(new String(bytes, 4, length, StandardCharsets.UTF_8));
    numbers = all.position(4 + length).slice().order(ByteOrder.LITTLE_ENDIAN);
    int sum = 0;
    for (JsonNode morph : head.path("morphs")) {
      sum += morph.path("count").asInt();
    }
    weights = sum;
    sum = 0;
    for (JsonNode cache : head.path("points")) {
      sum += cache.path("count").asInt();
    }
    points = sum;
  }

  int count() {
    return head.path("count").asInt();
  }

  private int nodes() {
    return head.path("nodes").size();
  }

  private int shown() {
    return head.path("shown").size();
  }

  /** How many numbers there should be. */
  int expectedBytes() {
    int samples = head.path("pointBlock").asInt() == 0 ? count() : 0;
    return 4 * (count() * (12 * nodes() + weights + shown()) + 3 * samples * points);
  }

  int bytes() {
    return numbers.capacity();
  }

  Matrix4d matrix(int frame, int node) {
    int at = 12 * (frame * nodes() + node);
    Matrix4d m = new Matrix4d();
    for (int c = 0; c < 4; c++) {
      for (int r = 0; r < 3; r++) {
        m.set(c, r, numbers.getFloat(4 * (at + 3 * c + r)));
      }
    }
    return m;
  }

  float weight(int frame, int place) {
    return numbers.getFloat(4 * (12 * nodes() * count() + weights * frame + place));
  }

  boolean seen(int frame, int place) {
    int at = (12 * nodes() + weights) * count() + shown() * frame + place;
    return numbers.getFloat(4 * at) == 1;
  }

  /** x, y or z of a vertex of the sample that is the {@code k}th here. */
  float point(int k, int vertex, int axis) {
    int at = (12 * nodes() + weights + shown()) * count() + 3 * (points * k + vertex) + axis;
    return numbers.getFloat(4 * at);
  }
}
