package ferry.stone.core.format.obj;

import static org.junit.jupiter.api.Assertions.assertEquals;

import de.javagl.obj.Obj;
import ferry.stone.core.RandomScene;
import ferry.stone.core.TestFiles;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.obj.read.ObjReader;
import ferry.stone.core.format.obj.write.ObjWriter;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.io.ByteArrayInputStream;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Round trips, and the same files read by de.javagl:obj 0.4.0. */
class ObjAgainstOthersTest {
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12})
  void writtenIsReadBackTheSame(long seed) throws Exception {
    Scene scene = RandomScene.of(new Random(seed));
    TestFiles files = new TestFiles();
    ObjWriter.write(scene, "a", "a", files);
    Scene read = ObjReader.read("a.obj", ReadContext.of(files));
    assertEquals(scene.meshes().size(), read.meshes().size(), "seed " + seed);
    for (int m = 0; m < scene.meshes().size(); m++) {
      RandomScene.assertSame(scene.meshes().get(m), read.meshes().get(m), 0, "seed " + seed);
    }
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6})
  void anIndependentReaderAgrees(long seed) throws Exception {
    Scene scene = RandomScene.of(new Random(seed));
    TestFiles files = new TestFiles();
    ObjWriter.write(scene, "a", "a", files);
    Obj other = de.javagl.obj.ObjReader.read(new ByteArrayInputStream(files.bytes("a.obj")));
    Scene read = ObjReader.read("a.obj", ReadContext.of(files));
    int face = 0;
    for (PolygonMesh mesh : read.meshes()) {
      for (int f = 0; f < mesh.faces().faceCount(); f++, face++) {
        var theirs = other.getFace(face);
        assertEquals(theirs.getNumVertices(), mesh.faces().size(f));
        for (int k = 0; k < theirs.getNumVertices(); k++) {
          int c = mesh.faces().start(f) + k;
          var p = other.getVertex(theirs.getVertexIndex(k));
          assertEquals(p.getX(), (float) mesh.points().x(mesh.faces().vertex(c)));
          assertEquals(p.getY(), (float) mesh.points().y(mesh.faces().vertex(c)));
          assertEquals(p.getZ(), (float) mesh.points().z(mesh.faces().vertex(c)));
          var uv = mesh.first(Semantic.UV).orElseThrow();
          var t = other.getTexCoord(theirs.getTexCoordIndex(k));
          assertEquals(t.getX(), uv.values()[2 * uv.indices()[c]]);
          assertEquals(t.getY(), uv.values()[2 * uv.indices()[c] + 1]);
        }
      }
    }
    assertEquals(other.getNumFaces(), face);
  }
}
