package ferry.stone.server.crossing;

import ferry.stone.server.FerrySettings;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.core.io.ClassPathResource;
import org.springframework.stereotype.Component;

/** Brings the demo world in on first start. */
@Component
public class DemoCrossings {
  private static final Logger LOG = LoggerFactory.getLogger(DemoCrossings.class);
  private final CrossingService crossings;
  private final CargoService cargos;
  private final ReadingService readings;
  private final FerrySettings settings;

  public DemoCrossings(
      CrossingService crossings,
      CargoService cargos,
      ReadingService readings,
      FerrySettings settings) {
    this.crossings = crossings;
    this.cargos = cargos;
    this.readings = readings;
    this.settings = settings;
  }

  @EventListener(ApplicationReadyEvent.class)
  @Order(2)
  void bringDemo() throws Exception {
    if (!settings.demo() || !crossings.all().isEmpty()) {
      return;
    }
    for (String line : index().lines().toList()) {
      String[] parts = line.split("\t");
      Crossing crossing = crossings.create(parts[0]);
      ClassPathResource zip = new ClassPathResource("demo-world/" + parts[1]);
      try (InputStream in = zip.getInputStream()) {
        cargos.upload(crossing.id(), parts[1], zip.contentLength(), in);
      }
      readings.read(crossing.id());
      LOG.info("brought demo cargo {}", parts[0]);
    }
  }

  private static String index() throws IOException {
    try (InputStream in = new ClassPathResource("demo-world/index.tsv").getInputStream()) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    }
  }
}
