package ferry.stone.server.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.mock;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.request;

import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.MvcResult;
import org.springframework.test.web.servlet.setup.MockMvcBuilders;

/** The stream of events as pages receive it: text/event-stream of the HTML standard. */
class EventHubTest {
  private final EventHub hub = new EventHub();
  private final MockMvc server =
      MockMvcBuilders.standaloneSetup(new JobController(mock(JobService.class), hub)).build();

  private MvcResult page() throws Exception {
    return server.perform(get("/api/events")).andExpect(request().asyncStarted()).andReturn();
  }

  private static String received(MvcResult page) throws Exception {
    return page.getResponse().getContentAsString();
  }

  @Test
  void everyOpenPageIsTold() throws Exception {
    MvcResult first = page();
    hub.tell("crossing", "a");
    MvcResult second = page();
    hub.tell("landing", "b");
    assertThat(first.getResponse().getContentType()).startsWith("text/event-stream");
    assertThat(received(first)).startsWith(":open");
    assertThat(received(first))
        .contains("event:crossing\ndata:a")
        .contains("event:landing\ndata:b");
    assertThat(received(second)).doesNotContain("crossing").contains("event:landing\ndata:b");
  }

  @Test
  void aJobIsToldAsJson() throws Exception {
    MvcResult page = page();
    hub.tell(
        "job",
        new Job("j", "read", "c", "Reading", "running", "nodes", 0.5, null, "2026-01-01", null));
    assertThat(received(page))
        .contains("event:job\ndata:{\"id\":\"j\"")
        .contains("\"fraction\":0.5");
  }

  @Test
  void aPageThatIsGoneIsForgotten() throws Exception {
    MvcResult gone = page();
    MvcResult here = page();
    gone.getRequest().getAsyncContext().complete();
    hub.tell("crossing", "late");
    hub.keepAlive();
    assertThat(received(gone)).doesNotContain("late");
    assertThat(received(here)).contains("late").contains(":here");
  }

  @Test
  void eventsOfSeveralThreadsDoNotRunIntoEachOther() throws Exception {
    MvcResult page = page();
    CountDownLatch done = new CountDownLatch(4);
    for (int t = 0; t < 4; t++) {
      int thread = t;
      new Thread(
              () -> {
                IntStream.range(0, 50).forEach(i -> hub.tell("job", "t" + thread + "-" + i));
                done.countDown();
              })
          .start();
    }
    assertThat(done.await(10, TimeUnit.SECONDS)).isTrue();
    List<String> lines = received(page).lines().filter(l -> l.startsWith("data:")).toList();
    assertThat(lines).hasSize(200).allMatch(l -> l.matches("data:t[0-3]-\\d+"));
  }
}
