package ferry.stone.core.handling;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.RandomRig;
import ferry.stone.core.WorldSurface;
import ferry.stone.core.geometry.Solids;
import ferry.stone.core.geometry.mesh.MeshMeasure;
import ferry.stone.core.handling.step.place.MirrorParts;
import ferry.stone.core.handling.step.place.Placement;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/** What single steps do to parts: figures, names, places and what they refuse. */
class PartStepsTest {
  private static Handling.Stage run(Scene scene, Step step) {
    return Handling.run(scene, List.of(step), Progress.NONE).get(0);
  }

  private static Scene done(Scene scene, String kind, Map<String, Object> params, Integer... ids) {
    var stage = run(scene, new Step("1", kind, params, true, List.of(ids)));
    assertNull(stage.failure());
    PictureStaysTest.sound(stage.scene(), kind);
    return stage.scene();
  }

  private static String refusal(Scene scene, String kind, Map<String, Object> params) {
    return run(scene, new Step("1", kind, params, true, List.of())).failure();
  }

  /** Two boxes of 1 × 2 × 3 m under a group, the second with levels' names. Y up, metres. */
  private static Scene boxes() {
    SceneBuilder scene = new SceneBuilder("yard");
    scene.nextId(10);
    scene.add(Node.of(1, "yard", -1, Node.Content.GROUP));
    for (int i = 0; i < 2; i++) {
      PolygonMesh box = Solids.box(1, 2, 3).toBuilder().id(2 + i).name("box").build();
      scene.add(box);
      Vector3d at = new Vector3d(4 * i, 0.5, 0);
      scene.add(
          Node.of(5 + i, "box_" + i, 0, Node.Content.MeshContent.of(2 + i))
              .withTransform(LocalTransform.Trs.of(at, new Quaterniond(), new Vector3d(1))));
    }
    return scene.frame(Frame.Y_UP_METRE, FrameSource.STATED, FrameSource.STATED).build();
  }

  private static Vector3d place(Scene scene, int id) {
    return scene.worldMatrices()[scene.nodePlaces().get(id)].getTranslation(new Vector3d());
  }

  @Test
  void scaledToASizeItHasThatSize() {
    Scene far = done(boxes(), "scaleTo", Map.of("size", 1.75, "side", "height"));
    assertEquals(1.75, far.bounds().size(1), 1e-9);
    Scene one = done(boxes(), "scaleTo", Map.of("size", 6, "side", "depth", "about", "base"), 6);
    Bounds box = Placement.bounds(one, new Selection(List.of(6)));
    assertEquals(6, box.size(2), 1e-6);
    assertEquals(0.5, box.minY(), 1e-6);
    assertEquals(3, Placement.bounds(one, new Selection(List.of(5))).size(2), 1e-6);
    assertTrue(refusal(boxes(), "scaleTo", Map.of("size", 0)).contains("0.0001"));
  }

  @Test
  void chosenPartsAreMovedAndOthersStay() {
    Scene far = done(boxes(), "ground", Map.of(), 6);
    assertEquals(0, Placement.bounds(far, new Selection(List.of(6))).minY(), 1e-9);
    assertEquals(0.5, Placement.bounds(far, new Selection(List.of(5))).minY(), 1e-9);
    Scene kept = done(boxes(), "centre", Map.of("what", "all", "keep", "transform"));
    assertEquals(boxes().nodes().size() + 1, kept.nodes().size());
    assertEquals(0, WorldSurface.difference(boxes(), kept), 1e-9);
  }

  @Test
  void selectionsTakePicksNamesAndKinds() {
    Scene scene = boxes();
    assertArrayEquals(
        new boolean[] {false, true, false}, new Selection(List.of(), "BOX_0", "").exact(scene));
    assertArrayEquals(
        new boolean[] {false, true, true}, new Selection(List.of(), "box_?, x*", "").exact(scene));
    assertArrayEquals(
        new boolean[] {true, false, false}, new Selection(List.of(), "", "group").exact(scene));
    assertArrayEquals(new boolean[] {true, true, true}, new Selection(List.of(1)).withBelow(scene));
    assertEquals(1, new Selection(List.of(1, 5)).tops(scene).length);
    Step named = new Step("1", "remove", Map.of("what", "parts"), true, List.of(), "box_1", "");
    assertEquals(2, run(scene, named).scene().nodes().size());
  }

  @Test
  void pivotsGoToPointsOfTheBoxTheVertexAndTheGrid() {
    Map<String, Object> corner =
        Map.of("to", "box", "side", "right", "height", "base", "depth", "front");
    // Right of the asset is −X where it looks along +Z with Y up.
    assertEquals(0, place(done(boxes(), "pivot", corner, 6), 6).distance(4, 0.5, 3), 1e-6);
    Scene snapped = done(boxes(), "pivot", Map.of("to", "box", "height", "middle", "snap", 1.0), 5);
    assertEquals(0, place(snapped, 5).distance(0, 2, 2), 1e-6);
    Scene picked = done(boxes(), "pivot", Map.of("to", "vertex", "vertex", "6:7"), 6);
    assertEquals(0, place(picked, 6).distance(5, 2.5, 3), 1e-6);
    assertTrue(refusal(boxes(), "pivot", Map.of("to", "vertex")).contains("pick it"));
    assertTrue(refusal(boxes(), "pivot", Map.of("to", "vertex", "vertex", "6:99")).contains("99"));
  }

  @Test
  void aPivotByItsNumbersIsInMetresOfTheView() {
    Scene metres = done(boxes(), "pivot", Map.of("to", "point", "x", 7.0, "y", -1.0, "z", 2.0), 6);
    assertEquals(0, place(metres, 6).distance(7, -1, 2), 1e-6);
    Frame zUp = Frame.Y_UP_METRE.withUp(SignedAxis.PLUS_Z).withMetresPerUnit(0.01);
    Scene other = boxes().toBuilder().frame(zUp, FrameSource.STATED, FrameSource.STATED).build();
    Scene far = done(other, "pivot", Map.of("to", "point", "x", 7.0, "y", -1.0, "z", 2.0), 6);
    assertEquals(0, place(far, 6).distance(700, -200, -100), 1e-6);
  }

  @Test
  void eachPartIsCentredOrGroundedByItsOwnBox() {
    Scene onto = done(boxes(), "centre", Map.of("what", "all", "parts", "each"), 5, 6);
    for (int id : List.of(5, 6)) {
      Bounds box = Placement.bounds(onto, new Selection(List.of(id)));
      assertEquals(0, box.centre().length(), 1e-6);
    }
    Scene over = done(boxes(), "centre", Map.of("what", "ground", "parts", "each"));
    Bounds box = Placement.bounds(over, new Selection(List.of(6)));
    assertEquals(0, box.centre().distance(0, 1.5, 0), 1e-6);
    Scene ground = done(boxes(), "ground", Map.of("parts", "each"), 6);
    assertEquals(0, Placement.bounds(ground, new Selection(List.of(6))).minY(), 1e-6);
    assertEquals(0.5, Placement.bounds(ground, new Selection(List.of(5))).minY(), 1e-6);
  }

  @Test
  void inPlaceEachPartsOwnNumbersMoveAndThePictureStays() {
    Scene centred =
        done(boxes(), "centre", Map.of("what", "all", "parts", "each", "keep", "transform"), 5, 6);
    assertEquals(0, place(centred, 6).distance(4.5, 1.5, 1.5), 1e-6);
    for (PolygonMesh mesh : centred.meshes()) {
      assertEquals(0, mesh.points().bounds().centre().length(), 1e-6);
    }
    Scene based = done(boxes(), "ground", Map.of("parts", "each", "keep", "transform"), 6);
    // Only the height of the pivot changes; here it stood at the base already.
    assertEquals(0, place(based, 6).distance(4, 0.5, 0), 1e-6);
    for (Scene far : List.of(centred, based)) {
      assertEquals(0, WorldSurface.difference(still(boxes()), still(far)), 1e-6);
    }
    assertTrue(
        refusal(
                boxes().toBuilder().nodes(boxes().nodes().subList(0, 1)).build(),
                "centre",
                Map.of("what", "all", "parts", "each"))
            .contains("None of the chosen parts"));
  }

  /** A wheel that turns about a point beside its middle turns about the middle afterwards. */
  @Test
  void motionFollowsANewPivotWhenAsked() {
    double[] times = {0, 0.5, 1};
    double[] turns = new double[12];
    for (int k = 0; k < 3; k++) {
      Quaterniond q = new Quaterniond().rotateY(k * Math.PI / 3);
      double[] v = {q.x, q.y, q.z, q.w};
      System.arraycopy(v, 0, turns, 4 * k, 4);
    }
    Clip.Track turn =
        new Clip.Track(5, Clip.ROTATION, Clip.Interpolation.LINEAR, 4, times, turns, null, null);
    Scene wheel =
        boxes().toBuilder().clips(List.of(new Clip(20, "turn", 0, 1, List.of(turn)))).build();
    Scene far = done(wheel, "pivot", Map.of("to", "box", "motion", "follow"), 5);
    Clip clip = far.clips().get(0);
    Vector3d middle = new Vector3d(0.5, 1.5, 1.5);
    for (double t : new double[] {0, 0.3, 1}) {
      Pose pose = Pose.at(far, clip, t);
      Vector3d at = pose.world()[far.nodePlaces().get(5)].getTranslation(new Vector3d());
      assertEquals(0, at.distance(middle), 1e-6, "at " + t);
    }
    assertEquals(0, WorldSurface.difference(still(wheel), still(far)), 1e-6);
  }

  private static Scene still(Scene scene) {
    return scene.toBuilder().clips(List.of()).build();
  }

  @Test
  void mirroredPartsHaveNoNegativeScaleAndLookOutwards() {
    Scene far = done(boxes(), "mirror", Map.of("result", "copy"), 6);
    assertEquals(4, far.nodes().size());
    Node copy = far.nodes().get(3);
    assertEquals("box_1_mirrored", copy.name());
    Bounds box = Placement.bounds(far, new Selection(List.of(copy.id())));
    assertEquals(-5, box.minX(), 1e-6);
    assertEquals(-4, box.maxX(), 1e-6);
    for (Scene.ShownMesh shown : far.shownMeshes()) {
      assertTrue(shown.world().determinant3x3() > 0);
      assertEquals(6, MeshMeasure.of(shown.mesh()).volume(), 1e-6);
    }
    Scene twice =
        done(
            done(boxes(), "mirror", Map.of("result", "move"), 6),
            "mirror",
            Map.of("result", "move"),
            6);
    assertEquals(0, WorldSurface.difference(boxes(), twice), 1e-6);
    assertEquals("wing_r", MirrorParts.otherSide("wing_l"));
    assertEquals("RightHand", MirrorParts.otherSide("LeftHand"));
  }

  /** On random scenes without motion a mirror done twice is no mirror at all. */
  @Test
  void mirroredTwiceIsTheSame() {
    for (int seed = 0; seed < 20; seed++) {
      Scene rig = RandomRig.of(new Random(seed), 3);
      Scene near =
          rig.toBuilder()
              .clips(List.of())
              .skins(List.of())
              .nodes(
                  rig.nodes().stream()
                      .map(
                          n ->
                              n.content() instanceof Node.Content.MeshContent c
                                  ? n.withContent(
                                      new Node.Content.MeshContent(
                                          c.meshId(), -1, c.slotMaterials(), c.morphWeights()))
                                  : n.content() instanceof Node.Content.Joint
                                      ? n.withContent(Node.Content.GROUP)
                                      : n)
                      .toList())
              .build();
      Map<String, Object> about = Map.of("result", "move", "across", "up");
      Scene twice = done(done(near, "mirror", about), "mirror", about);
      assertEquals(0, WorldSurface.difference(near, twice), 1e-5, "seed " + seed);
    }
  }

  @Test
  void levelsStandInTheOrderThatTheStepSays() {
    Scene scene = boxes();
    Scene far = done(scene, "levels", Map.of("name", "box", "thresholds", "0.4"), 6, 5);
    Node group =
        far.nodes().stream()
            .filter(n -> n.content() instanceof Node.Content.DetailGroup)
            .findFirst()
            .orElseThrow();
    List<String> order =
        far.nodes().stream()
            .filter(n -> n.parent() >= 0 && far.nodes().get(n.parent()) == group)
            .map(Node::name)
            .toList();
    assertEquals(List.of("box_1", "box_0"), order);
    assertArrayEquals(
        new double[] {0.4, 0}, ((Node.Content.DetailGroup) group.content()).thresholds());
    assertEquals(0, WorldSurface.difference(scene, far), 1e-9);
    var named = new Step("1", "levels", Map.of("order", "box_0, gone"), true, List.of(5, 6));
    assertTrue(run(scene, named).failure().contains("gone"));
    var rising = new Step("1", "levels", Map.of("thresholds", "0.2, 0.4"), true, List.of(5, 6));
    assertTrue(run(scene, rising).failure().contains("fall"));
  }

  @Test
  void partsHangOnOthersAndStayWhereTheyAre() {
    Scene far = done(boxes(), "parent", Map.of("parent", 5), 6);
    assertEquals(0, WorldSurface.difference(boxes(), far), 1e-9);
    assertEquals(1, far.nodes().get(far.nodePlaces().get(6)).parent());
    Scene moved = done(boxes(), "parent", Map.of("parent", 5, "keep", "numbers"), 6);
    assertEquals(0, place(moved, 6).distance(4, 1, 0), 1e-9);
    var self = new Step("1", "parent", Map.of("parent", 5), true, List.of(1));
    assertTrue(run(boxes(), self).failure().contains("itself"));
  }

  @Test
  void pickedFacesBecomeAPartOfTheirOwn() {
    Scene far = done(boxes(), "split", Map.of("by", "faces", "faces", "5:0,3"));
    List<Node> parts = far.nodes().stream().filter(n -> n.name().startsWith("box_")).toList();
    assertTrue(parts.stream().anyMatch(n -> n.name().endsWith("_picked")), parts.toString());
    assertEquals(0, WorldSurface.difference(boxes(), far), 1e-9);
    assertTrue(refusal(boxes(), "split", Map.of("by", "faces", "faces", "5:17")).contains("17"));
  }

  @Test
  void equalMeshesAreSharedAndComeApartAgain() {
    Scene shared = done(boxes(), "instances", Map.of("to", "share"));
    assertEquals(1, shared.meshes().size());
    Scene apart = done(shared, "instances", Map.of("to", "copies"));
    assertEquals(2, apart.meshes().size());
    assertEquals(0, WorldSurface.difference(boxes(), apart), 1e-9);
  }

  @Test
  void removalsAreListedAndTakeNothingElse() {
    Scene scene = boxes();
    PolygonMesh mesh = scene.meshes().get(0);
    PolygonMesh marked =
        mesh.toBuilder().faceSets(List.of(new FaceSet("lid", new int[] {1, 5}))).build();
    Scene near = scene.toBuilder().meshes(List.of(marked, scene.meshes().get(1))).build();
    var stage = run(near, new Step("1", "remove", Map.of("what", "parts"), true, List.of(6)));
    assertEquals(2, stage.scene().nodes().size());
    assertEquals(1, stage.scene().meshes().size());
    assertEquals("yard/box_1", stage.findings().get(0).where());
    assertTrue(refusal(near, "remove", Map.of("what", "parts")).contains("everything"));
    assertTrue(refusal(near, "remove", Map.of("what", "everything")).contains("must be one of"));
  }

  /** Names change; whatever refers to a part, a clip or a morph target still finds it. */
  @Test
  void renamingNeverBreaksAReference() {
    for (int seed = 0; seed < 40; seed++) {
      Scene near = RandomRig.of(new Random(seed), 4);
      Random random = new Random(seed);
      Scene far = near;
      for (String what : List.of("parts", "morphs", "materials", "clips")) {
        Map<String, Object> params =
            switch (random.nextInt(4)) {
              case 0 -> Map.of("what", what, "how", "affix", "prefix", "w_", "suffix", ".x");
              case 1 -> Map.of("what", what, "how", "regex", "find", "([a-z]+)", "with", "$1$1");
              case 2 -> Map.of("what", what, "how", "rules", "longest", 4);
              default -> Map.of("what", what, "how", "replace", "find", "e", "with", "");
            };
        far = done(far, "rename", params);
        if ("rules".equals(params.get("how"))) {
          Set<String> names = new HashSet<>();
          List<String> all =
              switch (what) {
                case "parts" -> far.nodes().stream().map(Node::name).toList();
                case "clips" -> far.clips().stream().map(Clip::name).toList();
                default -> List.of();
              };
          all.forEach(
              n -> {
                assertTrue(n.length() <= 4 && n.matches("\\w+"), n);
                assertTrue(names.add(n), n + " twice");
              });
        }
      }
      assertEquals(0, WorldSurface.difference(near, far), 1e-9, "seed " + seed);
      for (Clip clip : far.clips()) {
        for (Clip.Track track : clip.tracks()) {
          if (track.isMorph()) {
            assertTrue(finds(far, track), track.property());
          }
        }
      }
    }
    assertTrue(
        refusal(boxes(), "rename", Map.of("how", "regex", "find", "(")).contains("does not read"));
  }

  private static boolean finds(Scene scene, Clip.Track track) {
    Node node = scene.nodes().get(scene.nodePlaces().get(track.targetId()));
    int mesh = ((Node.Content.MeshContent) node.content()).meshId();
    return MorphTarget.keys(scene.mesh(mesh).orElseThrow().morphs())
        .contains(track.property().substring(Clip.MORPH.length()));
  }

  @Test
  void influencesAreLimitedAndWeightsKeepTheirSum() {
    for (int seed = 0; seed < 10; seed++) {
      Scene near = RandomRig.of(new Random(seed), 6);
      Scene far = done(near, "influences", Map.of("most", 2));
      for (int s = 0; s < far.skins().size(); s++) {
        var skin = far.skins().get(s);
        assertTrue(skin.mostInfluences() <= 2);
        for (int v = 0; v + 1 < skin.offsets().length; v++) {
          double sum = 0;
          for (int i = skin.offsets()[v]; i < skin.offsets()[v + 1]; i++) {
            sum += skin.weights()[i];
          }
          assertEquals(1, sum, 1e-5);
        }
      }
      assertFalse(far.skins().isEmpty() && !near.skins().isEmpty());
    }
  }

  @Test
  void aShiftIsTakenOutOfAMorphTarget() {
    float[] deltas = {1, 2, 3, 1, 2, 3, 1, 2, 3, 1, 7, 3};
    PolygonMesh box = boxes().meshes().get(0);
    PolygonMesh shifted =
        box.toBuilder()
            .morphs(
                List.of(
                    new MorphTarget(
                        "swell",
                        0,
                        List.of(new MorphTarget.Shape(1, new int[] {0, 1, 2, 3}, deltas, null)))))
            .build();
    Scene near = boxes().toBuilder().meshes(List.of(shifted, boxes().meshes().get(1))).build();
    Scene far = done(near, "morphShift", Map.of("named", "sw*"));
    assertArrayEquals(
        new float[] {0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 5, 0},
        far.meshes().get(0).morphs().get(0).full().deltas());
  }
}
