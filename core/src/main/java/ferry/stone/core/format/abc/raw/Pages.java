package ferry.stone.core.format.abc.raw;

import ferry.stone.core.format.files.RandomBytes;
import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * Pages of a file that small reads share: the tree of an archive is thousands of numbers of 8 bytes
 * that lie near each other. What is larger goes past them.
 */
final class Pages implements RandomBytes {
  private static final int PAGE = 1 << 14;
  private static final int KEPT = 64;

  private final RandomBytes file;
  private final Map<Long, byte[]> kept =
      new LinkedHashMap<>(KEPT + 1, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<Long, byte[]> eldest) {
          return size() > KEPT;
        }
      };

  Pages(RandomBytes file) {
    this.file = file;
  }

  @Override
  public long size() {
    return file.size();
  }

  @Override
  public void read(long at, byte[] into, int from, int count) throws IOException {
    if (count >= PAGE || at < 0 || count > size() - at) {
      file.read(at, into, from, count);
      return;
    }
    for (int done = 0; done < count; ) {
      long number = (at + done) / PAGE;
      byte[] page = page(number);
      int start = (int) (at + done - number * PAGE);
      int part = Math.min(count - done, page.length - start);
      System.arraycopy(page, start, into, from + done, part);
      done += part;
    }
  }

  private synchronized byte[] page(long number) throws IOException {
    byte[] page = kept.get(number);
    if (page == null) {
      page = new byte[(int) Math.min(PAGE, size() - number * PAGE)];
      file.read(number * PAGE, page, 0, page.length);
      kept.put(number, page);
    }
    return page;
  }
}
