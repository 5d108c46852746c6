package ferry.stone.core.scene;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNotEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.TestFiles;
import ferry.stone.core.fuzz.WholeWay;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.NodePaths;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

class DeepTreeTest {
  private static final int DEPTH = 20_000;

  private static List<String> paths(int depth, String name) {
    SceneBuilder scene = new SceneBuilder("deep");
    for (int i = 0; i < depth; i++) {
      scene.add(Node.of(scene.newId(), name + i, i - 1, Node.Content.GROUP));
    }
    return scene.build().paths();
  }

  @Test
  void shortPathsStandInFull() {
    assertEquals(List.of("a0", "a0/a1", "a0/a1/a2"), paths(3, "a"));
  }

  @Test
  void longPathsKeepTheirEndsAndStayDifferent() {
    List<String> paths = paths(DEPTH, "link_");
    Set<String> all = new HashSet<>(paths);
    assertEquals(DEPTH, all.size());
    long letters = paths.stream().mapToLong(String::length).sum();
    assertTrue(letters <= (long) DEPTH * NodePaths.LONGEST, letters + " letters");
    String last = paths.get(DEPTH - 1);
    assertTrue(last.startsWith("link_0/link_1/"), last);
    assertTrue(last.endsWith("/link_19998/link_19999"), last);
    // The same whole path gives the same short one; one letter far up gives another.
    assertEquals(last, paths(DEPTH, "link_").get(DEPTH - 1));
    assertNotEquals(
        new NodePaths.Path("", 1).child("x".repeat(3000)).text(),
        new NodePaths.Path("", 2).child("x".repeat(3000)).text());
  }

  @Test
  void noLetterIsCutInTwo() {
    for (int before = 0; before < 4; before++) {
      String text = NodePaths.Path.root("a".repeat(before) + "\ud83d\udea2".repeat(900)).text();
      assertTrue(text.length() <= NodePaths.LONGEST, text.length() + " letters");
      assertEquals(
          text,
          new String(
              text.getBytes(java.nio.charset.StandardCharsets.UTF_8),
              java.nio.charset.StandardCharsets.UTF_8));
    }
  }

  /** A chain of 20,000 nodes with a triangle at its end is surveyed, landed and proved. */
  @Test
  void aDeepChainGoesTheWholeWay() throws Exception {
    StringBuilder nodes = new StringBuilder();
    for (int i = 0; i < DEPTH; i++) {
      nodes.append("{\"name\":\"link_").append(i).append("\",");
      nodes.append(i + 1 < DEPTH ? "\"children\":[" + (i + 1) + "]}," : "\"mesh\":0}");
    }
    String json =
        "{\"asset\":{\"version\":\"2.0\"},\"scenes\":[{\"nodes\":[0]}],\"nodes\":["
            + nodes
            + "],\"meshes\":[{\"primitives\":[{\"attributes\":{\"POSITION\":0}}]}],"
            + "\"accessors\":[{\"componentType\":5126,\"count\":3,\"type\":\"VEC3\","
            + "\"bufferView\":0}],\"bufferViews\":[{\"buffer\":0,\"byteLength\":36}],"
            + "\"buffers\":[{\"byteLength\":36,\"uri\":\"data:;base64,"
            + "AAAAAAAAAAAAAAAAAACAPwAAAAAAAAAAAAAAAAAAgD8AAAAA\"}]}";
    assertEquals(WholeWay.End.PROVED, WholeWay.run(TestFiles.of("a.gltf", json), 60));
  }
}
