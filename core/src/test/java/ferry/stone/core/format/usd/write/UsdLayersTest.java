package ferry.stone.core.format.usd.write;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.RandomRig;
import ferry.stone.core.TestFiles;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.usd.read.UsdReader;
import ferry.stone.core.format.usd.write.UsdOptions.Container;
import ferry.stone.core.format.usd.write.UsdOptions.Layers;
import ferry.stone.core.format.usd.write.UsdOptions.Parts;
import ferry.stone.core.motion.ClipPoses;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Random;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/** One stage as several files, which say the same together. */
class UsdLayersTest extends Landed {
  private int mast;

  /** A yard with a mast that moves in two clips, two posts of one mesh, bound to a material. */
  private void yard() {
    int yard = group("yard", -1);
    int wood = material("wood");
    mast = scene.newId();
    scene.add(
        Node.of(
                mast,
                "mast",
                yard,
                new Content.MeshContent(mesh("mast"), -1, new int[] {wood}, null))
            .withTransform(moved(1, 0, 0)));
    int post = mesh("post");
    node("post a", yard, Content.MeshContent.of(post));
    node("post b", yard, Content.MeshContent.of(post));
    scene.add(clip("rises", 3));
    scene.add(clip("sinks", -2));
  }

  private Clip clip(String name, double to) {
    return new Clip(
        scene.newId(),
        name,
        0,
        1,
        List.of(
            new Clip.Track(
                mast,
                Clip.TRANSLATION,
                Clip.Interpolation.LINEAR,
                3,
                new double[] {0, 1},
                new double[] {1, 0, 0, 1, to, 0},
                null,
                null)),
        List.of(),
        List.of());
  }

  private String file(String name) {
    return new String(files.bytes(name), StandardCharsets.UTF_8);
  }

  private Scene written(Layers layers, Parts parts) throws Exception {
    return written(UsdOptions.of(Container.TEXT).in(layers, parts));
  }

  private double height(Scene scene, double second) {
    int place = scene.paths().indexOf("yard/mast");
    return ClipPoses.of(scene, scene.clips().get(0)).at(second).world()[place].m31();
  }

  @Test
  void geometryLookAndMotionAreLayersOfTheirOwn() throws Exception {
    yard();
    Scene back = written(Layers.APART, Parts.INSIDE);
    assertThat(text)
        .contains("@./yard_motion.usda@", "@./yard_look.usda@", "@./yard_geometry.usda@")
        .doesNotContain("def ");
    assertThat(file("yard_geometry.usda"))
        .contains("def Mesh \"mast\"", "faceVertexIndices")
        .doesNotContain("timeSamples", "material:binding", "def Material");
    assertThat(file("yard_look.usda"))
        .contains("def Material \"wood\"", "rel material:binding = </yard/Looks/wood>")
        .contains("over \"mast\"")
        .doesNotContain("points", "timeSamples");
    assertThat(file("yard_motion.usda"))
        .contains("xformOp:translate.timeSamples")
        .doesNotContain("points", "material");
    assertThat(back.paths()).containsExactlyElementsOf(scene.build().paths());
    assertThat(back.materials()).hasSize(1);
    assertThat(back.meshes()).hasSize(2);
    assertThat(height(back, 1)).isCloseTo(3, within(1e-9));
    assertThat(codes()).contains("clip-not-chosen");
  }

  @Test
  void everyClipIsAStageOfItsOwnOnTheSameShapes() throws Exception {
    yard();
    written(Layers.CLIPS, Parts.INSIDE);
    assertThat(codes()).contains("clip-in-layer").doesNotContain("clip-not-chosen");
    String sinks = file("yard_clip_sinks.usda");
    assertThat(sinks)
        .contains("@./yard_look.usda@", "@./yard_geometry.usda@", "endTimeCode")
        .doesNotContain("@./yard_motion.usda@", "points", "def ");
    Scene other = UsdReader.read("yard_clip_sinks.usda", ReadContext.of(files));
    assertThat(other.paths()).containsExactlyElementsOf(scene.build().paths());
    assertThat(height(other, 0.5)).isCloseTo(-1, within(1e-9));
    assertThat(height(other, 1)).isCloseTo(-2, within(1e-9));
  }

  @Test
  void partsAreFilesOfTheirOwnAndShareWhatTheyShare() throws Exception {
    yard();
    Scene back = written(Layers.ONE, Parts.REFERENCES);
    assertThat(text)
        .contains("references = @./yard_part_mast.usda@")
        .contains("references = @./yard_part_post_a.usda@")
        .contains("xformOp:translate", "def Material \"wood\"")
        .doesNotContain("faceVertexIndices");
    assertThat(file("yard_part_mast.usda")).contains("faceVertexIndices", "defaultPrim = \"mast\"");
    assertThat(file("yard_part_post_a.usda"))
        .contains("@./yard_shared.usda@", "inherits = </Meshes/post>")
        .doesNotContain("faceVertexIndices");
    assertThat(file("yard_shared.usda")).contains("class \"Meshes\"", "faceVertexIndices");
    assertThat(back.paths()).containsExactlyElementsOf(scene.build().paths());
    assertThat(back.meshes()).as("both posts show one mesh still").hasSize(2);
    assertThat(height(back, 1)).isCloseTo(3, within(1e-9));
    // Each is of use alone.
    Scene post = UsdReader.read("yard_part_post_b.usda", ReadContext.of(files));
    assertThat(post.bounds().diagonal()).isCloseTo(Math.sqrt(2), within(1e-6));
  }

  @Test
  void payloadsOfAPackageAreInIt() throws Exception {
    yard();
    Scene back = written(UsdOptions.of(Container.PACKAGE).in(Layers.APART, Parts.PAYLOADS));
    assertThat(files.paths()).containsExactly("yard.usdz");
    assertThat(back.paths()).containsExactlyElementsOf(scene.build().paths());
    assertThat(back.composition().payloads()).hasSize(3);
  }

  @Test
  void copiesInSeveralPartsAreOneSetStill() throws Exception {
    int yard = group("yard", -1);
    int post = mesh("post");
    int[] tops = new int[4];
    for (int i = 0; i < 4; i++) {
      int row = i % 2 == 0 ? group("row " + i / 2, yard) : scene.build().nodes().size() - 3;
      tops[i] = scene.newId();
      int top = scene.add(Node.of(tops[i], "bollard " + i, row, Content.GROUP));
      node("body", top, Content.MeshContent.of(post));
    }
    scene.copies(List.of(new CopySet(CopySet.Kind.BRANCHES, -1, tops)));
    Scene back = written(Layers.ONE, Parts.REFERENCES);
    assertThat(text).contains("@./yard_part_row_0.usda@", "@./yard_part_row_1.usda@");
    assertThat(back.copies()).singleElement().matches(s -> s.nodeIds().length == 4);
    assertThat(back.meshes()).hasSize(1);
  }

  @Test
  void noFileSpeaksOfWhatIsInAnother() throws Exception {
    Pattern target = Pattern.compile("(?:rel [^=]+|\\.connect) = <(/[^/>.]+)");
    for (int seed = 0; seed < 12; seed++) {
      TestFiles out = new TestFiles();
      UsdWriter.write(
          RandomRig.of(new Random(seed), 6),
          UsdOptions.of(Container.TEXT).in(Layers.ONE, Parts.PAYLOADS),
          new SceneWriter.Target("rig", out, out, said, Progress.NONE));
      for (String name : out.paths()) {
        String own = new String(out.bytes(name), StandardCharsets.UTF_8);
        Matcher matcher = target.matcher(own);
        while (matcher.find()) {
          assertThat(own).as(name).contains(" \"" + matcher.group(1).substring(1) + "\"");
        }
      }
    }
  }
}
