package ferry.stone.core.format.collada;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.losses.ReaderSays;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.mesh.Attribute;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** What a COLLADA file holds and is not read, or not as it stands: told once, with its place. */
class ColladaFaultsTest {
  private static final String PLATED = DaeText.MATERIALS + DaeText.geometries(DaeText.PLATE);
  private static final String SHOWN = "<node name=\"a\">" + DaeText.BOUND + "</node>";
  private static final String RIG = ColladaRigTest.RIG + ColladaRigTest.MOTION;

  private static String plate(String from, String to) {
    assertThat(PLATED.contains(from)).as("\"" + from + "\" is in the file").isTrue();
    String changed = PLATED.replace(from, to);
    return DaeText.file("", changed, SHOWN);
  }

  private static String rig(String from, String to) {
    assertThat(RIG.contains(from)).as("\"" + from + "\" is in the file").isTrue();
    String changed = RIG.replace(from, to);
    return DaeText.file("", changed, ColladaRigTest.ARM);
  }

  private static String lens(String library, String kind, String inside) {
    return DaeText.file(
        "",
        "<"
            + library
            + "><"
            + kind
            + " id=\"x\" name=\"the_one\">"
            + inside
            + "</"
            + kind
            + "></"
            + library
            + ">",
        "<node name=\"a\"><instance_" + kind + " url=\"#x\"/></node>");
  }

  static Stream<Arguments> faults() {
    return Stream.of(
        Arguments.of(
            "camera-not-read",
            lens("library_cameras", "camera", "<optics><technique_common/></optics>")),
        Arguments.of(
            "light-not-read",
            lens(
                "library_lights",
                "light",
                "<technique_common><ambient><color>1 1 1</color></ambient></technique_common>")),
        Arguments.of(
            "effect-not-read",
            plate("<effect id=\"fx2\"><profile_COMMON>", "<effect id=\"fx2\"><profile_GLSL>")
                .replace(
                    "</lambert></technique>\n  </profile_COMMON>",
                    "</lambert></technique>\n  </profile_GLSL>")
                .replaceAll("(?s)(fx2\"><profile_GLSL>.*?)</profile_COMMON>", "$1</profile_GLSL>")),
        Arguments.of(
            "geometry-not-read",
            DaeText.file(
                "",
                "<library_geometries><geometry id=\"plate\"><spline/></geometry>"
                    + "</library_geometries>",
                "<node name=\"a\"><instance_geometry url=\"#plate\"/></node>")),
        Arguments.of(
            "holes-bridged",
            plate(
                "<polylist count=\"1\" material=\"SYM_B\">\n    <input semantic=\"VERTEX\""
                    + " source=\"#vtx\" offset=\"0\"/>\n    <vcount>4</vcount><p>1 4 5 2</p>"
                    + "</polylist>",
                "<polygons count=\"1\" material=\"SYM_B\"><input semantic=\"VERTEX\""
                    + " source=\"#vtx\" offset=\"0\"/><ph><p>1 4 5 2</p><h>0 1 2</h></ph>"
                    + "</polygons>")),
        Arguments.of(
            "layer-too-short",
            plate(
                "<accessor source=\"#uv1-a\" count=\"2\" stride=\"2\">\n      <param name=\"S\""
                    + " type=\"float\"/><param name=\"T\" type=\"float\"/></accessor>",
                "<accessor source=\"#uv1-a\" count=\"4\" stride=\"1\"><param name=\"S\""
                    + " type=\"float\"/></accessor>")),
        Arguments.of(
            "opacity-map-inverted",
            plate(
                "<transparent opaque=\"A_ONE\"><color>1 1 1 1</color></transparent>",
                "<transparent opaque=\"RGB_ZERO\"><texture texture=\"samp\" texcoord=\"UVB\"/>"
                    + "</transparent>")),
        Arguments.of(
            "texture-unknown",
            plate("<diffuse><texture texture=\"samp\"", "<diffuse><texture texture=\"nothing\"")),
        Arguments.of("shape-out-of-range", rig(">tall<", ">gone<")),
        Arguments.of(
            "weights-out-of-range", rig("<v>0 0  1 0  0 1 1 2</v>", "<v>0 0  1 0  0 1 1 9</v>")),
        Arguments.of("interpolation-not-read", rig("STEP STEP", "CARDINAL CARDINAL")),
        Arguments.of("keys-out-of-order", rig("0 2", "2 0")),
        Arguments.of("motion-broken", rig("0 180", "0 NaN")));
  }

  @ParameterizedTest(name = "{0}")
  @MethodSource("faults")
  void theFaultIsToldOnceWithItsPlaceAndTheRestIsRead(String code, String file) throws Exception {
    Findings findings = new Findings();
    Scene scene = DaeText.read(file, findings);
    List<Finding> told = findings.list().stream().filter(f -> f.code().equals(code)).toList();
    assertThat(told).as(codes(findings)).hasSize(1);
    assertThat(told.get(0).where()).isNotBlank();
    assertThat(told.get(0).message()).matches("(?s)[A-Z\"].*\\.");
    if (ReaderSays.isLoss(code)) {
      assertThat(told.get(0).severity())
          .as("a loss is more than a note")
          .isNotEqualTo(Severity.NOTE);
    }
    assertThat(scene.nodes()).isNotEmpty();
  }

  private static String codes(Findings findings) {
    return findings.list().stream().map(Finding::code).toList().toString();
  }

  @Test
  void soundFilesTellNothingOfIt() throws Exception {
    for (String file :
        List.of(DaeText.file("", PLATED, SHOWN), DaeText.file("", RIG, ColladaRigTest.ARM))) {
      Findings findings = new Findings();
      DaeText.read(file, findings);
      faults()
          .forEach(
              fault -> assertThat(findings.list()).noneMatch(f -> f.code().equals(fault.get()[0])));
    }
  }

  @Test
  void aLayerThatIsTooShortLeavesTheOthers() throws Exception {
    String file =
        (String)
            faults().filter(f -> f.get()[0].equals("layer-too-short")).findFirst().get().get()[1];
    Scene scene = DaeText.read(file);
    assertThat(scene.meshes().get(0).all(Attribute.Semantic.UV)).hasSize(1);
    assertThat(scene.meshes().get(0).first(Attribute.Semantic.NORMAL)).isPresent();
  }

  @Test
  void aTextureWithoutImageLeavesTheOtherChannels() throws Exception {
    String file =
        (String)
            faults().filter(f -> f.get()[0].equals("texture-unknown")).findFirst().get().get()[1];
    Scene scene = DaeText.read(file);
    var oak = scene.materials().stream().filter(m -> m.name().equals("oak")).findFirst().get();
    assertThat(oak.channels()).doesNotContainKey(Channel.BASE_COLOUR);
    assertThat(oak.channels().keySet()).isNotEmpty();
  }
}
