package ferry.stone.core.landing;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.format.gltf.raw.GltfMaterialExtensions;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.format.usd.write.look.Preview;
import ferry.stone.core.scene.look.Channel;
import java.util.Arrays;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** What formats hold of layers, against what their standards have a place for. */
class LayerTrialTest {
  private static Map<String, Fate> row(Channel channel) {
    return LayerTrial.rows().stream()
        .filter(r -> r.label().equals(channel.label()))
        .findFirst()
        .orElseThrow()
        .fates();
  }

  @Test
  void gltfKeepsAllThatItsRatifiedExtensionsHave() {
    for (var extension : GltfMaterialExtensions.ALL) {
      for (var member : extension.members()) {
        if (member.factor() != null) {
          assertThat(row(member.channel()).get("gltf")).as(member.factor()).isEqualTo(Fate.KEPT);
        }
      }
    }
  }

  @Test
  void aPreviewSurfaceHasItsOwnInputsAndNoOther() {
    Arrays.stream(Channel.values())
        .filter(c -> LayerTrial.rows().stream().anyMatch(r -> r.label().equals(c.label())))
        .forEach(
            c ->
                assertThat(row(c).get("usd") == Fate.KEPT)
                    .as(c.label())
                    .isEqualTo(Preview.INPUTS.containsKey(c)));
  }

  @Test
  void formatsWithoutMaterialsAreNotAmongThem() {
    assertThat(row(Channel.CLEARCOAT)).doesNotContainKeys("stl", "ply", "mdd");
    assertThat(row(Channel.CLEARCOAT)).containsKeys("gltf", "usd", "fbx", "obj");
  }
}
