package ferry.stone.core.format.gltf.raw;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.scene.look.Wrap;

/**
 * How an image is repeated and filtered, as the standard's constants; 0 where nothing is said. Kept
 * with a texture's use as text, so that what only glTF knows is written again.
 */
public record GltfSampler(int wrapS, int wrapT, int magFilter, int minFilter) {
  private static final String WORD = "sampler";
  private static final int CLAMP_TO_EDGE = 33071;
  private static final int REPEAT = 10497;
  private static final int MIRRORED_REPEAT = 33648;
  private static final int NEAREST = 9728;
  private static final int LINEAR = 9729;
  private static final int NEAREST_MIPMAP_NEAREST = 9984;
  private static final int LINEAR_MIPMAP_LINEAR = 9987;

  private static GltfSampler of(Wrap wrap) {
    return new GltfSampler(
        code(wrap.u()),
        code(wrap.v()),
        wrap.sharp() ? NEAREST : LINEAR,
        wrap.sharp() ? NEAREST_MIPMAP_NEAREST : LINEAR_MIPMAP_LINEAR);
  }

  private static int code(Wrap.Edge edge) {
    return switch (edge) {
      case REPEAT -> REPEAT;
      case CLAMP -> CLAMP_TO_EDGE;
      case MIRROR -> MIRRORED_REPEAT;
    };
  }

  private static Wrap.Edge edge(int code) {
    return code == CLAMP_TO_EDGE
        ? Wrap.Edge.CLAMP
        : code == MIRRORED_REPEAT ? Wrap.Edge.MIRROR : Wrap.Edge.REPEAT;
  }

  public Wrap wrap() {
    return new Wrap(edge(wrapS), edge(wrapT), magFilter == NEAREST);
  }

  public static GltfSampler read(JsonNode json) {
    return new GltfSampler(
        json.path("wrapS").asInt(REPEAT),
        json.path("wrapT").asInt(REPEAT),
        json.path("magFilter").asInt(0),
        json.path("minFilter").asInt(0));
  }

  /** The sampler a use was read with where it still says the same, or the usual one. */
  public static GltfSampler of(String options, Wrap wrap) {
    String[] words = options.split(" ");
    if (words.length == 5 && words[0].equals(WORD)) {
      GltfSampler read =
          new GltfSampler(
              Integer.parseInt(words[1]),
              Integer.parseInt(words[2]),
              Integer.parseInt(words[3]),
              Integer.parseInt(words[4]));
      if (read.wrap().equals(wrap)) {
        return read;
      }
    }
    return of(wrap);
  }

  public String text() {
    return String.join(
        " ",
        WORD,
        String.valueOf(wrapS),
        String.valueOf(wrapT),
        String.valueOf(magFilter),
        String.valueOf(minFilter));
  }

  public void write(ObjectNode json) {
    if (magFilter != 0) {
      json.put("magFilter", magFilter);
    }
    if (minFilter != 0) {
      json.put("minFilter", minFilter);
    }
    json.put("wrapS", wrapS).put("wrapT", wrapT);
  }
}
