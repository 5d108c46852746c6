package ferry.stone.core.proof.pair;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.withinPercentage;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.FaultScene;
import ferry.stone.core.proof.FaultScene.Fault;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.proof.pair.PairProof.How;
import ferry.stone.core.proof.pair.PairProof.Side;
import ferry.stone.core.proof.pair.PairProof.Together;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.shore.Tolerances;
import ferry.stone.core.work.Progress;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Two files: equal ones have no differences, and a fault of any kind is found and named. */
class PairProofTest {
  private static final List<String> RIGGED = List.of("glb", "fbx", "usdc", "usda");
  private static final List<String> BARE = List.of("obj", "abc");

  private static Side side(Scene scene, String format) throws Exception {
    TestFiles out = new TestFiles();
    Landing.write(scene, LandingOptions.of(format), "buoy", new TestFiles(), out, Progress.NONE);
    return new Side(CargoReader.read("buoy", ReadContext.of(out)), out, "buoy." + format);
  }

  private static List<LedgerRow> differences(Side a, Side b, How how) throws Exception {
    return PairProof.of(a, b, how, Progress.NONE).rows().stream()
        .filter(r -> r.verdict() != Verdict.KEPT)
        .toList();
  }

  @ParameterizedTest
  @ValueSource(strings = {"glb", "fbx", "usdc", "usda", "obj", "abc", "stl", "ply"})
  void equalFilesHaveNoDifferences(String format) throws Exception {
    Side a = side(FaultScene.with(Fault.NONE), format);
    Side b = side(FaultScene.with(Fault.NONE), format);
    assertThat(differences(a, b, How.USUAL)).isEmpty();
  }

  /** What the rows that tell of a fault are about: a part of their group, a part of their fact. */
  static Stream<Arguments> faults() {
    Map<Fault, List<String>> told =
        Map.ofEntries(
            Map.entry(Fault.VERTEX, List.of("flag", "Vertex order")),
            Map.entry(Fault.UV, List.of("flag", "UV")),
            Map.entry(Fault.WEIGHT, List.of("flag", "Weights")),
            Map.entry(Fault.KEY, List.of("Motion", "Vertices during")),
            Map.entry(Fault.TEXEL, List.of("striped|stripes|Materials", "olour|ixel|mage")),
            Map.entry(Fault.NAME, List.of("Parts", "Names and paths")),
            Map.entry(Fault.CHILD, List.of("plate|Parts", "Part|Nodes")),
            Map.entry(Fault.MATERIAL, List.of("Materials", "Faces on their materials")),
            Map.entry(Fault.SHEAR, List.of("bell|Parts", "Axes|Vertex order|Surface")),
            Map.entry(Fault.PIVOT, List.of("Parts", "Origins")),
            Map.entry(Fault.MORPH, List.of("Skeleton and morph targets", "Shape of flutter")),
            Map.entry(Fault.VALUE, List.of("Parts", "Custom values")));
    return told.entrySet().stream()
        .flatMap(
            e -> {
              boolean rig =
                  List.of(Fault.WEIGHT, Fault.KEY, Fault.MORPH, Fault.VALUE, Fault.PIVOT)
                      .contains(e.getKey());
              List<String> formats =
                  rig || e.getKey() == Fault.TEXEL || e.getKey() == Fault.MATERIAL
                      ? RIGGED
                      : Stream.concat(RIGGED.stream(), BARE.stream()).toList();
              return formats.stream()
                  .map(f -> Arguments.of(e.getKey(), f, e.getValue().get(0), e.getValue().get(1)));
            });
  }

  @ParameterizedTest
  @MethodSource("faults")
  void aFaultIsFoundAndNamed(Fault fault, String format, String group, String fact)
      throws Exception {
    Side good = side(FaultScene.with(Fault.NONE), format);
    Side bad = side(FaultScene.with(fault), format);
    assertThat(differences(good, bad, How.USUAL))
        .anyMatch(
            r ->
                r.group().matches(".*(" + group + ").*") && r.fact().matches(".*(" + fact + ").*"));
  }

  /** One vertex that lies 1 mm off, seen from where the whole fills the picture, and from afar. */
  @Test
  void aShoreSaysWhatMayDifferAndFromWhereItIsSeen() throws Exception {
    Side good = side(FaultScene.with(Fault.NONE), "glb");
    Side bad = side(FaultScene.with(Fault.VERTEX), "glb");
    for (double apart : new double[] {0.5, 2}) {
      Tolerances tolerances = new Tolerances(apart, null, null, null, 100.0);
      How how = How.USUAL.with(tolerances);
      Proof proof = PairProof.of(good, bad, how, Progress.NONE);
      LedgerRow row =
          proof.rows().stream()
              .filter(r -> r.fact().startsWith("Surface distance"))
              .filter(r -> r.verdict() == Verdict.CHANGED)
              .findFirst()
              .orElseThrow();
      // 1,080 rows over 60 degrees: a pixel is 1.069 mm high in 1 m (by hand).
      assertThat(row.seenWithin()).isCloseTo(row.measure().differs() * 935.3, withinPercentage(1));
      assertThat(row.within()).isEqualTo(apart > 1);
      assertThat(row.note())
          .contains("not visible from 100 m")
          .endsWith((apart > 1 ? "within" : "beyond") + " what the shore lets differ");
      assertThat(apart > 1 ? proof.within() : proof.beyond()).isPositive();
    }
    assertThat(differences(good, bad, How.USUAL)).allMatch(r -> r.within() == null);
  }

  /**
   * One of 200 keys, between any evenly spread few moments; and a group that nothing is seen of.
   */
  @Test
  void aKeyBetweenManyIsFoundAndSoIsOneThatMovesNothing() throws Exception {
    Side good = side(FaultScene.with(Fault.NONE), "glb");
    int joint = good.scene().clips().get(0).tracks().get(0).targetId();
    for (boolean alone : new boolean[] {false, true}) {
      SceneBuilder two = good.scene().toBuilder();
      int group = two.newId();
      two.add(Node.of(group, "lonely", -1, Node.Content.GROUP));
      int target = alone ? group : joint;
      Scene was = two.clips(List.of(many(target, -1))).build();
      Scene is = was.toBuilder().clips(List.of(many(target, 101))).build();
      assertThat(differences(side(was, "glb"), side(was, "glb"), How.USUAL)).isEmpty();
      List<LedgerRow> rows = differences(side(was, "glb"), side(is, "glb"), How.USUAL);
      assertThat(rows).anyMatch(r -> r.fact().startsWith("Directions of joints and groups during"));
      assertThat(rows.stream().anyMatch(r -> r.fact().startsWith("Vertices"))).isEqualTo(!alone);
      assertThat(rows).anyMatch(r -> r.note().contains(", 1.010 s"));
    }
  }

  /** A turn about x with a key each hundredth of a second, one of them elsewhere. */
  private static Clip many(int node, int other) {
    double[] times = new double[200];
    double[] values = new double[800];
    for (int k = 0; k < 200; k++) {
      times[k] = k / 100.0;
      double half = k == other ? 0.2 : 0.1 * k / 200;
      values[4 * k] = Math.sin(half);
      values[4 * k + 3] = Math.cos(half);
    }
    Clip.Track turn =
        new Clip.Track(
            node, Clip.ROTATION, Clip.Interpolation.LINEAR, 4, times, values, null, null);
    return new Clip(900, "many", 0, 1.99, List.of(turn));
  }

  /** Two takes under other names: the same one is the same, one with another key is not. */
  @Test
  void aTakeIsHeldAgainstATake() throws Exception {
    Side good = side(FaultScene.with(Fault.NONE), "glb");
    String name = good.scene().clips().get(0).name();
    for (Fault fault : List.of(Fault.NONE, Fault.KEY)) {
      Side other = side(FaultScene.with(fault), "glb");
      Clip take = other.scene().clips().get(0).withName("take 2");
      Clip more = take.withName("take 3");
      Scene two = other.scene().toBuilder().clips(List.of(take, more)).build();
      List<LedgerRow> rows =
          differences(
              good, new Side(two, other.files(), "two"), How.USUAL.withTakes(name, "take 2"));
      assertThat(rows.isEmpty()).isEqualTo(fault == Fault.NONE);
      assertThat(rows)
          .allMatch(r -> r.fact().contains("during " + name) || r.fact().contains("Motion"));
    }
    assertThatThrownBy(() -> differences(good, good, How.USUAL.withTakes(name, "take 9")))
        .hasMessageContaining("no clip \"take 9\"");
  }

  @Test
  void aPartWithAnotherNameAndPlaceIsFoundByItsShapeAndSaid() throws Exception {
    Side a = side(FaultScene.with(Fault.NONE), "glb");
    Scene moved =
        a.scene().toBuilder()
            .nodes(
                a.scene().nodes().stream()
                    .map(
                        n ->
                            n.name().equals("bell")
                                ? n.withName("klang")
                                    .withTransform(
                                        Trs.of(
                                            new Vector3d(5, 0, 0),
                                            new Quaterniond(),
                                            new Vector3d(1)))
                                : n)
                    .toList())
            .build();
    // The bell and the plate have one shape: neither is alone with it once the names are gone.
    List<LedgerRow> rows = differences(a, new Side(moved, a.files(), "moved"), How.USUAL);
    assertThat(rows)
        .anyMatch(r -> r.fact().equals("Compared with") && r.note().equals("found by shape"));
    How hand = How.USUAL.with(Map.of("buoy/bell", "buoy/klang"));
    assertThat(differences(a, new Side(moved, a.files(), "moved"), hand))
        .anyMatch(r -> r.fact().equals("Compared with") && r.note().equals("found as you say"));
  }

  @Test
  void assetsThatStandElsewhereArePutOnOneSpot() throws Exception {
    Side a = side(FaultScene.with(Fault.NONE), "usda");
    Scene away = a.scene().toBuilder().placement(new Matrix4d().translation(7, 2, -3)).build();
    Side b = new Side(away, a.files(), "away");
    assertThat(differences(a, b, How.USUAL)).isNotEmpty();
    for (Together spot : List.of(Together.ROOTS, Together.BASES)) {
      assertThat(differences(a, b, How.USUAL.with(spot))).as(spot.toString()).isEmpty();
    }
  }

  private static <T> List<T> with(List<T> all, T more) {
    return Stream.concat(all.stream(), Stream.of(more)).toList();
  }

  @Test
  void whatIsAddedToTheSecondIsToldWhateverItIs() throws Exception {
    Side a = side(FaultScene.with(Fault.NONE), "usda");
    Scene plain = a.scene();
    Clip more = new Clip(9001, "gust", 0, 1, plain.clips().get(0).tracks());
    Map<String, Scene> added =
        Map.of(
            "Clips", plain.toBuilder().clips(with(plain.clips(), more)).build(),
            "Materials",
                plain.toBuilder()
                    .materials(with(plain.materials(), plain.materials().get(0).withId(9002)))
                    .build(),
            "Custom values",
                plain.toBuilder()
                    .nodes(
                        plain.nodes().stream()
                            .map(
                                n -> n.name().equals("bell") ? n.withProperties(Map.of("x", 1)) : n)
                            .toList())
                    .build(),
            "Layers",
                plain.toBuilder()
                    .meshes(
                        plain.meshes().stream()
                            .map(m -> m.withAttributes(m.attributes().subList(0, 0)))
                            .toList())
                    .build());
    for (Map.Entry<String, Scene> each : added.entrySet()) {
      Side b = new Side(each.getValue(), a.files(), "more");
      // Layers are taken away instead: held the other way round they are more.
      boolean turned = each.getKey().equals("Layers");
      assertThat(turned ? differences(b, a, How.USUAL) : differences(a, b, How.USUAL))
          .as(each.getKey())
          .anyMatch(r -> r.fact().equals(each.getKey()) && r.note().contains("only the second"));
    }
  }

  @Test
  void whatOnlyTheSecondHasIsListed() throws Exception {
    Side a = side(FaultScene.with(Fault.CHILD), "glb");
    Side b = side(FaultScene.with(Fault.NONE), "glb");
    assertThat(differences(a, b, How.USUAL))
        .anyMatch(r -> r.group().equals("buoy/plate") && r.note().contains("only the second"))
        .anyMatch(r -> r.fact().equals("Nodes that only the second file has"));
    assertThat(b.scene().nodes()).extracting(Node::name).contains("plate");
  }

  /** Both are read alike; another reader of the second would find no ends of polygons. */
  @Test
  void rulesThatOnlyTheSecondFileBreaksAreTold() throws Exception {
    String mesh =
        "solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\n";
    String end = "endloop\nendfacet\nendsolid a\n";
    Side good = stl(mesh + end);
    Side bad = stl(mesh.replace("normal 0 0 1", "normal 0 0 -1") + end);
    assertThat(differences(good, good, How.USUAL)).isEmpty();
    assertThat(differences(bad, bad, How.USUAL)).isEmpty();
    assertThat(differences(good, bad, How.USUAL))
        .anyMatch(r -> r.group().contains("not as its standard says"));
    assertThat(differences(bad, good, How.USUAL))
        .noneMatch(r -> r.group().contains("not as its standard says"));
  }

  private static Side stl(String text) throws Exception {
    TestFiles files = new TestFiles().with("a.stl", text.getBytes(StandardCharsets.US_ASCII));
    return new Side(CargoReader.read("a", ReadContext.of(files)), files, "a.stl");
  }
}
