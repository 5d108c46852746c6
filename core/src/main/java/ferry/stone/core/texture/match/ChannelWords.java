package ferry.stone.core.texture.match;

import ferry.stone.core.scene.look.Channel;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * What words of file names say of channels: the habits of several trades and languages. Common
 * practice, no source.
 */
final class ChannelWords {
  /** How sure a whole word, an abbreviation and a single letter are. */
  private static final double WORD = 0.98;

  private static final double SHORT = 0.92;
  private static final double LETTER = 0.78;
  private static final int MOST_JOINED = 3;

  private static final Map<String, Word> WORDS = new HashMap<>();

  private record Word(List<ImageRole> roles, double sure) {}

  static {
    add(
        Channel.BASE_COLOUR,
        WORD,
        "basecolor",
        "basecolour",
        "albedo",
        "diffuse",
        "diffusecolor",
        "basiscolor",
        "grundfarbe",
        "farbe",
        "couleur",
        "difuso",
        "colorbase");
    add(
        Channel.BASE_COLOUR,
        SHORT,
        "base",
        "color",
        "colour",
        "col",
        "diff",
        "dif",
        "alb",
        "bc",
        "bcol",
        "basecol");
    add(Channel.BASE_COLOUR, LETTER, "d", "c", "a");
    add(Channel.METALLIC, WORD, "metallic", "metalness", "metal", "metallisch", "metalico");
    add(Channel.METALLIC, SHORT, "met", "mtlness", "metl");
    add(Channel.METALLIC, LETTER, "m");
    add(Channel.ROUGHNESS, WORD, "roughness", "rough", "rauheit", "rugosite", "rugosidad");
    add(Channel.ROUGHNESS, SHORT, "rgh", "rou");
    add(Channel.ROUGHNESS, LETTER, "r");
    add(
        Channel.NORMAL,
        WORD,
        "normal",
        "normals",
        "normalmap",
        "normale",
        "normalgl",
        "normalogl",
        "normalopengl");
    add(Channel.NORMAL, SHORT, "nrm", "nor", "norm", "nml", "nmap");
    add(Channel.NORMAL, LETTER, "n");
    add(Channel.BUMP, WORD, "bump", "bumpmap");
    add(Channel.BUMP, LETTER, "b");
    add(
        Channel.DISPLACEMENT,
        WORD,
        "height",
        "heightmap",
        "displacement",
        "displace",
        "hoehe",
        "hauteur",
        "altura");
    add(Channel.DISPLACEMENT, SHORT, "disp", "dsp");
    add(Channel.DISPLACEMENT, LETTER, "h");
    add(Channel.OCCLUSION, WORD, "occlusion", "ambientocclusion", "ao", "verdeckung");
    add(Channel.OCCLUSION, SHORT, "occ", "amb");
    add(Channel.EMISSIVE, WORD, "emissive", "emission", "emit", "glow", "leuchten");
    add(Channel.EMISSIVE, SHORT, "emi", "ems", "em");
    add(Channel.EMISSIVE, LETTER, "e");
    add(Channel.OPACITY, WORD, "opacity", "alpha", "transparency", "cutout", "deckkraft");
    add(Channel.OPACITY, SHORT, "opa", "mask", "trans");
    add(Channel.OPACITY, LETTER, "o");
    add(Channel.SPECULAR, WORD, "specular", "spec", "glanz");
    add(Channel.CLEARCOAT, WORD, "clearcoat", "coat");
    add(Channel.CLEARCOAT_ROUGHNESS, WORD, "clearcoatroughness", "coatroughness");
    add(Channel.CLEARCOAT_NORMAL, WORD, "clearcoatnormal", "coatnormal");
    add(Channel.SHEEN, WORD, "sheen", "sheencolor", "sheencolour");
    add(Channel.SHEEN_ROUGHNESS, WORD, "sheenroughness");
    add(Channel.TRANSMISSION_WEIGHT, WORD, "transmission");
    add(Channel.THICKNESS, WORD, "thickness");
    add(Channel.IRIDESCENCE, WORD, "iridescence");
    add(Channel.ANISOTROPY, WORD, "anisotropy");
    Word gloss = new Word(List.of(ImageRole.of(Channel.ROUGHNESS).opposite()), WORD);
    for (String word : new String[] {"gloss", "glossiness", "smoothness", "smooth", "glossy"}) {
      WORDS.put(word, gloss);
    }
    Word down = new Word(List.of(ImageRole.of(Channel.NORMAL).opposite()), WORD);
    for (String word : new String[] {"normaldx", "normaldown", "nrmdx", "nordx", "ndx"}) {
      WORDS.put(word, down);
    }
    for (String word : new String[] {"nrmgl", "norgl", "ngl", "normalup"}) {
      WORDS.put(word, new Word(List.of(ImageRole.of(Channel.NORMAL)), WORD));
    }
    packed("orm", "occlusionroughnessmetallic", 'o', 'r', 'm');
    packed("arm", "aoroughnessmetallic", 'o', 'r', 'm');
    packed("rma", "roughnessmetallicocclusion", 'r', 'm', 'o');
    packed("mra", "metallicroughnessocclusion", 'm', 'r', 'o');
    packed("mro", "metallicroughnessao", 'm', 'r', 'o');
    packed("rmo", "roughmetalao", 'r', 'm', 'o');
    // As glTF 2.0 section 3.9.2 packs them: green and blue.
    packed("metallicroughness", "metalrough", ' ', 'r', 'm');
    packed("metalroughness", "roughnessmetallic", ' ', 'r', 'm');
    // Metallic with its smoothness in the alpha.
    List<ImageRole> smooth =
        List.of(
            ImageRole.of(Channel.METALLIC).from('r'),
            ImageRole.of(Channel.ROUGHNESS).from('a').opposite());
    WORDS.put("metallicsmoothness", new Word(smooth, WORD));
    WORDS.put("metallicgloss", new Word(smooth, WORD));
  }

  private ChannelWords() {}

  private static void add(Channel channel, double sure, String... words) {
    for (String word : words) {
      WORDS.put(word, new Word(List.of(ImageRole.of(channel)), sure));
    }
  }

  private static void packed(String word, String other, char red, char green, char blue) {
    List<ImageRole> roles = new ArrayList<>();
    char[] order = {red, green, blue};
    for (int i = 0; i < order.length; i++) {
      Channel channel =
          switch (order[i]) {
            case 'o' -> Channel.OCCLUSION;
            case 'r' -> Channel.ROUGHNESS;
            case 'm' -> Channel.METALLIC;
            default -> null;
          };
      if (channel != null) {
        roles.add(ImageRole.of(channel).from("rgb".charAt(i)));
      }
    }
    // Three letters may be a word of their own, such as an arm.
    WORDS.put(word, new Word(List.copyOf(roles), word.length() == 3 ? SHORT : WORD));
    WORDS.put(other, new Word(List.copyOf(roles), WORD));
  }

  /**
   * @param roles what the image is for; empty where its name says nothing
   * @param sure 0 to 1
   * @param word the words that say it
   * @param subject what is left of the name
   */
  record Read(List<ImageRole> roles, double sure, String word, List<String> subject) {}

  /** Reads a file name without its ending. The last word that says something counts. */
  static Read of(String stem) {
    List<String> words = NameTokens.telling(NameTokens.of(stem));
    Read best = new Read(List.of(), 0, "", words);
    for (int end = words.size(); end > 0; end--) {
      for (int count = Math.min(MOST_JOINED, end); count > 0; count--) {
        String joined = String.join("", words.subList(end - count, end));
        Word word = WORDS.get(joined);
        // A letter is a channel at the end of a name alone.
        boolean letter = joined.length() == 1;
        if (word == null || (letter && (end < words.size() || words.size() == 1))) {
          continue;
        }
        List<String> subject = new ArrayList<>(words.subList(0, end - count));
        List<String> after = words.subList(end, words.size());
        subject.addAll(after);
        double sure = word.sure - 0.05 * after.size();
        if (sure > best.sure) {
          best = new Read(word.roles, sure, joined, List.copyOf(subject));
        }
        break;
      }
    }
    return best;
  }
}
