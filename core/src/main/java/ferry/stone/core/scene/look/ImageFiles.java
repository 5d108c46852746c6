package ferry.stone.core.scene.look;

import java.io.IOException;
import java.util.List;
import java.util.function.Supplier;

/**
 * The image files of a cargo, also those that no material names: steps that put images on materials
 * look for them here. They are read when asked for.
 */
public interface ImageFiles {
  ImageFiles NONE =
      new ImageFiles() {
        @Override
        public List<String> paths() {
          return List.of();
        }

        @Override
        public byte[] read(String path) throws IOException {
          throw new IOException(path + ": there is no such image in the cargo.");
        }
      };

  /** Paths of all images, as {@link Texture#resource} names them. */
  List<String> paths();

  byte[] read(String path) throws IOException;

  /**
   * What was once found out about an image; made when it is not known.
   *
   * @param key of the image and of what was found out
   */
  default <T> T known(String key, Class<T> type, Supplier<T> make) {
    return make.get();
  }
}
