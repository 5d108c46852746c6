package ferry.stone.core.handover;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Base64;
import java.util.zip.GZIPOutputStream;

/**
 * Bytes as text inside a page: packed by gzip (RFC 1952), as Base64 (RFC 4648), in elements of
 * about 1 MB, so that the page can unpack and tell how far it is while the rest still arrives.
 */
final class AssetText {
  /** Bytes of an element before Base64; a multiple of 3, so that only the last one is padded. */
  private static final int BLOCK = 768 * 1024;

  private static final int READ = 1 << 16;

  private AssetText() {}

  /**
   * @param side which asset of the page this is, from 0
   */
  static void write(InputStream bytes, int side, OutputStream page) throws IOException {
    Elements elements = new Elements(side, page);
    try (GZIPOutputStream packed = new GZIPOutputStream(elements, READ)) {
      byte[] block = new byte[READ];
      for (int read = bytes.read(block); read >= 0; read = bytes.read(block)) {
        elements.told += read;
        packed.write(block, 0, read);
      }
    }
  }

  /** Cuts what it gets into elements; each says how many bytes were packed up to its end. */
  private static final class Elements extends OutputStream {
    private final int side;
    private final OutputStream page;
    private final byte[] block = new byte[BLOCK];
    private int filled;
    private long told;

    Elements(int side, OutputStream page) {
      this.side = side;
      this.page = page;
    }

    @Override
    public void write(int b) throws IOException {
      write(new byte[] {(byte) b}, 0, 1);
    }

    @Override
    public void write(byte[] bytes, int from, int count) throws IOException {
      int at = from;
      while (at < from + count) {
        int some = Math.min(BLOCK - filled, from + count - at);
        System.arraycopy(bytes, at, block, filled, some);
        filled += some;
        at += some;
        if (filled == BLOCK) {
          element();
        }
      }
    }

    private void element() throws IOException {
      String head =
          "<script type=\"text/plain\" data-side=\"" + side + "\" data-upto=\"" + told + "\">";
      page.write(head.getBytes(StandardCharsets.US_ASCII));
      page.write(Base64.getEncoder().encode(Arrays.copyOf(block, filled)));
      page.write("</script>\n".getBytes(StandardCharsets.US_ASCII));
      filled = 0;
    }

    /** The last element; the page itself stays open. */
    @Override
    public void close() throws IOException {
      if (filled > 0) {
        element();
      }
    }
  }
}
