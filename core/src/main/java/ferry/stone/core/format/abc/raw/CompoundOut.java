package ferry.stone.core.format.abc.raw;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** Properties and compounds by their names, being written. */
public final class CompoundOut {
  private final AbcOut archive;
  private final String name;
  private final String metaData;
  private final List<Object> children = new ArrayList<>();
  private final Set<String> names = new HashSet<>();

  CompoundOut(AbcOut archive, String name, String metaData) {
    this.archive = archive;
    this.name = name;
    this.metaData = metaData;
  }

  public AbcOut archive() {
    return archive;
  }

  /** Whether something has a name here already. */
  public boolean has(String wanted) {
    return names.contains(wanted);
  }

  public CompoundOut compound(String childName, String childMetaData) {
    CompoundOut child = new CompoundOut(archive, childName, childMetaData);
    add(childName, child);
    return child;
  }

  /**
   * @param seconds of its samples; {@code null} for one that does not change
   */
  public PropertyOut property(
      String childName, AbcProperty.Type type, String childMetaData, double[] seconds) {
    int sampling = seconds == null ? 0 : archive.sampling(seconds);
    PropertyOut child = new PropertyOut(archive, childName, type, childMetaData, sampling);
    add(childName, child);
    return child;
  }

  private void add(String childName, Object child) {
    if (!names.add(childName)) {
      throw new IllegalArgumentException("two properties with the name \"" + childName + "\"");
    }
    children.add(child);
  }

  /**
   * Writes where everything is.
   *
   * @param digests takes what tells the contents from others
   */
  long close(HeadersOut digests) throws IOException {
    LongList refs = new LongList();
    HeadersOut headers = new HeadersOut();
    for (Object child : children) {
      if (child instanceof CompoundOut compound) {
        refs.add(compound.close(digests));
        header(headers, compound);
      } else if (child instanceof PropertyOut property) {
        refs.add(property.close(digests));
        property.header(headers);
      }
    }
    byte[] all = headers.toArray();
    digests.put(all);
    if (refs.size() > 0) {
      refs.add(archive.out.data(all));
    }
    return archive.out.group(refs);
  }

  private void header(HeadersOut headers, CompoundOut child) {
    byte[] utf8 = HeadersOut.utf8(child.name);
    int hint = HeadersOut.hint(Math.max(utf8.length, HeadersOut.utf8(child.metaData).length));
    int index = archive.metaData(child.metaData);
    headers.number((long) hint << 2 | (long) index << 20, HeadersOut.WORD);
    tail(headers, utf8, child.metaData, index, hint);
  }

  /** Name and metadata, which end each header. */
  static void tail(HeadersOut headers, byte[] name, String metaData, int index, int hint) {
    headers.number(name.length, hint);
    headers.put(name);
    if (index == 0xff) {
      byte[] meta = HeadersOut.utf8(metaData);
      headers.number(meta.length, hint);
      headers.put(meta);
    }
  }
}
