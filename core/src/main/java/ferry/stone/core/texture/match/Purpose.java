package ferry.stone.core.texture.match;

import ferry.stone.core.scene.look.Channel;
import java.util.ArrayList;
import java.util.List;

/**
 * What an image is for, by its name and its pixels.
 *
 * @param roles empty where nothing says it
 * @param sure 0 to 1
 * @param reasons on which it rests
 */
record Purpose(List<ImageRole> roles, double sure, List<String> reasons) {
  /** How sure pixels alone are of directions, and of colours. */
  private static final double DIRECTIONS = 0.75;

  private static final double COLOURS = 0.6;
  private static final double MOST = 0.99;

  static Purpose of(ChannelWords.Read name, ImageEvidence pixels) {
    String look = pixels.words();
    if (name.roles().isEmpty()) {
      List<String> reasons = List.of("its pixels: " + look);
      return pixels.isNormalMap()
          ? new Purpose(List.of(ImageRole.of(Channel.NORMAL)), DIRECTIONS, reasons)
          : pixels.isColour()
              ? new Purpose(List.of(ImageRole.of(Channel.BASE_COLOUR)), COLOURS, reasons)
              : new Purpose(List.of(), 0, reasons);
    }
    List<String> reasons = new ArrayList<>();
    reasons.add("\"" + name.word() + "\" in its name");
    double fits =
        name.roles().stream()
            .mapToDouble(r -> pixels.fits(r.channel(), r.component()))
            .min()
            .orElse(1);
    if (fits != 1) {
      reasons.add((fits > 1 ? "its pixels agree: " : "its pixels do not agree: ") + look);
    }
    return new Purpose(name.roles(), Math.min(MOST, name.sure() * fits), reasons);
  }
}
