package ferry.stone.server.crossing;

import ferry.stone.server.jobs.Job;
import ferry.stone.server.jobs.JobRepository;
import ferry.stone.server.landing.LandingRepository;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** After a stop or crash: reading starts again, a landing that was cut off says so. */
@Component
public class Resuming {
  private static final String CUT_OFF = "The server was stopped meanwhile. Land again.";

  private final JobRepository jobs;
  private final CrossingService crossings;
  private final ReadingService readings;
  private final LandingRepository landings;

  public Resuming(
      JobRepository jobs,
      CrossingService crossings,
      ReadingService readings,
      LandingRepository landings) {
    this.jobs = jobs;
    this.crossings = crossings;
    this.readings = readings;
    this.landings = landings;
  }

  @EventListener(ApplicationReadyEvent.class)
  @Order(1)
  void resume() {
    for (Job job : jobs.open()) {
      jobs.update(
          new Job(
              job.id(),
              job.kind(),
              job.crossingId(),
              job.title(),
              "failed",
              "cut off",
              job.fraction(),
              CUT_OFF,
              job.createdAt(),
              null));
      if (job.kind().equals("land")) {
        landings.failed(job.id(), "failed", CUT_OFF);
      }
    }
    crossings.all().stream()
        .filter(c -> c.state().equals("reading"))
        .forEach(c -> readings.resumeReading(c.id()));
  }
}
