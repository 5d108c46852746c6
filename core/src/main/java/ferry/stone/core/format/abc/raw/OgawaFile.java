package ferry.stone.core.format.abc.raw;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.files.RandomBytes;
import java.io.EOFException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;

/**
 * Groups and data of a file, read where and when they are asked for: nothing of it is held. May be
 * used by several threads.
 */
final class OgawaFile {
  static final int HEAD = 16;
  private static final String MARK = "Ogawa";
  private static final byte CLOSED = (byte) 0xff;
  private static final int VERSION = 1;

  private final String resource;
  private final RandomBytes file;
  private final long root;

  /**
   * @param at place of its count
   */
  record Group(long at, long count) {
    static final Group EMPTY = new Group(0, 0);
  }

  /**
   * @param at place of its first byte
   */
  record Data(long at, long size) {
    static final Data EMPTY = new Data(0, 0);
  }

  OgawaFile(String resource, RandomBytes file) throws IOException, FormatException {
    this.resource = resource;
    this.file = new Pages(file);
    ByteBuffer head = read(0, (int) Math.min(HEAD, file.size()));
    for (int i = 0; i < MARK.length(); i++) {
      if (head.limit() <= i || head.get(i) != MARK.charAt(i)) {
        throw error(
            Kind.NOT_THIS_FORMAT,
            0,
            "this is not an Alembic archive: it does not begin with \"Ogawa\". Export or copy it"
                + " again.");
      }
    }
    if (head.limit() < HEAD) {
      throw error(Kind.TRUNCATED, head.limit(), "the file ends in its head. Copy it again.");
    }
    if (head.get(5) != CLOSED) {
      throw error(
          Kind.TRUNCATED,
          5,
          "the archive was not closed by the program that wrote it: what it holds cannot be told."
              + " Export it again, and wait until that has finished.");
    }
    int version = (head.get(6) & 0xff) << 8 | head.get(7) & 0xff;
    if (version != VERSION) {
      throw error(Kind.TOO_NEW, 6, "the container has version " + version + "; version 1 is read.");
    }
    root = head.getLong(8);
  }

  String resource() {
    return resource;
  }

  long size() {
    return file.size();
  }

  Group root() throws IOException, FormatException {
    return group(root);
  }

  /** Bytes of a place, little-endian. */
  ByteBuffer read(long at, int count) throws IOException, FormatException {
    byte[] bytes = new byte[count];
    read(at, bytes, count);
    return ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
  }

  /** The same into memory that is there. */
  void read(long at, byte[] into, int count) throws IOException, FormatException {
    try {
      file.read(at, into, 0, count);
    } catch (EOFException e) {
      throw error(Kind.TRUNCATED, at, "the file ends here. Copy or export it again.");
    }
  }

  private long number(long at, String what) throws IOException, FormatException {
    if (at < HEAD || at > size() - Long.BYTES) {
      throw error(
          Kind.CORRUPT,
          Math.max(0, Math.min(at, size())),
          "expected " + what + " here, but the file has " + size() + " bytes. Export it again.");
    }
    return read(at, Long.BYTES).getLong(0);
  }

  private Group group(long place) throws IOException, FormatException {
    if (place == 0) {
      return Group.EMPTY;
    }
    long count = number(place, "a group");
    if (count < 0 || count > (size() - place - Long.BYTES) / Long.BYTES) {
      throw error(
          Kind.CORRUPT,
          place,
          "a group claims "
              + Long.toUnsignedString(count)
              + " children, more than the file has room for. Export it again.");
    }
    return new Group(place, count);
  }

  private long child(Group group, long index) throws IOException, FormatException {
    if (index < 0 || index >= group.count) {
      throw error(
          Kind.CORRUPT,
          group.at,
          "expected child "
              + index
              + " of a group whose count is "
              + group.count
              + ". Export the file again.");
    }
    return number(group.at + Long.BYTES * (1 + index), "the place of a child");
  }

  boolean isData(Group group, long index) throws IOException, FormatException {
    return index >= 0 && index < group.count && child(group, index) < 0;
  }

  boolean isGroup(Group group, long index) throws IOException, FormatException {
    return index >= 0 && index < group.count && child(group, index) >= 0;
  }

  Group group(Group group, long index) throws IOException, FormatException {
    long place = child(group, index);
    if (place < 0) {
      throw error(Kind.CORRUPT, group.at, "child " + index + " is data, not a group.");
    }
    return group(place);
  }

  Data data(Group group, long index) throws IOException, FormatException {
    long place = child(group, index);
    if (place >= 0) {
      throw error(Kind.CORRUPT, group.at, "child " + index + " is a group, not data.");
    }
    place &= Long.MAX_VALUE;
    if (place == 0) {
      return Data.EMPTY;
    }
    long size = number(place, "data");
    if (size < 0 || size > this.size() - place - Long.BYTES) {
      throw error(
          Kind.TRUNCATED,
          place,
          "data claims "
              + Long.toUnsignedString(size)
              + " bytes, more than the file has from here. Copy or export it again.");
    }
    return new Data(place + Long.BYTES, size);
  }

  FormatException error(Kind kind, long at, String problem) {
    return new FormatException(kind, resource, "byte " + at, problem);
  }
}
