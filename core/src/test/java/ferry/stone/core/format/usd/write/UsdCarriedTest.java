package ferry.stone.core.format.usd.write;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.usd.read.UsdReader;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What has no place in a scene is told, kept as values and written as it was. */
class UsdCarriedTest {
  private static final String STAGE = stage();

  private final Findings said = new Findings();
  private final TestFiles cargo = new TestFiles();
  private TestFiles out;
  private String text;

  private static String stage() {
    try (InputStream in = UsdCarriedTest.class.getResourceAsStream("/usd/carried.usda")) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private Scene read(String stage) throws Exception {
    cargo.with("a.usda", stage);
    return UsdReader.read("a.usda", ReadContext.of(cargo).of(cargo, said));
  }

  private Scene landed(Scene scene) throws Exception {
    out = new TestFiles();
    UsdWriter.write(
        scene,
        UsdOptions.of(UsdOptions.Container.TEXT),
        new SceneWriter.Target("b", cargo, out, said, Progress.NONE));
    text = new String(out.bytes("b.usda"), StandardCharsets.UTF_8);
    return UsdReader.read("b.usda", ReadContext.of(out));
  }

  private List<String> codes() {
    return said.list().stream().map(Finding::code).toList();
  }

  private static Map<String, Map<String, Object>> values(Scene scene) {
    Map<String, Map<String, Object>> all = new HashMap<>();
    for (Node node : scene.nodes()) {
      all.put(node.name(), node.properties());
    }
    all.putAll(
        scene.materials().stream().collect(Collectors.toMap(Material::name, Material::properties)));
    return all;
  }

  @Test
  void schemasRelationshipsAndNetworksLandAsTheyWere() throws Exception {
    Scene near = read(STAGE);
    assertThat(codes())
        .contains("schema-kept", "network-kept")
        .doesNotContain("network-not-read", "geometry-not-read");
    assertThat(near.unread()).isEmpty();
    Scene far = landed(near);
    assertThat(values(far)).isEqualTo(values(near));
    assertThat(text)
        .contains("def PhysicsScene \"Sim\"", "vector3f physics:gravityDirection = (0, -1, 0)")
        .doesNotContain("custom vector3f")
        .contains("uniform token collection:lit:expansionRule = \"explicitOnly\"")
        .contains("rel collection:lit:includes = </Yard/m>")
        .contains("\"PhysicsRigidBodyAPI\", \"PhysicsMassAPI\", \"MaterialBindingAPI\"")
        .contains("custom rel helps = </Yard/n>", "rel physics:body0 = </Yard/m>")
        .contains("token outputs:mtlx:surface.connect = </Yard/Looks/Oak/Coat.outputs:out>")
        .contains("color3f outputs:tone.connect = </Yard/Looks/Oak/Graph/Mix.outputs:out>")
        .contains("uniform token info:id = \"ND_mix_color3\"", "float inputs:mix = 0.25");
    // The material that has no preview surface gets none.
    assertThat(text.split("UsdPreviewSurface")).hasSize(2);
    assertThat(said.list()).noneMatch(f -> f.code().equals("relationship-leads-nowhere"));
  }

  @Test
  void anEndThatWasRenamedIsTold() throws Exception {
    Scene near = read(STAGE);
    Node mesh = near.nodes().stream().filter(n -> n.name().equals("n")).findFirst().orElseThrow();
    Step rename =
        new Step("s", "rename", Map.of("find", "n", "with", "plank"), true, List.of(mesh.id()));
    var stages = Handling.run(near, List.of(rename), Progress.NONE);
    assertThat(stages.get(0).failure()).isNull();
    landed(Handling.result(near, stages));
    assertThat(text).contains("def Mesh \"plank\"");
    assertThat(said.list())
        .filteredOn(f -> f.code().equals("relationship-leads-nowhere"))
        .extracting(Finding::where)
        .containsExactlyInAnyOrder("m, helps", "Hinge, physics:body1");
  }

  @ParameterizedTest
  @ValueSource(strings = {"gone.png", "../grain.png", "/grain.png"})
  void imagesThatAreNotThereOrNotBelowAreToldToStayBehind(String path) throws Exception {
    cargo.with("grain.png", new byte[] {1, 2, 3});
    read(STAGE.replace("float inputs:coat = 0.75", "asset inputs:file = @" + path + "@"));
    assertThat(codes()).contains("network-not-read");
  }

  @Test
  void imagesOfOtherNetworksComeAlong() throws Exception {
    byte[] image = {1, 2, 3};
    cargo.with("tex/grain.png", image);
    Scene near =
        read(STAGE.replace("float inputs:coat = 0.75", "asset inputs:file = @./tex/grain.png@"));
    assertThat(codes()).contains("network-kept").doesNotContain("network-not-read");
    landed(near);
    assertThat(text).contains("asset inputs:file = @./tex/grain.png@");
    assertThat(out.bytes("tex/grain.png")).isEqualTo(image);
  }

  @Test
  void aNetworkThatLeadsOutOfItsMaterialIsNotKept() throws Exception {
    Scene near =
        read(
            STAGE.replace(
                "float inputs:coat = 0.75",
                "float inputs:coat.connect = </Yard/Looks/Oak/Coat.inputs:coat>"));
    assertThat(codes()).contains("network-not-read");
    Material bare =
        near.materials().stream().filter(m -> m.name().equals("Bare")).findFirst().orElseThrow();
    assertThat(bare.properties()).isEmpty();
  }
}
