package ferry.stone.core.format.obj.read;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.look.Wrap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class MtlReaderTest {
  private static final String OBJ = "v 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl oak\nf 1 2 3\n";
  private List<Finding> findings = List.of();

  private Scene read(TestFiles files) throws Exception {
    ReadContext context = ReadContext.of(files);
    Scene scene = ObjReader.read("sub/a.obj", context);
    findings = context.findings().list();
    return scene;
  }

  private Material material(String mtl, String... otherFiles) throws Exception {
    TestFiles files =
        TestFiles.of("sub/a.obj", "mtllib oak wood.mtl\n" + OBJ).with("sub/oak wood.mtl", mtl);
    for (String other : otherFiles) {
      files.with(other, "x");
    }
    return read(files).materials().get(0);
  }

  @Test
  void readsColoursAndNumbers() throws Exception {
    Material m =
        material(
            "newmtl oak\nKa 1 1 1\nKd 0.5\nKs .1 .2 .3\nKe 0 0 2\nNs 96.5\nNi 1.45\nd 0.25\n"
                + "Pr 0.4\nPm 1\nillum 2\n");
    assertArrayEquals(new double[] {0.5, 0.5, 0.5}, m.factor(Channel.BASE_COLOUR));
    assertArrayEquals(new double[] {0.1, 0.2, 0.3}, m.factor(Channel.SPECULAR));
    assertEquals(96.5, m.factor(Channel.SHININESS)[0]);
    assertEquals(0.25, m.factor(Channel.OPACITY)[0]);
    assertEquals(0.4, m.factor(Channel.ROUGHNESS)[0]);
    assertEquals(Material.Alpha.BLEND, m.alpha());
    assertEquals(Material.Shading.METALLIC_ROUGHNESS, m.shading());
  }

  @Test
  void transparencyIsOneMinusOpacity() throws Exception {
    assertEquals(0.75, material("newmtl oak\nTr 0.25\n").factor(Channel.OPACITY)[0]);
  }

  @Test
  void readsMapOptionsAndNamesWithSpaces() throws Exception {
    Material m =
        material(
            "newmtl oak\nmap_Kd -s 2 3 1 -o .5 .25 -clamp on -mm 0 1 maps/old oak.png\n"
                + "map_Bump -bm 0.3 -imfchan l oak-bump.png\n",
            "sub/maps/old oak.png",
            "sub/oak-bump.png");
    TextureUse base = m.texture(Channel.BASE_COLOUR).orElseThrow();
    assertEquals(2, base.scaleU());
    assertEquals(3, base.scaleV());
    assertEquals(0.25, base.offsetV());
    assertEquals(Wrap.CLAMPED, base.wrap());
    assertEquals("-mm 0 1", base.options());
    TextureUse bump = m.texture(Channel.BUMP).orElseThrow();
    assertEquals(0.3, bump.amount());
    assertEquals('l', bump.component());
    assertTrue(findings.stream().noneMatch(f -> f.code().equals("texture-missing")));
  }

  @Test
  void findsTexturesByPathCaseAndName() throws Exception {
    Map<String, String> written =
        Map.of(
            "maps\\\\oak.png", "sub/maps/oak.png",
            "C:\\\\work\\\\art\\\\oak.png", "sub/maps/oak.png",
            "/home/someone/oak.png", "sub/maps/oak.png",
            "MAPS/OAK.PNG", "sub/maps/oak.png",
            "../../../oak.png", "sub/maps/oak.png");
    for (Map.Entry<String, String> e : written.entrySet()) {
      String path = e.getKey().replace("\\\\", "\\");
      TestFiles files =
          TestFiles.of("sub/a.obj", "mtllib m.mtl\n" + OBJ)
              .with("sub/m.mtl", "newmtl oak\nmap_Kd " + path + "\n")
              .with("sub/maps/oak.png", "x");
      Texture texture = read(files).textures().get(0);
      assertEquals(e.getValue(), texture.resource(), path);
    }
  }

  @Test
  void proposesAFileOfALikeNameForAMissingOne() throws Exception {
    material("newmtl oak\nmap_Pr tex/granite_rough.png\n", "T/granite_roughness.png", "T/fox.png");
    Finding missing =
        findings.stream().filter(f -> f.code().equals("texture-missing")).findFirst().orElseThrow();
    assertEquals("T/granite_roughness.png", missing.offers().get(0).params().get("file"));
    assertEquals(1, missing.offers().size());
  }

  @Test
  void aChosenFileWins() throws Exception {
    TestFiles files =
        TestFiles.of("sub/a.obj", "mtllib m.mtl\n" + OBJ)
            .with("sub/m.mtl", "newmtl oak\nmap_Kd gone.png\n")
            .with("other.png", "x");
    ReadContext context =
        new ReadContext(
            files,
            Map.of("gone.png", "other.png"),
            new ferry.stone.core.finding.Findings(),
            ferry.stone.core.work.Progress.NONE);
    assertEquals("other.png", ObjReader.read("sub/a.obj", context).textures().get(0).resource());
  }

  @Test
  void severalLibrariesAndMissingOnes() throws Exception {
    TestFiles files =
        TestFiles.of("sub/a.obj", "mtllib one.mtl two.mtl\nmtllib gone.mtl\n" + OBJ)
            .with("sub/one.mtl", "newmtl elm\n")
            .with("sub/two.mtl", "newmtl oak\nKd 1 0 0\n");
    Scene scene = read(files);
    assertEquals(List.of("oak", "elm"), scene.materials().stream().map(Material::name).toList());
    assertTrue(findings.stream().anyMatch(f -> f.code().equals("material-file-missing")));
  }

  @Test
  void brokenStatementsAreReportedAndTheRestIsRead() throws Exception {
    Material m = material("newmtl oak\nKd red\nNs\nd 0.5\nwobble 3\nmap_Kd\n");
    assertEquals(0.5, m.factor(Channel.OPACITY)[0]);
    assertTrue(
        findings.stream().filter(f -> f.code().equals("material-statement-broken")).count() >= 3);
    assertEquals("wobble 3", m.properties().get("unread"));
  }

  @Test
  void anUndefinedMaterialKeepsItsName() throws Exception {
    Scene scene = read(TestFiles.of("sub/a.obj", OBJ));
    assertEquals("oak", scene.materials().get(0).name());
    assertTrue(findings.stream().anyMatch(f -> f.code().equals("material-undefined")));
  }
}
