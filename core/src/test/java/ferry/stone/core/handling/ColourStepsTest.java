package ferry.stone.core.handling;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Which colours come first, and colours of faces as masks. */
class ColourStepsTest {
  private static final String OBJ =
      """
      o hull
      v 0 0 0
      v 1 0 0
      v 1 1 0
      v 0 1 0
      v 0 0 1
      g keel
      usemtl oak
      f 1 2 3
      f 1 3 4
      g rail
      usemtl tar
      f 1 2 5
      """;

  private static Scene scene() throws Exception {
    return CargoReader.read("a", ReadContext.of(TestFiles.of("a.obj", OBJ)));
  }

  private static Scene with(Scene scene, String... sets) {
    PolygonMesh mesh = scene.meshes().get(0);
    List<Attribute> layers = new ArrayList<>(mesh.attributes());
    for (int s = 0; s < sets.length; s++) {
      float[] values = new float[4 * mesh.points().count()];
      java.util.Arrays.fill(values, 0.25f * (s + 1));
      layers.add(new Attribute(sets[s], Semantic.COLOUR, Domain.VERTEX, 4, values, null));
    }
    return scene.toBuilder().meshes(List.of(mesh.withAttributes(layers))).build();
  }

  private static Handling.Stage run(Scene scene, String kind, Map<String, Object> params) {
    List<Step> steps = List.of(new Step("a", kind, params, true, List.of()));
    return Handling.run(scene, steps, Progress.NONE).get(0);
  }

  private static List<String> sets(Scene scene) {
    return scene.meshes().get(0).all(Semantic.COLOUR).stream().map(Attribute::name).toList();
  }

  @Test
  void aSetComesFirstByNameOrNumber() throws Exception {
    Scene near = with(scene(), "dust", "wear", "wet");
    assertThat(sets(run(near, "colourSets", Map.of("set", "wet")).scene()))
        .containsExactly("wet", "dust", "wear");
    assertThat(sets(run(near, "colourSets", Map.of("set", "2")).scene()))
        .containsExactly("wear", "dust", "wet");
    Scene alone =
        run(near, "colourSets", Map.of("set", "wear", "name", "paint", "others", "drop")).scene();
    assertThat(sets(alone)).containsExactly("paint");
    assertThat(alone.meshes().get(0).first(Semantic.COLOUR).orElseThrow().values()[0])
        .isEqualTo(0.5f);
    assertThat(sets(run(near, "colourSets", Map.of("set", "wet", "name", "dust")).scene()))
        .containsExactly("dust", "wear");
    Handling.Stage none = run(near, "colourSets", Map.of("set", "snow"));
    assertThat(none.figure()).isEqualTo("all are so");
    assertThat(none.findings().get(0).measured()).isEqualTo("dust, wear, wet");
  }

  @Test
  void theChosenSetIsTheOneThatLands() throws Exception {
    Scene far = run(with(scene(), "dust", "wear"), "colourSets", Map.of("set", "wear")).scene();
    TestFiles out = new TestFiles();
    Landing.write(far, LandingOptions.of("glb"), "b", new TestFiles(), out, Progress.NONE);
    Scene again = CargoReader.read("b", ReadContext.of(out));
    float seen = again.meshes().get(0).first(Semantic.COLOUR).orElseThrow().values()[0];
    // Linear in the file: IEC 61966-2-1.
    assertThat(seen).isCloseTo(0.21404f, org.assertj.core.api.Assertions.within(1e-5f));
  }

  private static Scene otherwise(Scene scene, int set) {
    PolygonMesh mesh = scene.meshes().get(0);
    List<Attribute> layers = new ArrayList<>(mesh.attributes());
    Attribute old = mesh.all(Semantic.COLOUR).get(set);
    float[] values = old.values().clone();
    values[4] += 0.1f;
    layers.set(layers.indexOf(old), old.withValues(values));
    return scene.toBuilder().meshes(List.of(mesh.withAttributes(layers))).build();
  }

  @ParameterizedTest
  @ValueSource(strings = {"glb", "fbx", "usda", "usdc", "abc"})
  void allSetsLandAndEachIsProved(String format) throws Exception {
    Scene far = with(scene(), "dust", "wear", "wet");
    TestFiles out = new TestFiles();
    LandingOptions options = LandingOptions.of(format);
    Landing landing = Landing.write(far, options, "b", new TestFiles(), out, Progress.NONE);
    for (int wrong = -1; wrong < 3; wrong++) {
      Scene asked = wrong < 0 ? far : otherwise(far, wrong);
      Proof proof =
          Proof.of(asked, asked, landing.landed(options, out), new TestFiles(), Progress.NONE);
      for (int set = 0; set < 3; set++) {
        String fact = "Vertex colours" + (set == 0 ? "" : " " + (set + 1));
        Verdict expected = set == wrong ? Verdict.CHANGED : Verdict.KEPT;
        assertThat(proof.rows())
            .filteredOn(row -> row.fact().equals(fact))
            .hasSize(1)
            .allMatch(row -> row.verdict() == expected, fact + ", wrong " + wrong);
      }
    }
  }

  private static int rgb(PolygonMesh mesh, int face) {
    Attribute mask = mesh.first(Semantic.COLOUR).orElseThrow();
    int corner = mesh.faces().start(face);
    int row = mask.valueOf(corner, mesh.faces().vertex(corner), face);
    int rgb = 0;
    for (int c = 0; c < 3; c++) {
      rgb |= Math.round(255 * mask.values()[4 * row + c]) << 16 - 8 * c;
    }
    return rgb;
  }

  @ParameterizedTest
  @ValueSource(strings = {"material", "set", "part"})
  void facesGetAColourEach(String by) throws Exception {
    Handling.Stage stage = run(scene(), "maskColours", Map.of("by", by));
    PolygonMesh mesh = stage.scene().meshes().get(0);
    assertThat(sets(stage.scene())).containsExactly("mask");
    assertThat(rgb(mesh, 0)).isEqualTo(rgb(mesh, 1));
    assertThat(rgb(mesh, 0) == rgb(mesh, 2)).isEqualTo(by.equals("part"));
    List<String> told = stage.findings().stream().map(f -> f.measured()).toList();
    assertThat(told).contains(String.format("#%06x", rgb(mesh, 2)));
    assertThat(told).hasSize(by.equals("part") ? 1 : 2);
  }

  @Test
  void noTwoOfAThousandAreAlike() throws Exception {
    StringBuilder obj = new StringBuilder("v 0 0 0\nv 1 0 0\nv 0 1 0\n");
    for (int i = 0; i < 1000; i++) {
      obj.append("usemtl m").append(i).append("\nf 1 2 3\n");
    }
    Scene many = CargoReader.read("a", ReadContext.of(TestFiles.of("a.obj", obj.toString())));
    Handling.Stage stage = run(many, "maskColours", Map.of());
    Set<String> told = new HashSet<>();
    stage.findings().forEach(f -> told.add(f.measured()));
    assertThat(told).hasSize(1000);
  }

  @ParameterizedTest
  @ValueSource(strings = {"glb", "fbx", "usda", "abc"})
  void masksLand(String format) throws Exception {
    Scene far = run(scene(), "maskColours", Map.of("by", "set")).scene();
    TestFiles out = new TestFiles();
    LandingOptions options = LandingOptions.of(format);
    Landing landing = Landing.write(far, options, "b", new TestFiles(), out, Progress.NONE);
    Proof proof = Proof.of(far, far, landing.landed(options, out), new TestFiles(), Progress.NONE);
    assertThat(proof.rows())
        .filteredOn(row -> row.fact().contains("olour"))
        .filteredOn(row -> !row.fact().contains("ase colour"))
        .isNotEmpty()
        .allMatch(row -> row.verdict() == Verdict.KEPT);
  }
}
