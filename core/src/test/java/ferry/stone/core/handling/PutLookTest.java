package ferry.stone.core.handling;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.geometry.mesh.MeshMerge;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.survey.Survey;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** Looks come back onto parts that came without, by their faces and by their sets. */
class PutLookTest {
  private static final int FACES = 12;
  private static final int WAX = 100;
  private static final int GLASS = 101;
  private static final int HIDE = 102;

  private static Material material(int id, String name, boolean looks) {
    Map<Channel, Material.Value> channels =
        looks
            ? Map.of(Channel.BASE_COLOUR, new Material.Value(new double[] {1, 0.5, 0}, null))
            : Map.of();
    return new Material(
        id,
        name,
        Material.Shading.METALLIC_ROUGHNESS,
        channels,
        Material.Alpha.OPAQUE,
        0.5,
        false,
        Map.of());
  }

  /** A strip of quads along x; turned round where its faces are in another order. */
  private static PolygonMesh strip(int id, String name, double scale, boolean turned) {
    float[] points = new float[6 * (FACES + 1)];
    for (int i = 0; i <= FACES; i++) {
      points[6 * i] = (float) (scale * i);
      points[6 * i + 3] = (float) (scale * i);
      points[6 * i + 4] = (float) scale;
    }
    int[] corners = new int[4 * FACES];
    int[] offsets = new int[FACES + 1];
    for (int f = 0; f < FACES; f++) {
      int i = turned ? FACES - 1 - f : f;
      int[] quad = {2 * i, 2 * i + 2, 2 * i + 3, 2 * i + 1};
      System.arraycopy(quad, 0, corners, 4 * f, 4);
      offsets[f + 1] = 4 * f + 4;
    }
    return PolygonMesh.of(id, name, Coordinates.of(points), Polygons.of(corners, offsets));
  }

  private static int[] range(int from, int to) {
    return IntStream.range(from, to).toArray();
  }

  /** A head with three materials below one root, and what is bare below another. */
  private static Scene scene(PolygonMesh bare) {
    SceneBuilder scene = new SceneBuilder("yard");
    scene.nextId(200);
    scene.add(material(WAX, "lip_wax", true));
    scene.add(material(GLASS, "eyeGlass", true));
    scene.add(material(HIDE, "hide", true));
    int[] slots = new int[FACES];
    for (int f = 0; f < FACES; f++) {
      slots[f] = f < 2 ? 0 : f < 5 ? 1 : 2;
    }
    PolygonMesh dressed =
        strip(1, "head", 1, false).toBuilder()
            .materials(new int[] {WAX, GLASS, HIDE}, slots)
            .attributes(
                List.of(
                    new Attribute(
                        "map",
                        Attribute.Semantic.UV,
                        Attribute.Domain.VERTEX,
                        2,
                        new float[4 * (FACES + 1)],
                        null)))
            .build();
    scene.add(dressed);
    scene.add(bare);
    int look = scene.add(Node.of(10, "model", -1, Node.Content.GROUP));
    scene.add(Node.of(11, "head", look, Node.Content.MeshContent.of(1)));
    int take = scene.add(Node.of(12, "take", -1, Node.Content.GROUP));
    scene.add(Node.of(13, "head", take, Node.Content.MeshContent.of(bare.id())));
    return scene.build();
  }

  private static Handling.Stage put(Scene scene, Map<String, Object> params) {
    Handling.Stage stage =
        Handling.run(
                scene, List.of(new Step("a", "putLook", params, true, List.of(12))), Progress.NONE)
            .get(0);
    assertThat(stage.failure()).isNull();
    return stage;
  }

  private static int[] materials(Scene scene, int meshId) {
    PolygonMesh mesh = scene.mesh(meshId).orElseThrow();
    return IntStream.range(0, FACES).map(mesh::materialOf).toArray();
  }

  @Test
  void theSameFacesGetTheirMaterialsBackWhateverTheirPointsDo() {
    // Merged into one, without sets, in another unit.
    Scene scene = scene(strip(2, "take_geo", 100, false));
    Finding finding =
        Survey.of(scene, List.of(), Progress.NONE).findings().stream()
            .filter(f -> f.code().equals("look-beside"))
            .findFirst()
            .orElseThrow();
    assertThat(finding.where()).isEqualTo("take");
    Offer offer = finding.offers().get(0);
    var stages =
        Handling.run(
            scene,
            List.of(new Step("a", offer.kind(), offer.params(), true, offer.nodeIds())),
            Progress.NONE);
    Scene far = Handling.result(scene, stages);
    assertThat(materials(far, 2)).isEqualTo(materials(scene, 1));
    assertThat(stages.get(0).figure()).isEqualTo("3 sets bound");
    assertThat(far.mesh(2).orElseThrow().first(Attribute.Semantic.UV)).isPresent();
    assertThat(Survey.of(far, List.of(), Progress.NONE).findings())
        .noneMatch(f -> f.code().equals("look-beside"));
  }

  @Test
  void setsAreBoundByNamesCountsPlaceAndSize() {
    // Faces in another order, so that only the sets tell: two by name, one by count and place.
    PolygonMesh bare =
        strip(2, "take_geo", 100, true).toBuilder()
            .faceSets(
                List.of(
                    new FaceSet("Lip_SG", range(10, 12)),
                    new FaceSet("eye glass set", range(7, 10)),
                    new FaceSet("lambert", range(0, 7))))
            .build();
    Handling.Stage stage = put(scene(bare), Map.of("look", 10, "least", 30));
    int[] found = materials(stage.scene(), 2);
    assertThat(found[11]).isEqualTo(WAX);
    assertThat(found[8]).isEqualTo(GLASS);
    assertThat(found[0]).isEqualTo(HIDE);
    assertThat(stage.findings())
        .filteredOn(f -> f.message().contains("eye glass set"))
        .singleElement()
        .matches(f -> f.evidence().startsWith("its name, as many faces"));
  }

  @Test
  void whatIsBoundByHandGoesFirstAndNothingIsGuessedBelowTheLeast() {
    PolygonMesh bare =
        strip(2, "take_geo", 1, true).toBuilder()
            .faceSets(List.of(new FaceSet("a", range(0, 6)), new FaceSet("b", range(6, 12))))
            .build();
    Handling.Stage stage =
        put(scene(bare), Map.of("look", 10, "bindings", "a = eyeGlass; b = velvet", "least", 100));
    int[] found = materials(stage.scene(), 2);
    assertThat(found[0]).isEqualTo(GLASS);
    assertThat(found[11]).isEqualTo(-1);
    assertThat(stage.figure()).isEqualTo("1 set bound, 1 not");
    assertThat(stage.findings())
        .anyMatch(f -> f.evidence().startsWith("the look has no material \"velvet\""));
  }

  @Test
  void namesOfMaterialsThatCameAloneAreFollowed() {
    Scene bare =
        scene(strip(2, "take_geo", 1, true).toBuilder().materials(new int[] {150}, null).build());
    Scene named = bare.toBuilder().add(material(150, "hide", false)).build();
    assertThat(materials(put(named, Map.of("look", 10)).scene(), 2)).containsOnly(HIDE);
  }

  /** Two strips one after another, as they are when a program merged the parts of a model. */
  private static PolygonMesh merged(int id, PolygonMesh first, PolygonMesh second) {
    PolygonMesh both =
        MeshMerge.of(
            List.of(
                new MeshMerge.Source(first, "a", new int[0]),
                new MeshMerge.Source(second, "b", new int[0])),
            0);
    return PolygonMesh.of(id, "take_geo", both.points(), both.faces());
  }

  @Test
  void whatWasMergedIsRecognisedAndSplitBack() {
    PolygonMesh beak = strip(3, "beak", 2, true);
    // The cache has the beak before the head, in another unit, all of one dull material.
    PolygonMesh take =
        merged(2, beak, strip(9, "head", 100, false)).toBuilder()
            .materials(new int[] {150}, new int[2 * FACES])
            .build();
    Scene plain = scene(take);
    Scene scene =
        plain.toBuilder()
            .add(material(150, "lambert", false))
            .meshes(
                List.of(
                    plain.mesh(1).orElseThrow(),
                    take,
                    beak.toBuilder().materials(new int[] {GLASS}, new int[FACES]).build()))
            .nodes(
                List.of(
                    plain.nodes().get(0),
                    plain.nodes().get(1),
                    Node.of(14, "beak", 0, Node.Content.MeshContent.of(3)),
                    plain.nodes().get(2),
                    plain.nodes().get(3).withParent(3)))
            .build();
    assertThat(Survey.of(scene, List.of(), Progress.NONE).findings())
        .anyMatch(f -> f.code().equals("look-beside") && f.where().equals("take"));
    Handling.Stage kept = put(scene, Map.of("look", 10));
    PolygonMesh one = kept.scene().mesh(2).orElseThrow();
    for (int f = 0; f < FACES; f++) {
      assertThat(one.materialOf(f)).isEqualTo(GLASS);
      assertThat(one.materialOf(FACES + f)).isEqualTo(scene.mesh(1).orElseThrow().materialOf(f));
    }
    assertThat(kept.findings().get(0).evidence())
        .startsWith("the faces of 2 parts one after another");
    Handling.Stage split = put(scene, Map.of("look", 10, "split", true));
    assertThat(split.figure()).startsWith("3 sets bound, ");
    assertThat(split.scene().nodes().stream().filter(n -> n.parent() >= 0).map(Node::name))
        .containsExactlyInAnyOrder("head", "beak", "head", "beak", "head");
    assertThat(split.scene().shownMeshes())
        .filteredOn(s -> s.node().name().equals("beak"))
        .hasSize(2)
        .allMatch(s -> s.mesh().usedMaterials().allMatch(m -> m == GLASS));
  }

  @Test
  void setsOfOnePartAreBoundByItsPathAndWhatIsUnknownKeepsWhatWasFound() {
    PolygonMesh bare =
        strip(2, "take_geo", 1, false).toBuilder()
            .faceSets(List.of(new FaceSet("a", range(0, 2))))
            .build();
    String bindings = "a @ take/head = eyeGlass; a = hide; *hide = velvet; *eyeGlass = -";
    Handling.Stage stage = put(scene(bare), Map.of("look", 10, "bindings", bindings));
    int[] found = materials(stage.scene(), 2);
    assertThat(found[0]).isEqualTo(GLASS);
    assertThat(found[3]).isEqualTo(-1);
    assertThat(found[8]).isEqualTo(HIDE);
    assertThat(stage.figure()).isEqualTo("2 sets bound, 1 not");
    assertThat(stage.findings())
        .filteredOn(f -> f.code().equals("look-not-bound"))
        .singleElement()
        .matches(
            f ->
                f.message().equals("Not bound as said: the other faces is hide, as found.")
                    && f.evidence().startsWith("the look has no material \"velvet\""));
  }
}
