package ferry.stone.core.format.gltf;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.texture.match.TestImages;
import ferry.stone.core.work.Progress;
import org.junit.jupiter.api.Test;

/**
 * A mesh without normals is flat, and its tangents count for nothing (glTF 2.0, section 3.7.2.1):
 * with a normal map it lands with the flat normals that viewers would compute, and with tangents.
 */
class FlatNormalsTest {
  private static final String OBJ =
      "mtllib m.mtl\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 1\nvt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\n"
          + "usemtl a\nf 1/1 2/2 3/3\nf 1/1 3/3 4/4\n";

  private static JsonNode land(String mtl, boolean tangents, boolean kept) throws Exception {
    TestFiles cargo =
        TestFiles.of("a.obj", OBJ).with("m.mtl", mtl).with("n.png", TestImages.normals(true));
    Scene far = CargoReader.read("a", ReadContext.of(cargo));
    LandingOptions options = LandingOptions.of("gltf").with("tangents", tangents);
    TestFiles out = new TestFiles();
    Landing landing = Landing.write(far, options, "b", cargo, out, Progress.NONE);
    Proof proof = Proof.of(far, far, landing.landed(options, out), cargo, Progress.NONE);
    assertThat(proof.rows()).noneMatch(row -> row.verdict() == Verdict.LOST);
    if (kept) {
      assertThat(proof.rows())
          .filteredOn(row -> row.fact().equals("Normals"))
          .allMatch(row -> row.verdict() == Verdict.KEPT);
    }
    return new ObjectMapper().readTree(out.bytes("b.gltf")).at("/meshes/0/primitives/0/attributes");
  }

  @Test
  void flatNormalsAndTangentsLandForANormalMap() throws Exception {
    JsonNode attributes = land("newmtl a\nnorm n.png\n", true, true);
    assertThat(attributes.has("NORMAL")).isTrue();
    assertThat(attributes.has("TANGENT")).isTrue();
  }

  @Test
  void elseNothingIsAdded() throws Exception {
    assertThat(land("newmtl a\nmap_Kd n.png\n", true, false).has("NORMAL")).isFalse();
    assertThat(land("newmtl a\nnorm n.png\n", false, false).has("NORMAL")).isFalse();
  }
}
