package ferry.stone.server.web;

import java.security.SecureRandom;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/** Random names of those who showed the token; they are forgotten when the program stops. */
final class Sessions {
  static final Duration LASTS = Duration.ofDays(30);
  private static final int BYTES = 32;
  private static final int MOST = 10_000;

  private final SecureRandom random = new SecureRandom();
  private final Map<String, Instant> open = new ConcurrentHashMap<>();

  String open() {
    if (open.size() >= MOST) {
      open.values().removeIf(until -> until.isBefore(Instant.now()));
    }
    byte[] bytes = new byte[BYTES];
    random.nextBytes(bytes);
    String name = Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
    open.put(name, Instant.now().plus(LASTS));
    return name;
  }

  boolean isOpen(String name) {
    Instant until = name == null ? null : open.get(name);
    return until != null && until.isAfter(Instant.now());
  }
}
