package ferry.stone.server.store;

import ferry.stone.server.FerrySettings;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.security.DigestOutputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import org.springframework.stereotype.Component;

/**
 * Files by the SHA-256 of their content. A file is written under a temporary name, forced to disk
 * and renamed, so that a name always stands for whole content.
 */
@Component
public class BlobStore {
  private final Path folder;
  private final Path incoming;

  public BlobStore(FerrySettings settings) throws IOException {
    folder = settings.data().resolve("blobs");
    incoming = settings.data().resolve("incoming");
    Files.createDirectories(folder);
    Files.createDirectories(incoming);
    try (var leftovers = Files.newDirectoryStream(incoming)) {
      for (Path p : leftovers) {
        Files.deleteIfExists(p);
      }
    }
  }

  /** A stored file. */
  public record Blob(String hash, long size) {}

  /** Where a file's content is. */
  public Path path(String hash) {
    if (!hash.matches("[0-9a-f]{64}")) {
      throw new IllegalArgumentException("no blob name: " + hash);
    }
    return folder.resolve(hash.substring(0, 2)).resolve(hash);
  }

  /**
   * Stores a stream.
   *
   * @param most bytes after which it is refused with {@link TooLargeException}
   */
  public Blob put(InputStream in, long most) throws IOException {
    try (Incoming file = create()) {
      byte[] buffer = new byte[1 << 16];
      long size = 0;
      int read;
      while ((read = in.read(buffer)) >= 0) {
        size += read;
        if (size > most) {
          throw new TooLargeException(most);
        }
        file.stream().write(buffer, 0, read);
      }
      return file.keep();
    }
  }

  /** A file being written; without {@link Incoming#keep()} it vanishes on close. */
  public Incoming create() throws IOException {
    return new Incoming(Files.createTempFile(incoming, "in-", ".part"));
  }

  /** More content than is taken. */
  public static final class TooLargeException extends IOException {
    private static final long serialVersionUID = 1L;
    private final long most;

    public TooLargeException(long most) {
      super("larger than " + most + " bytes");
      this.most = most;
    }

    public long most() {
      return most;
    }
  }

  /** A file on its way in. */
  public final class Incoming implements AutoCloseable {
    private final Path file;
    private final MessageDigest digest;
    private final OutputStream out;
    private long size;

    private Incoming(Path file) throws IOException {
      this.file = file;
      try {
        digest = MessageDigest.getInstance("SHA-256");
      } catch (NoSuchAlgorithmException e) {
        throw new IllegalStateException(e);
      }
      out = new DigestOutputStream(Files.newOutputStream(file), digest);
    }

    public OutputStream stream() {
      return new OutputStream() {
        @Override
        public void write(int b) throws IOException {
          out.write(b);
          size++;
        }

        @Override
        public void write(byte[] bytes, int from, int count) throws IOException {
          out.write(bytes, from, count);
          size += count;
        }
      };
    }

    /** Ends writing and gives the file its lasting name. */
    public Blob keep() throws IOException {
      out.close();
      String hash = HexFormat.of().formatHex(digest.digest());
      Path target = path(hash);
      if (!Files.exists(target)) {
        Files.createDirectories(target.getParent());
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.WRITE)) {
          channel.force(true);
        }
        Files.move(file, target, StandardCopyOption.ATOMIC_MOVE);
      }
      return new Blob(hash, size);
    }

    @Override
    public void close() throws IOException {
      out.close();
      Files.deleteIfExists(file);
    }
  }
}
