package ferry.stone.server.store;

import ferry.stone.server.FerrySettings;
import java.io.BufferedOutputStream;
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
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;

/**
 * Files by the SHA-256 of their content. A file is written under a temporary name, forced to disk
 * and renamed, so that a name always stands for whole content.
 */
@Component
public class BlobStore {
  private static final int FORCED_ONE_BY_ONE = 64;

  private final Path folder;
  private final Path incoming;

  /** Files that are stored and that no row names yet, by how many hold them. */
  private final Map<String, Integer> held = new HashMap<>();

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

  /** The folder with everything that is stored. */
  public Path folder() {
    return folder;
  }

  /** Says that a stored file is named by a row now, or never will be. */
  public void release(String hash) {
    synchronized (held) {
      held.computeIfPresent(hash, (k, n) -> n > 1 ? n - 1 : null);
    }
  }

  /** Whether something outside the store names a file. */
  public interface Named {
    boolean isNamed(String hash);
  }

  /** Deletes a file unless it is held or named; the bytes that this frees. */
  long deleteUnused(Path file, Named named) throws IOException {
    String hash = file.getFileName().toString();
    // Under the lock under which files are held: a file that comes in meanwhile finds itself
    // stored or has to be stored anew, never neither.
    synchronized (held) {
      if (held.containsKey(hash) || named.isNamed(hash)) {
        return 0;
      }
      long size = Files.size(file);
      return Files.deleteIfExists(file) ? size : 0;
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
   * Stores a stream. The file is held until {@link #release}.
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

  /** Files that come in together: all of them are kept, or none. */
  public Batch batch() {
    return new Batch();
  }

  /** Files by their paths that are kept together. */
  public final class Batch implements AutoCloseable {
    private final Map<String, Incoming> files = new LinkedHashMap<>();
    private final List<String> kept = new ArrayList<>();

    /** A file to write; a second one under a path takes the place of the first. */
    public OutputStream create(String path) throws IOException {
      Incoming file = BlobStore.this.create();
      Incoming before = files.put(path, file);
      if (before != null) {
        before.close();
      }
      return new BufferedOutputStream(file.stream(), 1 << 16) {
        @Override
        public void close() throws IOException {
          super.close();
          file.end();
        }
      };
    }

    /** Gives all files their lasting names; they are held until the batch is closed. */
    public Map<String, Blob> keep() throws IOException {
      boolean forced = files.size() > FORCED_ONE_BY_ONE && DiskSync.all(incoming);
      Map<String, Blob> blobs = new LinkedHashMap<>();
      for (Map.Entry<String, Incoming> e : files.entrySet()) {
        Blob blob = e.getValue().keep(!forced);
        kept.add(blob.hash());
        blobs.put(e.getKey(), blob);
      }
      return blobs;
    }

    @Override
    public void close() throws IOException {
      for (Incoming file : files.values()) {
        file.close();
      }
      kept.forEach(BlobStore.this::release);
    }
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

    /** Ends writing. */
    void end() throws IOException {
      out.close();
    }

    /** Ends writing and gives the file its lasting name; it is held until it is released. */
    public Blob keep() throws IOException {
      return keep(true);
    }

    private Blob keep(boolean force) throws IOException {
      end();
      String hash = HexFormat.of().formatHex(digest.digest());
      Path target = path(hash);
      if (force && !Files.exists(target)) {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.WRITE)) {
          channel.force(true);
        }
      }
      synchronized (held) {
        held.merge(hash, 1, Integer::sum);
        if (!Files.exists(target)) {
          Files.createDirectories(target.getParent());
          Files.move(file, target, StandardCopyOption.ATOMIC_MOVE);
        }
      }
      return new Blob(hash, size);
    }

    @Override
    public void close() throws IOException {
      try {
        out.close();
      } finally {
        Files.deleteIfExists(file);
      }
    }
  }
}
