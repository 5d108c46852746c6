package ferry.stone.core.format.usd.write.layers;

import ferry.stone.core.format.usd.layer.UsdLayer;

/**
 * A layer with the name of its file.
 *
 * @param name beside the main file
 */
public record LayerFile(String name, UsdLayer layer) {}
