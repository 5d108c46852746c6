package ferry.stone.core.proof;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNotEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.RandomRig;
import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.landing.LandingOptions.Transforms;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.work.Progress;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class LandAndProveTest {
  private static final String OBJ =
      """
      mtllib m.mtl
      o sluice
      v 0 0 0
      v 100 0 0
      v 100 0 80
      v 50 0 20
      v 0 0 80
      vt 0 0
      vt 1 0
      vt 1 1
      vt .5 .25
      vt 0 1
      vn 0 -1 0
      g leaf
      s 1
      usemtl oak
      f 1/1/1 2/2/1 3/3/1 4/4/1 5/5/1
      usemtl iron
      f 1/1/1 3/3/1 2/2/1
      l 1 2
      """;
  private static final String MTL =
      """
      newmtl oak
      Kd 1 1 1
      map_Kd oak.png
      map_d holes.png
      map_Pr rough.png
      Pm 0
      newmtl iron
      Kd .2 .2 .25
      Ks .4 .4 .4
      Ns 64
      map_Kd gone.png
      """;

  private static byte[] noise(long seed, int size) {
    Random random = new Random(seed);
    int[] argb = new int[size * size];
    for (int i = 0; i < argb.length; i++) {
      argb[i] = 0xff000000 | random.nextInt(1 << 24);
    }
    return ImageCodec.encodePng(new Pixels(size, size, argb, false));
  }

  private static TestFiles cargo() {
    return TestFiles.of("a.obj", OBJ)
        .with("m.mtl", MTL)
        .with("oak.png", noise(1, 16))
        .with("holes.png", noise(2, 16))
        .with("rough.png", noise(3, 8));
  }

  private record Run(Proof proof, TestFiles files, Scene far) {
    LedgerRow row(String fact) {
      return proof.rows().stream()
          .filter(r -> r.fact().equals(fact))
          .findFirst()
          .orElseThrow(() -> new AssertionError(fact + " not in " + proof.rows()));
    }
  }

  private static Run run(TestFiles cargo, LandingOptions options) throws Exception {
    Scene near = CargoReader.read("a", ReadContext.of(cargo));
    List<Step> steps =
        List.of(
            new Step("1", "sourceUnit", Map.of("unit", "cm"), true, List.of()),
            new Step("2", "sourceUp", Map.of("up", "z"), true, List.of()),
            new Step("3", "rotate", Map.of("axis", "y", "degrees", 30), true, List.of()),
            new Step("4", "ground", Map.of(), true, List.of()));
    Scene far = Handling.result(near, Handling.run(near, steps, Progress.NONE));
    TestFiles out = new TestFiles();
    Landing landing = Landing.write(far, options, "a", cargo, out, Progress.NONE);
    Proof proof = Proof.of(near, far, landing.landed(options, out), cargo, Progress.NONE);
    return new Run(proof, out, far);
  }

  @ParameterizedTest
  @EnumSource(Transforms.class)
  void whatLandedIsWhatLeft(Transforms transforms) throws Exception {
    Run run = run(cargo(), LandingOptions.of("glb").withTransforms(transforms));
    for (String fact :
        List.of(
            "Height",
            "Width",
            "Depth",
            "Lowest point",
            "Surface distance, largest",
            "Vertex order",
            "UVs",
            "Normals",
            "Faces on their materials",
            "Base colour texture",
            "Opacity texture",
            "Names and paths",
            "Line segments")) {
      assertEquals(Verdict.KEPT, run.row(fact).verdict(), run.row(fact).toString());
    }
    assertEquals("0.8 m", run.row("Height").landed());
    assertEquals(Verdict.CHANGED, run.row("Faces").verdict());
    assertEquals("4 triangles", run.row("Faces").landed());
  }

  @Test
  void saysWhatWasLostAndWhy() throws Exception {
    Run run = run(cargo(), LandingOptions.of("glb"));
    assertEquals(Verdict.CHANGED, run.row("Smoothing groups beside normals").verdict());
    assertEquals(Verdict.LOST, run.row("Named sets of faces").verdict());
    LedgerRow gone =
        run.proof().rows().stream()
            .filter(r -> r.near().equals("gone.png"))
            .findFirst()
            .orElseThrow();
    assertEquals(Verdict.LOST, gone.verdict());
    assertTrue(gone.note().contains("not in the cargo"));
    assertEquals(
        run.proof().rows().size(), run.proof().kept() + run.proof().changed() + run.proof().lost());
  }

  @Test
  void separateFilesAndTexturesBeside() throws Exception {
    Run run = run(cargo(), LandingOptions.of("gltf"));
    assertEquals(
        List.of("a.bin", "a.gltf", "textures/oak_alpha.png", "textures/rough_packed.png"),
        run.files().paths());
    assertEquals(Verdict.KEPT, run.row("Base colour texture").verdict());
  }

  @Test
  void aTamperedFileDoesNotPass() throws Exception {
    TestFiles cargo = cargo();
    Scene near = CargoReader.read("a", ReadContext.of(cargo));
    TestFiles out = new TestFiles();
    Landing landing = Landing.write(near, LandingOptions.of("glb"), "a", cargo, out, Progress.NONE);
    Scene smaller =
        Handling.result(
            near,
            Handling.run(
                near,
                List.of(new Step("1", "scale", Map.of("factor", 1.001), true, List.of())),
                Progress.NONE));
    Proof proof =
        Proof.of(
            near, smaller, landing.landed(LandingOptions.of("glb"), out), cargo, Progress.NONE);
    Run run = new Run(proof, out, smaller);
    assertEquals(Verdict.CHANGED, run.row("Width").verdict());
    assertEquals(Verdict.CHANGED, run.row("Surface distance, largest").verdict());
    assertEquals(Verdict.CHANGED, run.row("Vertex order").verdict());
  }

  @Test
  void imagesOfEveryKindLandWithTheirPixels() throws Exception {
    int[] argb = new int[64];
    for (int i = 0; i < 64; i++) {
      argb[i] = 0xff000000 | (i * 4) << 16 | (255 - i * 3) << 8 | 90;
    }
    for (String kind : List.of("png", "bmp", "tga", "tiff", "jpg")) {
      BufferedImage image = new BufferedImage(8, 8, BufferedImage.TYPE_INT_RGB);
      image.setRGB(0, 0, 8, 8, argb, 0, 8);
      ByteArrayOutputStream bytes = new ByteArrayOutputStream();
      assertTrue(javax.imageio.ImageIO.write(image, kind, bytes), kind);
      TestFiles cargo =
          TestFiles.of("a.obj", OBJ)
              .with("m.mtl", "newmtl oak\nmap_Kd t." + kind + "\nnewmtl iron\n")
              .with("t." + kind, bytes.toByteArray());
      Run run = run(cargo, LandingOptions.of("glb"));
      assertEquals(Verdict.KEPT, run.row("Base colour texture").verdict(), kind);
    }
  }

  @Test
  void aTextureThatIsNoImageIsReportedAndTheRestLands() throws Exception {
    TestFiles cargo = cargo().with("oak.png", "this is no picture");
    Run run = run(cargo, LandingOptions.of("glb"));
    assertEquals(Verdict.LOST, run.row("Base colour texture").verdict());
    assertTrue(
        run.proof().rows().stream().anyMatch(r -> r.note().contains("no image that can be read")));
    assertEquals(Verdict.KEPT, run.row("Height").verdict());
  }

  @Test
  void exportsAreWholeAndSafe() throws Exception {
    Proof proof = run(cargo(), LandingOptions.of("glb")).proof();
    String csv = LedgerExport.csv(proof.rows());
    assertEquals(proof.rows().size() + 1, csv.split("\r\n").length);
    String html = LedgerExport.html("<sluice> & \"gate\"", proof);
    assertTrue(html.contains("&lt;sluice&gt; &amp; &quot;gate&quot;"));
    assertTrue(!html.contains("<script"));
  }

  @Test
  void rigsAreProvedInEveryPose() throws Exception {
    for (int seed = 1; seed <= 12; seed++) {
      Scene rig = RandomRig.of(new Random(seed), 6);
      for (Transforms transforms : Transforms.values()) {
        LandingOptions all =
            LandingOptions.of("glb").with("influences", 0).withTransforms(transforms);
        Proof proof = proof(rig, all);
        List<LedgerRow> motion =
            proof.rows().stream()
                .filter(
                    r ->
                        r.group().equals("Motion")
                            || r.group().equals("Skeleton and morph targets")
                            || r.group().equals("Cameras and lights"))
                .toList();
        assertTrue(motion.size() >= 4, "seed " + seed);
        for (LedgerRow row : motion) {
          assertEquals(Verdict.KEPT, row.verdict(), "seed " + seed + ": " + row);
        }
      }
    }
  }

  @Test
  void aPoseThatIsOffIsFound() throws Exception {
    Scene rig = RandomRig.of(new Random(5), 4);
    TestFiles landed = new TestFiles();
    LandingOptions all = LandingOptions.of("glb").with("influences", 0);
    Landing landing = Landing.write(rig, all, "a", new TestFiles(), landed, Progress.NONE);
    // The far side says that the first joint stands elsewhere.
    List<Node> nodes = new ArrayList<>(rig.nodes());
    nodes.set(0, nodes.get(0).withTransform(LocalTransform.IDENTITY));
    Scene other = rig.toBuilder().nodes(nodes).build();
    Proof proof =
        Proof.of(other, other, landing.landed(all, landed), new TestFiles(), Progress.NONE);
    assertTrue(
        proof.rows().stream()
            .anyMatch(r -> r.group().equals("Motion") && r.verdict() == Verdict.CHANGED));
  }

  private static Proof proof(Scene scene, LandingOptions options) throws Exception {
    TestFiles landed = new TestFiles();
    Landing landing = Landing.write(scene, options, "a", new TestFiles(), landed, Progress.NONE);
    return Proof.of(scene, scene, landing.landed(options, landed), new TestFiles(), Progress.NONE);
  }

  /** Everything that a rig holds arrives in FBX, in any frame, form and with its faces cut. */
  @Test
  void rigsLoseNothingAsFbx() throws Exception {
    LandingOptions text =
        LandingOptions.of("fbx").with("form", "text").with("unit", "in").with("up", "z");
    LandingOptions cut =
        LandingOptions.of("fbx")
            .with("form", "binary64")
            .with("bake", true)
            .with("triangulate", true)
            .with("unit", "m");
    for (LandingOptions fbx : List.of(LandingOptions.of("fbx"), text, cut)) {
      for (int seed = 0; seed < 8; seed++) {
        Scene rig = RandomRig.of(new Random(seed), 8);
        Proof proof = proof(rig, fbx);
        String what = "seed " + seed + " " + fbx;
        for (LedgerRow row : proof.rows()) {
          assertNotEquals(Verdict.LOST, row.verdict(), what + ": " + row);
          boolean form =
              row.fact().equals("Faces") && fbx.options().get("triangulate").equals(true);
          // Cameras and lights on which parts hang need a child in FBX; nothing else may differ.
          boolean added = row.about() == Capability.HELPERS;
          assertTrue(form || added || row.verdict() == Verdict.KEPT, what + ": " + row);
        }
        assertEquals(
            fbx.frame().label(),
            proof.rows().stream()
                .filter(r -> r.fact().equals("Unit and axes"))
                .findFirst()
                .orElseThrow()
                .landed());
      }
    }
  }

  /** What a row says in a number has that number for programs; words alone have none. */
  @Test
  void everyNumberOfAProofIsANumberForPrograms() throws Exception {
    Set<String> words = new TreeSet<>();
    for (int seed = 0; seed < 8; seed++) {
      Scene scene = RandomRig.of(new Random(seed), 4);
      for (String format : List.of("glb", "fbx")) {
        TestFiles out = new TestFiles();
        TestFiles cargo = new TestFiles();
        var options = LandingOptions.of(format);
        var landing = Landing.write(scene, options, "a", cargo, out, Progress.NONE);
        Proof proof = Proof.of(scene, scene, landing.landed(options, out), cargo, Progress.NONE);
        for (LedgerRow row : proof.rows()) {
          boolean figure = row.differs().matches("[-+]?[0-9].*");
          if (figure && row.measure() == null && row.verdict() != LedgerRow.Verdict.LOST) {
            words.add(row.fact().replaceAll("[0-9_]+", "#") + ": " + row.differs());
          }
          if (row.measure() != null && row.measure().differs() != null) {
            double off = row.measure().differs();
            assertTrue(Double.isFinite(off), row.toString());
          }
        }
      }
    }
    assertEquals(Set.of(), words);
  }
}
