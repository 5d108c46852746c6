package ferry.stone.core.format.usd.write;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.landing.Alternates;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.landing.Landings;
import ferry.stone.core.landing.PartFiles;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;

/** Variants that are not chosen land too, each as the far side that its choice would have given. */
class UsdKeptVariantsTest {
  private static final String STAGE =
      """
      #usda 1.0
      ( metersPerUnit = 0.01 upAxis = "Y" defaultPrim = "Yard" )
      class "Lamps" { def Sphere "bulb" { double radius = 4 } }
      def Xform "Yard" ( variants = { string gate = "shut" string light = "on" }
          prepend variantSets = ["gate", "light"] ) {
        def Xform "first" { def Mesh "post" { %s } }
        def Xform "gate" { def Mesh "leaf" { %s } }
        variantSet "gate" = {
          "shut" { over "gate" { double3 xformOp:translate = (0, 0, 0)
            uniform token[] xformOpOrder = ["xformOp:translate"] } }
          "open" { over "gate" { double3 xformOp:translate = (0, 0, 300)
            uniform token[] xformOpOrder = ["xformOp:translate"] }
            def Xform "stop" { def Mesh "peg" { %s } } }
        }
        variantSet "light" = {
          "on" { def SphereLight "lamp" { float inputs:radius = 8 float inputs:intensity = 5 } }
          "off" { }
        }
        def Xform "last" { def Mesh "post" { %s } }
      }
      """
          .replace(
              "%s",
              "point3f[] points = [(0,0,0),(100,0,0),(0,100,0)]\n int[] faceVertexCounts = [3]\n"
                  + " int[] faceVertexIndices = [0,1,2]");

  private final TestFiles cargo = TestFiles.of("yard.usda", STAGE);
  private TestFiles out;
  private Proof proof;

  private Scene near(String variants) throws IOException, FormatException {
    return CargoReader.read(
        "yard", ReadContext.of(cargo).withOptions(Map.of("variants", variants)));
  }

  private static Scene far(Scene near, List<Step> steps) {
    return Handling.result(near, Handling.run(near, steps, Progress.NONE));
  }

  private void land(LandingOptions options, List<Step> steps) throws Exception {
    out = new TestFiles();
    Scene near = near("");
    Scene far = far(near, steps);
    Landings landings =
        Landings.write(
            far,
            options,
            "yard",
            cargo,
            out,
            new Alternates(near, steps, this::near),
            Progress.NONE);
    proof = landings.proof(near, far, options, out, cargo, Progress.NONE);
  }

  private Scene back(String variants) throws Exception {
    return CargoReader.read("yard", ReadContext.of(out).withOptions(Map.of("variants", variants)));
  }

  /** Where the parts of a scene stand, in metres. */
  private static Map<String, String> places(Scene scene) {
    Map<String, String> places = new TreeMap<>();
    double unit = scene.frame().metresPerUnit();
    for (int i = 0; i < scene.nodes().size(); i++) {
      var world = scene.worldMatrices()[i];
      places.put(
          scene.paths().get(i),
          scene.nodes().get(i).content().kind()
              + String.format(
                  " %.4f %.4f %.4f", world.m30() * unit, world.m31() * unit, world.m32() * unit));
    }
    return places;
  }

  @Test
  void eachChoiceGivesTheFarSideThatItWouldHaveGiven() throws Exception {
    List<Step> steps =
        List.of(new Step("g", "rename", Map.of("find", "leaf", "with", "wing"), true, List.of()));
    for (String format : List.of("usda", "usdc", "usdz")) {
      land(LandingOptions.of(format).with("unit", "m"), steps);
      for (String gate : List.of("shut", "open")) {
        for (String light : List.of("on", "off")) {
          String choice = "/Yard{gate=" + gate + "} /Yard{light=" + light + "}";
          Scene wanted = far(near(choice), steps);
          assertThat(places(back(choice))).as(format + " " + choice).isEqualTo(places(wanted));
        }
      }
      assertThat(proof.rows())
          .noneMatch(r -> r.about() == Capability.UNCHOSEN)
          .noneMatch(r -> r.verdict() == LedgerRow.Verdict.LOST);
      assertThat(back("").composition().choices())
          .extracting(c -> c.set() + "=" + c.chosen())
          .containsExactlyInAnyOrder("gate=shut", "light=on");
    }
    assertThat(back("").paths())
        .as("parts keep their order")
        .containsExactlyElementsOf(far(near(""), steps).paths());
  }

  @Test
  void setsThatAreChosenInAnyOrderStayApart() throws Exception {
    // The lamp is gone with the second set before the first is looked at, and the other way round.
    for (String order : List.of("[\"gate\", \"light\"]", "[\"light\", \"gate\"]")) {
      cargo.with("yard.usda", STAGE.replace("[\"gate\", \"light\"]", order));
      land(LandingOptions.of("usda").with("unit", "m"), List.of());
      for (String choice :
          List.of("/Yard{gate=open} /Yard{light=off}", "/Yard{gate=shut} /Yard{light=off}")) {
        assertThat(places(back(choice)))
            .as(order + choice)
            .isEqualTo(places(far(near(choice), List.of())));
      }
    }
  }

  @Test
  void sizesOfLightsFollowTheUnit() throws Exception {
    land(LandingOptions.of("usda").with("unit", "m"), List.of());
    assertThat(new String(out.bytes("yard.usda")).replaceAll("\\s+", " "))
        .contains("float inputs:radius = 0.08");
    Scene back = back("");
    Map<String, Object> light = new HashMap<>(back.lights().get(0).properties());
    assertThat((Double) light.get("inputs:radius")).isCloseTo(0.08, within(1e-7));
    double near = near("").lights().get(0).intensity();
    assertThat(back.lights().get(0).intensity()).isCloseTo(near, within(1e-6 * near));
    assertThat(near).as("nits · π r²").isCloseTo(5 * Math.PI * 0.08 * 0.08, within(1e-6));
  }

  @Test
  void aVariantThatCannotBeReadStopsNoLanding() throws Exception {
    cargo.with("broken.usda", "#usda 1.0\ndef \"a\" {");
    cargo.with(
        "yard.usda",
        STAGE.replace(
            "\"off\" { }", "\"off\" { def \"x\" ( references = @broken.usda@</a> ) { } }"));
    land(LandingOptions.of("usda").with("unit", "m"), List.of());
    assertThat(proof.rows())
        .filteredOn(r -> r.about() == Capability.UNCHOSEN)
        .singleElement()
        .matches(r -> r.verdict() == LedgerRow.Verdict.LOST)
        .matches(r -> r.note().contains("{light=off} cannot be read: broken.usda, line 2"));
    assertThat(places(back("/Yard{gate=open}")))
        .isEqualTo(places(far(near("/Yard{gate=open}"), List.of())));
  }

  @Test
  void chosenVariantsAloneLandWhereThatIsAsked() throws Exception {
    land(LandingOptions.of("usda").with("keepVariants", false), List.of());
    assertThat(new String(out.bytes("yard.usda"))).doesNotContain("variantSet");
    assertThat(proof.rows())
        .anyMatch(r -> r.about() == Capability.UNCHOSEN && r.verdict() == LedgerRow.Verdict.LOST);
  }

  @Test
  void aFileForEachPartSaysThatItHasNoVariants() throws Exception {
    LandingOptions each =
        LandingOptions.of("usda")
            .withParts(new PartFiles(true, "{asset}_{part}", PartFiles.Origin.PIVOT));
    land(each, List.of());
    assertThat(proof.rows())
        .anyMatch(r -> r.about() == Capability.UNCHOSEN && r.verdict() == LedgerRow.Verdict.LOST);
  }

  /** The same stage with sets that both move the gate: the first where it is open alone. */
  private static String bothMoveTheGate(String order) {
    return STAGE
        .replace(
            "\"shut\" { over \"gate\" { double3 xformOp:translate = (0, 0, 0)\n",
            "\"shut\" { over \"gate\" {\n")
        .replace(
            "def Xform \"gate\" {",
            "def Xform \"gate\" { double3 xformOp:translate.timeSamples = {}\n")
        .replace("[\"gate\", \"light\"]", order)
        .replace(
            "{ def SphereLight",
            "{ over \"gate\" { double3 xformOp:translate = (5, 0, 0) }\n def SphereLight")
        .replace(
            "\"off\" { }", "\"off\" { over \"gate\" { double3 xformOp:translate = (7, 0, 0) } }");
  }

  @Test
  void whatTwoSetsChangeFollowsTheOneThatIsChosen() throws Exception {
    cargo.with("yard.usda", bothMoveTheGate("[\"gate\", \"light\"]"));
    land(LandingOptions.of("usda").with("unit", "m"), List.of());
    assertThat(proof.rows()).noneMatch(r -> r.verdict() == LedgerRow.Verdict.LOST);
    for (String choice :
        List.of("", "/Yard{gate=open}", "/Yard{light=off}", "/Yard{gate=open} /Yard{light=off}")) {
      assertThat(places(back(choice))).as(choice).isEqualTo(places(far(near(choice), List.of())));
    }
  }

  @Test
  void aPrimThatTwoSetsBringIsThereWithEither() throws Exception {
    cargo.with(
        "yard.usda",
        STAGE.replace("\"off\" { }", "\"off\" { def Xform \"stop\" { def Xform \"ball\" { } } }"));
    land(LandingOptions.of("usda").with("unit", "m"), List.of());
    assertThat(proof.rows()).noneMatch(r -> r.verdict() == LedgerRow.Verdict.LOST);
    for (String choice :
        List.of("", "/Yard{gate=open}", "/Yard{light=off}", "/Yard{gate=open} /Yard{light=off}")) {
      assertThat(places(back(choice))).as(choice).isEqualTo(places(far(near(choice), List.of())));
    }
  }

  @Test
  void whatTwoSetsTakeAwayStaysAsItIsChosenAndIsTold() throws Exception {
    cargo.with(
        "yard.usda",
        STAGE
            .replace("\"off\" { }", "\"off\" { over \"last\" ( active = false ) { } }")
            .replace(
                "def Xform \"stop\"", "over \"last\" ( active = false ) { } def Xform \"stop\""));
    land(LandingOptions.of("usda").with("unit", "m"), List.of());
    assertThat(places(back(""))).isEqualTo(places(far(near(""), List.of())));
    assertThat(proof.rows())
        .filteredOn(r -> r.about() == Capability.UNCHOSEN)
        .singleElement()
        .matches(r -> r.verdict() == LedgerRow.Verdict.LOST);
  }
}
