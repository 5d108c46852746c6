package ferry.stone.core.format.gltf.raw;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;

/**
 * How an image is repeated and filtered, as the standard's constants; 0 where nothing is said. Kept
 * with a texture's use as text, so that what only glTF knows is written again.
 */
public record GltfSampler(int wrapS, int wrapT, int magFilter, int minFilter) {
  private static final String WORD = "sampler";
  private static final int CLAMP_TO_EDGE = 33071;
  private static final int REPEAT = 10497;
  private static final int LINEAR = 9729;
  private static final int LINEAR_MIPMAP_LINEAR = 9987;

  public static GltfSampler of(boolean clamp) {
    int wrap = clamp ? CLAMP_TO_EDGE : REPEAT;
    return new GltfSampler(wrap, wrap, LINEAR, LINEAR_MIPMAP_LINEAR);
  }

  public static GltfSampler read(JsonNode json) {
    return new GltfSampler(
        json.path("wrapS").asInt(REPEAT),
        json.path("wrapT").asInt(REPEAT),
        json.path("magFilter").asInt(0),
        json.path("minFilter").asInt(0));
  }

  /** The sampler a use was read with, or the usual one. */
  public static GltfSampler of(String options, boolean clamp) {
    String[] words = options.split(" ");
    if (words.length == 5 && words[0].equals(WORD)) {
      return new GltfSampler(
          Integer.parseInt(words[1]),
          Integer.parseInt(words[2]),
          Integer.parseInt(words[3]),
          Integer.parseInt(words[4]));
    }
    return of(clamp);
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
