package ferry.stone.core.format.usd.write;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.ValidNames;
import ferry.stone.core.format.usd.read.UsdReader;
import ferry.stone.core.format.usd.write.UsdOptions.Container;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.node.LocalTransform.EulerOrder;
import ferry.stone.core.scene.node.LocalTransform.PivotTransform;
import ferry.stone.core.scene.node.LocalTransform.ScaleInheritance;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.node.Visibility;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/**
 * What a stage holds of a scene, seen in the text that is written and in the scene that is read.
 */
class UsdWritingTest extends Landed {
  @Test
  void namesArePlacedWherePrimsCanHaveThemAndComeBack() throws Exception {
    int yard = group("the yard", -1);
    group("3 posts", yard);
    group("mast", yard);
    group("mast", yard);
    group("Größe", yard);
    group("", yard);
    Scene back = written();
    assertThat(back.nodes().stream().map(Node::name))
        .containsExactly("the yard", "3 posts", "mast", "mast", "Größe", "");
    assertThat(text)
        .contains("def Xform \"the_yard\"")
        .contains("def Xform \"_3_posts\"")
        .contains("def Xform \"mast_2\"")
        .contains("displayName = \"3 posts\"")
        .contains("def Xform \"Größe\"");
  }

  @Test
  void validNamesAreThoseOfTheStandard() {
    assertThat(ValidNames.isValid("mast_2")).isTrue();
    assertThat(ValidNames.isValid("2mast")).isFalse();
    assertThat(ValidNames.isValid("a b")).isFalse();
    assertThat(ValidNames.isValid("")).isFalse();
    for (String name : new String[] {"", "a b", "1", "-", "ü", "a/b:c"}) {
      assertThat(ValidNames.isValid(ValidNames.of(name))).as(name).isTrue();
      assertThat(ValidNames.isMadeOf(ValidNames.of(name), name)).isTrue();
      assertThat(ValidNames.isMadeOf(ValidNames.of(name) + "_12", name)).isTrue();
    }
    assertThat(ValidNames.isProperty("physics:mass")).isTrue();
    for (String name : new String[] {"", "a:", ":a", "a b", "physics:mass}", "1:a"}) {
      assertThat(ValidNames.isProperty(name)).as(name).isFalse();
    }
    for (String path : new String[] {"/a", "/a/b", "/a/b.x", "/a.x:y"}) {
      assertThat(ValidNames.isPath(path)).as(path).isTrue();
    }
    for (String path : new String[] {"", "a", "/", "/a/", "/a//b", "/a{v=x}b", "/a.", "/a b"}) {
      assertThat(ValidNames.isPath(path)).as(path).isFalse();
    }
    assertThat(ValidNames.isMadeOf("mast", "pole")).isFalse();
    assertThat(UsdNames.attribute("tide")).isEqualTo("tide");
    assertThat(UsdNames.attribute("points")).isEqualTo("userProperties:points");
    assertThat(UsdNames.isMadeOf("userProperties:points", "points")).isTrue();
  }

  @Test
  void transformsAreTranslateRotateAndScale() throws Exception {
    int a = scene.newId();
    scene.add(
        Node.of(a, "a", -1, Content.GROUP)
            .withTransform(
                Trs.of(
                    new Vector3d(1, 2, 3),
                    EulerOrder.XYZ.quaternion(new Vector3d(10, 20, 30)),
                    new Vector3d(1, 2, 1))));
    PivotTransform pivot =
        new PivotTransform(
            new Vector3d(1, 0, 0),
            new Vector3d(),
            new Vector3d(0, 5, 0),
            new Vector3d(),
            new Vector3d(90, 0, 45),
            new Vector3d(),
            new Vector3d(),
            new Vector3d(0, 5, 0),
            new Vector3d(2, 2, 2),
            EulerOrder.ZXY,
            ScaleInheritance.NORMAL);
    scene.add(Node.of(scene.newId(), "b", 0, Content.GROUP).withTransform(pivot));
    Scene back = written();
    assertThat(text)
        .contains(
            "xformOpOrder = [\"xformOp:translate\", \"xformOp:rotateXYZ\", \"xformOp:scale\"]")
        .contains("\"xformOp:rotateZXY\"")
        .contains("\"!invert!xformOp:translate:pivot\"");
    assertThat(back.nodes().get(1).transform()).isEqualTo(pivot);
    assertThat(back.nodes().get(0).transform().toMatrix())
        .satisfies(m -> assertThat(m.equals(scene.build().worldMatrices()[0], 1e-12)).isTrue());
  }

  @Test
  void aMeshThatSeveralPartsShowStandsOnce() throws Exception {
    int id = mesh("post");
    int row = group("row", -1);
    for (int i = 0; i < 3; i++) {
      scene.add(
          Node.of(scene.newId(), "post " + i, row, Content.MeshContent.of(id))
              .withTransform(moved(i, 0, 0)));
    }
    Scene back = written();
    assertThat(back.meshes()).hasSize(1);
    assertThat(back.copies()).isEmpty();
    assertThat(text.split("faceVertexIndices")).hasSize(2);
    assertThat(text).contains("references = </Meshes/post>");
  }

  @Test
  void branchesThatAreAlikeAreInstancesAndStayCopies() throws Exception {
    int post = mesh("post");
    int cap = mesh("cap");
    int[] tops = new int[3];
    for (int i = 0; i < 3; i++) {
      tops[i] = scene.newId();
      int top =
          scene.add(
              Node.of(tops[i], "bollard " + i, -1, Content.GROUP)
                  .withTransform(moved(2 * i, 0, 0)));
      int body = node("post", top, Content.MeshContent.of(post));
      scene.add(
          Node.of(scene.newId(), "cap", body, Content.MeshContent.of(cap))
              .withTransform(moved(0, 1, 0)));
    }
    scene.copies(List.of(new CopySet(CopySet.Kind.BRANCHES, -1, tops)));
    Scene near = scene.build();
    Scene back = written();
    assertThat(back.paths()).containsExactlyElementsOf(near.paths());
    assertThat(text.split("instanceable = true")).hasSize(4);
    assertThat(text.split("faceVertexIndices")).hasSize(3);
    assertThat(back.copies()).hasSize(1);
    assertThat(back.copies().get(0).nodeIds())
        .containsExactly(
            back.nodes().get(0).id(), back.nodes().get(3).id(), back.nodes().get(6).id());
    for (int i = 0; i < 9; i++) {
      assertThat(back.worldMatrices()[i].equals(near.worldMatrices()[i], 1e-12)).isTrue();
    }
    assertThat(codes()).doesNotContain("copies-as-parts");
  }

  @Test
  void aMeshWithPartsBelowItStandsInAChildThatIsNoPartHere() throws Exception {
    int deck = node("deck", -1, Content.MeshContent.of(mesh("deck")));
    node("mast", deck, Content.MeshContent.of(mesh("mast")));
    Scene back = written();
    assertThat(back.paths()).containsExactly("deck", "deck/mast");
    assertThat(back.nodes().get(0).content()).isInstanceOf(Content.MeshContent.class);
    assertThat(codes()).contains("helper-parts");
    Scene others = UsdReader.read("yard.usda", ReadContext.of(files), true);
    assertThat(others.paths()).containsExactlyInAnyOrder("deck", "deck/deck_shape", "deck/mast");
  }

  @Test
  void customValuesKeepTheirTypes() throws Exception {
    int id = scene.newId();
    Map<String, Object> values =
        Map.of(
            "berth",
            7,
            "tide",
            0.5,
            "name of it",
            "Reed",
            "open",
            true,
            "list",
            List.of(1, 2, 3),
            "points",
            "a word",
            "long",
            1L << 40,
            "more",
            Map.of("inner", Map.of("x", 1)),
            "half",
            0.25,
            UsdNames.TYPES,
            Map.of("half", "half", "list", "int[]"));
    scene.add(Node.of(id, "yard", -1, Content.GROUP).withProperties(values));
    Scene back = written();
    Map<String, Object> read = back.nodes().get(0).properties();
    assertThat(text).contains("custom half half = 0.25").contains("custom int64 long");
    assertThat(read)
        .containsEntry("berth", 7)
        .containsEntry("tide", 0.5)
        .containsEntry("name of it", "Reed")
        .containsEntry("open", true)
        .containsEntry("list", List.of(1, 2, 3))
        .containsEntry("points", "a word")
        .containsEntry("long", 1L << 40)
        .containsEntry("customData", Map.of("more", Map.of("inner", Map.of("x", 1))));
  }

  /** A joint chain with a mesh that its second joint moves, and a lamp that hangs on the last. */
  private void rig(boolean below) {
    int root = below ? group("heron", -1) : -1;
    int[] ids = new int[3];
    int[] places = new int[3];
    for (int j = 0; j < 3; j++) {
      ids[j] = scene.newId();
      places[j] =
          scene.add(
              Node.of(ids[j], "joint " + j, j == 0 ? root : places[j - 1], new Content.Joint(0))
                  .withTransform(moved(0, 1, 0)));
    }
    int id = mesh("body");
    double[] inverse = new double[48];
    for (int j = 0; j < 3; j++) {
      new org.joml.Matrix4d().translation(0, -1 - j, 0).get(inverse, 16 * j);
    }
    int skin = scene.newId();
    int[] offsets = {0, 1, 2, 3, 3};
    scene.add(
        new Skin(skin, "skin", id, ids, inverse, offsets, new int[] {1, 2, 1}, ones(3), "linear"));
    node("body", root, new Content.MeshContent(id, skin, null, null));
    node("lamp", places[2], Content.MeshContent.of(mesh("lamp")));
    Quaterniond turn = new Quaterniond().rotateZ(Math.PI / 2);
    double[] keys = {0, 0, 0, 1, turn.x, turn.y, turn.z, turn.w};
    Clip.Track track =
        new Clip.Track(
            ids[1],
            Clip.ROTATION,
            Clip.Interpolation.LINEAR,
            4,
            new double[] {0, 1},
            keys,
            null,
            null);
    scene.add(new Clip(scene.newId(), "wade", 0, 1, List.of(track)));
  }

  private static float[] ones(int n) {
    float[] all = new float[n];
    Arrays.fill(all, 1);
    return all;
  }

  private static Node named(Scene scene, String name) {
    return scene.nodes().stream().filter(n -> n.name().equals(name)).findFirst().orElseThrow();
  }

  @Test
  void jointsStandInASkeletonAndWhatHungOnThemBesideIt() throws Exception {
    rig(true);
    Scene near = scene.build();
    Scene back = written();
    assertThat(text).contains("def SkelRoot \"heron\"").contains("def Skeleton \"skeleton\"");
    assertThat(text)
        .contains("uniform token[] jointNames = [\"joint 0\", \"joint 1\", \"joint 2\"]");
    assertThat(back.paths()).contains("heron/joint 0/joint 1/joint 2", "heron/body", "heron/lamp");
    assertThat(codes()).contains("helper-parts", "vertices-given-a-joint");
    for (double t : new double[] {0, 0.5, 1}) {
      for (String part : new String[] {"body", "lamp"}) {
        double[] wanted = world(near, part, t);
        double[] found = world(back, part, t);
        int known = part.equals("body") ? 9 : 12;
        for (int i = 0; i < known; i++) {
          assertThat(found[i]).as(part + " at " + t).isCloseTo(wanted[i], within(2e-5));
        }
      }
    }
  }

  private static double[] world(Scene scene, String part, double seconds) {
    int place = scene.nodes().indexOf(named(scene, part));
    return Deform.world(scene, Pose.at(scene, scene.clips().get(0), seconds), place);
  }

  @Test
  void whatHasNoPartAboveGetsOneForItsSkeleton() throws Exception {
    rig(false);
    Scene back = written();
    assertThat(codes()).contains("root-added");
    assertThat(back.paths()).contains("yard/joint 0", "yard/body");
    assertThat(back.skins()).hasSize(1);
  }

  @Test
  void aFileWithSeveralPartsAtTheTopHasOneWhereItIsWished() throws Exception {
    group("a", -1);
    group("b", -1);
    assertThat(written().paths()).containsExactly("a", "b");
    assertThat(written(new UsdOptions(Container.TEXT, 0, "", true)).paths())
        .containsExactly("yard", "yard/a", "yard/b");
    assertThat(text).contains("defaultPrim = \"yard\"");
  }

  @Test
  void shapesOfOneNameInTwoMeshesKeepTheirWeights() throws Exception {
    int root = group("faces", -1);
    for (int i = 0; i < 2; i++) {
      int id = mesh("face");
      PolygonMesh mesh = scene.build().mesh(id).orElseThrow();
      MorphTarget.Shape half =
          new MorphTarget.Shape(0.5, new int[] {1}, new float[] {0, 0, 1}, null);
      MorphTarget.Shape full =
          new MorphTarget.Shape(1, new int[] {1, 2}, new float[] {0, 0, 2, 0, 1, 0}, null);
      List<PolygonMesh> all = new ArrayList<>(scene.build().meshes());
      all.removeIf(m -> m.id() == id);
      all.add(
          mesh.toBuilder()
              .morphs(List.of(new MorphTarget("smile", 0, List.of(half, full))))
              .build());
      scene.meshes(all);
      double[] weights = {0.25 * (i + 1)};
      node("face " + i, root, new Content.MeshContent(id, -1, null, weights));
    }
    Scene back = written();
    for (int i = 0; i < 2; i++) {
      Content.MeshContent content = (Content.MeshContent) named(back, "face " + i).content();
      assertThat(content.morphWeights()).containsExactly(0.25 * (i + 1));
      MorphTarget morph = back.mesh(content.meshId()).orElseThrow().morphs().get(0);
      assertThat(morph.name()).isEqualTo("smile");
      assertThat(morph.shapes()).hasSize(2);
      assertThat(morph.full().vertices()).containsExactly(1, 2);
      assertThat(morph.shapes().get(0).deltas()).containsExactly(0, 0, 1, 0, 0, 0);
    }
    assertThat(back.skins()).isEmpty();
    assertThat(back.paths()).containsExactly("faces", "faces/face 0", "faces/face 1");
  }

  @Test
  void stepsStayStepsAndCurvesBecomeSamples() throws Exception {
    int id = scene.newId();
    scene.add(Node.of(id, "gate", -1, Content.GROUP).withProperties(Map.of("open", 0.0)));
    double[] times = {0, 1, 2};
    double[] up = {0, 0, 0, 0, 1, 0, 0, 4, 0};
    double[] flat = new double[9];
    scene.framesPerSecond(10);
    scene.add(
        new Clip(
            scene.newId(),
            "opens",
            0,
            2,
            List.of(
                new Clip.Track(
                    id, Clip.TRANSLATION, Clip.Interpolation.CUBIC, 3, times, up, flat, flat),
                new Clip.Track(
                    id,
                    Clip.VISIBLE,
                    Clip.Interpolation.STEP,
                    1,
                    times,
                    new double[] {1, 0, 1},
                    null,
                    null),
                new Clip.Track(
                    id,
                    Clip.CUSTOM + "open",
                    Clip.Interpolation.STEP,
                    1,
                    times,
                    new double[] {0, 5, 6},
                    null,
                    null))));
    Scene back = written();
    assertThat(codes()).contains("motion-sampled");
    Clip clip = back.clips().get(0);
    Clip.Track move = track(clip, Clip.TRANSLATION);
    assertThat(move.timesSeconds()).hasSize(21);
    Clip.Track open = track(clip, Clip.CUSTOM + "open");
    double[] value = new double[4];
    ferry.stone.core.motion.Curves.sample(open, 0.99, value);
    assertThat(value[0]).isCloseTo(0, within(1e-9));
    ferry.stone.core.motion.Curves.sample(open, 1, value);
    assertThat(value[0]).isEqualTo(5);
    assertThat(track(clip, Clip.VISIBLE).values()).containsExactly(1, 0, 1);
    assertThat(text).contains("timeCodesPerSecond = 10").contains("endTimeCode = 20");
  }

  private static Clip.Track track(Clip clip, String property) {
    return clip.tracks().stream()
        .filter(t -> t.property().equals(property))
        .findFirst()
        .orElseThrow();
  }

  @Test
  void oneClipLandsAndTheOthersAreNamed() throws Exception {
    int id = scene.newId();
    scene.add(Node.of(id, "gate", -1, Content.GROUP));
    for (String name : new String[] {"opens", "shuts"}) {
      double[] values = {0, 0, 0, 0, name.equals("opens") ? 1 : -1, 0};
      Clip.Track track =
          new Clip.Track(
              id,
              Clip.TRANSLATION,
              Clip.Interpolation.LINEAR,
              3,
              new double[] {0, 1},
              values,
              null,
              null);
      scene.add(new Clip(scene.newId(), name, 0, 1, List.of(track)));
    }
    Scene back = written(new UsdOptions(Container.TEXT, 50, "shuts", false));
    assertThat(back.clips()).hasSize(1);
    assertThat(back.clips().get(0).tracks().get(0).values()[4]).isEqualTo(-1);
    assertThat(said.list().stream().filter(f -> f.code().equals("clip-not-chosen")))
        .extracting(Finding::where)
        .containsExactly("opens");
    assertThat(text).contains("timeCodesPerSecond = 50");
  }

  @Test
  void whatIsSeenBelowAHiddenPartIsStillSeen() throws Exception {
    int hidden = group("shed", -1);
    int shown = group("window", hidden);
    group("table", hidden);
    Scene build = scene.build();
    List<Node> nodes = new ArrayList<>(build.nodes());
    nodes.set(hidden, nodes.get(hidden).withVisibility(Visibility.HIDDEN));
    nodes.set(shown, nodes.get(shown).withVisibility(Visibility.SHOWN));
    scene.nodes(nodes);
    boolean[] wanted = scene.build().seen();
    boolean[] found = written().seen();
    assertThat(found[shown]).isEqualTo(wanted[shown]).isTrue();
    assertThat(found[2]).isEqualTo(wanted[2]).isFalse();
  }
}
