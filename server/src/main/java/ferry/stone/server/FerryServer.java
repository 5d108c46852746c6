package ferry.stone.server;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.event.ApplicationEnvironmentPreparedEvent;
import org.springframework.boot.context.properties.EnableConfigurationProperties;
import org.springframework.context.ApplicationListener;

/** The Stone Ferry server: the page and its API. */
@SpringBootApplication
@EnableConfigurationProperties(FerrySettings.class)
public class FerryServer {

  public static void main(String[] args) {
    System.setProperty("java.awt.headless", "true");
    SpringApplication application = new SpringApplication(FerryServer.class);
    application.addListeners(new DataFolder());
    application.run(args);
  }

  /** Makes the data folder before the database is opened in it. */
  static final class DataFolder
      implements ApplicationListener<ApplicationEnvironmentPreparedEvent> {
    @Override
    public void onApplicationEvent(ApplicationEnvironmentPreparedEvent event) {
      String folder = event.getEnvironment().getProperty("ferry.data", "data");
      try {
        Files.createDirectories(Path.of(folder));
      } catch (IOException e) {
        throw new IllegalStateException(
            "The data folder " + folder + " cannot be made: " + e.getMessage(), e);
      }
    }
  }
}
