package ferry.stone.core.routine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.SchemaCheck;
import ferry.stone.core.handling.PartRef;
import ferry.stone.core.handling.Step;
import ferry.stone.core.landing.LandingOptions;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Routines as JSON: there and back, as their schema says, refused in a sentence. */
class RoutinesTest {
  private static final String PLAIN =
      """
      {"schema": 1, "id": "plain", "name": "Plain", "shore": "y-up-metre",
       "landings": [{"format": "glb"}]}
      """;

  @Test
  void builtInRoutinesComeBackAndAreAsTheSchemaSays() throws Exception {
    assertThat(Routines.builtIn()).hasSize(4);
    for (Routine routine : Routines.builtIn()) {
      String json = Routines.write(routine);
      assertThat(Routines.read(json)).isEqualTo(routine);
      assertThat(Routines.write(Routines.read(json))).isEqualTo(json);
      assertThat(SchemaCheck.wrong(new ObjectMapper().readTree(json), "routine.schema.json"))
          .as(routine.id())
          .isEmpty();
    }
  }

  @Test
  void theHashIsOfWhatIsDoneAndNotOfTheName() {
    Routine plain = Routines.read(PLAIN);
    Routine named = Routines.read(PLAIN.replace("Plain", "Other").replace("\"plain\"", "\"o\""));
    Routine other = Routines.read(PLAIN.replace("glb", "gltf"));
    assertThat(Routines.hash(named)).isEqualTo(Routines.hash(plain));
    assertThat(Routines.hash(other)).isNotEqualTo(Routines.hash(plain));
  }

  @Test
  void landingsFollowTheShoreWhereTheySayNothing() {
    Routine routine =
        Routines.read(PLAIN.replace("y-up-metre", "z-up-centimetre").replace("glb", "fbx"));
    assertThat(routine.landingOptions().get(0))
        .isEqualTo(LandingOptions.on(routine.shore(), "fbx"));
    assertThat(routine.folders()).containsExactly("");
    Routine two =
        Routines.read(PLAIN.replace("[{", "[{\"format\":\"glb\"},{\"format\":\"fbx\"},{"));
    assertThat(two.folders()).containsExactly("glb/", "fbx/", "glb-2/");
  }

  @Test
  void partsThatWerePickedByHandAreToldByTheirNames() {
    Step picked =
        new Step(
            "a",
            "remove",
            Map.of("what", "parts"),
            true,
            List.of(),
            "",
            "",
            List.of(new PartRef("yard/crate, old", 1, 1, false), new PartRef("crate", 1, 2, false)),
            Map.of());
    assertThat(RoutineStep.of(picked).pattern()).isEqualTo("crate? old, crate");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "\"schema\": 1,|\"schema\": 9,|this version reads routines of schema 1",
        "\"plain\"|\"Plain!\"|small letters, digits and dashes",
        "\"y-up-metre\"|\"moon\"|it is a shore as an object, or one of",
        "{\"format\": \"glb\"}||a routine has 1 to 12 landings",
        "\"glb\"|\"tape\"|tape",
        "\"shore\":|\"moor\": 1, \"shore\":|no member \"moor\"",
        "\"name\":|\"steps\": [{\"kind\": \"fly\"}], \"name\":|There is no step \"fly\"",
        "\"name\":|\"steps\": [{\"kind\": \"scale\", \"params\": {\"by\": 2}}], \"name\":|Scale",
        "\"name\":|\"unit\": \"parsec\", \"name\":|\"unit\" is one of",
        "\"name\":|\"name\": \"twice\", \"name\":|Duplicate",
        "}]|}|line"
      })
  void whatIsNoRoutineIsRefusedInASentence(String part, String instead, String told) {
    String broken = PLAIN.replace(part, instead == null ? "" : instead);
    assertThatThrownBy(() -> Routines.read(broken))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining(told);
  }
}
