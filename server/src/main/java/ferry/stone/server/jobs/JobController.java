package ferry.stone.server.jobs;

import ferry.stone.server.web.NotFoundException;
import java.util.List;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** Jobs and the stream of events. */
@RestController
@RequestMapping("/api")
public class JobController {
  private final JobService jobs;
  private final EventHub events;

  public JobController(JobService jobs, EventHub events) {
    this.jobs = jobs;
    this.events = events;
  }

  @GetMapping("/jobs")
  public List<Job> list() {
    return jobs.latest();
  }

  @GetMapping("/jobs/{id}")
  public Job get(@PathVariable String id) {
    return jobs.find(id).orElseThrow(() -> new NotFoundException("There is no such job."));
  }

  @PostMapping("/jobs/{id}/cancel")
  public void cancel(@PathVariable String id) {
    jobs.cancel(id);
  }

  @GetMapping(path = "/events", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
  public SseEmitter events() {
    return events.open();
  }
}
