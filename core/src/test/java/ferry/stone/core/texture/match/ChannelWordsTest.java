package ferry.stone.core.texture.match;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.stream.Collectors;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Habits of file names; common practice, no source. */
class ChannelWordsTest {
  @ParameterizedTest
  @CsvSource({
    "lantern_BaseColor, base colour, lantern",
    "T_Lantern_D, base colour, lantern",
    "lantern.albedo.2k, base colour, lantern",
    "lantern-diffuse-1024, base colour, lantern",
    "Laterne_Farbe, base colour, laterne",
    "lanternRoughness, roughness, lantern",
    "lantern_gloss, not roughness, lantern",
    "lantern_Smoothness, not roughness, lantern",
    "lantern_nrm, normal, lantern",
    "lantern_normal_dx, not normal, lantern",
    "lantern_Normal_OpenGL, normal, lantern",
    "post_ambient_occlusion, occlusion, post",
    "post_AO_4k, occlusion, post",
    "post_metalness, metallic, post",
    "T_post_M, metallic, post",
    "post_height, displacement, post",
    "post_emit, emissive, post",
    "post_alpha, opacity, post",
    "ORM_post, occlusion r+roughness g+metallic b, post",
    "post_RMA, roughness r+metallic g+occlusion b, post",
    "post_metallicRoughness, roughness g+metallic b, post",
    "metal_normal, normal, metal",
    "post_01, '', post+01",
    "band_arm_normal, normal, band+arm"
  })
  void wordsSayChannelAndSubject(String name, String roles, String subject) {
    ChannelWords.Read read = ChannelWords.of(name);
    assertThat(
            read.roles().stream()
                .map(
                    r ->
                        (r.inverted() ? "not " : "")
                            + r.channel().label()
                            + (r.component() == 0 ? "" : " " + r.component()))
                .collect(Collectors.joining("+")))
        .isEqualTo(roles);
    assertThat(String.join("+", read.subject())).isEqualTo(subject);
  }
}
