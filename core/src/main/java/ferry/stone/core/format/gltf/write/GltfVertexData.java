package ferry.stone.core.format.gltf.write;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.texture.ColourSpace;

/** Writes the values over vertices, as floats or as 16-bit numbers. */
final class GltfVertexData {
  private final Scene scene;
  private final GltfBuffer buffer;
  private final boolean small;

  /**
   * @param small whether 16-bit numbers are written: positions lie between −1 and 1 then
   */
  GltfVertexData(Scene scene, GltfBuffer buffer, boolean small) {
    this.scene = scene;
    this.buffer = buffer;
    this.small = small;
  }

  int positions(float[] xyz) {
    return small ? buffer.addShorts(xyz, 3, true, true) : buffer.addFloats(xyz, 3, true);
  }

  /** Normals, or what morph targets add to them, which may be longer than 1. */
  int directions(float[] xyz) {
    return small && inRange(xyz, -1)
        ? buffer.addShorts(xyz, 3, true, false)
        : buffer.addFloats(xyz, 3, false);
  }

  /** UVs; tiling ones stay floats. */
  int uvs(float[] uv) {
    boolean flip = scene.uvOrigin() == UvOrigin.BOTTOM_LEFT;
    float[] result = new float[uv.length];
    for (int i = 0; i < uv.length; i++) {
      float value = Float.isFinite(uv[i]) ? uv[i] : 0;
      result[i] = flip && (i & 1) == 1 ? 1 - value : value;
    }
    return small && inRange(result, 0)
        ? buffer.addShorts(result, 2, false, false)
        : buffer.addFloats(result, 2, false);
  }

  private static boolean inRange(float[] values, float lowest) {
    for (float value : values) {
      if (!(value >= lowest && value <= 1)) {
        return false;
      }
    }
    return true;
  }

  /** Vertex colours of files that state no space are sRGB; glTF 2.0 section 3.9.6 is linear. */
  int colours(float[] colours, int components) {
    boolean convert = !scene.linearColours();
    float[] result = new float[colours.length];
    for (int i = 0; i < result.length; i++) {
      double value = Math.max(0, Math.min(1, colours[i]));
      boolean alpha = components == 4 && i % 4 == 3;
      result[i] = (float) (convert && !alpha ? ColourSpace.toLinear(value) : value);
      if (Float.isNaN(result[i])) {
        result[i] = 1;
      }
    }
    return small
        ? buffer.addShorts(result, components, false, false)
        : buffer.addFloats(result, components, false);
  }
}
