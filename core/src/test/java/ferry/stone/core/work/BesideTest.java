package ferry.stone.core.work;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNotSame;
import static org.junit.jupiter.api.Assertions.assertSame;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import ferry.stone.core.StoppedProgress;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Supplier;
import org.junit.jupiter.api.Test;

class BesideTest {
  @Test
  void allPiecesAreDoneOnceWhoeverDoesThem() {
    AtomicInteger done = new AtomicInteger();
    try (Beside beside = new Beside()) {
      List<Supplier<Integer>> given = new ArrayList<>();
      for (int i = 0; i < 1000; i++) {
        int number = i;
        given.add(
            beside.give(
                () -> {
                  done.incrementAndGet();
                  return number * number;
                }));
      }
      for (int i = 0; i < given.size(); i++) {
        assertEquals(i * i, given.get(i).get());
        assertEquals(i * i, given.get(i).get(), "asked again");
      }
    }
    assertEquals(1000, done.get());
  }

  @Test
  void whoWaitsDoesWhatNobodyHasBegun() throws Exception {
    CountDownLatch hold = new CountDownLatch(1);
    List<Supplier<Void>> held = new ArrayList<>();
    try (Beside others = new Beside();
        Beside beside = new Beside()) {
      // All other cores are kept busy, so that only this thread is left.
      for (int i = 0; i < 2 * Beside.cores(); i++) {
        held.add(
            others.give(
                () -> {
                  try {
                    hold.await();
                  } catch (InterruptedException e) {
                    Thread.currentThread().interrupt();
                  }
                  return null;
                }));
      }
      Supplier<Thread> first = beside.give(Thread::currentThread);
      Supplier<Thread> second = beside.give(Thread::currentThread);
      assertSame(Thread.currentThread(), second.get());
      assertSame(Thread.currentThread(), first.get());
    } finally {
      hold.countDown();
    }
  }

  @Test
  void whereEachCoreHasItsOwnWorkPiecesAreDoneWhenTheyAreAskedFor() {
    Thread own = Thread.currentThread();
    AtomicInteger done = new AtomicInteger();
    Beside.othersBusy(
        () -> true,
        () -> {
          try (Beside beside = new Beside()) {
            List<Supplier<Thread>> given = new ArrayList<>();
            for (int i = 0; i < 20; i++) {
              given.add(
                  beside.give(
                      () -> {
                        done.incrementAndGet();
                        return Thread.currentThread();
                      }));
            }
            assertEquals(0, done.get());
            for (Supplier<Thread> each : given) {
              assertSame(own, each.get());
            }
          }
          return null;
        });
    assertEquals(20, done.get());
  }

  @Test
  void theLastWorkToEndHasTheCoresThatTheOthersLeft() throws Exception {
    assumeTrue(Beside.cores() > 1);
    CountDownLatch begun = new CountDownLatch(1);
    Beside.othersBusy(
        () -> false,
        () -> {
          try (Beside beside = new Beside()) {
            Thread own = Thread.currentThread();
            Supplier<Thread> given =
                beside.give(
                    () -> {
                      begun.countDown();
                      return Thread.currentThread();
                    });
            assertTrue(begun.await(20, TimeUnit.SECONDS), "nobody had to ask for it");
            assertNotSame(own, given.get());
          }
          return null;
        });
  }

  @Test
  void whatAPieceThrowsReachesWhoAsks() {
    try (Beside beside = new Beside()) {
      Supplier<Object> fails =
          beside.give(
              () -> {
                throw new IllegalArgumentException("no such thing");
              });
      assertEquals(
          "no such thing", assertThrows(IllegalArgumentException.class, fails::get).getMessage());
    }
  }

  @Test
  void piecesAreCancelledWithTheWorkThatTheyArePartOf() {
    StoppedProgress stopped = new StoppedProgress();
    assertThrows(
        CancelledException.class,
        () ->
            Cancel.during(
                stopped,
                () -> {
                  try (Beside beside = new Beside()) {
                    return beside
                        .give(
                            () -> {
                              Cancel.point();
                              return 1;
                            })
                        .get();
                  }
                }));
  }

  @Test
  void whatNobodyHasBegunIsLetGoWhenItCloses() throws Exception {
    CountDownLatch hold = new CountDownLatch(1);
    AtomicInteger late = new AtomicInteger();
    Beside beside = new Beside();
    int busy = 2 * Beside.cores();
    for (int i = 0; i < busy + 50; i++) {
      boolean holds = i < busy;
      beside.give(
          () -> {
            if (!holds) {
              return late.incrementAndGet();
            }
            try {
              hold.await();
            } catch (InterruptedException e) {
              Thread.currentThread().interrupt();
            }
            return 0;
          });
    }
    beside.close();
    hold.countDown();
    try (Beside after = new Beside()) {
      after.give(() -> 0).get();
    }
    assertEquals(0, late.get());
  }
}
