package ferry.stone.core.format.abc.raw;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import java.io.IOException;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;

/** Properties by their names, in the order of the file. */
public final class AbcCompound {
  private static final int COMPOUND = 0;

  private final AbcArchive archive;
  private final int depth;
  private final Map<String, AbcProperty> values = new LinkedHashMap<>();
  private final Map<String, OgawaFile.Group> groups = new LinkedHashMap<>();
  private final Map<String, Map<String, String>> metaData = new LinkedHashMap<>();

  AbcCompound(AbcArchive archive, OgawaFile.Group group, int depth)
      throws IOException, FormatException {
    this.archive = archive;
    this.depth = depth;
    if (depth > AbcArchive.DEEPEST) {
      throw archive.file.error(
          Kind.CORRUPT, group.at(), "properties hold each other. Export the file again.");
    }
    long last = group.count() - 1;
    if (!archive.file.isData(group, last)) {
      return;
    }
    OgawaFile.Data data = archive.file.data(group, last);
    archive.claim(data);
    HeaderBytes in = new HeaderBytes(archive.file, data, 0);
    for (long i = 0; in.hasMore(); i++) {
      header(in, archive.file.group(group, i));
    }
  }

  /** A header; its bits as the library's {@code ReadPropertyHeaders} takes them apart. */
  private void header(HeaderBytes in, OgawaFile.Group group) throws IOException, FormatException {
    long place = in.place();
    int info = in.word();
    int hint = info >>> 2 & 3;
    boolean compound = (info & 3) == COMPOUND;
    AbcProperty.Type type = null;
    long count = 0;
    long first = 0;
    long last = 0;
    TimeSampling sampling = TimeSampling.IDENTITY;
    if (!compound) {
      type = type(info, place);
      count = in.number(hint);
      if ((info & 0x200) != 0) {
        first = in.number(hint);
        last = in.number(hint);
      } else if ((info & 0x800) == 0) {
        first = 1;
        last = count - 1;
      }
      long index = (info & 0x100) != 0 ? in.number(hint) : 0;
      if (count > 0 && (index > 0 || !archive.samplings().isEmpty())) {
        sampling = archive.sampling(index, place);
      }
    }
    String name = in.text(in.number(hint));
    Map<String, String> meta = archive.metaData(in, info >>> 20 & 0xff, hint);
    metaData.put(name, meta);
    if (compound) {
      groups.put(name, group);
    } else {
      AbcProperty.Stored stored = new AbcProperty.Stored(count, first, last, group);
      values.put(name, new AbcProperty(archive.file, name, meta, type, sampling, stored, place));
    }
  }

  private AbcProperty.Type type(int info, long place) throws FormatException {
    int pod = info >>> 4 & 0xf;
    int extent = info >>> 12 & 0xff;
    if (pod >= Pod.values().length || extent == 0) {
      throw archive.file.error(
          Kind.CORRUPT,
          place,
          "a property of type " + pod + " with " + extent + " numbers. Export the file again.");
    }
    boolean array = (info & 3) != 1;
    return new AbcProperty.Type(array, Pod.values()[pod], extent);
  }

  public Collection<AbcProperty> values() {
    return values.values();
  }

  /** Names of the compounds in it. */
  public Collection<String> compounds() {
    return groups.keySet();
  }

  /** Metadata of a property or compound; empty when it is not there. */
  public Map<String, String> metaData(String name) {
    return metaData.getOrDefault(name, Map.of());
  }

  /** A property that has samples. */
  public Optional<AbcProperty> value(String name) {
    return Optional.ofNullable(values.get(name)).filter(p -> p.sampleCount() > 0);
  }

  public Optional<AbcCompound> compound(String name) throws IOException, FormatException {
    OgawaFile.Group group = groups.get(name);
    return group == null
        ? Optional.empty()
        : Optional.of(new AbcCompound(archive, group, depth + 1));
  }
}
