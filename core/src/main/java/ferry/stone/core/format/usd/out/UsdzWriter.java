package ferry.stone.core.format.usd.out;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.SeekableOutput;
import ferry.stone.core.format.usd.layer.UsdLayer;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.zip.CRC32;

/**
 * Writes a package: a zip without packing, the root layer first, the bytes of each file at a
 * multiple of 64 (the standard's {@code usdz} specification).
 */
public final class UsdzWriter {
  private static final int ALIGNED = 64;
  private static final int LOCAL = 30;
  private static final int CENTRAL = 46;
  private static final int END = 22;

  /** Date and time of all entries, so that equal content makes equal files: 1980-01-01. */
  private static final int DATE = 0x21;

  private final OutputStream out;
  private final List<byte[]> directory = new ArrayList<>();
  private long written;

  private UsdzWriter(OutputStream out) {
    this.out = out;
  }

  /**
   * The caller closes the stream.
   *
   * @param layers by their paths, the root layer first
   * @param files that stand behind them, by their paths
   */
  public static void write(
      Map<String, UsdLayer> layers, Map<String, byte[]> files, OutputStream out)
      throws IOException, FormatException {
    UsdzWriter zip = new UsdzWriter(out);
    for (Map.Entry<String, UsdLayer> layer : layers.entrySet()) {
      Path crate = Files.createTempFile("ferry-", ".usdc");
      try {
        try (SeekableOutput grown = new SeekableOutput(new FileOutputStream(crate.toFile()))) {
          CrateWriter.write(layer.getValue(), grown);
          grown.complete();
        }
        zip.file(layer.getKey(), crate);
      } finally {
        Files.deleteIfExists(crate);
      }
    }
    for (Map.Entry<String, byte[]> file : files.entrySet()) {
      CRC32 sum = new CRC32();
      sum.update(file.getValue());
      zip.head(file.getKey(), sum.getValue(), file.getValue().length);
      zip.put(file.getValue(), file.getValue().length);
    }
    zip.end();
  }

  private void file(String name, Path content) throws IOException {
    long size = Files.size(content);
    if (size > 0xffff_ffffL) {
      throw new IOException(
          name
              + ": a package holds at most 4 GB. Land the asset as a crate (.usdc) with its images"
              + " beside it.");
    }
    CRC32 sum = new CRC32();
    byte[] block = new byte[1 << 16];
    try (InputStream in = Files.newInputStream(content)) {
      for (int read = in.read(block); read > 0; read = in.read(block)) {
        sum.update(block, 0, read);
      }
    }
    head(name, sum.getValue(), size);
    try (InputStream in = Files.newInputStream(content)) {
      for (int read = in.read(block); read > 0; read = in.read(block)) {
        put(block, read);
      }
    }
  }

  private static ByteBuffer buffer(int size) {
    return ByteBuffer.allocate(size).order(ByteOrder.LITTLE_ENDIAN);
  }

  private void put(byte[] bytes, int count) throws IOException {
    out.write(bytes, 0, count);
    written += count;
  }

  /**
   * What stands before the bytes of a file, with as much of nothing as brings them to their place.
   */
  private void head(String name, long sum, long size) throws IOException {
    byte[] text = name.getBytes(StandardCharsets.UTF_8);
    long at = written;
    int over = (int) ((at + LOCAL + text.length) % ALIGNED);
    int extra = over == 0 ? 0 : ALIGNED - over;
    // A field of its own has four bytes at least.
    extra += extra > 0 && extra < 4 ? ALIGNED : 0;
    ByteBuffer head = buffer(LOCAL + text.length + extra);
    head.putInt(0x04034b50);
    common(head, sum, size, text.length, extra);
    head.put(text);
    if (extra > 0) {
      head.putShort((short) 0x1986).putShort((short) (extra - 4));
    }
    put(head.array(), head.capacity());
    ByteBuffer entry = buffer(CENTRAL + text.length);
    entry.putInt(0x02014b50).putShort((short) 20);
    common(entry, sum, size, text.length, 0);
    entry.putInt(CENTRAL - 4, (int) at);
    entry.position(CENTRAL);
    entry.put(text);
    directory.add(entry.array());
  }

  private static void common(ByteBuffer into, long sum, long size, int name, int extra) {
    into.putShort((short) 20).putShort((short) 0x0800).putShort((short) 0);
    into.putShort((short) 0).putShort((short) DATE);
    into.putInt((int) sum).putInt((int) size).putInt((int) size);
    into.putShort((short) name).putShort((short) extra);
  }

  private void end() throws IOException {
    long start = written;
    for (byte[] entry : directory) {
      put(entry, entry.length);
    }
    ByteBuffer last = buffer(END);
    last.putInt(0x06054b50).putInt(0);
    last.putShort((short) directory.size()).putShort((short) directory.size());
    last.putInt((int) (written - start)).putInt((int) start).putShort((short) 0);
    put(last.array(), END);
  }
}
