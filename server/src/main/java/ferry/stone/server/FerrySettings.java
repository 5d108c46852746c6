package ferry.stone.server;

import java.nio.file.Path;
import org.springframework.boot.context.properties.ConfigurationProperties;

/**
 * Settings under {@code ferry.*}.
 *
 * @param data folder of the database and all files
 * @param demo whether the demo world is brought in on first start
 * @param token needed to listen on other addresses than this machine's own
 * @param maxUploadBytes largest single file taken
 * @param jobs how many jobs run at once
 * @param sceneBytes memory for scenes that are open, 0 for a third of what the program has
 */
@ConfigurationProperties("ferry")
public record FerrySettings(
    Path data, boolean demo, String token, long maxUploadBytes, int jobs, long sceneBytes) {}
