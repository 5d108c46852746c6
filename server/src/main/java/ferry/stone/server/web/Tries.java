package ferry.stone.server.web;

import java.util.LinkedHashMap;
import java.util.Map;

/** Counts wrong tokens by address, so that they cannot be guessed by trying. */
final class Tries {
  /** How long wrong tries count. */
  static final int SECONDS = 60;

  private static final int MOST = 10;
  private static final int ADDRESSES = 10_000;

  private record Count(long since, int wrong) {}

  private final Map<String, Count> counts =
      new LinkedHashMap<>() {
        @Override
        protected boolean removeEldestEntry(Map.Entry<String, Count> eldest) {
          return size() > ADDRESSES;
        }
      };

  synchronized void wrong(String address) {
    Count before = counts.get(address);
    boolean fresh = before == null || isOver(before);
    counts.put(
        address,
        fresh ? new Count(System.nanoTime(), 1) : new Count(before.since(), before.wrong() + 1));
  }

  synchronized boolean areTooMany(String address) {
    Count count = counts.get(address);
    return count != null && count.wrong() >= MOST && !isOver(count);
  }

  private static boolean isOver(Count count) {
    return System.nanoTime() - count.since() > SECONDS * 1_000_000_000L;
  }
}
