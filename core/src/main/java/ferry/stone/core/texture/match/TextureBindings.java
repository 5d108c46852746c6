package ferry.stone.core.texture.match;

import ferry.stone.core.field.HandBindings;
import ferry.stone.core.scene.look.Channel;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Images that the user put on materials: {@code normal @ lantern = tex/n.png}. Behind the image may
 * stand, in brackets, the part of it that is read (r, g, b or a) and {@code opposite}; {@code -}
 * takes away what is there. Names are quoted as in {@link HandBindings}.
 */
public final class TextureBindings {
  private static final String FORM =
      "an image is put by channel, @, material, = and its path, like normal @ lantern ="
          + " tex/lantern_n.png";

  private static final Pattern PARTS =
      Pattern.compile("(.*?)(?:\\s*\\[([rgba])?(?:\\s*,?\\s*(opposite))?\\])?");

  private TextureBindings() {}

  /**
   * @param image {@code null} to take away what there is
   */
  public record Put(String material, ImageRole role, String image) {
    public Channel channel() {
      return role.channel();
    }
  }

  /**
   * @throws IllegalArgumentException in a sentence that shows what does not fit
   */
  public static List<Put> of(String text) {
    List<Put> puts = new ArrayList<>();
    for (HandBindings.Said said : HandBindings.of(text, FORM).all()) {
      Channel channel =
          Channel.named(said.key())
              .orElseThrow(
                  () ->
                      new IllegalArgumentException(
                          "there is no channel \"" + said.key() + "\"; " + FORM));
      if (said.path().isEmpty()) {
        throw new IllegalArgumentException(FORM + "; not \"" + said.key() + " = …\"");
      }
      Matcher parts = PARTS.matcher(said.value());
      boolean whole = !parts.matches() || said.value().equals(HandBindings.NOTHING);
      char component = whole || parts.group(2) == null ? 0 : parts.group(2).charAt(0);
      boolean opposite = !whole && parts.group(3) != null;
      String image =
          said.value().equals(HandBindings.NOTHING) ? null : whole ? said.value() : parts.group(1);
      puts.add(new Put(said.path(), new ImageRole(channel, component, opposite), image));
    }
    return puts;
  }

  /** An image with the role that it has, as it is written behind {@code =}. */
  public static String image(String path, ImageRole role) {
    String part = role.component() == 0 ? "" : String.valueOf(role.component());
    String opposite = role.inverted() ? (part.isEmpty() ? "opposite" : ", opposite") : "";
    return part.isEmpty() && opposite.isEmpty() ? path : path + " [" + part + opposite + "]";
  }

  /**
   * The text with another binding.
   *
   * @param image as it is written behind {@code =}; {@code -} for none, {@code null} to take back
   *     what was said
   */
  public static String with(String text, Channel channel, String material, String image) {
    HandBindings bindings = HandBindings.of(text, FORM);
    String key = channel.label();
    for (HandBindings.Said said : bindings.all()) {
      if (said.path().equals(material)
          && Channel.named(said.key()).filter(c -> c == channel).isPresent()) {
        key = said.key();
      }
    }
    return bindings.with(key, material, image);
  }
}
