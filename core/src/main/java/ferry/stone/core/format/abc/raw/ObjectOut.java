package ferry.stone.core.format.abc.raw;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/** An object that is being written. */
public final class ObjectOut {
  private final AbcOut archive;
  private final String name;
  private final String path;
  private final String metaData;
  private final CompoundOut properties;
  private final List<ObjectOut> children = new ArrayList<>();
  private long place = -1;

  ObjectOut(AbcOut archive, String name, String path, String metaData) {
    this.archive = archive;
    this.name = name;
    this.path = path;
    this.metaData = metaData;
    properties = new CompoundOut(archive, "", "");
  }

  /** Names from the top down, a {@code /} before each; empty for the top. */
  public String path() {
    return path;
  }

  public CompoundOut properties() {
    return properties;
  }

  /**
   * @param childName unlike those of the other children, without {@code /}
   */
  public ObjectOut child(String childName, String childMetaData) {
    ObjectOut child = new ObjectOut(archive, childName, path + "/" + childName, childMetaData);
    children.add(child);
    return child;
  }

  /** An object of a schema, and the compound in which that keeps what it says. */
  public CompoundOut schema(String schema, String title) {
    return properties.compound(title, schema);
  }

  /** What stands in the header of an object that follows a schema. */
  public static String metaData(String schema, String title) {
    String name = schema.substring(schema.indexOf('=') + 1).replaceAll(";.*", "");
    return schema + ";schemaObjTitle=" + name + ":" + title;
  }

  /** Writes what is not written yet; what is closed gets nothing more. */
  public long close() throws IOException {
    if (place >= 0) {
      return place;
    }
    LongList refs = new LongList();
    HeadersOut digests = new HeadersOut();
    refs.add(properties.close(digests));
    byte[] own = digests.toArray();
    HeadersOut headers = new HeadersOut();
    for (ObjectOut child : children) {
      refs.add(child.close());
      byte[] utf8 = HeadersOut.utf8(child.name);
      headers.number(utf8.length, HeadersOut.WORD);
      headers.put(utf8);
      int index = archive.metaData(child.metaData);
      headers.small(index);
      if (index == 0xff) {
        byte[] meta = HeadersOut.utf8(child.metaData);
        headers.number(meta.length, HeadersOut.WORD);
        headers.put(meta);
      }
    }
    byte[] below = headers.toArray();
    // Whoever compares archives compares these first: equal for equal contents.
    key(headers, own);
    key(headers, below);
    refs.add(archive.out.data(headers.toArray()));
    place = archive.out.group(refs);
    children.clear();
    return place;
  }

  private static void key(HeadersOut headers, byte[] of) {
    SampleKey key = SampleKey.of(of, of.length);
    headers.put(OgawaOut.numbers(16).putLong(key.low()).putLong(key.high()).array());
  }
}
