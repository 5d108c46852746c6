package ferry.stone.server.crossing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.doAnswer;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import ferry.stone.core.format.FormatException;
import ferry.stone.server.FerrySettings;
import ferry.stone.server.jobs.JobService;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class SceneStoreTest {
  private static final long BUDGET = 100;
  private final FerrySettings settings =
      new FerrySettings(Path.of("unused"), false, "", 1, 2, BUDGET);
  private final JobService jobs = mock(JobService.class);
  private final ExecutorService pool = Executors.newFixedThreadPool(2);
  private final SceneStore store = new SceneStore(jobs, settings);

  @BeforeEach
  void runInPool() {
    doAnswer(call -> pool.submit(call.<Runnable>getArgument(0))).when(jobs).inPool(any());
  }

  @AfterEach
  void stop() {
    pool.shutdownNow();
  }

  private static LoadedCrossing weighing(long bytes) {
    LoadedCrossing crossing = mock(LoadedCrossing.class);
    when(crossing.weight()).thenReturn(bytes);
    return crossing;
  }

  @Test
  void manyWhoAskAtOnceShareOneLoad() throws Exception {
    AtomicInteger loads = new AtomicInteger();
    CountDownLatch started = new CountDownLatch(1);
    CountDownLatch go = new CountDownLatch(1);
    LoadedCrossing crossing = weighing(1);
    ExecutorService askers = Executors.newFixedThreadPool(8);
    try {
      List<Future<LoadedCrossing>> all = new ArrayList<>();
      for (int i = 0; i < 8; i++) {
        all.add(
            askers.submit(
                () ->
                    store.get(
                        "a",
                        () -> {
                          loads.incrementAndGet();
                          started.countDown();
                          await(go);
                          return crossing;
                        })));
      }
      assertThat(started.await(5, TimeUnit.SECONDS)).isTrue();
      go.countDown();
      for (Future<LoadedCrossing> one : all) {
        assertThat(one.get(5, TimeUnit.SECONDS)).isSameAs(crossing);
      }
    } finally {
      askers.shutdownNow();
    }
    assertThat(loads).hasValue(1);
    assertThat(store.known("a")).contains(crossing);
  }

  @Test
  void aFailedLoadIsToldAndTriedAgainByTheNext() throws Exception {
    FormatException bad = new FormatException(FormatException.Kind.CORRUPT, "a.obj", "", "is cut.");
    assertThatThrownBy(
            () ->
                store.get(
                    "a",
                    () -> {
                      throw bad;
                    }))
        .isSameAs(bad);
    LoadedCrossing crossing = weighing(1);
    assertThat(store.get("a", () -> crossing)).isSameAs(crossing);
  }

  @Test
  void theOldestGoWhenAllAreTooHeavyButNeverTheOneInUse() throws Exception {
    store.get("a", () -> weighing(60));
    store.get("b", () -> weighing(30));
    store.known("a");
    store.get("c", () -> weighing(40));
    assertThat(store.known("b")).isEmpty();
    assertThat(store.known("a")).isPresent();
    store.get("d", () -> weighing(900));
    assertThat(store.known("a")).isEmpty();
    assertThat(store.known("d")).isPresent();
  }

  private static void await(CountDownLatch latch) throws IOException {
    try {
      latch.await(5, TimeUnit.SECONDS);
    } catch (InterruptedException e) {
      throw new IOException(e);
    }
  }
}
