package ferry.stone.core.format.usd.write;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.TestFiles;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.usd.read.UsdReader;
import ferry.stone.core.format.usd.write.UsdOptions.Container;
import ferry.stone.core.format.usd.write.UsdOptions.Layers;
import ferry.stone.core.format.usd.write.UsdOptions.Parts;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Looks to choose from are variant sets that bind, and variant sets that bind are looks. */
class UsdVariantsTest extends Landed {
  /** A square of two faces with a slot each. */
  private int mesh(String name, int[] slots, int[]... looks) {
    int id = mesh(name);
    List<PolygonMesh> meshes = new ArrayList<>(scene.build().meshes());
    PolygonMesh bare = meshes.remove(meshes.size() - 1);
    meshes.add(
        bare.toBuilder()
            .materials(slots, slots.length == 1 ? null : new int[] {0, 1})
            .variantMaterials(looks)
            .build());
    scene.meshes(meshes);
    return id;
  }

  private static String shown(Scene scene, int place, int face, int look) {
    Content.MeshContent content = (Content.MeshContent) scene.nodes().get(place).content();
    PolygonMesh mesh = scene.meshesById().get(content.meshId());
    int id = look < 0 ? mesh.materialOf(face) : mesh.materialOf(face, look);
    return id < 0 ? "" : scene.material(id).orElseThrow().name();
  }

  private void same(Scene back, Scene near, int place) {
    assertThat(back.variants()).containsExactlyElementsOf(near.variants());
    String path = near.paths().get(place);
    int there = back.paths().indexOf(path);
    for (int look = -1; look < near.variants().size(); look++) {
      for (int face = 0; face < 2; face++) {
        assertThat(shown(back, there, face, look))
            .as("face " + face + " in look " + look)
            .isEqualTo(shown(near, place, face, look));
      }
    }
  }

  @Test
  void looksAreVariantsThatBind() throws Exception {
    int oak = material("oak");
    int tar = material("tar");
    int lead = material("lead");
    scene.variant("new built");
    scene.variant("weathered");
    int yard = group("yard", -1);
    int hull = mesh("hull", new int[] {oak, lead}, new int[] {-1, -1}, new int[] {tar, -1});
    node("hull", yard, Content.MeshContent.of(hull));
    Scene near = scene.build();
    Scene back = written();
    assertThat(text)
        .contains("variantSet \"look\"", "\"new_built\"", "\"weathered\"")
        .contains("string look = \"new_built\"")
        .contains("string new_built = \"new built\"")
        .contains("over \"hull\"");
    // The second slot is the same in all looks: bound once, outside of them.
    assertThat(text.split("material:binding = </yard/Looks/lead>")).hasSize(2);
    same(back, near, 1);
    assertThat(back.composition().choices()).as("looks are chosen where they show").isEmpty();
    assertThat(codes()).doesNotContain("variants-not-carried");
  }

  @Test
  void whatIsShownWithNoLookChosenIsOneMoreVariant() throws Exception {
    int oak = material("oak");
    int tar = material("tar");
    int lead = material("lead");
    scene.variant("tarred");
    scene.variant("leaded");
    int hull = mesh("hull", new int[] {oak}, new int[] {tar}, new int[] {lead});
    node("hull", -1, Content.MeshContent.of(hull));
    Scene near = scene.build();
    Scene back = written();
    assertThat(text).contains("string look = \"unchosen\"");
    same(back, near, 0);
    Scene chosen =
        UsdReader.read(
            "yard.usda",
            ReadContext.of(files).withOptions(Map.of("variants", "/hull{look=leaded}")));
    assertThat(shown(chosen, 0, 0, -1)).isEqualTo("lead");
  }

  @ParameterizedTest
  @EnumSource(Container.class)
  void looksOfCopiesAndOfPartsInFilesComeBack(Container container) throws Exception {
    int oak = material("oak");
    int tar = material("tar");
    scene.variant("plain");
    scene.variant("tarred");
    int post = mesh("post", new int[] {oak}, new int[] {oak}, new int[] {tar});
    int yard = group("yard", -1);
    int row = group("row", yard);
    int[] tops = new int[3];
    for (int i = 0; i < 3; i++) {
      tops[i] = scene.newId();
      int top = scene.add(Node.of(tops[i], "bollard " + i, row, Content.GROUP));
      node("body", top, Content.MeshContent.of(post));
    }
    int mast = mesh("mast", new int[] {tar}, new int[] {-1}, new int[] {oak});
    node("mast", yard, Content.MeshContent.of(mast));
    scene.copies(List.of(new CopySet(CopySet.Kind.BRANCHES, -1, tops)));
    Scene near = scene.build();
    Scene back = written(UsdOptions.of(container));
    same(back, near, 3);
    same(back, near, 8);
    assertThat(back.copies()).hasSize(1);
    assertThat(back.meshes()).hasSize(2);
    Scene apart = written(UsdOptions.of(container).in(Layers.APART, Parts.REFERENCES));
    same(apart, near, 3);
    same(apart, near, 8);
  }

  @Test
  void setsOfSeveralPrimsAreOneLookByTheirNames() throws Exception {
    String stage =
        """
        #usda 1.0
        def Xform "Yard" {
          def Scope "Looks" {
            def Material "Oak" { token outputs:surface.connect = </Yard/Looks/Oak/S.outputs:surface>
              def Shader "S" { uniform token info:id = "UsdPreviewSurface"
                token outputs:surface } }
            def Material "Tar" { token outputs:surface.connect = </Yard/Looks/Tar/S.outputs:surface>
              def Shader "S" { uniform token info:id = "UsdPreviewSurface"
                token outputs:surface } }
          }
          def Xform "a" ( variants = { string paint = "dry" } prepend variantSets = "paint" ) {
            def Mesh "m" { point3f[] points = [(0,0,0),(1,0,0),(0,1,0)]
              int[] faceVertexCounts = [3]
              int[] faceVertexIndices = [0,1,2] }
            variantSet "paint" = {
              "dry" { over "m" { rel material:binding = </Yard/Looks/Oak> } }
              "wet" { over "m" { rel material:binding = </Yard/Looks/Tar> } }
            }
          }
          def Mesh "b" ( variants = { string coat = "wet" } prepend variantSets = "coat" ) {
            point3f[] points = [(0,0,0),(1,0,0),(0,1,0)]
            int[] faceVertexCounts = [3]
            int[] faceVertexIndices = [0,1,2]
            variantSet "coat" = {
              "old" { rel material:binding = </Yard/Looks/Oak> }
              "wet" { rel material:binding = </Yard/Looks/Tar> }
            }
          }
          def Xform "c" ( variants = { string size = "big" } prepend variantSets = "size" ) {
            variantSet "size" = { "big" { double3 xformOp:scale = (2, 2, 2) } "small" { } }
          }
        }
        """;
    TestFiles cargo = TestFiles.of("a.usda", stage);
    Scene read = UsdReader.read("a.usda", ReadContext.of(cargo));
    assertThat(read.variants()).containsExactly("dry", "wet", "old");
    int a = read.paths().indexOf("Yard/a/m");
    int b = read.paths().indexOf("Yard/b");
    assertThat(List.of(shown(read, a, 0, -1), shown(read, a, 0, 0), shown(read, a, 0, 1)))
        .containsExactly("Oak", "Oak", "Tar");
    assertThat(shown(read, a, 0, 2)).as("it knows no such look").isEqualTo("Oak");
    assertThat(List.of(shown(read, b, 0, -1), shown(read, b, 0, 1), shown(read, b, 0, 2)))
        .containsExactly("Tar", "Tar", "Oak");
    assertThat(read.composition().choices())
        .singleElement()
        .matches(c -> c.set().equals("size"), "what does more than bind is no look");
  }

  @Test
  void detailLevelsAreVariantsAndComeBackAsLevels() throws Exception {
    int top =
        scene.add(
            Node.of(
                scene.newId(),
                "bollard",
                -1,
                new Content.DetailGroup(
                    new double[] {0.5, 0.1, 0}, Content.DetailGroup.Measure.SCREEN)));
    for (String level : List.of("high", "mid", "low")) {
      node(level, top, Content.MeshContent.of(mesh(level)));
    }
    Scene back = written();
    assertThat(text)
        .contains("variantSet \"detail\"", "string detail = \"high\"", "active = false");
    assertThat(back.paths())
        .containsExactly("bollard", "bollard/high", "bollard/mid", "bollard/low");
    Content.DetailGroup group = (Content.DetailGroup) back.nodes().get(0).content();
    assertThat(group.thresholds()).containsExactly(0.5, 0.1, 0);
    assertThat(group.measure()).isEqualTo(Content.DetailGroup.Measure.SCREEN);
    assertThat(back.nodes().get(0).properties()).isEmpty();
    assertThat(back.composition().choices()).isEmpty();
    assertThat(codes()).contains("levels-as-variants");
    Scene others = UsdReader.read("yard.usda", ReadContext.of(files), true);
    assertThat(others.paths())
        .as("others show one level")
        .containsExactly("bollard", "bollard/high");
  }
}
