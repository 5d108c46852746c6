package ferry.stone.core.cargo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.CopiedScene;
import ferry.stone.core.RandomRig;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.landing.CapabilityScenes;
import ferry.stone.core.landing.RisingSequence;
import ferry.stone.core.landing.StillCache;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Copies;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import org.joml.Matrix4d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Several scenes as one: nothing of them is lost, mixed up, or moved. */
class SceneMergeTest {
  private final Findings findings = new Findings();

  private Scene merged(Scene... scenes) {
    List<String> files =
        IntStream.range(0, scenes.length).mapToObj(i -> "file_" + i + ".x").toList();
    return SceneMerge.merge("all", files, List.of(scenes), false, findings);
  }

  private static int countOf(Scene... scenes) {
    int nodes = 0;
    for (Scene scene : scenes) {
      nodes += scene.nodes().size() + 1;
    }
    return nodes;
  }

  @ParameterizedTest
  @ValueSource(ints = {0, 1, 2, 3, 4, 5, 6, 7, 8, 9})
  void everythingOfTwoRigsIsThereUnderItsFile(int seed) {
    Scene a = RandomRig.of(new Random(seed), 4);
    Scene b = RandomRig.of(new Random(seed + 100), 4);
    Scene all = merged(a, b);
    assertThat(all.nodes()).hasSize(countOf(a, b));
    assertThat(all.meshes()).hasSize(a.meshes().size() + b.meshes().size());
    assertThat(all.skins()).hasSize(a.skins().size() + b.skins().size());
    assertThat(all.clips()).hasSize(a.clips().size() + b.clips().size());
    assertThat(all.cameras()).hasSize(a.cameras().size() + b.cameras().size());
    assertThat(all.lights()).hasSize(a.lights().size() + b.lights().size());
    Set<Integer> ids = new HashSet<>();
    all.nodes().forEach(n -> assertThat(ids.add(n.id())).isTrue());
    all.meshes().forEach(m -> assertThat(ids.add(m.id())).isTrue());
    all.skins().forEach(s -> assertThat(ids.add(s.id())).isTrue());
    Map<Integer, Integer> places = all.nodePlaces();
    for (Clip clip : all.clips()) {
      clip.tracks().stream()
          .filter(t -> t.isTransform() || t.isMorph())
          .forEach(t -> assertThat(places).containsKey(t.targetId()));
    }
    all.skins()
        .forEach(
            s -> {
              for (int joint : s.jointNodeIds()) {
                assertThat(places).containsKey(joint);
              }
            });
    // The parts of the second stand where they stood, pose by pose.
    Matrix4d[] own = Pose.at(b, b.clips().get(0), 0.4).world();
    Clip same = all.clips().get(a.clips().size());
    Matrix4d[] now = Pose.at(all, same, 0.4).world();
    int first = a.nodes().size() + 2;
    for (int i = 0; i < own.length; i++) {
      assertThat(now[first + i].equals(own[i], 1e-9)).as(b.nodes().get(i).name()).isTrue();
    }
  }

  @Test
  void cachesSequencesAndCopiesComeAlong() throws Exception {
    Scene copied = CopiedScene.of(new Random(2));
    PolygonMesh mesh = copied.meshes().get(0);
    var more = copied.toBuilder();
    more.add(new RisingSequence(more.newId(), mesh, 3));
    Scene moving = more.caches(List.of(new StillCache(mesh.id()))).build();
    Scene all = merged(CapabilityScenes.of(Capability.UVS), moving);
    assertThat(all.caches()).hasSize(1);
    assertThat(all.sequences()).hasSize(1);
    assertThat(all.mesh(all.caches().get(0).meshId()).orElseThrow().name()).isEqualTo(mesh.name());
    assertThat(all.sequences().get(0).mesh(2).id()).isEqualTo(all.sequences().get(0).meshId());
    assertThat(Copies.standing(all)).hasSameSizeAs(Copies.standing(moving));
  }

  @Test
  void aSceneOfAnotherFrameIsBroughtToTheFirstAndThatIsSaid() {
    Scene metres = CapabilityScenes.of(Capability.UVS);
    Scene stated =
        metres.toBuilder().frame(Frame.Y_UP_METRE, FrameSource.STATED, FrameSource.STATED).build();
    Frame inches = Frame.Y_UP_METRE.withMetresPerUnit(0.0254).withUp(SignedAxis.PLUS_Z);
    Scene other = metres.toBuilder().frame(inches, FrameSource.STATED, FrameSource.STATED).build();
    Scene all = merged(stated, other);
    assertThat(all.frame()).isEqualTo(Frame.Y_UP_METRE);
    Finding told =
        findings.list().stream()
            .filter(f -> f.code().equals("brought-to-one-frame"))
            .findFirst()
            .orElseThrow();
    assertThat(told.where()).isEqualTo("file_1.x");
    Bounds first = all.shownMeshes().get(0).mesh().points().bounds();
    Bounds second =
        all.shownMeshes().get(1).mesh().points().bounds(all.shownMeshes().get(1).world());
    assertThat(second.diagonal()).isCloseTo(first.diagonal() * 0.0254, within(1e-6));
  }

  @Test
  void aStatedUnitCountsMoreThanAnAssumedOne() {
    Scene plate = CapabilityScenes.of(Capability.UVS);
    Scene assumed =
        plate.toBuilder().frame(Frame.Y_UP_METRE, FrameSource.ASSUMED, FrameSource.ASSUMED).build();
    Frame centimetres = Frame.Y_UP_METRE.withMetresPerUnit(0.01);
    Scene stated =
        plate.toBuilder().frame(centimetres, FrameSource.STATED, FrameSource.STATED).build();
    assertThat(merged(assumed, stated).frame()).isEqualTo(centimetres);
    assertThat(findings.list())
        .anyMatch(
            f ->
                f.code().equals("brought-to-one-frame")
                    && f.message().contains("no unit of its own"));
  }

  @Test
  void uvsAreTurnedAndColoursRecodedToTheFirst() {
    Scene plate = CapabilityScenes.of(Capability.COLOURS);
    Scene bottom = plate.toBuilder().uvOrigin(UvOrigin.BOTTOM_LEFT).linearColours(false).build();
    Scene top = plate.toBuilder().uvOrigin(UvOrigin.TOP_LEFT).linearColours(true).build();
    Scene all = merged(bottom, top);
    assertThat(all.uvOrigin()).isEqualTo(UvOrigin.BOTTOM_LEFT);
    float[] own = values(plate.meshes().get(0), Attribute.Semantic.UV);
    float[] turned = values(all.meshes().get(1), Attribute.Semantic.UV);
    for (int i = 0; i < own.length; i++) {
      assertThat(turned[i]).isCloseTo(i % 2 == 0 ? own[i] : 1 - own[i], within(1e-6f));
    }
    float[] before = values(plate.meshes().get(0), Attribute.Semantic.COLOUR);
    float[] after = values(all.meshes().get(1), Attribute.Semantic.COLOUR);
    int colour = plate.meshes().get(0).first(Attribute.Semantic.COLOUR).orElseThrow().components();
    for (int i = 0; i < before.length; i++) {
      // IEC 61966-2-1: what is linear is lower than its code, but for black and white.
      boolean middle = i % colour < 3 && before[i] > 0.01f && before[i] < 0.99f;
      assertThat(after[i]).isGreaterThanOrEqualTo(before[i] - 1e-6f);
      assertThat(after[i] > before[i] + 1e-4f).isEqualTo(middle);
    }
  }

  private static float[] values(PolygonMesh mesh, Attribute.Semantic semantic) {
    return mesh.first(semantic).orElseThrow().values();
  }

  @Test
  void sameMaterialsAndTexturesAreSharedOthersKeptApart() {
    Scene plate = CapabilityScenes.of(Capability.UVS);
    Scene all = merged(plate, plate);
    assertThat(all.materials()).hasSameSizeAs(plate.materials());
    assertThat(all.meshes().get(0).materialIds()).isEqualTo(all.meshes().get(1).materialIds());
    Scene other =
        plate.toBuilder()
            .materials(plate.materials().stream().map(m -> m.withName("elm")).toList())
            .build();
    assertThat(merged(plate, other).materials()).hasSize(2 * plate.materials().size());
  }

  @Test
  void whatReadersLeftOutAndSaidIsKept() {
    Scene plate = CapabilityScenes.of(Capability.UVS);
    Scene a = plate.toBuilder().unread("A spline").property("comments", "from the yard").build();
    Scene b = plate.toBuilder().unread("A solid").property("comments", "from the loft").build();
    Scene all = merged(a, b);
    assertThat(all.unread()).containsExactly("A spline", "A solid");
    assertThat(all.properties().get("comments").toString()).contains("yard").contains("loft");
    assertThat(all.nodes().get(0).name()).isEqualTo("file_0");
    assertThat(all.nodes().stream().filter(n -> n.parent() < 0).map(Node::name))
        .containsExactly("file_0", "file_1");
  }
}
