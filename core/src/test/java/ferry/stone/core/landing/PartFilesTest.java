package ferry.stone.core.landing;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.RandomRig;
import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.gltf.read.GltfReader;
import ferry.stone.core.geometry.Solids;
import ferry.stone.core.landing.PartFiles.Origin;
import ferry.stone.core.landing.PartFiles.Rest;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Frame;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.io.ByteArrayOutputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Landing each part in a file of its own. */
class PartFilesTest {
  @TempDir Path folder;

  /** Three boxes; two hang on a turned and moved group, one of them on the other. */
  private static Scene boxes() {
    SceneBuilder scene = new SceneBuilder("boxes").nextId(100);
    PolygonMesh box = Solids.box(2, 1, 3);
    scene.add(box);
    scene.add(
        Node.of(10, "crane", -1, Node.Content.GROUP)
            .withTransform(
                LocalTransform.Trs.of(
                    new Vector3d(5, 0, 7), new Quaterniond().rotateY(0.5), new Vector3d(2))));
    scene.add(at(Node.of(11, "Arm", 0, Node.Content.MeshContent.of(1)), 1, 4, 0));
    scene.add(at(Node.of(12, "hook", 1, Node.Content.MeshContent.of(1)), 0, -1, 0));
    scene.add(at(Node.of(13, "arm", -1, Node.Content.MeshContent.of(1)), -9, 0, 0));
    return scene.frame(Frame.Y_UP_METRE, FrameSource.STATED, FrameSource.STATED).build();
  }

  private static Node at(Node node, double x, double y, double z) {
    return node.withTransform(
        LocalTransform.Trs.of(new Vector3d(x, y, z), new Quaterniond(), new Vector3d(1)));
  }

  private record Run(Landings landings, Proof proof, CargoFolder files) {}

  private Run land(Scene scene, LandingOptions options) throws Exception {
    Map<String, Path> written = new TreeMap<>();
    Resources none = new CargoFolder(Map.of());
    Landings landings =
        Landings.write(
            scene,
            options,
            "harbour",
            none,
            path -> {
              Path place = folder.resolve(path);
              Files.createDirectories(place.getParent());
              written.put(path, place);
              return Files.newOutputStream(place);
            },
            Progress.NONE);
    CargoFolder files = new CargoFolder(written);
    return new Run(
        landings, landings.proof(scene, scene, options, files, none, Progress.NONE), files);
  }

  private static LandingOptions each(String pattern, Origin origin) {
    return LandingOptions.of("glb").withParts(new PartFiles(true, pattern, origin));
  }

  @Test
  void eachPartIsAFileNamedByThePatternAtItsOwnOrigin() throws Exception {
    Run run = land(boxes(), each("{asset}_{number}_{part}", Origin.PIVOT));
    assertEquals(List.of("harbour_1_Arm.glb", "harbour_2_arm.glb"), run.files().paths());
    assertEquals(0, run.proof().lost(), run.proof().rows().toString());
    Scene arm = GltfReader.read("harbour_1_Arm.glb", ReadContext.of(run.files()));
    Node top = arm.nodes().stream().filter(n -> n.parent() < 0).findFirst().orElseThrow();
    assertEquals("Arm", top.name(), "it hangs on nothing");
    assertEquals(0, top.transform().toMatrix().getTranslation(new Vector3d()).length(), 1e-9);
    // Turned and scaled as it was: the hook hangs two metres below.
    Bounds bounds = arm.bounds();
    assertEquals(-2, bounds.min(1), 1e-5);
    assertEquals(2, bounds.max(1), 1e-5);
    assertEquals(2, arm.shownMeshes().size());
  }

  @Test
  void theMiddleOfTheBaseGoesToTheOrigin() throws Exception {
    Run run = land(boxes(), each("{part}", Origin.BASE));
    assertEquals(0, run.proof().lost());
    for (String path : run.files().paths()) {
      Bounds bounds = GltfReader.read(path, ReadContext.of(run.files())).bounds();
      assertEquals(0, bounds.min(1), 1e-5, path);
      assertEquals(0, bounds.centre().x, 1e-5, path);
      assertEquals(0, bounds.centre().z, 1e-5, path);
    }
    for (int seed = 0; seed < 12; seed++) {
      Scene rig = RandomRig.of(new Random(seed), 4);
      for (PartFiles.Named part : new PartFiles(true, "", Origin.BASE).of(rig, "rig")) {
        Bounds bounds = PartScene.of(rig, part.node(), Origin.BASE).bounds();
        assertEquals(0, bounds.centre().x, 1e-5, part.stem());
        assertEquals(0, bounds.min(1), 1e-5, part.stem());
      }
    }
  }

  @Test
  void partsThatStayInPlaceMakeUpTheWhole() throws Exception {
    for (int seed = 0; seed < 12; seed++) {
      Scene rig = RandomRig.of(new Random(seed), 4);
      LandingOptions options =
          LandingOptions.of("glb")
              .with("influences", 0)
              .withParts(new PartFiles(true, "{part}_{number}", Origin.PLACE));
      Run run = land(rig, options);
      int shown = 0;
      Map<Integer, Matrix4d> world = new TreeMap<>();
      rig.shownMeshes().forEach(m -> world.put(m.node().id(), m.world()));
      for (Landings.Each one : run.landings().each()) {
        shown += one.far().shownMeshes().size();
        for (Scene.ShownMesh mesh : one.far().shownMeshes()) {
          assertTrue(mesh.world().equals(world.get(mesh.node().id()), 1e-9), "stands as before");
        }
      }
      assertEquals(rig.shownMeshes().size(), shown, "seed " + seed);
      List<LedgerRow> lost =
          run.proof().rows().stream()
              .filter(r -> r.verdict() == LedgerRow.Verdict.LOST)
              .filter(r -> r.about() == null)
              .toList();
      assertEquals(List.of(), lost, "seed " + seed);
    }
  }

  @Test
  void aRiggedPartKeepsItsJointsAndMotion() throws Exception {
    int skinned = 0;
    for (int seed = 0; seed < 12; seed++) {
      Scene rig = RandomRig.of(new Random(seed), 4);
      for (int i = 0; i < rig.nodes().size(); i++) {
        if (rig.nodes().get(i).content() instanceof Node.Content.MeshContent content
            && content.skinId() >= 0) {
          Scene part = PartScene.of(rig, i, Origin.PIVOT);
          Vector3d pivot = rig.worldMatrices()[i].getTranslation(new Vector3d());
          assertEquals(1, part.skins().stream().filter(s -> s.id() == content.skinId()).count());
          Bounds whole = part.bounds();
          Bounds moved = PartScene.of(rig, i, Origin.PLACE).bounds();
          for (int k = 0; k < 3; k++) {
            assertEquals(moved.min(k) - pivot.get(k), whole.min(k), 1e-6);
          }
          skinned++;
        }
      }
    }
    assertTrue(skinned > 5, skinned + " skinned parts");
  }

  @Test
  void separateFilesLieInAFolderOfEachPart() throws Exception {
    LandingOptions options =
        LandingOptions.of("gltf").withParts(new PartFiles(true, "{part}", Origin.PIVOT));
    Run run = land(boxes(), options);
    assertTrue(run.files().contains("Arm/Arm.gltf"), run.files().paths().toString());
    assertTrue(run.files().contains("arm_2/arm_2.gltf"), run.files().paths().toString());
    assertEquals(0, run.proof().lost());
    assertTrue(run.proof().rows().get(0).group().startsWith("Arm/Arm.gltf · "));
  }

  @Test
  void wrongPatternsAndScenesWithoutPartsAreRefused() {
    assertThrows(
        IllegalArgumentException.class, () -> new PartFiles(true, "{colour}", Origin.PIVOT));
    assertThrows(IllegalArgumentException.class, () -> new PartFiles(true, "x".repeat(200), null));
    Scene empty = new SceneBuilder("empty").build();
    OutputStream nowhere = new ByteArrayOutputStream();
    FormatException e =
        assertThrows(
            FormatException.class,
            () ->
                Landings.write(
                    empty,
                    each("", Origin.BASE),
                    "x",
                    new CargoFolder(Map.of()),
                    path -> nowhere,
                    Progress.NONE));
    assertTrue(e.getMessage().contains("nothing shows a mesh"), e.getMessage());
  }

  /** A rig with two clips of one name, in cases that some file systems take for one. */
  private static Scene moving() {
    for (int seed = 0; ; seed++) {
      Scene rig = RandomRig.of(new Random(seed), 5);
      if (rig.clips().size() > 1) {
        Clip first = rig.clips().get(0).withName("Wade");
        Clip second = rig.clips().get(1).withName("wade");
        return rig.toBuilder().clips(List.of(first, second)).framesPerSecond(25).build();
      }
    }
  }

  @Test
  void eachClipIsAFileWithTheRestPoseBeforeThem() throws Exception {
    for (String format : List.of("glb", "fbx", "usdc")) {
      LandingOptions options = LandingOptions.of(format).withParts(PartFiles.ofClips(Rest.FILE));
      Run run = land(moving(), options);
      assertEquals(
          List.of("harbour_Wade", "harbour_rest", "harbour_wade_2"),
          run.files().paths().stream().map(p -> CargoPath.stem(p)).toList());
      noMoreIsLost(run, format);
      for (String path : run.files().paths()) {
        Scene one = CargoReader.read("one", List.of(path), ReadContext.of(run.files()));
        assertEquals(path.contains("rest") ? 0 : 1, one.clips().size(), path);
        assertEquals(moving().meshes().size(), one.meshes().size(), path);
      }
    }
  }

  /** Nothing but what one file of everything loses too. */
  private void noMoreIsLost(Run run, String format) throws Exception {
    Set<String> whole = lost(land(moving(), LandingOptions.of(format)));
    Set<String> each = lost(run);
    each.removeAll(whole);
    assertEquals(Set.of(), each);
  }

  private static Set<String> lost(Run run) {
    return run.proof().rows().stream()
        .filter(r -> r.verdict() == LedgerRow.Verdict.LOST)
        .map(LedgerRow::fact)
        .collect(Collectors.toCollection(TreeSet::new));
  }

  /** The first frame is the rest pose, and the motion is the same a frame later. */
  @Test
  void aClipBeginsWithTheRestPose() throws Exception {
    Scene rig = moving();
    LandingOptions options = LandingOptions.of("glb").withParts(PartFiles.ofClips(Rest.FRAME));
    Run run = land(rig, options);
    noMoreIsLost(run, "glb");
    for (int c = 0; c < 2; c++) {
      Clip was = rig.clips().get(c);
      Scene landed = ClipScene.of(rig, was, true);
      Clip is = landed.clips().get(0);
      assertEquals(was.endSeconds() + 0.04, is.endSeconds(), 1e-9);
      Pose rest = Pose.rest(rig);
      same(rest, Pose.at(landed, is, is.startSeconds()));
      for (int i = 0; i <= 10; i++) {
        double at = was.startSeconds() + i * (was.endSeconds() - was.startSeconds()) / 10;
        same(Pose.at(rig, was, at), Pose.at(landed, is, at + 0.04));
      }
    }
  }

  private static void same(Pose a, Pose b) {
    for (int i = 0; i < a.world().length; i++) {
      assertTrue(a.world()[i].equals(b.world()[i], 1e-6), a.world()[i] + "\n" + b.world()[i]);
      assertArrayEquals(a.morphWeights()[i], b.morphWeights()[i], 1e-9);
    }
  }

  @Test
  void withoutClipsOrForPartsAsWellNothingLands() {
    assertThrows(
        FormatException.class,
        () -> land(boxes(), LandingOptions.of("glb").withParts(PartFiles.ofClips(Rest.NONE))));
    assertThrows(
        IllegalArgumentException.class, () -> new PartFiles(true, "", null, true, Rest.NONE));
    assertThrows(
        IllegalArgumentException.class, () -> new PartFiles(false, "{part}", null, true, null));
  }
}
