package ferry.stone.core.format.usd.read.stage;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.compose.UsdStage;
import ferry.stone.core.format.usd.layer.UsdValue;
import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.Map;

/** Files that values name, where the cargo has them. */
public final class NamedFiles {
  /** Tiles of an image: ten in a row, ten rows. */
  private static final int FIRST_TILE = 1001;

  private static final int LAST_TILE = 1101;

  private NamedFiles() {}

  /**
   * Where the files of a value were found, by what is written; tiles one by one.
   *
   * @param layer that says the value
   */
  public static Map<String, Object> of(UsdStage stage, UsdValue value, String layer)
      throws IOException, FormatException {
    Map<String, Object> all = new LinkedHashMap<>();
    for (String written : value.texts()) {
      boolean tiles = written.contains(UsdNames.TILE);
      for (int tile = FIRST_TILE; tile < (tiles ? LAST_TILE : FIRST_TILE + 1); tile++) {
        String one = written.replace(UsdNames.TILE, String.valueOf(tile));
        stage.find(one, layer).ifPresent(found -> all.put(one, found));
      }
    }
    return all;
  }

  /** Whether a value names a file of which there is nothing. */
  public static boolean misses(UsdValue value, Map<String, Object> found) {
    for (String written : value.texts()) {
      String begin = written.split(UsdNames.TILE, 2)[0];
      boolean there = found.keySet().stream().anyMatch(f -> f.startsWith(begin));
      if (!written.isEmpty() && !there) {
        return true;
      }
    }
    return false;
  }
}
