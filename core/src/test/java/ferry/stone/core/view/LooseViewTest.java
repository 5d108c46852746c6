package ferry.stone.core.view;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Lines and points reach the page's views behind the triangles. */
class LooseViewTest {
  @Test
  void linesAndPointsFollowTheTriangles() throws Exception {
    float[] points = {0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0, 5, 6, 7};
    float[] red = {1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 0, 0, 1};
    PolygonMesh mesh =
        PolygonMesh.of(1, "a", Coordinates.of(points), Polygons.triangles(new int[] {0, 1, 2}))
            .toBuilder()
            .attributes(
                List.of(
                    new Attribute(
                        "c", Attribute.Semantic.COLOUR, Attribute.Domain.VERTEX, 3, red, null)))
            .loose(new LooseElements(new int[] {0, 3}, new int[] {1, 2, 3}, new int[] {4}))
            .build();
    Scene scene = new SceneBuilder("a").linearColours(true).build();
    ByteBuffer block = ByteBuffer.wrap(Preview.of(mesh, scene)).order(ByteOrder.LITTLE_ENDIAN);
    int length = block.getInt();
    byte[] head = new byte[length];
    block.get(head);
    JsonNode primitives = new ObjectMapper().readTree(head).path("primitives");
    assertEquals(3, primitives.size());
    assertEquals("triangles", primitives.path(0).path("kind").asText());
    JsonNode lines = primitives.path(1);
    assertEquals("lines", lines.path("kind").asText());
    assertEquals(2, lines.path("segments").asInt());
    int base = 4 + length;
    int index = base + lines.path("index").asInt();
    assertEquals(1, block.getInt(index + 4));
    assertEquals(1, block.getInt(index + 8));
    JsonNode point = primitives.path(2);
    assertFalse(point.has("normal"));
    assertEquals(6, block.getFloat(base + point.path("position").asInt() + 4));
    assertEquals(1, block.getFloat(base + point.path("colour").asInt() + 8));
    assertEquals(block.capacity(), base + point.path("index").asInt());
  }
}
