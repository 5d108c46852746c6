package ferry.stone.core.work;

/** Which version of the application this is, for records and reports. */
public final class Release {
  public static final String VERSION = "0.1.0";

  private Release() {}
}
