package ferry.stone.core.format.files;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.math.Figures;

/**
 * How much memory a cargo may make its reader take. What a file claims to hold grows with what its
 * cargo weighs, packed data included; all of it together stays under a part of the machine's memory
 * for the program. So a small file cannot claim much, and a large one ends in a sentence and not in
 * a fault.
 */
public final class Budget {
  /** Taken without a look at the size: what small files may unpack to. */
  static final long FLOOR = 16L << 20;

  /** Bytes for each byte of the cargo: well above what packed meshes and motion grow by. */
  static final long GROWTH = 256;

  private final String resource;
  private final long claims;
  private final long ceiling;
  private long claimed;
  private long taken;

  Budget(String resource, long cargoBytes, long ceiling) {
    this(resource, ceiling, FLOOR + GROWTH * Math.min(cargoBytes, Long.MAX_VALUE / 2 / GROWTH), 0);
  }

  private Budget(String resource, long ceiling, long claims, int taken) {
    this.resource = resource;
    this.ceiling = ceiling;
    this.claims = Math.min(ceiling, claims);
    this.taken = taken;
  }

  /**
   * @param resource the file that is read, for errors
   * @param resources all files of its cargo
   */
  public static Budget of(String resource, Resources resources) {
    long bytes = 0;
    for (String path : resources.paths()) {
      bytes += resources.size(path);
    }
    return new Budget(resource, bytes, Runtime.getRuntime().maxMemory() / 4 * 3);
  }

  /** The same with nothing taken: for what is read when it is asked for, and then let go. */
  public Budget fresh() {
    return new Budget(resource, ceiling, claims, 0);
  }

  /** Whether a claim of so many bytes would be granted. */
  public boolean allows(long bytes) {
    return bytes >= 0 && bytes <= claims - claimed && bytes <= ceiling - taken;
  }

  /**
   * Takes memory for what the file claims to hold: called before the memory is taken.
   *
   * @param place where the claim stands in the file
   * @param what what it is, e.g. "the array of Normals"
   */
  public void claim(long bytes, String place, String what) throws FormatException {
    // What a file may claim is more than there is where the ceiling holds it: then that is said.
    if (bytes < 0 || claims < ceiling && bytes > claims - claimed) {
      throw new FormatException(
          Kind.TOO_LARGE,
          resource,
          place,
          what
              + " claims "
              + Figures.bytes(bytes)
              + " of memory; with what was read before, that is out of all proportion to the"
              + " cargo's size. Export the file again.");
    }
    claimed += bytes;
    derive(bytes, place, what);
  }

  /** Takes memory for what the reader makes itself, as motion that it samples. */
  public void derive(long bytes, String place, String what) throws FormatException {
    if (bytes < 0 || bytes > ceiling - taken) {
      throw new FormatException(
          Kind.TOO_LARGE,
          resource,
          place,
          what
              + " needs "
              + Figures.bytes(bytes)
              + "; more than this machine gives Stone Ferry. Split the asset, or give it more"
              + " memory (FERRY_MEMORY).");
    }
    taken += bytes;
  }
}
