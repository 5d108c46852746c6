package ferry.stone.server.store;

import org.springframework.stereotype.Component;

/** Stored files, the disk that they are on, and what frees it. */
@Component
public class Storage {
  private final BlobStore blobs;
  private final Sweeper sweeper;
  private final DiskSpace disk;

  public Storage(BlobStore blobs, Sweeper sweeper, DiskSpace disk) {
    this.blobs = blobs;
    this.sweeper = sweeper;
    this.disk = disk;
  }

  public BlobStore blobs() {
    return blobs;
  }

  /** Does something that lets go of stored files: on a full disk too, with the reserve's room. */
  public void freeing(Runnable work) {
    try {
      work.run();
    } catch (RuntimeException e) {
      if (!DiskSpace.isFull(e) || !disk.giveUp()) {
        throw e;
      }
      work.run();
    }
    sweeper.soon();
  }
}
