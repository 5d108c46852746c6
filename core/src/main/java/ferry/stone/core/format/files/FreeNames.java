package ferry.stone.core.format.files;

import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;

/** Names unlike each other: the second {@code post} becomes {@code post_2}. */
public final class FreeNames {
  private final Set<String> taken = new HashSet<>();
  private final Map<String, Integer> times = new HashMap<>();

  /** Takes a name, or the first free one after it. */
  public String take(String wanted) {
    String free = wanted;
    // Counting goes on where it stopped: many equal names take no longer each than one.
    int next = times.getOrDefault(wanted, 2);
    while (!taken.add(free)) {
      free = wanted + "_" + next++;
    }
    times.put(wanted, next);
    return free;
  }
}
