package ferry.stone.core.routine;

import ferry.stone.core.cargo.SharedFolders;

/**
 * How a batch is run.
 *
 * @param ferry version of the application, for records
 * @param reports whether each landing gets a page with pictures
 * @param pages whether each landing gets a page to hand over, with the asset in it
 * @param jobs assets at once, 1 or more
 * @param shared folders of images that many assets use
 */
public record RunSettings(
    String ferry, boolean reports, boolean pages, int jobs, SharedFolders shared) {
  /** Without pages and shared folders. */
  public RunSettings(String ferry, boolean reports, int jobs) {
    this(ferry, reports, false, jobs, SharedFolders.NONE);
  }

  public RunSettings {
    if (jobs < 1) {
      throw new IllegalArgumentException("at least one job at a time, not " + jobs);
    }
  }
}
