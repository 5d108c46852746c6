package ferry.stone.server.jobs;

import java.io.IOException;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import org.springframework.scheduling.annotation.EnableScheduling;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** Sends events to all open pages. A page that is gone is dropped. */
@Component
@EnableScheduling
public class EventHub {
  private static final long NEVER = 0L;
  private final List<SseEmitter> pages = new CopyOnWriteArrayList<>();

  public SseEmitter open() {
    SseEmitter page = new SseEmitter(NEVER);
    page.onCompletion(() -> pages.remove(page));
    page.onTimeout(() -> pages.remove(page));
    page.onError(e -> pages.remove(page));
    pages.add(page);
    send(page, SseEmitter.event().comment("open"));
    return page;
  }

  /** Tells all pages. */
  public void tell(String event, Object data) {
    for (SseEmitter page : pages) {
      send(page, SseEmitter.event().name(event).data(data));
    }
  }

  @Scheduled(fixedDelay = 20_000)
  void keepAlive() {
    for (SseEmitter page : pages) {
      send(page, SseEmitter.event().comment("here"));
    }
  }

  private void send(SseEmitter page, SseEmitter.SseEventBuilder event) {
    try {
      synchronized (page) {
        page.send(event);
      }
    } catch (IOException | IllegalStateException e) {
      pages.remove(page);
    }
  }
}
