package ferry.stone.core.routine;

/**
 * How a batch is run.
 *
 * @param ferry version of the application, for records
 * @param reports whether each landing gets a page with pictures
 * @param jobs assets at once, 1 or more
 */
public record RunSettings(String ferry, boolean reports, int jobs) {
  public RunSettings {
    if (jobs < 1) {
      throw new IllegalArgumentException("at least one job at a time, not " + jobs);
    }
  }
}
