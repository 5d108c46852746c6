package ferry.stone.server.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.argThat;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.atLeastOnce;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.timeout;
import static org.mockito.Mockito.verify;

import ferry.stone.core.format.FormatException;
import ferry.stone.server.FerrySettings;
import ferry.stone.server.store.DiskSpace;
import java.nio.file.Path;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicReference;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

class JobServiceTest {
  private final JobRepository repository = mock(JobRepository.class);
  private final EventHub events = mock(EventHub.class);
  private final JobService jobs =
      new JobService(
          repository,
          events,
          new FerrySettings(Path.of("unused"), false, "", 1, 1, 0),
          mock(DiskSpace.class));
  private final AtomicReference<String> failure = new AtomicReference<>();

  @AfterEach
  void stop() {
    jobs.stop();
  }

  private Job submit(JobService.Work work) {
    return jobs.submit(
        "read", "c", "Reading", work, (state, problem) -> failure.set(state + ": " + problem));
  }

  private void ends(String state) {
    verify(repository, timeout(5000)).update(argThat(j -> j.state().equals(state)));
  }

  @Test
  void doneWorkIsKeptAndTold() {
    submit(progress -> progress.report("half way", 0.5));
    ends("done");
    verify(events, atLeastOnce()).tell(eq("job"), any(Job.class));
    assertThat(failure.get()).isNull();
  }

  @Test
  void whatIsSaidAtTheVeryEndIsWhatCameOfIt() {
    submit(
        progress -> {
          progress.report("reading", 0.5);
          progress.report("8 files, 3.2 MB", 1);
        });
    verify(repository, timeout(5000))
        .update(
            argThat(
                j ->
                    j.state().equals("done")
                        && j.what().equals("8 files, 3.2 MB")
                        && j.endedAt() != null));
  }

  @Test
  void aBadFileFailsWithItsSentence() {
    submit(
        progress -> {
          throw new FormatException(FormatException.Kind.CORRUPT, "a.obj", "line 3", "it is cut.");
        });
    ends("failed");
    assertThat(failure.get()).isEqualTo("failed: a.obj, line 3: it is cut.");
  }

  @Test
  void tooLittleMemoryFailsTheJobOnly() {
    submit(
        progress -> {
          throw new OutOfMemoryError("heap");
        });
    ends("failed");
    assertThat(failure.get()).contains("too large for this server's memory");
    submit(progress -> {});
    ends("done");
  }

  @Test
  void aJobWhoseEndCannotBeWrittenDownDoesNotLookAsIfItRan() {
    AtomicReference<Boolean> full = new AtomicReference<>(true);
    Job job =
        jobs.submit(
            "land",
            "c",
            "Landing",
            progress -> {
              throw new java.io.IOException("No space left on device");
            },
            (state, problem) -> {
              if (full.get()) {
                throw new IllegalStateException("Database: [SQLITE_FULL] disk is full");
              }
              failure.set(state + ": " + problem);
            });
    org.awaitility.Awaitility.await()
        .until(() -> jobs.ended(job.id()).map(Job::state).orElse("").equals("failed"));
    assertThat(failure.get()).isNull();
    assertThat(jobs.find(job.id()).orElseThrow().state()).isEqualTo("failed");
    full.set(false);
    ends("failed");
    assertThat(failure.get()).startsWith("failed");
    org.awaitility.Awaitility.await().until(() -> jobs.ended(job.id()).isEmpty());
  }

  @Test
  void faultsOfAnyKindEndTheJob() {
    submit(
        progress -> {
          throw new StackOverflowError();
        });
    ends("failed");
  }

  @Test
  void workOnTheAskersThreadCanBeSeenAndCancelled() throws Exception {
    AtomicReference<String> came = new AtomicReference<>();
    CountDownLatch started = new CountDownLatch(1);
    Thread asker =
        new Thread(
            () -> {
              try {
                jobs.here(
                    "handle",
                    "c",
                    "Handling",
                    progress -> {
                      started.countDown();
                      while (true) {
                        progress.checkCancelled();
                      }
                    });
              } catch (ferry.stone.core.work.CancelledException e) {
                came.set("cancelled");
              }
            });
    asker.start();
    assertThat(started.await(5, TimeUnit.SECONDS)).isTrue();
    jobs.cancelAll("c");
    asker.join(5000);
    assertThat(came.get()).isEqualTo("cancelled");
  }

  @Test
  void runningWorkCanBeCancelled() throws Exception {
    CountDownLatch started = new CountDownLatch(1);
    Job job =
        submit(
            progress -> {
              started.countDown();
              while (true) {
                progress.checkCancelled();
                Thread.sleep(5);
              }
            });
    assertThat(started.await(5, TimeUnit.SECONDS)).isTrue();
    jobs.cancel(job.id());
    ends("cancelled");
    assertThat(failure.get()).startsWith("cancelled");
  }

  @Test
  void waitingWorkCanBeCancelledBeforeItStarts() throws Exception {
    CountDownLatch hold = new CountDownLatch(1);
    submit(progress -> hold.await());
    AtomicReference<Boolean> ran = new AtomicReference<>(false);
    Job second = submit(progress -> ran.set(true));
    jobs.cancelAll("c");
    hold.countDown();
    verify(repository, timeout(5000))
        .update(argThat(j -> j.id().equals(second.id()) && j.state().equals("cancelled")));
    assertThat(ran.get()).isFalse();
  }

  @Test
  void eventsAreNotSentForEveryReport() {
    submit(
        progress -> {
          for (int i = 0; i < 100_000; i++) {
            progress.report("step " + i, i / 100_000.0);
          }
        });
    ends("done");
    int told = org.mockito.Mockito.mockingDetails(events).getInvocations().size();
    assertThat(told).isLessThan(60);
  }
}
