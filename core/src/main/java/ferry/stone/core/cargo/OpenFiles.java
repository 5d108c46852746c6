package ferry.stone.core.cargo;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.lang.ref.Cleaner;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.WeakHashMap;

/** The few files that are open for reading: the one that was used longest ago is closed first. */
final class OpenFiles {
  private static final int MOST = 32;
  private static final Cleaner CLEANER = Cleaner.create();

  /** By what reads them, which is not kept alive by being here. */
  private static final Map<Integer, FileChannel> OPEN = new LinkedHashMap<>(64, 0.75f, true);

  private static final Map<FileBytes, Integer> KEYS = new WeakHashMap<>();
  private static int next;

  private OpenFiles() {}

  static synchronized FileChannel open(FileBytes reader, Path place) throws IOException {
    Integer key = KEYS.get(reader);
    if (key == null) {
      key = next++;
      KEYS.put(reader, key);
      int own = key;
      CLEANER.register(reader, () -> close(own));
    }
    FileChannel channel = OPEN.get(key);
    if (channel == null || !channel.isOpen()) {
      channel = FileChannel.open(place);
      OPEN.put(key, channel);
      if (OPEN.size() > MOST) {
        Iterator<FileChannel> all = OPEN.values().iterator();
        FileChannel oldest = all.next();
        all.remove();
        oldest.close();
      }
    }
    return channel;
  }

  private static synchronized void close(int key) {
    FileChannel channel = OPEN.remove(key);
    if (channel != null) {
      try {
        channel.close();
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    }
  }
}
