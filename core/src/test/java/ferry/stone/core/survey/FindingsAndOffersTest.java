package ferry.stone.core.survey;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Attribute;
import ferry.stone.core.scene.Channel;
import ferry.stone.core.scene.Coordinates;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.LocalTransform;
import ferry.stone.core.scene.Material;
import ferry.stone.core.scene.MorphTarget;
import ferry.stone.core.scene.Node;
import ferry.stone.core.scene.PolygonMesh;
import ferry.stone.core.scene.Polygons;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.Skin;
import ferry.stone.core.shore.Shores;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A sound scene has no faults; one fault is found as such, and its first offer answers it. */
class FindingsAndOffersTest {
  /** What is told without a step, since only the maker can say what was meant. */
  private static final Set<String> NO_STEP =
      Set.of(
          "no-uvs",
          "uvs-outside",
          "no-material",
          "morph-left-on",
          "vertices-without-joint",
          "joints-without-weight",
          "scaled-joints");

  private static final int MESH = 1;
  private static final int SLAB = 2;
  private static final int OAK = 5;

  private static Attribute layer(String name, Attribute.Semantic semantic, int n, float... v) {
    return new Attribute(name, semantic, Attribute.Domain.VERTEX, n, v, null);
  }

  private static Material material(int id, String name) {
    return new Material(
        id,
        name,
        Material.Shading.PHONG,
        new EnumMap<>(
            Map.of(Channel.BASE_COLOUR, new Material.Value(new double[] {0.5, 0.5, 0.5}, null))),
        Material.Alpha.OPAQUE,
        0.5,
        false,
        Map.of());
  }

  /** A slab of two metres with everything that a mesh should have, and nothing wrong. */
  private static final class Slab {
    private float[] normals = {0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0};
    private float[] uvs = {0, 0, 1, 0, 1, 1, 0, 1};
    private boolean withMaterial = true;
    private final List<MorphTarget> morphs = new ArrayList<>();
    private float[] weights;
    private final List<String> joints = new ArrayList<>(List.of("hinge", "tip"));
    private double jointScale = 1;
    private Vector3d shift = new Vector3d();
    private final List<Material> more = new ArrayList<>();
    private boolean twice;

    Scene build() {
      SceneBuilder scene = new SceneBuilder("slab").nextId(100);
      float x = (float) shift.x;
      float[] points = {x - 1, 0, 1, x + 1, 0, 1, x + 1, 0, -1, x - 1, 0, -1};
      List<Attribute> layers = new ArrayList<>();
      layers.add(layer("normal", Attribute.Semantic.NORMAL, 3, normals));
      if (uvs != null) {
        layers.add(layer("map1", Attribute.Semantic.UV, 2, uvs));
      }
      PolygonMesh mesh =
          PolygonMesh.of(
                  MESH,
                  "slab",
                  Coordinates.of(points),
                  Polygons.of(new int[] {0, 1, 2, 3}, new int[] {0, 4}))
              .toBuilder()
              .attributes(layers)
              .materials(withMaterial ? new int[] {OAK} : new int[0], null)
              .morphs(morphs)
              .build();
      scene.add(mesh);
      if (withMaterial) {
        scene.add(material(OAK, "oak"));
      }
      more.forEach(scene::add);
      Vector3d still = new Vector3d();
      if (weights != null) {
        int[] ids = new int[joints.size()];
        double[] binds = new double[16 * ids.length];
        for (int j = 0; j < ids.length; j++) {
          ids[j] =
              scene.add(
                  Node.of(20 + j, joints.get(j), j == 0 ? -1 : 0, new Node.Content.Joint(0.1))
                      .withTransform(
                          LocalTransform.Trs.of(
                              still, new Quaterniond(), new Vector3d(j == 0 ? 1 : jointScale))));
          ids[j] = 20 + j;
          for (int k = 0; k < 4; k++) {
            binds[16 * j + 5 * k] = k < 3 && j > 0 ? 1 / jointScale : 1;
          }
        }
        int[] of = new int[weights.length];
        Arrays.setAll(of, i -> i % 2);
        scene.add(
            new Skin(
                7, "skin", MESH, ids, binds, new int[] {0, 2, 4, 6, 8}, of, weights, "linear"));
      }
      scene.add(
          Node.of(
              SLAB,
              "slab",
              -1,
              new Node.Content.MeshContent(
                  MESH,
                  weights == null ? -1 : 7,
                  null,
                  morphs.isEmpty()
                      ? null
                      : morphs.stream().mapToDouble(m -> m.weight()).toArray())));
      if (twice) {
        scene.add(mesh.toBuilder().id(50).name("slab_b").build());
        scene.add(
            Node.of(51, "slab_b", -1, Node.Content.MeshContent.of(50))
                .withTransform(
                    LocalTransform.Trs.of(
                        new Vector3d(3, 0, 0), new Quaterniond(), new Vector3d(1))));
      }
      return scene.frame(Frame.Y_UP_METRE, FrameSource.STATED, FrameSource.STATED).build();
    }
  }

  private static MorphTarget morph(double weight, float... deltas) {
    int[] vertices = deltas.length == 0 ? new int[0] : new int[] {0};
    return new MorphTarget(
        "lift", weight, List.of(new MorphTarget.Shape(1, vertices, deltas, null)));
  }

  private static Scene faulty(String code) {
    Slab slab = new Slab();
    slab.weights = code.contains("joint") || code.contains("weight") ? even() : null;
    switch (code) {
      case "normals-broken" -> slab.normals[1] = 3;
      case "normals-against-faces" ->
          slab.normals = new float[] {0, -1, 0, 0, -1, 0, 0, -1, 0, 0, -1, 0};
      case "no-uvs" -> slab.uvs = null;
      case "uvs-outside" -> slab.uvs[2] = 4;
      case "uvs-not-numbers" -> slab.uvs[2] = Float.NaN;
      case "no-material" -> slab.withMaterial = false;
      case "unused-material" -> slab.more.add(material(6, "pitch"));
      case "duplicate-material-names" -> slab.more.add(material(6, "oak"));
      case "morph-empty" -> slab.morphs.add(morph(0));
      case "morph-left-on" -> slab.morphs.add(morph(0.5, 0, 1, 0));
      case "pivot-off" -> {
        slab.shift = new Vector3d(40, 0, 0);
        slab.twice = true;
      }
      case "equal-meshes" -> slab.twice = true;
      case "vertices-without-joint" -> slab.weights[0] = slab.weights[1] = 0;
      case "weights-not-one" -> slab.weights[0] = 0.9f;
      case "joints-without-weight" -> slab.weights = new float[] {1, 0, 1, 0, 1, 0, 1, 0};
      case "joints-share-a-name" -> slab.joints.set(1, "hinge");
      case "scaled-joints" -> slab.jointScale = 2;
      default -> throw new IllegalArgumentException(code);
    }
    return slab.build();
  }

  private static float[] even() {
    float[] weights = new float[8];
    Arrays.fill(weights, 0.5f);
    return weights;
  }

  private static List<Finding> survey(Scene scene) {
    return Survey.of(scene, List.of(), Shores.usual(), new SurveyMemo(), Progress.NONE).findings();
  }

  private static Set<String> codes(Scene scene) {
    return survey(scene).stream().map(Finding::code).collect(Collectors.toSet());
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "normals-broken",
        "normals-against-faces",
        "no-uvs",
        "uvs-outside",
        "uvs-not-numbers",
        "no-material",
        "unused-material",
        "duplicate-material-names",
        "morph-empty",
        "morph-left-on",
        "pivot-off",
        "equal-meshes",
        "vertices-without-joint",
        "weights-not-one",
        "joints-without-weight",
        "joints-share-a-name",
        "scaled-joints"
      })
  void aFaultIsFoundAndItsOfferAnswersIt(String code) {
    Slab sound = new Slab();
    sound.weights = even();
    assertFalse(codes(sound.build()).contains(code), "a sound scene has no " + code);
    Scene scene = faulty(code);
    Finding finding =
        survey(scene).stream().filter(f -> f.code().equals(code)).findFirst().orElseThrow();
    assertFalse(finding.message().isEmpty());
    assertEquals(
        NO_STEP.contains(code), finding.offers().isEmpty(), code + ": " + finding.offers());
    if (NO_STEP.contains(code)) {
      return;
    }
    Offer offer = finding.offers().get(0);
    Step step = new Step("a", offer.kind(), offer.params(), true, offer.nodeIds());
    var stages = Handling.run(scene, List.of(step), Progress.NONE);
    assertNull(stages.get(0).failure());
    Scene far = Handling.result(scene, stages);
    assertFalse(codes(far).contains(code), code + " is left");
  }

  @Test
  void aSoundSlabHasNothingToPutRight() {
    assertTrue(
        survey(new Slab().build()).stream().noneMatch(f -> f.severity().name().equals("FIX")));
  }
}
