package ferry.stone.core.format.fbx.read;

import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.files.TextureBytes;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.LayerBlend;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/** Makes one image of a layered texture. The numbers of blend modes are from memory: no source. */
final class FbxTextureLayers {
  private static final int ADDITIVE = 1;
  private static final int MODULATE = 2;
  private static final int MODULATE_TWICE = 3;

  private FbxTextureLayers() {}

  /**
   * The layers as a PNG, or {@code null} when an image is missing, cannot be read, or is laid over
   * in a way that is not known here.
   *
   * @param record of the layered texture
   * @param images of the layers, the lowest first
   */
  static byte[] blend(FbxRecord record, List<Texture> images, Resources resources) {
    int[] modes = record.at("BlendModes").ints();
    double[] alphas = record.at("Alphas").doubles();
    List<LayerBlend.Layer> layers = new ArrayList<>();
    for (int i = 0; i < images.size(); i++) {
      LayerBlend.Mode mode = mode(i < modes.length ? modes[i] : 0);
      if (!images.get(i).isFound() || mode == null) {
        return null;
      }
      try {
        byte[] file = TextureBytes.read(images.get(i), resources);
        layers.add(
            new LayerBlend.Layer(
                ImageCodec.decode(file, images.get(i).name()),
                mode,
                i < alphas.length ? alphas[i] : 1));
      } catch (IOException e) {
        return null;
      }
    }
    return ImageCodec.encodePng(LayerBlend.blend(layers));
  }

  private static LayerBlend.Mode mode(int written) {
    return switch (written) {
      case ADDITIVE -> LayerBlend.Mode.ADD;
      case MODULATE, MODULATE_TWICE -> LayerBlend.Mode.MULTIPLY;
      case 0, 4, 5 -> LayerBlend.Mode.OVER;
      default -> null;
    };
  }
}
