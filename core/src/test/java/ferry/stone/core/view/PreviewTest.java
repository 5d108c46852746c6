package ferry.stone.core.view;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.TestFiles;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.obj.read.ObjReader;
import ferry.stone.core.scene.Scene;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.HashSet;
import java.util.Set;
import org.junit.jupiter.api.Test;

class PreviewTest {
  private static final String TWO_TRIANGLES =
      "v 0 0 0 0.5 0.5 0.5\nv 1 0 0 1 0 0\nv 0 1 0 0 0 1\nv 5 0 0 1 1 1\nv 6 0 0 1 1 1\n"
          + "v 5 1 0 1 1 1\nvt 0 0.25\nvt 1 0.25\nvt 0 1\nvn 0 0 1\n"
          + "f 1/1/1 2/2/1 3/3/1\nf 4/1/1 5/2/1 6/3/1\n";

  private static Scene scene() throws Exception {
    return ObjReader.read("a.obj", ReadContext.of(TestFiles.of("a.obj", TWO_TRIANGLES)));
  }

  private static ByteBuffer little(byte[] bytes) {
    return ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
  }

  @Test
  void theBlockHoldsWhatTheViewsDraw() throws Exception {
    Scene scene = scene();
    ByteBuffer block = little(Preview.of(scene.meshes().get(0), scene));
    int length = block.getInt(0);
    assertEquals(0, length % 4);
    JsonNode head =
        new ObjectMapper().readTree(new String(block.array(), 4, length, StandardCharsets.UTF_8));
    JsonNode p = head.at("/primitives/0");
    assertEquals(2, p.path("triangles").asInt());
    assertEquals(6, p.path("vertices").asInt());
    int base = 4 + length;
    for (int i = 0; i < 6; i++) {
      int v = block.getInt(base + p.path("index").asInt() + 4 * i);
      float[] x = {0, 1, 0, 5, 6, 5};
      float[] uvY = {0.75f, 0.75f, 0, 0.75f, 0.75f, 0};
      assertEquals(x[i], block.getFloat(base + p.path("position").asInt() + 12 * v));
      assertEquals(1f, block.getFloat(base + p.path("normal").asInt() + 12 * v + 8));
      assertEquals(uvY[i], block.getFloat(base + p.path("uv").asInt() + 8 * v + 4));
    }
    // sRGB 0.5 is 0.2140 of linear light (IEC 61966-2-1).
    assertEquals(0.2140f, block.getFloat(base + p.path("colour").asInt()), 1e-4f);
  }

  @Test
  void piecesAreNumberedApart() throws Exception {
    ByteBuffer block = little(Preview.pieces(scene().meshes().get(0)));
    assertEquals(4 * 6, block.capacity());
    Set<Float> numbers = new HashSet<>();
    for (int i = 0; i < 6; i++) {
      numbers.add(block.getFloat(4 * i));
    }
    assertEquals(2, numbers.size());
    assertTrue(numbers.stream().allMatch(n -> n == Math.rint(n)));
  }
}
