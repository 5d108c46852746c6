package ferry.stone.core.format;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.fuzz.Cargos;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

class FormatsTest {
  @Test
  void keysAndEndingsAreUnique() {
    Set<String> keys = new HashSet<>();
    Set<String> endings = new HashSet<>();
    for (Format format : Formats.ALL) {
      assertTrue(format.key().matches("[a-z0-9]{1,12}"), format.key());
      assertTrue(keys.add(format.key()), format.key());
      format.extensions().forEach(e -> assertTrue(endings.add(e), e));
      assertEquals(Formats.find(format.key()).orElseThrow(), format);
    }
  }

  @Test
  void contentDecidesWhatAFileIsWhateverItIsCalled() throws Exception {
    for (Map.Entry<String, TestFiles> cargo : Cargos.all().entrySet()) {
      if (cargo.getKey().endsWith("binary.stl")) {
        // It has no mark at its beginning: only its ending tells it.
        continue;
      }
      String scene = Cargos.scene(cargo.getValue());
      Format own = Formats.ofEnding(scene).orElseThrow();
      byte[] content = cargo.getValue().bytes(scene);
      for (String name : new String[] {scene, "a.dat", "asset", "a.fbx", "a.glb", "a.obj"}) {
        TestFiles files = new TestFiles().with(name, content);
        assertEquals(own, Formats.of(name, files).orElseThrow(), cargo.getKey() + " as " + name);
        assertEquals(CargoRole.SCENE, CargoRole.of(name, files), name);
      }
    }
  }

  @Test
  void whatSaysNothingOfItselfIsToldByItsEnding() throws Exception {
    TestFiles files = TestFiles.of("a.obj", "# nothing yet\n").with("b.dat", "some words");
    assertEquals("obj", Formats.of("a.obj", files).orElseThrow().key());
    assertTrue(Formats.of("b.dat", files).isEmpty());
    assertEquals(CargoRole.OTHER, CargoRole.of("b.dat", files));
  }

  @Test
  void aMisnamedFileIsReadAndSaidToBe() throws Exception {
    TestFiles files = TestFiles.of("a.fbx", "o sheet\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
    ReadContext context = ReadContext.of(files);
    assertEquals(1, CargoReader.read("a", context).shownMeshes().size());
    assertTrue(
        context.findings().list().stream()
            .anyMatch(f -> f.code().equals("named-as-another-format")));
  }
}
