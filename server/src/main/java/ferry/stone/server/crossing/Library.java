package ferry.stone.server.crossing;

import ferry.stone.core.cargo.SharedFolders;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Folders of images that many assets use, set once for the server; only read. */
@Configuration
class Library {
  /**
   * @param folders one path after the other, as the system parts them
   */
  @Bean
  SharedFolders sharedFolders(@Value("${ferry.library:}") String folders) {
    return SharedFolders.of(folders);
  }
}
