package ferry.stone.core.texture.match;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.texture.match.TextureBindings.Put;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What the user put on channels, as text that people read and change. */
class TextureBindingsTest {
  @ParameterizedTest
  @CsvSource({
    "normal @ oak = tex/n.png, NORMAL, oak, tex/n.png, '', false",
    "roughness @ oak = orm.png [g], ROUGHNESS, oak, orm.png, g, false",
    "'roughness @ oak = m.png [a, opposite]', ROUGHNESS, oak, m.png, a, true",
    "normal @ oak = n.png [opposite], NORMAL, oak, n.png, '', true",
    "base color @ \"a = b\" = c d.png, BASE_COLOUR, a = b, c d.png, '', false",
    "Base_Colour@oak=c.png, BASE_COLOUR, oak, c.png, '', false",
    "emissive @ oak = -, EMISSIVE, oak, , '', false"
  })
  void aBindingIsReadAndWrittenTheSame(
      String text, Channel channel, String material, String image, String part, boolean opposite) {
    List<Put> puts = TextureBindings.of(text);
    char component = part.isEmpty() ? 0 : part.charAt(0);
    Put put = new Put(material, new ImageRole(channel, component, opposite), image);
    assertThat(puts).containsExactly(put);
    String written =
        TextureBindings.with(
            "", channel, material, image == null ? "-" : TextureBindings.image(image, put.role()));
    assertThat(TextureBindings.of(written)).containsExactly(put);
  }

  @Test
  void anotherImageForAChannelTakesThePlaceOfTheFirst() {
    String text = "Base Color @ oak = a.png; normal @ oak = n.png";
    String changed = TextureBindings.with(text, Channel.BASE_COLOUR, "oak", "b.png");
    assertThat(TextureBindings.of(changed))
        .extracting(Put::image)
        .containsExactlyInAnyOrder("b.png", "n.png");
    assertThat(TextureBindings.with(changed, Channel.BASE_COLOUR, "oak", null))
        .isEqualTo("normal @ oak = n.png");
  }

  @Test
  void whatDoesNotFitIsShown() {
    assertThatThrownBy(() -> TextureBindings.of("normal = n.png"))
        .hasMessageContaining("normal @ lantern = tex/lantern_n.png");
    assertThatThrownBy(() -> TextureBindings.of("shine @ oak = n.png"))
        .hasMessageContaining("there is no channel \"shine\"");
    assertThatThrownBy(() -> TextureBindings.of("normal @ oak"))
        .hasMessageContaining("not \"normal @ oak\"");
  }
}
