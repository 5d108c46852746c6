package ferry.stone.core.format.files;

import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.util.List;

/**
 * The files of a cargo by their relative paths. Only listed and shared paths can be opened, so no
 * name written in a file can lead outside.
 */
public interface Resources {

  /** All paths, with {@code /} between the parts. */
  List<String> paths();

  boolean contains(String path);

  /**
   * Images of a name that many cargos share, whatever its case: no paths of this cargo, but ones
   * that can be opened like them.
   */
  default List<String> shared(String name) {
    return List.of();
  }

  /** Size in bytes of a listed file. */
  long size(String path);

  /** Opens a listed file; the caller closes it. */
  InputStream open(String path) throws IOException;

  /**
   * A listed file in any order. Nothing is held open between two reads, so there is nothing to
   * close. Here each read begins at the start of the file; files on disk do better.
   */
  default RandomBytes random(String path) throws IOException {
    long size = size(path);
    return new RandomBytes() {
      @Override
      public long size() {
        return size;
      }

      @Override
      public void read(long at, byte[] into, int from, int count) throws IOException {
        try (InputStream in = open(path)) {
          in.skipNBytes(at);
          if (in.readNBytes(into, from, count) < count) {
            throw new EOFException(path + " ends before byte " + (at + count));
          }
        }
      }
    };
  }
}
