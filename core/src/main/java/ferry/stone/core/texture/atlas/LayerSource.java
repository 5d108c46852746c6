package ferry.stone.core.texture.atlas;

import ferry.stone.core.texture.Pixels;

/**
 * What a material has for a layer above metallic and roughness.
 *
 * @param image or {@code null}
 * @param part of it that is read; 0 for the whole
 * @param factor linear numbers that multiply it
 * @param amount how much directions lean, for a layer's normals
 */
public record LayerSource(Pixels image, char part, double[] factor, double amount) {}
