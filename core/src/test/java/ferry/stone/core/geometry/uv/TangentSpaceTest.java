package ferry.stone.core.geometry.uv;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.geometry.triangle.RenderPrimitive;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestFactory;

class TangentSpaceTest {
  private static float[] floats(JsonNode array) {
    float[] values = new float[array.size()];
    for (int i = 0; i < values.length; i++) {
      values[i] = (float) array.get(i).asDouble();
    }
    return values;
  }

  private static int[] corners(int count) {
    int[] indices = new int[count];
    for (int i = 0; i < count; i++) {
      indices[i] = i;
    }
    return indices;
  }

  /** Against the reference implementation: npm mikktspace 1.1.1, see make-tangents.cjs. */
  @TestFactory
  List<DynamicTest> sameAsTheReference() throws Exception {
    JsonNode all;
    try (var in = TangentSpaceTest.class.getResourceAsStream("/tangents/tangents.json")) {
      all = new ObjectMapper().readTree(in);
    }
    List<DynamicTest> tests = new ArrayList<>();
    all.fields()
        .forEachRemaining(
            e ->
                tests.add(
                    DynamicTest.dynamicTest(e.getKey(), () -> compare(e.getKey(), e.getValue()))));
    assertEquals(3, tests.size());
    return tests;
  }

  private static void compare(String name, JsonNode mesh) {
    float[] wanted = floats(mesh.path("tangents"));
    float[] found =
        TangentSpace.of(
            floats(mesh.path("positions")),
            floats(mesh.path("normals")),
            floats(mesh.path("uvs")),
            false,
            corners(wanted.length / 4));
    assertEquals(wanted.length, found.length);
    for (int i = 0; i < wanted.length; i++) {
      assertEquals(wanted[i], found[i], 2e-5, name + ", corner " + i / 4 + ", number " + i % 4);
    }
  }

  /** V counted from the top turns the side round and nothing else. */
  @Test
  void theImageDecidesTheSide() {
    float[] p = {0, 0, 0, 1, 0, 0, 0, 0, -1};
    float[] n = {0, 1, 0, 0, 1, 0, 0, 1, 0};
    float[] up = {0, 0, 1, 0, 0, 1};
    float[] down = {0, 1, 1, 1, 0, 0};
    float[] a = TangentSpace.of(p, n, up, false, corners(3));
    float[] b = TangentSpace.of(p, n, down, true, corners(3));
    assertEquals(1, a[0]);
    // The bitangent, normal × tangent, is where V grows: towards −Z.
    assertEquals(1, a[3]);
    org.junit.jupiter.api.Assertions.assertArrayEquals(a, b);
  }

  @Test
  void aVertexOnAMirrorIsRepeated() {
    float[] p = {0, 0, 0, 1, 0, 0, 0, 0, -1, -1, 0, 0};
    float[] n = {0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0};
    float[] uv = {0, 0, 1, 0, 0, 1, 1, 0};
    int[] indices = {0, 1, 2, 0, 2, 3};
    RenderPrimitive plain =
        new RenderPrimitive(
            1,
            0,
            p,
            n,
            null,
            List.of(uv),
            null,
            0,
            new int[] {4, 5, 6, 7},
            indices,
            new int[] {0, 1},
            List.of());
    RenderPrimitive made = plain.withTangents(TangentSpace.of(p, n, uv, false, indices));
    assertTrue(made.hasTangents());
    assertEquals(6, made.vertexCount());
    for (int c = 0; c < indices.length; c++) {
      assertEquals(
          plain.sourceVertex()[indices[c]], made.sourceVertex()[made.indices()[c]], "corner " + c);
    }
    assertEquals(1, made.tangents()[4 * made.indices()[0] + 3]);
    assertEquals(-1, made.tangents()[4 * made.indices()[3] + 3]);
  }
}
