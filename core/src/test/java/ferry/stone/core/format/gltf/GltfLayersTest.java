package ferry.stone.core.format.gltf;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.gltf.read.GltfReader;
import ferry.stone.core.format.gltf.write.GltfOptions;
import ferry.stone.core.format.gltf.write.GltfWriter;
import ferry.stone.core.geometry.Solids;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Table;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** Custom layers and what lines and points carry, as glTF 2.0 section 3.7.2.1 lets them be. */
class GltfLayersTest {
  private static Attribute layer(String name, Domain domain, Table table, int[] rows) {
    return new Attribute(name, Semantic.OTHER, domain, table, rows);
  }

  private static TestFiles written(PolygonMesh mesh) throws Exception {
    SceneBuilder scene = new SceneBuilder("a");
    scene.nextId(10);
    scene.add(mesh);
    scene.add(Node.of(2, "crate", -1, Node.Content.MeshContent.of(mesh.id())));
    TestFiles files = new TestFiles();
    GltfWriter.write(
        scene.build(),
        new GltfOptions(GltfOptions.Container.GLTF, true, false, 0),
        "a",
        new TestFiles(),
        files,
        new Findings(),
        Progress.NONE);
    return files;
  }

  private static PolygonMesh back(TestFiles files) throws Exception {
    Scene scene = GltfReader.read("a.gltf", ReadContext.of(files));
    return scene.meshes().get(0);
  }

  private static JsonNode accessor(TestFiles files, String name) throws Exception {
    JsonNode root = new ObjectMapper().readTree(files.bytes("a.gltf"));
    JsonNode attributes = root.path("meshes").path(0).path("primitives").path(0).path("attributes");
    return attributes.has(name) ? root.path("accessors").path(attributes.path(name).asInt()) : null;
  }

  private static Attribute named(PolygonMesh mesh, String name) {
    return mesh.all(Semantic.OTHER).stream()
        .filter(a -> a.name().equals(name))
        .findFirst()
        .orElseThrow();
  }

  @Test
  void typesAreThoseOfTheFormatAndComeBack() throws Exception {
    PolygonMesh box = Solids.box(1, 1, 1).toBuilder().id(1).build();
    int n = box.points().count();
    int[] small = IntStream.range(0, n).map(v -> 31 * v).toArray();
    int[] signed = IntStream.range(0, n).map(v -> v - 4).toArray();
    float[] matrix = new float[16 * n];
    for (int i = 0; i < matrix.length; i++) {
      matrix[i] = i / 7f;
    }
    double[] fine = IntStream.range(0, n).mapToDouble(v -> v / 3.0).toArray();
    PolygonMesh mesh =
        box.withAttributes(
            List.of(
                layer("_ID", Domain.VERTEX, new Table.Wholes(small, 1), null),
                layer("_STEP", Domain.VERTEX, new Table.Wholes(signed, 1), null),
                layer("_FRAME", Domain.VERTEX, new Table.Floats(matrix, 16, false), null),
                layer("heat", Domain.VERTEX, new Table.Doubles(fine, 1), null),
                layer("kind", Domain.VERTEX, new Table.Texts(new String[n]), null)));
    TestFiles files = written(mesh);
    assertEquals(5121, accessor(files, "_ID").path("componentType").asInt());
    assertEquals(5120, accessor(files, "_STEP").path("componentType").asInt());
    assertEquals("MAT4", accessor(files, "_FRAME").path("type").asText());
    assertEquals(5126, accessor(files, "_heat").path("componentType").asInt());
    assertNull(accessor(files, "kind"));
    PolygonMesh there = back(files);
    assertArrayEquals(small, ((Table.Wholes) named(there, "_ID").table()).numbers());
    assertArrayEquals(signed, ((Table.Wholes) named(there, "_STEP").table()).numbers());
    assertArrayEquals(matrix, named(there, "_FRAME").values());
    assertEquals(1 / 3f, named(there, "_heat").values()[1]);
  }

  @Test
  void valuesOfFacesAndCornersPartVertices() throws Exception {
    PolygonMesh box = Solids.box(1, 1, 1).toBuilder().id(1).build();
    int faces = box.faces().faceCount();
    int[] group = IntStream.range(0, faces).map(f -> f % 2).toArray();
    Attribute side = layer("_SIDE", Domain.FACE, new Table.Wholes(new int[] {7, 300}, 1), group);
    PolygonMesh there = back(written(box.withAttributes(List.of(side))));
    assertTrue(there.points().count() > box.points().count());
    Attribute read = named(there, "_SIDE");
    for (int t = 0; t < there.faces().faceCount(); t++) {
      int first = read.valueOf(0, there.faces().vertex(3 * t), t);
      for (int c = 3 * t; c < 3 * t + 3; c++) {
        int row = read.valueOf(c, there.faces().vertex(c), t);
        assertEquals(read.table().number(first, 0), read.table().number(row, 0));
      }
    }
  }

  @Test
  void pointsKeepTheirColoursAndLayers() throws Exception {
    PolygonMesh box = Solids.box(1, 1, 1).toBuilder().id(1).build();
    int n = box.points().count();
    float[] colours = new float[3 * n];
    for (int i = 0; i < colours.length; i++) {
      colours[i] = (i % 5) / 4f;
    }
    int[] all = IntStream.range(0, n).toArray();
    PolygonMesh cloud =
        box.toBuilder()
            .faces(ferry.stone.core.scene.mesh.Polygons.triangles(new int[0]))
            .attributes(
                List.of(
                    new Attribute("c", Semantic.COLOUR, Domain.VERTEX, 3, colours, null),
                    layer("_ID", Domain.VERTEX, new Table.Wholes(all, 1), null)))
            .loose(new LooseElements(new int[] {0}, new int[0], all))
            .build();
    TestFiles files = written(cloud);
    assertFalse(accessor(files, "COLOR_0") == null, "a cloud of points without its colours");
    PolygonMesh there = back(files);
    assertEquals(n, there.loose().points().length);
    assertArrayEquals(all, ((Table.Wholes) named(there, "_ID").table()).numbers());
  }

  @Test
  void equalRowsAreFoundWhateverTheirType() {
    Table wholes = new Table.Wholes(new int[] {1, 2, 1, 2, 3, 4}, 2);
    assertArrayEquals(new int[] {0, 0, 2}, wholes.firstOfEach());
    Table texts = new Table.Texts(new String[] {"a", "b", "a"});
    assertArrayEquals(new int[] {0, 1, 0}, texts.firstOfEach());
    Table joined = wholes.joined(List.of(wholes, new Table.Wholes(new int[] {9}, 1)));
    assertEquals(4, joined.count());
    assertEquals(9, joined.number(3, 0));
    assertEquals(0, joined.number(3, 1));
    assertTrue(texts.picked(new int[] {1}).equal(new Table.Texts(new String[] {"b"})));
  }
}
