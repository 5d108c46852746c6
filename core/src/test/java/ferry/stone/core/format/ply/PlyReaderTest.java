package ferry.stone.core.format.ply;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.util.List;
import org.junit.jupiter.api.Test;

class PlyReaderTest {
  /** The cube of Turk's paper of 1994, from memory, with properties added. */
  private static final String CUBE =
      """
      ply
      format ascii 1.0
      comment made by hand
      element vertex 8
      property float x
      property float y
      property float32 z
      property uchar red
      property uint8 green
      property uchar blue
      property float quality
      property float s
      property float t
      element face 6
      property list uchar int vertex_index
      property uchar flags
      element edge 1
      property int vertex1
      property int vertex2
      end_header
      0 0 0 255 0 0 0.5 0 0
      0 0 1 255 51 0 0.5 0 1
      0 1 1 255 0 0 0.5 0 0
      0 1 0 255 0 0 0.5 0 0
      1 0 0 255 0 0 0.5 0.25 0
      1 0 1 255 0 0 0.5 0 0
      1 1 1 255 0 0 0.5 0 0
      1 1 0 255 0 0 0.5 0 0
      4 0 1 2 3 7
      4 7 6 5 4 7
      4 0 4 5 1 7
      4 1 5 6 2 7
      4 2 6 7 3 7
      4 3 7 4 0 7
      0 1
      """;

  private static Scene read(String text) throws Exception {
    return CargoReader.read("a", ReadContext.of(TestFiles.of("a.ply", text)));
  }

  @Test
  void theCubeWithAllThatGoesWithIt() throws Exception {
    Scene scene = read(CUBE);
    PolygonMesh mesh = scene.meshes().get(0);
    assertEquals(8, mesh.points().count());
    assertEquals(6, mesh.faces().countOfSize(4));
    var colour = mesh.first(Semantic.COLOUR).orElseThrow();
    assertEquals(3, colour.components());
    assertArrayEquals(
        new float[] {1, 0.2f, 0}, java.util.Arrays.copyOfRange(colour.values(), 3, 6));
    assertEquals(0.25f, mesh.first(Semantic.UV).orElseThrow().values()[8]);
    assertEquals("quality", mesh.first(Semantic.OTHER).orElseThrow().name());
    String unread = scene.unread().toString();
    assertTrue(unread.contains("Properties of faces"), unread);
    assertTrue(unread.contains("\"edge\""), unread);
  }

  @Test
  void ownPropertiesKeepTheirTypesAndAllDigits() throws Exception {
    String cloud =
        "ply\nformat ascii 1.0\nelement vertex 1\nproperty float x\nproperty float y\n"
            + "property float z\nproperty int label\nproperty uint stamp\n"
            + "property double when\nproperty float heat\nend_header\n"
            + "0 0 0 123456789 4000000001 0.1 0.5\n";
    PolygonMesh mesh =
        PlyReader.read("a.ply", ReadContext.of(TestFiles.of("a.ply", cloud))).meshes().get(0);
    List<Attribute> own = mesh.all(Semantic.OTHER);
    assertEquals(
        List.of("label whole", "stamp double", "when double", "heat float"),
        own.stream().map(a -> a.name() + " " + a.table().type()).toList());
    assertEquals(123456789, own.get(0).table().number(0, 0));
    assertEquals(4000000001.0, own.get(1).table().number(0, 0));
    assertEquals(0.1, own.get(2).table().number(0, 0));
  }

  @Test
  void aCloudOfPointsIsReadAsPoints() throws Exception {
    String cloud =
        "ply\nformat ascii 1.0\nelement vertex 2\nproperty double x\nproperty double y\n"
            + "property double z\nend_header\n1e8 0 0\n100000000.5 nan -inf";
    PolygonMesh mesh = read(cloud).meshes().get(0);
    assertEquals(2, mesh.loose().points().length);
    assertEquals(100000000.5, mesh.points().x(1));
    assertTrue(Double.isNaN(mesh.points().y(1)));
  }

  @Test
  void whatIsNoPlyIsRefusedWithItsPlace() {
    refused(CUBE.replace("ply\n", "plx\n"), Kind.NOT_THIS_FORMAT, "");
    refused(CUBE.replace("ascii", "utf8"), Kind.UNSUPPORTED, "line 2");
    refused(CUBE.replace("element vertex 8", "element vertex -8"), Kind.CORRUPT, "line 4");
    refused(CUBE.replace("vertex 8", "vertex 999999999"), Kind.TRUNCATED, "element vertex");
    refused(CUBE.replace("property float x", "property vec x"), Kind.CORRUPT, "line 5");
    refused(CUBE.replace("property float y", "property float w"), Kind.CORRUPT, "element vertex");
    refused(CUBE.replace("4 7 6 5 4 7", "4 7 6 5 8 7"), Kind.CORRUPT, "line 30");
    refused(CUBE.replace("4 7 6 5 4 7", "4 7 6 5 -4 7"), Kind.CORRUPT, "line 30");
    refused(CUBE.replace("4 7 6 5 4 7", "4e9 7 6 5 4 7"), Kind.CORRUPT, "line 30");
    refused(CUBE.replace("0 1 1 255", "0 one 1 255"), Kind.CORRUPT, "line 23");
    refused(CUBE.replace("vertex_index", "corners"), Kind.CORRUPT, "element face");
    refused(CUBE.substring(0, CUBE.length() - 5), Kind.TRUNCATED, "line 34");
    refused("ply\nformat ascii 1.0\nelement vertex 1\n", Kind.TRUNCATED, "line 4");
  }

  private static void refused(String text, Kind kind, String place) {
    FormatException e = assertThrows(FormatException.class, () -> read(text), place);
    assertEquals(place, e.place(), e.getMessage());
    assertEquals(kind, e.kind(), e.getMessage());
  }
}
