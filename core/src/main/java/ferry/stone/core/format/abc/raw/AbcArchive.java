package ferry.stone.core.format.abc.raw;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.RandomBytes;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** An archive: its tree of objects, and what its properties share. */
public final class AbcArchive {
  /** Objects below each other; real scenes stay far below. */
  static final int DEEPEST = 512;

  private static final int NEWEST = 1;

  /** Bytes that an object takes at least: a header, and its place in the group above. */
  private static final int LEAST = 12;

  private static final int NOT_INDEXED = 0xff;

  /** What stands for "all times are stored": the largest double by 32. */
  static final double ACYCLIC = Double.MAX_VALUE / 32;

  final OgawaFile file;
  private final Budget budget;
  private final Map<String, String> metaData;
  private final List<TimeSampling> samplings;
  private final List<String> indexed;
  private final OgawaFile.Group topGroup;
  private long objectsLeft;
  private AbcObject top;

  private AbcArchive(OgawaFile file, Budget budget) throws IOException, FormatException {
    this.file = file;
    this.budget = budget;
    // Groups that are named twice are counted twice: they make no more objects than a file can
    // hold.
    objectsLeft = 16 + file.size() / LEAST;
    OgawaFile.Group root = file.root();
    int version = file.read(file.data(root, 0).at(), 4).getInt(0);
    if (version < 0 || version > NEWEST) {
      throw file.error(
          Kind.TOO_NEW,
          file.data(root, 0).at(),
          "the tree of the archive has version " + version + "; up to " + NEWEST + " is read.");
    }
    topGroup = file.group(root, 2);
    OgawaFile.Data meta = file.data(root, 3);
    metaData = MetaData.of(new HeaderBytes(file, meta, 0).text(meta.size()));
    samplings = samplings(new HeaderBytes(file, file.data(root, 4), 0));
    indexed = indexed(new HeaderBytes(file, file.data(root, 5), 0));
  }

  /**
   * Opens an archive: its head and what its properties share, nothing more.
   *
   * @param budget what its headers may take
   */
  public static AbcArchive open(String resource, RandomBytes file, Budget budget)
      throws IOException, FormatException {
    AbcArchive archive = new AbcArchive(new OgawaFile(resource, file), budget);
    archive.top = new AbcObject(archive, archive.topGroup, "", "", Map.of(), 0);
    return archive;
  }

  private List<TimeSampling> samplings(HeaderBytes in) throws FormatException {
    List<TimeSampling> result = new ArrayList<>();
    while (in.hasMore()) {
      long place = in.place();
      in.number(); // how many samples the longest property has
      double perCycle = in.real();
      double[] stored = new double[in.reals(in.number())];
      for (int i = 0; i < stored.length; i++) {
        stored[i] = in.real();
        if (!Double.isFinite(stored[i]) || i > 0 && stored[i] <= stored[i - 1]) {
          throw file.error(
              Kind.CORRUPT,
              in.place() - 8,
              "a time of " + stored[i] + " s: times of samples rise. Export the file again.");
        }
      }
      boolean acyclic = perCycle >= ACYCLIC;
      if (stored.length == 0
          || !acyclic && !(perCycle > 0 && stored[stored.length - 1] - stored[0] < perCycle)) {
        throw file.error(
            Kind.CORRUPT,
            place,
            "times of samples that cannot be: "
                + stored.length
                + " in "
                + perCycle
                + " s. Export the file again.");
      }
      result.add(new TimeSampling(acyclic ? Double.POSITIVE_INFINITY : perCycle, stored));
    }
    return List.copyOf(result);
  }

  private static List<String> indexed(HeaderBytes in) throws FormatException {
    List<String> result = new ArrayList<>();
    result.add("");
    while (in.hasMore()) {
      result.add(in.text(in.small()));
    }
    return List.copyOf(result);
  }

  /** What the program that wrote the archive says of it. */
  public Map<String, String> metaData() {
    return metaData;
  }

  public List<TimeSampling> samplings() {
    return samplings;
  }

  /** Stands above all objects and has no name. */
  public AbcObject top() {
    return top;
  }

  /** Size of the file in bytes. */
  public long size() {
    return file.size();
  }

  /** A sampling of the archive. */
  TimeSampling sampling(long index, long place) throws FormatException {
    if (index >= samplings.size()) {
      throw file.error(
          Kind.CORRUPT,
          place,
          "time sampling " + index + " of " + samplings.size() + ". Export the file again.");
    }
    return samplings.get((int) index);
  }

  /**
   * Metadata of a header.
   *
   * @param index of what is shared, or the number that says that it follows
   * @param hint size of the number that says how long it is
   */
  Map<String, String> metaData(HeaderBytes in, long index, int hint) throws FormatException {
    if (index == NOT_INDEXED) {
      return MetaData.of(in.text(in.number(hint)));
    }
    if (index >= indexed.size()) {
      throw file.error(
          Kind.CORRUPT,
          in.place(),
          "metadata " + index + " of " + indexed.size() + ". Export the file again.");
    }
    return MetaData.of(indexed.get((int) index));
  }

  /** Takes memory for headers. */
  void claim(OgawaFile.Data headers) throws FormatException {
    budget.claim(4 * headers.size(), "byte " + headers.at(), "a list of headers");
  }

  /** Counts an object, so that a file whose groups hold each other ends in a sentence. */
  void count(int depth, OgawaFile.Group group) throws FormatException {
    if (depth > DEEPEST || --objectsLeft < 0) {
      throw file.error(
          Kind.CORRUPT,
          group.at(),
          "objects hold each other, or are nested more than "
              + DEEPEST
              + " deep. Export the file again.");
    }
  }
}
