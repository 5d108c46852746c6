package ferry.stone.core.format.files;

import java.io.ByteArrayInputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.NoSuchFileException;
import java.util.List;
import java.util.Map;

/**
 * Files that lie in memory, as those of an unpacked archive.
 *
 * @param content bytes by path
 */
public record MemoryFiles(Map<String, byte[]> content) implements Resources {
  @Override
  public List<String> paths() {
    return List.copyOf(content.keySet());
  }

  @Override
  public boolean contains(String path) {
    return content.containsKey(path);
  }

  @Override
  public long size(String path) {
    return content.get(path).length;
  }

  @Override
  public InputStream open(String path) throws IOException {
    if (!content.containsKey(path)) {
      throw new NoSuchFileException(path);
    }
    return new ByteArrayInputStream(content.get(path));
  }

  @Override
  public RandomBytes random(String path) {
    byte[] bytes = content.get(path);
    return new RandomBytes() {
      @Override
      public long size() {
        return bytes.length;
      }

      @Override
      public void read(long at, byte[] into, int from, int count) throws IOException {
        if (at < 0 || count > bytes.length - at) {
          throw new EOFException(path + " ends before byte " + (at + count));
        }
        System.arraycopy(bytes, (int) at, into, from, count);
      }
    };
  }
}
