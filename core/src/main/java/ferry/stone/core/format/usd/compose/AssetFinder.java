package ferry.stone.core.format.usd.compose;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.ReferenceFinder;
import ferry.stone.core.format.usd.layer.UsdFiles;
import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;

/**
 * Files that layers name, by their paths, else as they are likely meant; never out of the cargo.
 */
final class AssetFinder {
  private final UsdFiles files;
  private final ReferenceFinder finder;
  private final Map<String, ReferenceFinder.Match> elsewhere = new LinkedHashMap<>();

  /**
   * @param finder looks for files that are not where layers say; {@code null} for nothing but paths
   */
  AssetFinder(UsdFiles files, ReferenceFinder finder) {
    this.files = files;
    this.finder = finder;
  }

  UsdFiles files() {
    return files;
  }

  /** Found otherwise than by their paths: what is written, and what was found. */
  Map<String, ReferenceFinder.Match> elsewhere() {
    return elsewhere;
  }

  /**
   * @param layer path of the layer that says it, inside of a package with brackets
   */
  Optional<String> find(String written, String layer) throws IOException, FormatException {
    if (written.isEmpty()) {
      return Optional.empty();
    }
    String path = AssetPaths.resolved(written, layer);
    if (finder == null || layer.endsWith("]")) {
      return files.has(path) ? Optional.of(path) : Optional.empty();
    }
    int bracket = written.indexOf('[');
    String file = bracket < 0 ? written : written.substring(0, bracket);
    ReferenceFinder.Match match = finder.find(file, layer).orElse(null);
    if (match == null) {
      return Optional.empty();
    }
    path = match.resource() + (bracket < 0 ? "" : written.substring(bracket));
    if (!files.has(path)) {
      return Optional.empty();
    }
    boolean asWritten =
        match.how() == ReferenceFinder.How.PATH || match.how() == ReferenceFinder.How.CHOSEN;
    if (!asWritten) {
      elsewhere.put(written, new ReferenceFinder.Match(path, match.how()));
    }
    return Optional.of(path);
  }
}
