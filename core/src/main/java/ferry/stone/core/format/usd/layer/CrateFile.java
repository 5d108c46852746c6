package ferry.stone.core.format.usd.layer;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.files.BinaryCursor;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.RandomBytes;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Map;

/**
 * The tables of a crate: tokens, strings, fields, sets of fields, paths and specs, after the
 * standard's sources ({@code pxr/usd/sdf/crateFile.cpp}). Values stay in the file until they are
 * asked for; they may be asked for by several threads.
 */
final class CrateFile {
  static final String MARK = "PXR-USDC";

  /** Tables are packed from this version on. */
  private static final int PACKED = version(0, 4, 0);

  private static final int OLDEST = version(0, 4, 0);
  private static final int NEWEST = version(0, 16, 0);
  private static final int NEAR = 256;
  private static final int HEAD = 24;
  private static final int SECTION = 32;
  private static final int NAME = 16;
  private static final int MOST_SECTIONS = 64;

  private final String resource;
  private final RandomBytes file;
  private final Budget budget;
  private final int version;
  private final Map<String, long[]> sections = new HashMap<>();

  final String[] tokens;
  final int[] strings;
  final int[] fieldTokens;
  final long[] fieldValues;
  final int[] fieldSets;
  final String[] paths;
  final int[] specPaths;
  final int[] specFields;
  final int[] specTypes;

  CrateFile(String resource, RandomBytes file, Budget budget) throws IOException, FormatException {
    this.resource = resource;
    this.file = file;
    this.budget = budget;
    BinaryCursor in = cursor();
    byte[] head = in.bytes(Math.min(HEAD, in.size()), "the head");
    if (!isCrate(head)) {
      throw new FormatException(
          Kind.NOT_THIS_FORMAT,
          resource,
          "byte 0",
          "this is not a crate: it does not begin with \"" + MARK + "\". Export or copy it again.");
    }
    if (head.length < HEAD) {
      throw new FormatException(
          Kind.TRUNCATED,
          resource,
          "byte " + head.length,
          "the file ends in its head. Copy it again.");
    }
    version = version(head[8], head[9], head[10]);
    if (version < OLDEST || version > NEWEST) {
      String named = head[8] + "." + head[9] + "." + head[10];
      throw new FormatException(
          version < OLDEST ? Kind.TOO_OLD : Kind.TOO_NEW,
          resource,
          "byte 8",
          "the crate is of version "
              + named
              + "; versions 0.4 to 0.16 are read. Save it anew with a program of today, or as text.");
    }
    contents(in, ByteBuffer.wrap(head).order(ByteOrder.LITTLE_ENDIAN).getLong(16));
    tokens = tokens();
    strings = strings();
    fieldTokens = null == go("FIELDS", in) ? new int[0] : packedInts(in, longCount(in, "fields"));
    fieldValues = fieldValues(in, fieldTokens.length);
    go("FIELDSETS", in);
    fieldSets = packedInts(in, longCount(in, "sets of fields"));
    paths = new CratePaths(this).read(go("PATHS", in));
    go("SPECS", in);
    int count = longCount(in, "specs");
    specPaths = packedInts(in, count);
    specFields = packedInts(in, count);
    specTypes = packedInts(in, count);
  }

  /** The same tables, for values that are read when they are asked for and then let go. */
  private CrateFile(CrateFile of) {
    resource = of.resource;
    file = of.file;
    budget = of.budget.fresh();
    version = of.version;
    tokens = of.tokens;
    strings = of.strings;
    fieldTokens = of.fieldTokens;
    fieldValues = of.fieldValues;
    fieldSets = of.fieldSets;
    paths = of.paths;
    specPaths = of.specPaths;
    specFields = of.specFields;
    specTypes = of.specTypes;
  }

  CrateFile later() {
    return new CrateFile(this);
  }

  static boolean isCrate(byte[] head) {
    return new String(head, 0, Math.min(head.length, MARK.length()), StandardCharsets.US_ASCII)
        .equals(MARK);
  }

  static int version(int major, int minor, int patch) {
    return major << 16 | minor << 8 | patch;
  }

  boolean isFrom(int major, int minor) {
    return version >= version(major, minor, 0);
  }

  /** One for a single value, which is a short one mostly. */
  BinaryCursor near() {
    return new BinaryCursor(resource, file, ByteOrder.LITTLE_ENDIAN, NEAR);
  }

  BinaryCursor cursor() {
    return new BinaryCursor(resource, file, ByteOrder.LITTLE_ENDIAN);
  }

  FormatException corrupt(long place, String problem) {
    return new FormatException(
        Kind.CORRUPT, resource, "byte " + place, problem + " Export or copy the file again.");
  }

  void claim(long bytes, long place, String what) throws FormatException {
    budget.claim(bytes, "byte " + place, what);
  }

  /** Goes to a place that the file names. */
  void seek(BinaryCursor in, long place, String what) throws FormatException {
    if (place < 0 || place > in.size()) {
      throw corrupt(place, what + " stands beyond the end of the file.");
    }
    in.position(place);
  }

  private void contents(BinaryCursor in, long at) throws IOException, FormatException {
    seek(in, at, "the list of its sections");
    long count = in.readLong();
    if (count < 0 || count > MOST_SECTIONS || count * SECTION > in.remaining()) {
      throw corrupt(at, "the list of sections claims " + count + ".");
    }
    for (int i = 0; i < count; i++) {
      byte[] name = in.bytes(NAME, "the name of a section");
      int end = 0;
      while (end < name.length && name[end] != 0) {
        end++;
      }
      long start = in.readLong();
      long size = in.readLong();
      if (start < 0 || size < 0 || start > in.size() - size) {
        throw corrupt(in.position(), "a section ends beyond the end of the file.");
      }
      sections.put(new String(name, 0, end, StandardCharsets.US_ASCII), new long[] {start, size});
    }
  }

  /** Goes to a section; every crate has them all. */
  BinaryCursor go(String section, BinaryCursor in) throws FormatException {
    long[] where = sections.get(section);
    if (where == null) {
      throw corrupt(0, "the crate has no section " + section + ".");
    }
    in.position(where[0]);
    return in;
  }

  /** A count of 64 bits of what takes some memory each. */
  int longCount(BinaryCursor in, String what) throws IOException, FormatException {
    long at = in.position();
    long count = in.readLong();
    if (count < 0 || count > Integer.MAX_VALUE - 16) {
      throw corrupt(at, "the table of " + what + " claims " + count + ".");
    }
    claim(16 * count, at, "the table of " + what);
    return (int) count;
  }

  /** Whole numbers behind the size that they are packed to. */
  int[] packedInts(BinaryCursor in, int count) throws IOException, FormatException {
    long at = in.position();
    byte[] packed = in.bytes(in.readLong(), "a table");
    if (count == 0) {
      return new int[0];
    }
    long most = CrateInts.coded(count, 4);
    claim(most, at, "a packed table");
    return CrateInts.ints(this, CrateInts.unpack(this, packed, most, at), count, at);
  }

  private String[] tokens() throws IOException, FormatException {
    BinaryCursor in = go("TOKENS", cursor());
    int count = longCount(in, "tokens");
    long at = in.position();
    long size = in.readLong();
    claim(size, at, "the tokens");
    byte[] packed = in.bytes(in.readLong(), "the tokens");
    ByteBuffer all = size == 0 ? ByteBuffer.allocate(0) : CrateInts.unpack(this, packed, size, at);
    String[] tokens = new String[count];
    byte[] bytes = all.array();
    int from = 0;
    for (int i = 0; i < count; i++) {
      int end = from;
      while (end < all.limit() && bytes[end] != 0) {
        end++;
      }
      if (end >= all.limit()) {
        throw corrupt(at, "the tokens end before all " + count + " are there.");
      }
      tokens[i] = new String(bytes, from, end - from, StandardCharsets.UTF_8);
      from = end + 1;
    }
    return tokens;
  }

  private int[] strings() throws IOException, FormatException {
    BinaryCursor in = go("STRINGS", cursor());
    int count = longCount(in, "texts");
    int[] all = new int[count];
    for (int i = 0; i < count; i++) {
      all[i] = in.readInt();
    }
    return all;
  }

  private long[] fieldValues(BinaryCursor in, int count) throws IOException, FormatException {
    long at = in.position();
    byte[] packed = in.bytes(in.readLong(), "the values of fields");
    long[] values = new long[count];
    if (count > 0) {
      claim(8L * count, at, "the values of fields");
      ByteBuffer all = CrateInts.unpack(this, packed, 8L * count, at);
      if (all.remaining() < 8L * count) {
        throw corrupt(at, "the values of fields end before all are there.");
      }
      all.asLongBuffer().get(values);
    }
    return values;
  }

  String token(long index, long place) throws FormatException {
    if (index < 0 || index >= tokens.length) {
      throw corrupt(place, "a token is named that is not there.");
    }
    return tokens[(int) index];
  }

  String string(long index, long place) throws FormatException {
    if (index < 0 || index >= strings.length) {
      throw corrupt(place, "a text is named that is not there.");
    }
    return token(strings[(int) index], place);
  }

  String path(long index, long place) throws FormatException {
    if (index < 0 || index >= paths.length || paths[(int) index] == null) {
      throw corrupt(place, "a path is named that is not there.");
    }
    return paths[(int) index];
  }
}
