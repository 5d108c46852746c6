package ferry.stone.server.crossing;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.view.picture.Picture;
import ferry.stone.core.view.picture.ViewFrom;
import ferry.stone.core.work.Progress;
import ferry.stone.server.jobs.EventHub;
import ferry.stone.server.store.Storage;
import jakarta.annotation.PreDestroy;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Service;

/**
 * Small pictures of far sides for the quay, drawn one at a time behind everything else: as soon as
 * a cargo is read, and when its steps have been left alone for a moment.
 */
@Service
public class ThumbnailService {
  private static final Logger LOG = LoggerFactory.getLogger(ThumbnailService.class);

  /** Twice as large as the list shows them. */
  private static final int WIDTH = 184;

  private static final int HEIGHT = 128;
  private static final long SETTLE_MILLIS = 2000;

  /** Larger scenes would need as much memory again. */
  private static final long MOST_TRIANGLES = 4_000_000;

  private static final long MOST_BYTES = 1 << 20;

  private final SceneService scenes;
  private final CrossingService crossings;
  private final CrossingRepository repository;
  private final HandlingRepository handlings;
  private final Storage storage;
  private final EventHub events;
  private final Map<String, ScheduledFuture<?>> waiting = new ConcurrentHashMap<>();
  private final ScheduledExecutorService worker =
      Executors.newSingleThreadScheduledExecutor(
          work -> {
            Thread thread = new Thread(work, "thumbnails");
            thread.setDaemon(true);
            thread.setPriority(Thread.MIN_PRIORITY);
            return thread;
          });

  public ThumbnailService(
      SceneService scenes,
      CrossingService crossings,
      CrossingRepository repository,
      HandlingRepository handlings,
      Storage storage,
      EventHub events) {
    this.scenes = scenes;
    this.crossings = crossings;
    this.repository = repository;
    this.handlings = handlings;
    this.storage = storage;
    this.events = events;
  }

  /** Draws a crossing as soon as there is time. */
  public void now(String id) {
    plan(id, 0);
  }

  /** Draws a crossing once nothing more was asked for a moment. */
  public void soon(String id) {
    plan(id, SETTLE_MILLIS);
  }

  private void plan(String id, long millis) {
    waiting.compute(
        id,
        (key, before) -> {
          if (before != null) {
            before.cancel(false);
          }
          return worker.schedule(() -> drawn(id), millis, TimeUnit.MILLISECONDS);
        });
  }

  private void drawn(String id) {
    waiting.remove(id);
    try {
      draw(id);
    } catch (IOException | FormatException | RuntimeException | OutOfMemoryError e) {
      // A picture that is not there is no fault: the crossing may be gone, or its cargo.
      LOG.debug("no picture of {}: {}", id, e.toString());
    }
  }

  private void draw(String id) throws IOException, FormatException {
    LoadedCrossing loaded = scenes.scenes(id);
    Scene far = loaded.state(handlings.at(id, crossings.get(id).history()));
    long triangles = far.meshes().stream().mapToLong(m -> m.faces().triangleCount()).sum();
    if (triangles > MOST_TRIANGLES) {
      return;
    }
    byte[] png =
        ImageCodec.encodePng(
            Picture.of(far, loaded.cargo()).taken(ViewFrom.CORNER, WIDTH, HEIGHT, Progress.NONE));
    String hash = storage.blobs().put(new ByteArrayInputStream(png), MOST_BYTES).hash();
    try {
      if (!hash.equals(crossings.get(id).thumbnail())) {
        repository.thumbnail(id, hash);
        events.tell("crossing", id);
      }
    } finally {
      storage.blobs().release(hash);
    }
  }

  @PreDestroy
  void stop() {
    worker.shutdownNow();
  }
}
