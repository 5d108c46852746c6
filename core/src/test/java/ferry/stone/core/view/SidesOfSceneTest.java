package ferry.stone.core.view;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.CopiedScene;
import ferry.stone.core.RandomRig;
import ferry.stone.core.RandomScene;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Marks;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.landing.CapabilityScenes;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.look.Wrap;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Purpose;
import ferry.stone.core.scene.node.Visibility;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.joml.Matrix4d;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What the page is told of each side: parts, places, heights, marks, picked elements. */
class SidesOfSceneTest {
  private static final SideView.MeshKeys KEYS = (mesh, scene) -> "k" + mesh.id();

  @Test
  void layersAreToldWithTheirNumbersAndImages() {
    double forever = Double.POSITIVE_INFINITY;
    Map<Channel, Material.Value> channels =
        Map.of(
            Channel.CLEARCOAT, new Material.Value(new double[] {0.7}, null),
            Channel.SHEEN, new Material.Value(new double[] {0.1, 0.2, 0.3}, null),
            Channel.ATTENUATION_DISTANCE, new Material.Value(new double[] {forever}, null));
    Material lacquer =
        new Material(
            1,
            "lacquer",
            Material.Shading.METALLIC_ROUGHNESS,
            channels,
            Material.Alpha.OPAQUE,
            0.5,
            false,
            Map.of());
    Scene scene = RandomRig.of(new Random(1), 2).toBuilder().materials(List.of(lacquer)).build();
    SideView.MaterialView told = SideView.near(scene, KEYS).materials().get(0);
    assertThat(told.layers()).containsOnlyKeys("clearcoat", "sheen");
    assertThat(told.layers().get("clearcoat")).containsExactly(0.7);
    assertThat(told.layers().get("sheen")).hasSize(3);
    assertThat(told.unlit()).isFalse();
  }

  @ParameterizedTest
  @ValueSource(ints = {0, 1, 2, 3, 4, 5, 6, 7})
  void everyPartIsToldWithItsPlace(int seed) {
    Scene scene = RandomRig.of(new Random(seed), 4);
    SideView near = SideView.near(scene, KEYS);
    assertThat(near.nodes()).hasSameSizeAs(scene.nodes());
    Matrix4d[] world = scene.contentMatrices();
    Set<Integer> told = new HashSet<>();
    for (int i = 0; i < world.length; i++) {
      SideView.NodeView node = near.nodes().get(i);
      assertThat(node.parent() < 0 || told.contains(node.parent())).as("parents first").isTrue();
      told.add(node.id());
      assertThat(new Matrix4d().set(node.matrix()).equals(world[i], 1e-9)).isTrue();
      assertThat(node.path()).isEqualTo(scene.paths().get(i));
      double[] weights = Pose.rest(scene).morphWeights()[i];
      assertThat(node.weights()).isEqualTo(weights == null ? new double[0] : weights);
    }
    assertThat(near.skins()).hasSameSizeAs(scene.skins());
    assertThat(near.clips()).hasSameSizeAs(scene.clips());
    assertThat(near.cameras()).hasSameSizeAs(scene.cameras());
  }

  private static Scene tall(double height, Frame frame, FrameSource source) {
    Scene plate = CapabilityScenes.of(Capability.UVS);
    PolygonMesh mesh = plate.meshes().get(0);
    float[] box = {0, 0, 0, 1, 0, 0, 1, (float) height, 0, 0, (float) height, 0};
    return plate.toBuilder()
        .frame(frame, source, source)
        .meshes(List.of(mesh.withPoints(Coordinates.of(box))))
        .build();
  }

  @ParameterizedTest
  @CsvSource({
    "2.5, 1, STATED, 2.5 m, tall, false",
    "250, 0.01, STATED, 2.5 m, tall, false",
    "96, 1, ASSUMED, 96 m, tall if metres, true",
    "0.02, 1, STATED, 20 mm, tall, false"
  })
  void theHeightSaysWhetherItIsKnown(
      double height, double unit, FrameSource source, String text, String note, boolean doubtful) {
    Scene scene = tall(height, Frame.Y_UP_METRE.withMetresPerUnit(unit), source);
    SideView near = SideView.near(scene, KEYS);
    assertThat(near.height()).isEqualTo(text);
    assertThat(near.heightNote()).isEqualTo(note);
    assertThat(near.heightDoubtful()).isEqualTo(doubtful);
    assertThat(near.caption().contains("unknown")).isEqualTo(doubtful);
  }

  @Test
  void theFarSideStandsInMetresWithYUp() {
    Frame inches = Frame.Y_UP_METRE.withMetresPerUnit(0.0254).withUp(SignedAxis.PLUS_Z);
    Scene scene = tall(100, inches, FrameSource.STATED);
    SideView far = SideView.far(scene, Frame.Y_UP_METRE, KEYS);
    assertThat(far.metresPerUnit()).isEqualTo(1);
    assertThat(far.caption()).startsWith("as it will land");
    // 100 inches along Y, which is no height where Z is up: they lie along the ground.
    double[] b = far.bounds();
    assertThat(b[4] - b[1]).isCloseTo(0, within(1e-6));
    assertThat(Math.max(b[3] - b[0], b[5] - b[2])).isCloseTo(2.54, within(1e-6));
    Vector3d point = new Matrix4d().set(far.fromNear()).transformPosition(new Vector3d(0, 0, 10));
    assertThat(point.y).isCloseTo(0.254, within(1e-9));
  }

  @Test
  void aSceneWithoutMeshesHasNoBox() {
    Scene empty =
        tall(1, Frame.Y_UP_METRE, FrameSource.STATED).toBuilder().nodes(List.of()).build();
    assertThat(SideView.near(empty, KEYS).bounds()).isEmpty();
    assertThat(SideView.near(empty, KEYS).height()).isEqualTo("—");
  }

  @Test
  void whatIsNotInThePictureIsToldAsSuch() {
    Scene scene = RandomScene.of(new Random(1));
    List<Node> nodes = new ArrayList<>();
    nodes.add(Node.of(9001, "store", -1, Node.Content.GROUP).withVisibility(Visibility.HIDDEN));
    nodes.add(Node.of(9002, "box", 0, Node.Content.GROUP));
    nodes.add(Node.of(9003, "lit", 0, Node.Content.GROUP).withVisibility(Visibility.SHOWN));
    nodes.add(Node.of(9004, "guide", -1, Node.Content.GROUP).withPurpose(Purpose.GUIDE));
    nodes.add(Node.of(9005, "below", 3, Node.Content.GROUP));
    nodes.add(Node.of(9006, "final", -1, Node.Content.GROUP).withPurpose(Purpose.RENDER));
    SideView near = SideView.near(scene.toBuilder().nodes(nodes).build(), KEYS);
    assertThat(near.nodes())
        .extracting(SideView.NodeView::drawn)
        .containsExactly(false, false, true, false, false, true);
  }

  @ParameterizedTest
  @ValueSource(ints = {0, 1, 2, 3, 4, 5})
  void factsOfAPartAgreeWithTheScene(int seed) {
    Scene scene = RandomRig.of(new Random(seed), 6);
    for (int i = 0; i < scene.nodes().size(); i++) {
      Node node = scene.nodes().get(i);
      PartView part = PartView.of(scene, node.id()).orElseThrow();
      Matrix4d m = node.transform().toMatrix();
      assertThat(part.translation()).containsExactly(m.m30(), m.m31(), m.m32());
      double q = 0;
      for (double v : part.quaternion()) {
        q += v * v;
      }
      assertThat(q).isCloseTo(1, within(1e-9));
      assertThat(part.kind()).isEqualTo(node.content().kind());
      part.skins().forEach(s -> assertThat(s.mostInfluences()).isBetween(1, 6));
      long moved =
          scene.clips().stream()
              .filter(c -> c.tracks().stream().anyMatch(t -> t.targetId() == node.id()))
              .count();
      assertThat(part.clips()).hasSize((int) moved);
    }
    assertThat(PartView.of(scene, -5)).isEmpty();
  }

  @Test
  void copiesAndChangingMeshesAreToldOfAPart() {
    Scene copied = CopiedScene.of(new Random(4));
    var set = copied.copies().get(0);
    assertThat(PartView.of(copied, set.holderId()).orElseThrow().notes())
        .containsEntry("Lists places of one mesh", set.nodeIds().length + " copies");
    assertThat(PartView.of(copied, set.nodeIds()[1]).orElseThrow().notes())
        .containsEntry("One of", set.nodeIds().length + " copies");
    Scene changing = CapabilityScenes.of(Capability.CHANGING_MESHES);
    assertThat(PartView.of(changing, changing.nodes().get(0).id()).orElseThrow().notes())
        .containsEntry("Another mesh over time", "3 samples");
    Scene watch = CapabilityScenes.of(Capability.TEXTS_OVER_TIME);
    assertThat(PartView.of(watch, watch.nodes().get(0).id()).orElseThrow().notes())
        .containsEntry("flag in watch", "up, down");
  }

  private static SideView.TextureView textured(UvOrigin origin, TextureUse use) {
    Scene plate = CapabilityScenes.of(Capability.UVS);
    Material own = plate.materials().get(0);
    Map<Channel, Material.Value> channels =
        Map.of(Channel.BASE_COLOUR, new Material.Value(null, use));
    Scene scene =
        plate.toBuilder()
            .uvOrigin(origin)
            .textures(List.of(new Texture(900, "oak.png", "oak.png", "oak.png", null)))
            .materials(List.of(own.withChannels(channels)))
            .build();
    return SideView.near(scene, KEYS).materials().get(0).textures().get("base");
  }

  /** Where an image is read for a point of UVs with V down: KHR_texture_transform, its formula. */
  private static double[] read(SideView.TextureView view, double u, double v) {
    double c = Math.cos(view.rotation());
    double s = Math.sin(view.rotation());
    double x = u * view.scaleU();
    double y = v * view.scaleV();
    return new double[] {c * x + s * y + view.offsetU(), -s * x + c * y + view.offsetV()};
  }

  @ParameterizedTest
  @CsvSource({
    "0, 0, 0, 1, 1",
    "0.25, 0.5, 0, 2, 3",
    "0.1, 0.2, 0.7, 1, 1",
    "-0.3, 0.4, -1.2, 2, 0.5"
  })
  void anImageLiesTheSameWayWhateverEndVIsCountedFrom(
      double offsetU, double offsetV, double turn, double scaleU, double scaleV) {
    TextureUse down =
        new TextureUse(
            900, 1, offsetU, offsetV, scaleU, scaleV, turn, Wrap.REPEATED, (char) 0, 1, "");
    SideView.TextureView fromTop = textured(UvOrigin.TOP_LEFT, down);
    SideView.TextureView fromBottom =
        textured(UvOrigin.BOTTOM_LEFT, down.flipped(UvOrigin.BOTTOM_LEFT));
    assertThat(fromTop.offsetV()).isEqualTo(offsetV);
    assertThat(fromTop.rotation()).isEqualTo(turn);
    assertThat(fromTop.uvSet()).isEqualTo(1);
    for (double[] at : new double[][] {{0, 0}, {1, 0}, {0.3, 0.8}}) {
      double[] a = read(fromTop, at[0], at[1]);
      double[] b = read(fromBottom, at[0], at[1]);
      assertThat(b[0]).isCloseTo(a[0], within(1e-12));
      assertThat(b[1]).isCloseTo(a[1], within(1e-12));
    }
  }

  @Test
  void everySetOfUvsIsInTheBlock() throws Exception {
    Scene scene = CapabilityScenes.of(Capability.COLOURS);
    PolygonMesh mesh = scene.meshes().get(0);
    List<Attribute> layers = new ArrayList<>(mesh.attributes());
    Attribute first =
        layers.stream().filter(a -> a.semantic() == Semantic.UV).findFirst().orElseThrow();
    layers.add(
        new Attribute("lightmap", Semantic.UV, first.domain(), first.table(), first.indices()));
    byte[] block = Preview.of(mesh.withAttributes(layers), scene);
    int length = ByteBuffer.wrap(block).order(ByteOrder.LITTLE_ENDIAN).getInt(0);
    String head = new String(block, 4, length, StandardCharsets.UTF_8);
    assertThat(head).contains("\"uv\":").contains("\"uv1\":").doesNotContain("\"uv2\":");
  }

  @Test
  void marksAreInTheSpaceOfTheNearView() {
    Scene scene = CapabilityScenes.of(Capability.HIERARCHY);
    Scene.ShownMesh shown = scene.shownMeshes().get(0);
    int id = shown.node().id();
    Finding finding =
        Finding.of("a", Severity.FIX, "", "It is marked.")
            .at(
                id,
                new Marks(id, Marks.Kind.VERTICES, new int[] {0, 2}),
                new Marks(id, Marks.Kind.EDGES, new int[] {0, 1}),
                new Marks(id, Marks.Kind.FACES, new int[] {0}),
                new Marks(98_765, Marks.Kind.VERTICES, new int[] {0}));
    Matrix4d toNear = new Matrix4d().translation(10, 0, 0);
    FindingView.MarksView marks = FindingView.marks(finding, scene, toNear);
    assertThat(marks.points()).as("parts that are gone are passed over").hasSize(6);
    assertThat(marks.segments()).hasSize(6);
    assertThat(marks.triangles()).hasSize(9 * (shown.mesh().faces().size(0) - 2));
    PolygonMesh mesh = shown.mesh();
    Vector3d first =
        shown
            .world()
            .transformPosition(
                new Vector3d(mesh.points().x(0), mesh.points().y(0), mesh.points().z(0)))
            .add(10, 0, 0);
    assertThat((double) marks.points()[0]).isCloseTo(first.x, within(1e-5));
    assertThat((double) marks.points()[2]).isCloseTo(first.z, within(1e-5));
  }

  @Test
  void aMarkThatIsNowhereIsDrawnAtTheOrigin() {
    Scene scene = CapabilityScenes.of(Capability.NOT_NUMBERS);
    int id = scene.nodes().get(0).id();
    int[] all = new int[scene.meshes().get(0).points().count()];
    Arrays.setAll(all, i -> i);
    Finding finding =
        Finding.of("a", Severity.FIX, "", "It is marked.")
            .at(id, new Marks(id, Marks.Kind.VERTICES, all));
    for (float v : FindingView.marks(finding, scene, new Matrix4d()).points()) {
      assertThat(v).isFinite();
    }
  }

  @Test
  void aTriangleOfTheViewLeadsToItsFaceAndNearestVertex() {
    Scene scene = CapabilityScenes.of(Capability.POLYGONS);
    PolygonMesh mesh = scene.meshes().get(0);
    for (int triangle = 0; triangle < mesh.faces().triangleCount(); triangle++) {
      for (int v = 0; v < mesh.points().count(); v++) {
        PickedElement picked =
            PickedElement.of(
                mesh, 0, triangle, mesh.points().x(v), mesh.points().y(v), mesh.points().z(v));
        assertThat(picked.face()).as("one face of four corners").isZero();
        assertThat(picked.vertex()).isEqualTo(v);
        assertThat(picked.corners()).hasSize(4);
        assertThat(picked.position()[0]).isEqualTo(mesh.points().x(v));
      }
    }
    for (int[] wrong : new int[][] {{1, 0}, {-1, 0}, {0, 99}, {0, -1}}) {
      assertThatThrownBy(() -> PickedElement.of(mesh, wrong[0], wrong[1], 0, 0, 0))
          .isInstanceOf(IllegalArgumentException.class)
          .hasMessageContaining("pick again");
    }
  }
}
