package ferry.stone.core.format.stl;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import org.junit.jupiter.api.Test;

class StlReaderTest {
  private static final String TEXT =
      """
      solid upper  gate
        facet normal 0 0 1
          outer loop
            vertex 0 0 0
            vertex 1.5 0 0
            vertex 0 2e0 0
          endloop
        endfacet
      endsolid upper  gate
      SOLID
      FACET NORMAL 0 0 0
      OUTER LOOP
      VERTEX 0 0 1
      VERTEX 1 0 1
      VERTEX 0 1 1
      ENDLOOP
      ENDFACET
      ENDSOLID
      """;

  private static Scene read(byte[] content) throws Exception {
    return CargoReader.read("a", ReadContext.of(new TestFiles().with("a.stl", content)));
  }

  private static Scene read(String text) throws Exception {
    return read(text.getBytes(StandardCharsets.UTF_8));
  }

  private static byte[] binary(String head, int claimed, int triangles, int attribute) {
    ByteBuffer b = ByteBuffer.allocate(84 + 50 * triangles).order(ByteOrder.LITTLE_ENDIAN);
    b.put(Arrays.copyOf(head.getBytes(StandardCharsets.US_ASCII), 80)).putInt(claimed);
    for (int t = 0; t < triangles; t++) {
      b.putFloat(0).putFloat(0).putFloat(1);
      float[] corners = {0, 0, t, 2, 0, t, 0, 3, t};
      for (float c : corners) {
        b.putFloat(c);
      }
      b.putShort((short) attribute);
    }
    return b.array();
  }

  @Test
  void textHasASolidForEachPart() throws Exception {
    Scene scene = read(TEXT);
    assertEquals("upper  gate", scene.nodes().get(0).name());
    assertEquals("a", scene.nodes().get(1).name());
    assertEquals(1, scene.meshes().get(0).faces().faceCount());
    assertEquals(1.5, scene.meshes().get(0).points().x(1));
    assertEquals(2, scene.meshes().get(0).points().y(2));
    assertEquals(FrameSource.ASSUMED, scene.unitSource());
    assertEquals(0.001, scene.frame().metresPerUnit());
    assertEquals("z", scene.frame().up().text());
  }

  @Test
  void binaryIsToldByItsSizeWhateverItsHeadSays() throws Exception {
    for (String head : new String[] {"", "solid made by something"}) {
      Scene scene = read(binary(head, 3, 3, 0));
      assertEquals(3, scene.meshes().get(0).faces().faceCount());
      assertEquals(2, scene.meshes().get(0).points().z(8));
      assertEquals("a", scene.nodes().get(0).name());
    }
  }

  @Test
  void coloursInTheAttributeBytesAreSaidToBeLeftOut() throws Exception {
    Scene scene = read(binary("", 1, 1, 0x801f));
    assertTrue(scene.unread().get(0).contains("colours"), scene.unread().toString());
  }

  @Test
  void whatIsNoStlIsRefusedWithItsPlace() {
    refused(binary("", 5, 3, 0), Kind.TRUNCATED, "byte 80");
    refused(binary("", -1, 3, 0), Kind.TRUNCATED, "byte 80");
    refused("nothing".getBytes(StandardCharsets.UTF_8), Kind.TRUNCATED, "byte 7");
    refused(TEXT.replace("1.5 0 0", "1.5 x 0"), Kind.CORRUPT, "line 5");
    refused(TEXT.replace("1.5 0 0", "1.5 0"), Kind.CORRUPT, "line 5");
    refused(TEXT.replace("      vertex 1.5 0 0\n", ""), Kind.CORRUPT, "line 7");
    refused(TEXT.replace("outer loop", "inner"), Kind.CORRUPT, "line 3");
    refused(TEXT.replace("ENDSOLID\n", ""), Kind.TRUNCATED, "line 17");
  }

  private static void refused(String text, Kind kind, String place) {
    refused(text.getBytes(StandardCharsets.UTF_8), kind, place);
  }

  private static void refused(byte[] content, Kind kind, String place) {
    FormatException e = assertThrows(FormatException.class, () -> read(content), place);
    assertEquals(place, e.place(), e.getMessage());
    assertEquals(kind, e.kind(), e.getMessage());
  }
}
