package ferry.stone.core.format.usd.compose;

import ferry.stone.core.format.files.CargoPath;

/** Paths of files as layers write them, from the layer that writes them; never out of the cargo. */
final class AssetPaths {
  private AssetPaths() {}

  /**
   * @param layer its path, inside of a package with brackets
   */
  static String resolved(String written, String layer) {
    int inside = layer.endsWith("]") ? layer.lastIndexOf('[') : -1;
    int close = inside < 0 ? -1 : layer.indexOf(']', inside);
    String own = inside < 0 ? layer : layer.substring(inside + 1, close);
    int bracket = written.indexOf('[');
    String file = bracket < 0 ? written : written.substring(0, bracket);
    String path = CargoPath.resolve(CargoPath.folder(own), CargoPath.relative(file));
    path += bracket < 0 ? "" : written.substring(bracket);
    return inside < 0 ? path : layer.substring(0, inside + 1) + path + layer.substring(close);
  }
}
