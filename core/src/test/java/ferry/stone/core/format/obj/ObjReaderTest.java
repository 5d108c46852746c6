package ferry.stone.core.format.obj;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.obj.raw.NumberText;
import ferry.stone.core.format.obj.read.ObjReader;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class ObjReaderTest {
  private static final String QUAD = "v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\n";

  private List<Finding> findings = List.of();

  private Scene read(String text) throws Exception {
    return read(TestFiles.of("a.obj", text));
  }

  private Scene read(TestFiles files) throws Exception {
    ReadContext context = ReadContext.of(files);
    Scene scene = ObjReader.read("a.obj", context);
    findings = context.findings().list();
    return scene;
  }

  private boolean found(String code) {
    return findings.stream().anyMatch(f -> f.code().equals(code));
  }

  private static int[] corners(PolygonMesh mesh) {
    int[] corners = new int[mesh.faces().cornerCount()];
    for (int c = 0; c < corners.length; c++) {
      corners[c] = mesh.faces().vertex(c);
    }
    return corners;
  }

  @Test
  void readsPositionsUvsNormalsInAllFourForms() throws Exception {
    Scene scene =
        read(
            QUAD
                + "vt 0 0\nvt 1 0\nvt 1 1\nvn 0 0 1\n"
                + "f 1 2 3\nf 1/1 2/2 3/3\nf 1//1 2//1 3//1\nf 1/1/1 2/2/1 3/3/1\n");
    PolygonMesh mesh = scene.meshes().get(0);
    assertEquals(4, mesh.faces().faceCount());
    Attribute uv = mesh.first(Attribute.Semantic.UV).orElseThrow();
    assertArrayEquals(new int[] {-1, -1, -1, 0, 1, 2, -1, -1, -1, 0, 1, 2}, uv.indices());
    Attribute normal = mesh.first(Attribute.Semantic.NORMAL).orElseThrow();
    assertArrayEquals(new int[] {-1, -1, -1, -1, -1, -1, 0, 0, 0, 0, 0, 0}, normal.indices());
  }

  @Test
  void countsNegativeIndicesFromTheEnd() throws Exception {
    Scene scene = read(QUAD + "f -4 -3 -2 -1\nv 9 9 9\nf -1 1 2\n");
    assertArrayEquals(new int[] {0, 1, 2, 3, 4, 0, 1}, corners(scene.meshes().get(0)));
  }

  @Test
  void keepsPolygonsAndOrder() throws Exception {
    PolygonMesh mesh = read(QUAD + "v .5 2 0\nf 1 2 3 5 4\nf 1 3 4\n").meshes().get(0);
    assertEquals(5, mesh.faces().size(0));
    assertEquals(4, mesh.faces().triangleCount());
    assertEquals(1.0, mesh.points().x(1));
  }

  @ParameterizedTest
  @ValueSource(strings = {"\n", "\r\n", "\r"})
  void takesAnyLineEndAndSpacing(String end) throws Exception {
    String text = "  v\t0 0   0" + end + "v 1 0 0 " + end + "v 0 1 0" + end + end + "\tf 1  2\t3";
    PolygonMesh mesh = read(text).meshes().get(0);
    assertArrayEquals(new int[] {0, 1, 2}, corners(mesh));
  }

  @Test
  void joinsContinuedLines() throws Exception {
    PolygonMesh mesh = read(QUAD + "f 1 2 \\\n3 \\\r\n 4\n").meshes().get(0);
    assertEquals(4, mesh.faces().size(0));
  }

  @Test
  void readsVertexColoursAndScalesThoseTo255() throws Exception {
    PolygonMesh mesh = read("v 0 0 0 255 0 0\nv 1 0 0 0 255 0\nv 0 1 0\nf 1 2 3\n").meshes().get(0);
    Attribute colour = mesh.first(Attribute.Semantic.COLOUR).orElseThrow();
    assertEquals(1f, colour.values()[0]);
    assertEquals(1f, colour.values()[4]);
    assertTrue(found("colours-to-255"));
  }

  @Test
  void makesNodesOfObjectsAndSetsOfGroups() throws Exception {
    Scene scene =
        read(
            QUAD
                + "o gate leaf\ng rim hinge\nusemtl oak\ns 1\nf 1 2 3\ns off\ng rim\nf 1 3 4\n"
                + "o gate leaf\nf 1 2 4\n");
    assertEquals(List.of("gate leaf", "gate leaf"), scene.paths());
    PolygonMesh first = scene.meshes().get(0);
    assertEquals(List.of("rim", "hinge"), first.faceSets().stream().map(s -> s.name()).toList());
    assertArrayEquals(new int[] {0, 1}, first.faceSets().get(0).faces());
    assertArrayEquals(new int[] {1, 0}, first.smoothing());
    assertEquals("oak", scene.material(first.materialIds()[0]).orElseThrow().name());
  }

  @Test
  void makesNodesOfGroupsWhereThereAreNoObjects() throws Exception {
    Scene scene = read("g default\n" + QUAD + "g a\nf 1 2 3\ng b\nf 1 3 4\ng a\nf 2 3 4\n");
    assertEquals(List.of("a", "b"), scene.paths());
    assertEquals(2, scene.meshes().get(0).faces().faceCount());
  }

  @Test
  void keepsUnusedVerticesOfTheirPart() throws Exception {
    Scene scene =
        read("o a\n" + QUAD + "f 1 2 3\no b\nv 5 5 5\nv 6 5 5\nv 5 6 5\nv 7 7 7\nf 5 6 7\n");
    assertEquals(4, scene.meshes().get(0).points().count());
    assertEquals(4, scene.meshes().get(1).points().count());
  }

  @Test
  void keepsLinesAndPoints() throws Exception {
    PolygonMesh mesh = read(QUAD + "l 1 2 3\np 4\n").meshes().get(0);
    assertEquals(2, mesh.loose().segmentCount());
    assertArrayEquals(new int[] {3}, mesh.loose().points());
    assertTrue(found("lines-and-points"));
  }

  @Test
  void keepsDoublesWhereFloatsWouldMoveVertices() throws Exception {
    Scene scene = read("v 500000.123 0 0\nv 500000.125 0 0\nv 500000.124 0.002 0\nf 1 2 3\n");
    assertTrue(scene.meshes().get(0).points().isDouble());
    assertEquals(500000.125, scene.meshes().get(0).points().x(1));
    assertFalse(read(QUAD + "f 1 2 3").meshes().get(0).points().isDouble());
  }

  @ParameterizedTest
  @CsvSource({
    "UTF-8, Räderwerk",
    "ISO-8859-1, Räderwerk",
    "UTF-16, Räderwerk",
    "UTF-16LE-BOM, Räderwerk"
  })
  void readsNamesInTheirEncoding(String charset, String name) throws Exception {
    String text = "o " + name + "\n" + QUAD + "f 1 2 3\n";
    byte[] bytes =
        charset.endsWith("BOM")
            ? ("\uFEFF" + text).getBytes(StandardCharsets.UTF_16LE)
            : text.getBytes(Charset.forName(charset));
    assertEquals(List.of(name), read(new TestFiles().with("a.obj", bytes)).paths());
  }

  @Test
  void readsNumbersLikeTheJdk() throws Exception {
    String[] numbers = {
      "1e-3",
      "-.5",
      "+2.",
      "1.7976931348623157e308",
      "123456789.123456789",
      "4.9E-324",
      "0",
      "-0.000001",
      "3.4028235e38",
      "1E5"
    };
    for (String number : numbers) {
      byte[] bytes = number.getBytes(StandardCharsets.US_ASCII);
      double expected = Double.parseDouble(number);
      assertEquals(expected, NumberText.parse(bytes, 0, bytes.length), Math.ulp(expected), number);
    }
    assertTrue(Double.isNaN(NumberText.parse("nan".getBytes(StandardCharsets.US_ASCII), 0, 3)));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "f 1 2 9          | CORRUPT         | line 5 | vertex 9",
        "f -5 1 2         | CORRUPT         | line 5 | vertex -5",
        "f 0 1 2          | CORRUPT         | line 5 | counted from 1",
        "f 1 x 3          | CORRUPT         | line 5 | expected an index",
        "f 1/2/3/4 1 2    | CORRUPT         | line 5 | expected v",
        "f                | CORRUPT         | line 5 | names no vertex",
        "v 1 2            | CORRUPT         | line 5 | a number is missing",
        "v 1 2 abc        | CORRUPT         | line 5 | expected a number",
      })
  void refusesDamageWithItsLine(String line, String kind, String place, String message) {
    FormatException e = assertThrows(FormatException.class, () -> read(QUAD + line));
    assertEquals(FormatException.Kind.valueOf(kind), e.kind());
    assertEquals(place, e.place());
    assertTrue(e.getMessage().contains(message), e.getMessage());
    assertTrue(e.getMessage().startsWith("a.obj"), e.getMessage());
  }

  @Test
  void refusesWhatIsNoObj() {
    FormatException text =
        assertThrows(FormatException.class, () -> read("Dear harbour master,\nplease find\n"));
    assertEquals(FormatException.Kind.NOT_THIS_FORMAT, text.kind());
    FormatException empty = assertThrows(FormatException.class, () -> read(""));
    assertEquals(FormatException.Kind.TRUNCATED, empty.kind());
    FormatException binary =
        assertThrows(
            FormatException.class,
            () -> read(new TestFiles().with("a.obj", new byte[] {80, 75, 3, 4, 0, 0})));
    assertEquals(FormatException.Kind.NOT_THIS_FORMAT, binary.kind());
  }

  @Test
  void dropsUvsOutOfRangeAndSaysSo() throws Exception {
    Scene scene = read(QUAD + "vt 0 0\nf 1/1 2/7 3/1\n");
    Attribute uv = scene.meshes().get(0).first(Attribute.Semantic.UV).orElseThrow();
    assertArrayEquals(new int[] {0, -1, 0}, uv.indices());
    assertTrue(found("uv-index-out-of-range"));
  }

  @Test
  void reportsWhatItDoesNotRead() throws Exception {
    read(QUAD + "cstype bezier\ncurv 0 1 1 2\nf 1 2\nf 1 2 3\n");
    assertTrue(found("statements-not-read"));
    assertTrue(found("faces-too-small"));
  }

  @Test
  void aFaceMayStandBeforeItsVertices() throws Exception {
    assertArrayEquals(new int[] {0, 1, 2}, corners(read("f 1 2 3\n" + QUAD).meshes().get(0)));
    assertNull(read(QUAD + "f 1 2 3").meshes().get(0).smoothing());
  }

  /**
   * Corners that name UVs and normals as they name points, of one part, of several, and not all.
   */
  @ParameterizedTest
  @ValueSource(strings = {"", "o shed\n", "usemtl oak\nl 1 6\n", "f 6/1/2 5/3/3 4/4/4\n"})
  void cornersOfOneNumberEverywhereAreReadAsAnyOthers(String between) throws Exception {
    StringBuilder text = new StringBuilder();
    for (int v = 0; v < 6; v++) {
      text.append("v %d %d 0\nvt 0.%d 0.5\nvn 0 %d 1\n".formatted(v, v * v, v, v));
    }
    text.append("f 1/1/1 2/2/2 4/4/4\n")
        .append(between)
        .append("f 3/3/3 5/5/5 6/6/6\nf 1/1/1 6/6/6 2/2/2\n");
    int faces = 0;
    for (PolygonMesh mesh : read(text.toString()).meshes()) {
      Attribute uv = mesh.first(Attribute.Semantic.UV).orElseThrow();
      Attribute normal = mesh.first(Attribute.Semantic.NORMAL).orElseThrow();
      int[] corners = mesh.faces().vertices();
      faces += mesh.faces().faceCount();
      for (int c = 0; c < corners.length; c++) {
        boolean odd = between.startsWith("f") && c >= 3 && c < 6;
        float x = (float) mesh.points().x(corners[c]);
        float own = odd ? new float[] {0, 2, 3}[c - 3] : x;
        assertEquals(own / 10, uv.values()[2 * uv.valueOf(c, corners[c], 0)], 1e-6);
        float up = odd ? new float[] {1, 2, 3}[c - 3] : x;
        assertEquals(up, normal.values()[3 * normal.valueOf(c, corners[c], 0) + 1], 1e-6);
      }
    }
    assertEquals(between.startsWith("f") ? 4 : 3, faces);
    assertFalse(found("uv-index-out-of-range"));
  }
}
