package ferry.stone.core.scene;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.CopiedScene;
import ferry.stone.core.RandomScene;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content.MeshContent;
import ferry.stone.core.scene.node.Purpose;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** A copy that something changed is a part of its own; the others stay copies. */
class CopiesTest {
  private static final Scene SCENE = CopiedScene.of(new Random(11));
  private static final CopySet LIST = SCENE.copies().get(0);
  private static final CopySet BRANCHES = SCENE.copies().get(1);

  private static Scene with(int nodeId, UnaryOperator<Node> change) {
    List<Node> nodes = new ArrayList<>();
    for (Node node : SCENE.nodes()) {
      nodes.add(node.id() == nodeId ? change.apply(node) : node);
    }
    return SCENE.toBuilder().nodes(nodes).build();
  }

  private static Node below(int topId) {
    int top = SCENE.nodePlaces().get(topId);
    return SCENE.nodes().stream().filter(n -> n.parent() == top).findFirst().orElseThrow();
  }

  private static boolean listed(Scene scene) {
    return Copies.listed(scene).stream().anyMatch(s -> s.holderId() == LIST.holderId());
  }

  private static boolean branched(Scene scene) {
    return Copies.branches(scene).stream().anyMatch(s -> s.nodeIds()[0] == BRANCHES.nodeIds()[0]);
  }

  @Test
  void whatWasReadAsCopiesStands() {
    assertThat(Copies.standing(SCENE)).hasSameSizeAs(SCENE.copies());
    assertThat(listed(SCENE)).isTrue();
    assertThat(branched(SCENE)).isTrue();
    assertThat(Copies.standing(RandomScene.of(new Random(2)))).isEmpty();
  }

  static Stream<Arguments> changesOfAPlace() {
    MeshContent shown =
        (MeshContent) SCENE.nodes().get(SCENE.nodePlaces().get(LIST.nodeIds()[0])).content();
    Map<String, UnaryOperator<Node>> changes =
        Map.of(
            "name", n -> n.withName("the_old_one"),
            "hidden", n -> n.withVisible(false),
            "purpose", n -> n.withPurpose(Purpose.GUIDE),
            "custom value", n -> n.withProperties(Map.of("age", 3)),
            "other mesh", n -> n.withContent(MeshContent.of(shown.meshId() + 7777)),
            "other materials",
                n -> n.withContent(new MeshContent(shown.meshId(), -1, new int[] {1}, null)),
            "skin", n -> n.withContent(shown.withSkin(4)),
            "geometric place",
                n ->
                    n.withGeometric(
                        Trs.of(new Vector3d(1, 0, 0), new Quaterniond(), new Vector3d(1))),
            "sheared", n -> n.withTransform(new LocalTransform.MatrixTransform(sheared())),
            "hung elsewhere", n -> n.withParent(-1));
    return changes.entrySet().stream().map(e -> Arguments.of(e.getKey(), e.getValue()));
  }

  private static Matrix4d sheared() {
    return new Matrix4d().m10(0.5);
  }

  @ParameterizedTest(name = "{0}")
  @MethodSource("changesOfAPlace")
  void aPlaceWithMoreToItThanAPlaceEndsTheList(String what, UnaryOperator<Node> change) {
    Scene changed = with(LIST.nodeIds()[0], change);
    assertThat(listed(changed)).as(what).isFalse();
    assertThat(Copies.standing(changed)).as(what).hasSize(SCENE.copies().size() - 1);
  }

  @Test
  void anotherPlaceIsStillAPlace() {
    Scene moved =
        with(
            LIST.nodeIds()[0],
            n ->
                n.withTransform(
                    Trs.of(new Vector3d(9, 8, 7), new Quaterniond(), new Vector3d(1, -2, 3))));
    assertThat(listed(moved)).isTrue();
    assertThat(listed(with(LIST.nodeIds()[0], n -> n.withTransform(LocalTransform.IDENTITY))))
        .isTrue();
  }

  @Test
  void aListWithAPartMoreOrLessIsNone() {
    int holder = SCENE.nodePlaces().get(LIST.holderId());
    SceneBuilder more = SCENE.toBuilder();
    more.add(Node.of(more.newId(), "guest", holder, Node.Content.GROUP));
    assertThat(listed(more.build())).isFalse();
    int gone = LIST.nodeIds()[LIST.nodeIds().length - 1];
    int place = SCENE.nodePlaces().get(gone);
    List<Node> rest = new ArrayList<>();
    for (Node node : SCENE.nodes()) {
      if (node.id() != gone) {
        rest.add(node.parent() > place ? node.withParent(node.parent() - 1) : node);
      }
    }
    assertThat(listed(SCENE.toBuilder().nodes(rest).build())).isFalse();
  }

  @Test
  void whatMovesByItselfIsNoPlaceInAList() {
    SceneBuilder scene = SCENE.toBuilder();
    scene.add(clip(scene.newId(), LIST.nodeIds()[0]));
    assertThat(listed(scene.build())).isFalse();
    SceneBuilder all = SCENE.toBuilder();
    all.add(clip(all.newId(), LIST.holderId()));
    assertThat(listed(all.build())).as("the list as a whole may move").isTrue();
  }

  @Test
  void aMeshWithMorphTargetsIsNotListed() {
    int meshId =
        ((MeshContent) SCENE.nodes().get(SCENE.nodePlaces().get(LIST.nodeIds()[0])).content())
            .meshId();
    List<PolygonMesh> meshes = new ArrayList<>();
    for (PolygonMesh mesh : SCENE.meshes()) {
      float[] deltas = new float[3 * mesh.points().count()];
      MorphTarget.Shape shape = new MorphTarget.Shape(1, null, deltas, null);
      MorphTarget swell = new MorphTarget("swell", 0, List.of(shape));
      meshes.add(mesh.id() == meshId ? mesh.toBuilder().morphs(List.of(swell)).build() : mesh);
    }
    assertThat(listed(SCENE.toBuilder().meshes(meshes).build())).isFalse();
  }

  private static Clip clip(int id, int target) {
    Clip.Track track =
        new Clip.Track(
            target,
            Clip.TRANSLATION,
            Clip.Interpolation.LINEAR,
            3,
            new double[] {0, 1},
            new double[6],
            null,
            null);
    return new Clip(id, "sway", 0, 1, List.of(track));
  }

  @Test
  void topsOfBranchesMayDifferInNamePlaceAndMotion() {
    int top = BRANCHES.nodeIds()[0];
    assertThat(branched(with(top, n -> n.withName("by_the_gate")))).isTrue();
    assertThat(branched(with(top, n -> n.withTransform(LocalTransform.IDENTITY)))).isTrue();
    SceneBuilder moving = SCENE.toBuilder();
    moving.add(clip(moving.newId(), top));
    assertThat(branched(moving.build())).isTrue();
  }

  @Test
  void whatIsBelowMayNotDiffer() {
    Node arm = below(BRANCHES.nodeIds()[0]);
    assertThat(branched(with(arm.id(), n -> n.withName("leg")))).isFalse();
    assertThat(branched(with(arm.id(), n -> n.withVisible(false)))).isFalse();
    assertThat(
            branched(
                with(
                    arm.id(),
                    n ->
                        n.withTransform(
                            Trs.of(new Vector3d(0, 1, 0), new Quaterniond(), new Vector3d(1))))))
        .isFalse();
    SceneBuilder moving = SCENE.toBuilder();
    moving.add(clip(moving.newId(), arm.id()));
    assertThat(branched(moving.build())).as("one of them moves inside").isFalse();
  }

  @Test
  void mostOfThemStayCopiesWhenOneChanges() {
    SceneBuilder three = SCENE.toBuilder();
    int third = three.newId();
    int top = three.add(Node.of(third, "third", -1, Node.Content.GROUP));
    int arm = three.add(Node.of(three.newId(), "arm", top, Node.Content.GROUP));
    Node shown = below(below(BRANCHES.nodeIds()[0]).id());
    three.add(
        Node.of(three.newId(), shown.name(), arm, shown.content())
            .withTransform(shown.transform()));
    int[] tops = {BRANCHES.nodeIds()[0], BRANCHES.nodeIds()[1], third};
    three.copies(List.of(BRANCHES.of(tops)));
    Scene scene = three.build();
    assertThat(Copies.branches(scene).get(0).nodeIds()).containsExactly(tops);
    List<Node> changed = new ArrayList<>();
    int first = below(tops[0]).id();
    scene.nodes().forEach(n -> changed.add(n.id() == first ? n.withName("bent") : n));
    assertThat(Copies.branches(scene.toBuilder().nodes(changed).build()).get(0).nodeIds())
        .containsExactly(tops[1], tops[2]);
  }

  @Test
  void aListWhoseNodeIsRemovedGoesWithIt() {
    List<Node> rest = SCENE.nodes().stream().filter(n -> n.parent() < 0).toList();
    Scene tops = SCENE.toBuilder().nodes(rest).build();
    Scene mapped = SceneMap.same(tops).apply(tops);
    assertThat(mapped.copies()).noneMatch(s -> s.kind() == CopySet.Kind.PLACES);
    assertThat(mapped.copies()).allMatch(s -> s.nodeIds().length == 2);
  }

  @Test
  void renumberedCopiesStandAsBefore() {
    for (int seed = 0; seed < 20; seed++) {
      Scene scene = CopiedScene.of(new Random(seed));
      Scene mapped = SceneMap.fresh(scene, scene.toBuilder()).apply(scene);
      assertThat(Copies.standing(mapped).size()).isEqualTo(Copies.standing(scene).size());
    }
  }
}
