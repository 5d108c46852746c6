package ferry.stone.server.store;

import java.io.IOException;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** How much is kept on disk, and freeing what nothing uses. */
@RestController
@RequestMapping("/api/storage")
public class StorageController {
  private final Sweeper sweeper;
  private final DiskSpace disk;

  public StorageController(Sweeper sweeper, DiskSpace disk) {
    this.sweeper = sweeper;
    this.disk = disk;
  }

  /**
   * @param heldBytes of all cargo and landings
   * @param freeBytes on the disk
   * @param freedBytes by the sweep that was asked for
   */
  public record Storage(long heldBytes, long freeBytes, long freedBytes) {}

  @GetMapping
  public Storage now() throws IOException {
    return new Storage(sweeper.held(), disk.free(), 0);
  }

  @PostMapping("/sweep")
  public Storage sweep() throws IOException {
    long freed = sweeper.sweep();
    return new Storage(sweeper.held(), disk.free(), freed);
  }
}
