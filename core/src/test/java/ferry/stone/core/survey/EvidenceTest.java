package ferry.stone.core.survey;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNotNull;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.Handedness;
import ferry.stone.core.math.LengthUnit;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.shore.Shore;
import ferry.stone.core.shore.Shores;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/** What skeletons and falling bodies tell of unit and axes, and what else is found on scenes. */
class EvidenceTest {
  private static final Frame Z_UP_CM =
      new Frame(0.01, SignedAxis.PLUS_Z, SignedAxis.MINUS_Y, Handedness.RIGHT);

  private static PolygonMesh block(int id, String name, double size) {
    float s = (float) size;
    float[] p = {0, 0, 0, s, 0, 0, 0, s, 0, 0, 0, s};
    return PolygonMesh.of(
        id,
        name,
        Coordinates.of(p),
        Polygons.triangles(new int[] {0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3}));
  }

  /**
   * Blocks that fall freely from different heights, sampled at 30 frames a second. Y up, metres.
   */
  private static Scene falling() {
    SceneBuilder scene = new SceneBuilder("weir");
    scene.framesPerSecond(30);
    Random random = new Random(4);
    List<Clip.Track> tracks = new ArrayList<>();
    for (int i = 0; i < 12; i++) {
      PolygonMesh mesh = block(scene.newId(), "piece", 0.2);
      scene.add(mesh);
      int id = scene.newId();
      Vector3d at = new Vector3d(0.5 * i, 3 + random.nextDouble(), 0);
      scene.add(
          Node.of(id, "piece_" + i, -1, Node.Content.MeshContent.of(mesh.id()))
              .withTransform(LocalTransform.Trs.of(at, new Quaterniond(), new Vector3d(1))));
      double[] times = new double[20];
      double[] values = new double[60];
      for (int f = 0; f < 20; f++) {
        times[f] = f / 30.0;
        values[3 * f] = at.x + 0.3 * times[f];
        // Free fall: s = g t² / 2, standard gravity 9.80665 m/s² (ISO 80000-3).
        values[3 * f + 1] = at.y - 9.80665 * times[f] * times[f] / 2;
      }
      tracks.add(
          new Clip.Track(
              id, Clip.TRANSLATION, Clip.Interpolation.LINEAR, 3, times, values, null, null));
    }
    scene.add(new Clip(scene.newId(), "fall", 0, 19 / 30.0, tracks));
    return scene.frame(Frame.Y_UP_METRE, FrameSource.STATED, FrameSource.STATED).build();
  }

  private static Scene in(Scene scene, Frame frame) {
    return Rebase.intoData(scene, frame);
  }

  @Test
  void whatFallsTellsUnitAndUp() {
    for (SignedAxis up : SignedAxis.values()) {
      for (LengthUnit unit :
          List.of(
              LengthUnit.METRE, LengthUnit.CENTIMETRE, LengthUnit.MILLIMETRE, LengthUnit.INCH)) {
        Frame frame =
            new Frame(unit.metres(), SignedAxis.PLUS_Y, SignedAxis.PLUS_Z, Handedness.RIGHT)
                .withUp(up);
        Scene scene = in(falling(), frame);
        FallReading fall = FallReading.of(scene);
        assertNotNull(fall, frame.label());
        assertEquals(up, fall.up(), frame.label());
        assertEquals(9.80665 / unit.metres(), fall.acceleration(), 0.01 * fall.acceleration());
        Scene unsaid =
            scene.toBuilder()
                .frame(Frame.Y_UP_METRE, FrameSource.ASSUMED, FrameSource.ASSUMED)
                .build();
        assertEquals(unit, UnitReading.of(unsaid).get(0).unit(), frame.label());
        assertEquals(up, UpReading.of(unsaid).get(0).up(), frame.label());
      }
    }
    Scene still = falling().toBuilder().clips(List.of()).build();
    assertNull(FallReading.of(still));
  }

  /** A body by its joints alone; names say nothing. Metres, Y up. */
  private static Scene body() {
    SceneBuilder scene = new SceneBuilder("visitor");
    double[][] joints = {
      {-1, 0, 0.95, 0},
      {0, 0, 1.2, 0},
      {1, 0, 1.5, 0},
      {2, 0, 1.7, 0},
      {2, 0.2, 1.45, 0},
      {4, 0.45, 1.3, 0},
      {2, -0.2, 1.45, 0},
      {6, -0.45, 1.3, 0},
      {0, 0.1, 0.9, 0},
      {8, 0.1, 0.5, 0},
      {9, 0.1, 0.05, 0},
      {0, -0.1, 0.9, 0},
      {11, -0.1, 0.5, 0},
      {12, -0.1, 0.05, 0}
    };
    int[] ids = new int[joints.length];
    for (int i = 0; i < joints.length; i++) {
      double[] j = joints[i];
      Vector3d at = new Vector3d(j[1], j[2], j[3]);
      if (j[0] >= 0) {
        double[] above = joints[(int) j[0]];
        at.sub(above[1], above[2], above[3]);
      }
      ids[i] = scene.newId();
      scene.add(
          Node.of(ids[i], "x" + (i * 7919 % 97), (int) j[0], new Node.Content.Joint(0))
              .withTransform(LocalTransform.Trs.of(at, new Quaterniond(), new Vector3d(1))));
    }
    PolygonMesh mesh = block(scene.newId(), "skin", 1.6);
    scene.add(mesh);
    double[] inverse = new double[16 * ids.length];
    for (int i = 0; i < ids.length; i++) {
      new Matrix4d().translation(-joints[i][1], -joints[i][2], -joints[i][3]).get(inverse, 16 * i);
    }
    int skin = scene.newId();
    scene.add(
        new Skin(
            skin,
            "skin",
            mesh.id(),
            ids,
            inverse,
            new int[] {0, 1, 2, 3, 4},
            new int[] {0, 1, 2, 3},
            new float[] {1, 1, 1, 1},
            "linear"));
    scene.add(
        Node.of(scene.newId(), "skin", -1, Node.Content.MeshContent.of(mesh.id()).withSkin(skin)));
    return scene.frame(Frame.Y_UP_METRE, FrameSource.STATED, FrameSource.STATED).build();
  }

  @Test
  void aBodyTellsUnitAndUp() {
    BodyReading upright = BodyReading.of(body());
    assertEquals(SignedAxis.PLUS_Y, upright.up());
    assertEquals(1.65, upright.stature(), 0.01);
    Scene lying = in(body(), Z_UP_CM);
    assertEquals(SignedAxis.PLUS_Z, BodyReading.of(lying).up());
    Scene unsaid =
        lying.toBuilder().frame(Frame.Y_UP_METRE, FrameSource.ASSUMED, FrameSource.ASSUMED).build();
    assertEquals(LengthUnit.CENTIMETRE, UnitReading.of(unsaid).get(0).unit());
    assertEquals(SignedAxis.PLUS_Z, UpReading.of(unsaid).get(0).up());
    assertNull(BodyReading.of(falling()));
  }

  private static Survey survey(Scene scene, Shore shore) {
    return Survey.of(scene, List.of(), shore, new SurveyMemo(), Progress.NONE);
  }

  private static Finding find(Survey survey, String code) {
    return survey.findings().stream()
        .filter(f -> f.code().equals(code))
        .findFirst()
        .orElseThrow(() -> new AssertionError(code + " not in " + survey.findings()));
  }

  private static boolean has(Survey survey, String code) {
    return survey.findings().stream().anyMatch(f -> f.code().equals(code));
  }

  /** A header that the evidence contradicts is told, and nothing is corrected in silence. */
  @Test
  void aWrongHeaderIsDoubtedNotOverruled() {
    Scene centimetres = in(falling(), Z_UP_CM);
    Frame wrong = Z_UP_CM.withMetresPerUnit(1);
    Scene said =
        centimetres.toBuilder().frame(wrong, FrameSource.STATED, FrameSource.STATED).build();
    Survey survey = survey(said, Shores.usual());
    Finding finding = find(survey, "unit-doubted");
    assertTrue(finding.evidence().contains("gravity"), finding.evidence());
    assertEquals("cm", finding.offers().get(0).params().get("unit"));
    assertEquals(wrong, survey.likelyFrame(said));
    assertFalse(has(survey(centimetres, Shores.usual()), "unit-doubted"));
    Scene sideways =
        centimetres.toBuilder()
            .frame(Z_UP_CM.withUp(SignedAxis.PLUS_Y), FrameSource.STATED, FrameSource.STATED)
            .build();
    assertEquals(
        "z",
        find(survey(sideways, Shores.usual()), "up-axis-doubted")
            .offers()
            .get(0)
            .params()
            .get("up"));
  }

  private static Scene placed(LocalTransform transform) {
    SceneBuilder scene = new SceneBuilder("yard");
    PolygonMesh mesh = block(scene.newId(), "crate", 1);
    scene.add(mesh);
    scene.add(Node.of(scene.newId(), "yard", -1, Node.Content.GROUP).withTransform(transform));
    scene.add(Node.of(scene.newId(), "crate", 0, Node.Content.MeshContent.of(mesh.id())));
    return scene.frame(Frame.Y_UP_METRE, FrameSource.STATED, FrameSource.STATED).build();
  }

  @Test
  void transformsThatWereLeftOverAreFound() {
    Vector3d none = new Vector3d();
    Quaterniond still = new Quaterniond();
    Quaterniond turned = new Quaterniond().rotateX(-Math.PI / 2);
    // Common practice: −90° about X from Z up to Y up, ×0.01 from centimetres to metres.
    assertEquals(
        "−90° about X",
        find(
                survey(
                    placed(LocalTransform.Trs.of(none, turned, new Vector3d(1))), Shores.usual()),
                "root-turned")
            .measured());
    assertEquals(
        "× 0.01",
        find(
                survey(
                    placed(LocalTransform.Trs.of(none, still, new Vector3d(0.01))), Shores.usual()),
                "root-scaled")
            .measured());
    assertTrue(
        has(
            survey(
                placed(LocalTransform.Trs.of(none, still, new Vector3d(-1, 1, 1))), Shores.usual()),
            "mirrored-part"));
    assertTrue(
        has(
            survey(
                placed(LocalTransform.Trs.of(none, still, new Vector3d(1, 2, 1))), Shores.usual()),
            "uneven-scale"));
    assertTrue(
        has(
            survey(placed(LocalTransform.Trs.of(none, still, new Vector3d(0))), Shores.usual()),
            "scaled-to-nothing"));
  }

  @Test
  void aShiftOfTheWholeBodyInAMorphTargetIsFound() {
    SceneBuilder scene = new SceneBuilder("mask");
    float[] deltas = {0.1f, 0, 0, 0.1f, 0, 0, 0.1f, 0, 0, 0.1f, 0.5f, 0};
    PolygonMesh mesh =
        block(scene.newId(), "mask", 1).toBuilder()
            .morphs(
                List.of(
                    new MorphTarget(
                        "grin", 0, List.of(new MorphTarget.Shape(1, null, deltas, null)))))
            .build();
    scene.add(mesh);
    scene.add(Node.of(scene.newId(), "mask", -1, Node.Content.MeshContent.of(mesh.id())));
    Finding finding = find(survey(scene.build(), Shores.usual()), "morph-shifts-all");
    assertTrue(finding.measured().startsWith("0.1 m on 75 %"), finding.measured());
    assertEquals("morphShift", finding.offers().get(0).kind());
  }

  @Test
  void namesAndLimitsAreHeldAgainstTheShore() {
    SceneBuilder scene = new SceneBuilder("row");
    for (String name : List.of("Stein grün", "post", "post")) {
      PolygonMesh mesh = block(scene.newId(), name, 1);
      scene.add(mesh);
      scene.add(
          Node.of(
              scene.newId(),
              name,
              scene.build().nodes().isEmpty() ? -1 : 0,
              Node.Content.MeshContent.of(mesh.id())));
    }
    Scene row = scene.build();
    Shore strict = Shores.builtIn("z-up-centimetre-left").orElseThrow();
    Finding names = find(survey(row, strict), "names-against-rules");
    assertTrue(names.evidence().contains("Stein_grun"), names.evidence());
    assertEquals("FIX", find(survey(row, strict), "duplicate-names").severity().name());
    assertFalse(has(survey(row, Shores.usual()), "names-against-rules"));
    Shore small =
        new Shore(
            "tiny",
            "Tiny",
            "",
            strict.frame(),
            List.of("glb"),
            new ferry.stone.core.shore.Budgets(0, 10, 0, 0, 0, 0, 0, 0),
            null,
            null,
            null,
            null);
    assertEquals("12 triangles of 10", find(survey(row, small), "over-triangles").measured());
  }

  /** Surveys share what they found on meshes that are the same. */
  @Test
  void aSecondSurveyLooksAtChangedMeshesOnly() {
    Scene scene = placed(LocalTransform.IDENTITY);
    SurveyMemo memo = new SurveyMemo();
    Survey first = Survey.of(scene, List.of(), Shores.usual(), memo, Progress.NONE);
    Survey second = Survey.of(scene, List.of(), Shores.usual(), memo, Progress.NONE);
    assertEquals(first.findings().size(), second.findings().size());
    assertEquals(first.inventory(), second.inventory());
    memo.keepOnly(List.of());
    assertEquals(
        first.inventory(),
        Survey.of(scene, List.of(), Shores.usual(), memo, Progress.NONE).inventory());
  }
}
