package ferry.stone.core.format.usd.layer;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.files.RandomBytes;
import java.io.EOFException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * A package ({@code usdz}): a zip whose files are stored as they are, the first of them the root
 * layer, after the usdz file format specification of OpenUSD and APPNOTE 6.3 of the zip format. Its
 * files are read where they lie.
 */
public final class UsdPackage {
  private static final int LOCAL = 0x04034b50;
  private static final int CENTRAL = 0x02014b50;
  private static final int END = 0x06054b50;
  private static final int LOCAL_SIZE = 30;
  private static final int CENTRAL_SIZE = 46;
  private static final int END_SIZE = 22;
  private static final int LONGEST_REMARK = 0xffff;
  private static final int ENCRYPTED = 1;
  private static final long MANY = 0xffff_ffffL;

  private final String resource;
  private final RandomBytes file;
  private final Map<String, Entry> entries = new LinkedHashMap<>();

  /** Where the bytes of a file lie. */
  private record Entry(long at, long size) {}

  /** A part of the package as a file of its own. */
  private record Part(RandomBytes of, long at, long size) implements RandomBytes {
    @Override
    public void read(long from, byte[] into, int start, int count) throws IOException {
      if (from < 0 || count > size - from) {
        throw new EOFException();
      }
      of.read(at + from, into, start, count);
    }

    @Override
    public void read(long from, ByteBuffer into) throws IOException {
      if (from < 0 || into.remaining() > size - from) {
        throw new EOFException();
      }
      of.read(at + from, into);
    }
  }

  public UsdPackage(String resource, RandomBytes file) throws IOException, FormatException {
    this.resource = resource;
    this.file = file;
    read();
    if (entries.isEmpty()) {
      throw error(Kind.MISSING, 0, "the package is empty. Export it again.");
    }
  }

  /** Whether a file begins like a zip. */
  public static boolean isPackage(byte[] head) {
    return head.length >= 4
        && ByteBuffer.wrap(head).order(ByteOrder.LITTLE_ENDIAN).getInt() == LOCAL;
  }

  /** Names of its files, in their order. */
  public Iterable<String> names() {
    return entries.keySet();
  }

  /** Name of the root layer. */
  public String root() {
    return entries.keySet().iterator().next();
  }

  /** A file of the package; {@code null} where it has none of that name. */
  public RandomBytes file(String name) {
    Entry entry = entries.get(name);
    return entry == null ? null : new Part(file, entry.at(), entry.size());
  }

  /** The byte at which one of its files begins. */
  public long begins(String name) {
    return entries.get(name).at();
  }

  private FormatException error(Kind kind, long at, String problem) {
    return new FormatException(kind, resource, "byte " + at, problem);
  }

  private ByteBuffer bytes(long at, long count) throws IOException, FormatException {
    if (at < 0 || count < 0 || count > file.size() - at) {
      throw error(Kind.TRUNCATED, at, "the package ends before its files do. Copy it again.");
    }
    byte[] bytes = new byte[(int) count];
    file.read(at, bytes, 0, bytes.length);
    return ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
  }

  private void read() throws IOException, FormatException {
    long tail = Math.min(file.size(), END_SIZE + LONGEST_REMARK);
    long from = file.size() - tail;
    ByteBuffer last = bytes(from, tail);
    int end = (int) tail - END_SIZE;
    while (end >= 0 && last.getInt(end) != END) {
      end--;
    }
    if (end < 0) {
      throw error(
          Kind.TRUNCATED,
          file.size(),
          "the package has no list of its files at its end. Copy or export it again.");
    }
    int count = last.getShort(end + 10) & 0xffff;
    long size = last.getInt(end + 12) & MANY;
    long at = last.getInt(end + 16) & MANY;
    if (at == MANY || size == MANY || count == 0xffff) {
      throw error(
          Kind.UNSUPPORTED,
          from + end,
          "the package is larger than the standard's packages can be (zip64). Unpack it and bring"
              + " its files.");
    }
    ByteBuffer list = bytes(at, size);
    for (int i = 0; i < count; i++) {
      entry(list, at);
    }
  }

  private void entry(ByteBuffer list, long listAt) throws IOException, FormatException {
    int from = list.position();
    if (list.remaining() < CENTRAL_SIZE || list.getInt(from) != CENTRAL) {
      throw error(
          Kind.CORRUPT,
          listAt + from,
          "the list of the package's files breaks off here. Copy or export it again.");
    }
    int flags = list.getShort(from + 8);
    int method = list.getShort(from + 10);
    long size = list.getInt(from + 24) & MANY;
    int nameSize = list.getShort(from + 28) & 0xffff;
    int more = (list.getShort(from + 30) & 0xffff) + (list.getShort(from + 32) & 0xffff);
    long local = list.getInt(from + 42) & MANY;
    if (list.remaining() < CENTRAL_SIZE + nameSize + more) {
      throw error(Kind.CORRUPT, listAt + from, "a name ends beyond the list. Copy it again.");
    }
    String name = new String(list.array(), from + CENTRAL_SIZE, nameSize, StandardCharsets.UTF_8);
    list.position(from + CENTRAL_SIZE + nameSize + more);
    if (name.endsWith("/")) {
      return;
    }
    if (method != 0 || (flags & ENCRYPTED) != 0) {
      throw error(
          Kind.UNSUPPORTED,
          local,
          "the file \""
              + name
              + "\" is compressed or encrypted, which the standard does not allow in a package."
              + " Export it again, or unpack it and bring its files.");
    }
    ByteBuffer head = bytes(local, LOCAL_SIZE);
    if (head.getInt(0) != LOCAL) {
      throw error(Kind.CORRUPT, local, "no file begins where the list says. Copy it again.");
    }
    long at = local + LOCAL_SIZE + (head.getShort(26) & 0xffff) + (head.getShort(28) & 0xffff);
    if (size > file.size() - at) {
      throw error(Kind.TRUNCATED, at, "the file \"" + name + "\" ends beyond the package.");
    }
    entries.putIfAbsent(name, new Entry(at, size));
  }
}
