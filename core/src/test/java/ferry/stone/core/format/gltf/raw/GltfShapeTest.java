package ferry.stone.core.format.gltf.raw;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.gltf.read.GltfReader;
import ferry.stone.core.fuzz.Cargos;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** The types are those of the JSON schemas published with glTF 2.0. */
class GltfShapeTest {
  private static final ObjectMapper JSON = new ObjectMapper();
  private static final String FILE =
      """
      {"asset": {"version": "2.0"},
       "scenes": [{"nodes": [0]}],
       "nodes": [{"mesh": 0, "translation": [0, 1, 0]}],
       "materials": [{"pbrMetallicRoughness": {"baseColorFactor": [1, 0, 0, 1]},
                      "extensions": {"KHR_materials_ior": {"ior": 1.4}}}],
       "accessors": [{"componentType": 5126, "count": 3, "type": "VEC3",
                      "sparse": {"count": 1, "indices": {"bufferView": 0, "componentType": 5121},
                                 "values": {"bufferView": 1}}}],
       "bufferViews": [{"buffer": 0, "byteLength": 1},
                       {"buffer": 0, "byteLength": 12, "byteOffset": 4}],
       "buffers": [{"byteLength": 16, "uri": "data:;base64,AQAAAAAAgD8AAIA/AACAPw=="}],
       "meshes": [{"primitives": [{"attributes": {"POSITION": 0}, "material": 0}]}]}
      """;

  private static Scene read(String json, Findings findings) throws Exception {
    TestFiles files = TestFiles.of("a.gltf", json);
    return GltfReader.read("a.gltf", new ReadContext(files, Map.of(), findings, Progress.NONE));
  }

  private static void refused(String from, String to, String place) throws Exception {
    assertTrue(FILE.contains(from), from);
    FormatException e =
        assertThrows(
            FormatException.class, () -> read(FILE.replace(from, to), new Findings()), from);
    assertEquals(Kind.CORRUPT, e.kind());
    assertEquals(place, e.place());
    assertTrue(e.getMessage().startsWith("a.gltf, " + place + ": "), e.getMessage());
  }

  @Test
  void wrongTypesAreRefusedWithTheirPath() throws Exception {
    assertEquals(1, read(FILE, new Findings()).meshes().size());
    refused("[{\"primitives\"", "[5, {\"primitives\"", "/meshes/0");
    refused(
        "[{\"attributes\": {\"POSITION\": 0}, \"material\": 0}]",
        "[null]",
        "/meshes/0/primitives/0");
    refused("{\"POSITION\": 0}", "[0]", "/meshes/0/primitives/0/attributes");
    refused("\"material\": 0", "\"targets\": [7]", "/meshes/0/primitives/0/targets/0");
    refused("\"mesh\": 0", "\"mesh\": -1", "/nodes/0/mesh");
    refused("\"mesh\": 0", "\"children\": {\"a\": 1}", "/nodes/0/children");
    refused("[0, 1, 0]", "[0, 1]", "/nodes/0/translation");
    refused("[0, 1, 0]", "[0, 1e999, 0]", "/nodes/0/translation/1");
    refused("[{\"pbrMetallicRoughness\"", "[\"oak\", {\"pbrMetallicRoughness\"", "/materials/0");
    refused("[1, 0, 0, 1]", "[1, 0, 0]", "/materials/0/pbrMetallicRoughness/baseColorFactor");
    refused("1.4", "\"1.4\"", "/materials/0/extensions/KHR_materials_ior/ior");
    refused("{\"bufferView\": 1}", "[1]", "/accessors/0/sparse/values");
    refused("{\"bufferView\": 1}", "{}", "/accessors/0/sparse/values/bufferView");
    refused("\"byteLength\": 1}", "\"byteLength\": 1.5}", "/bufferViews/0/byteLength");
    refused("{\"nodes\": [0]}", "[0]", "/scenes/0");
    refused("\"uri\": \"data", "\"name\": 5, \"uri\": \"data", "/buffers/0/name");
  }

  /** Section 3.7.2.1 lists how many numbers each attribute has. */
  @Test
  void attributesWithOtherNumbersThanTheirMeaningAreRefused() throws Exception {
    String place = "/meshes/0/primitives/0/attributes/";
    for (String[] wrong :
        new String[][] {{"NORMAL", "VEC2"}, {"TEXCOORD_0", "SCALAR"}, {"COLOR_0", "VEC2"}}) {
      String attribute = "{\"POSITION\": 0, \"" + wrong[0] + "\": 1}";
      String accessor =
          "\"accessors\": [{\"componentType\": 5126, \"count\": 3, \"type\": \"VEC3\"}, "
              + "{\"componentType\": 5126, \"count\": 3, \"type\": \""
              + wrong[1]
              + "\"}], \"x\": [{";
      String json =
          FILE.replace("{\"POSITION\": 0}", attribute).replace("\"accessors\": [{", accessor);
      FormatException e =
          assertThrows(FormatException.class, () -> read(json, new Findings()), wrong[0]);
      assertEquals(place + wrong[0], e.place());
    }
  }

  @Test
  void nullMembersCountAsNotThereAndAreReported() throws Exception {
    Findings findings = new Findings();
    Scene scene =
        read(FILE.replace("\"mesh\": 0", "\"name\": null, \"skin\": null, \"mesh\": 0"), findings);
    assertEquals(1, scene.shownMeshes().size());
    var told =
        findings.list().stream().filter(f -> f.code().equals("empty-values")).findFirst().get();
    assertEquals("/nodes/0/name", told.where());
    assertEquals("2 values", told.measured());
  }

  /** Every value of every file that is written here, changed to another type. */
  @Test
  void noValueOfAnotherTypeEndsInAFault() throws Exception {
    String[] others = {"null", "-1", "\"x\"", "[]", "{}", "[null]", "true", "0.5", "99999999"};
    int tried = 0;
    for (Map.Entry<String, TestFiles> cargo : Cargos.all().entrySet()) {
      if (!cargo.getKey().endsWith(".gltf") || cargo.getKey().startsWith("rig")) {
        continue;
      }
      JsonNode root = JSON.readTree(cargo.getValue().bytes("a.gltf"));
      List<Runnable[]> changes = new ArrayList<>();
      for (String other : others) {
        collect(root, JSON.readTree(other), changes);
      }
      for (int i = 0; i < changes.size(); i += 3) {
        Runnable[] change = changes.get(i);
        change[0].run();
        try {
          read(root.toString(), new Findings());
        } catch (FormatException e) {
          assertTrue(e.getMessage().startsWith("a.gltf"), e.getMessage());
        }
        change[1].run();
        tried++;
      }
    }
    assertTrue(tried > 5000, tried + " tried");
  }

  /** Ways to change each value of a tree, and to change it back. */
  private static void collect(JsonNode json, JsonNode other, List<Runnable[]> changes) {
    if (json instanceof ObjectNode object) {
      object
          .fields()
          .forEachRemaining(
              e -> {
                JsonNode before = e.getValue();
                changes.add(
                    new Runnable[] {
                      () -> object.set(e.getKey(), other), () -> object.set(e.getKey(), before)
                    });
                collect(before, other, changes);
              });
    } else if (json instanceof ArrayNode array) {
      for (int i = 0; i < Math.min(3, array.size()); i++) {
        int at = i;
        JsonNode before = array.get(i);
        changes.add(new Runnable[] {() -> array.set(at, other), () -> array.set(at, before)});
        collect(before, other, changes);
      }
    }
  }
}
