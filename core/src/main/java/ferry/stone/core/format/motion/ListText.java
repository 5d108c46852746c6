package ferry.stone.core.format.motion;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.json.JsonReadFeature;
import com.fasterxml.jackson.core.json.JsonWriteFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.util.List;

/**
 * A list of numbers or texts as one text, a JSON array: how a list that gets longer and shorter
 * over time stands among {@code Clip.Words}, which every change of time takes along.
 */
public final class ListText {
  private static final JsonMapper MAPPER =
      JsonMapper.builder()
          .enable(JsonReadFeature.ALLOW_NON_NUMERIC_NUMBERS)
          .disable(JsonWriteFeature.WRITE_NAN_AS_STRINGS)
          .build();

  private ListText() {}

  public static String of(List<?> list) {
    try {
      return MAPPER.writeValueAsString(list);
    } catch (JsonProcessingException e) {
      throw new IllegalArgumentException("no numbers or texts: " + list, e);
    }
  }

  /** The list again; {@code null} for a text that is none. */
  public static List<?> list(String text) {
    try {
      return text.startsWith("[") ? MAPPER.readValue(text, List.class) : null;
    } catch (JsonProcessingException e) {
      return null;
    }
  }
}
