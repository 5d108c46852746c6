package ferry.stone.core.report;

import ferry.stone.core.format.files.Resources;
import ferry.stone.core.scene.Scene;
import java.io.IOException;
import java.io.InputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;

/**
 * One side of a report.
 *
 * @param label such as "near" or the name of a file
 * @param files for its textures
 * @param list what it was read from, with their hashes
 */
public record ReportSide(String label, Scene scene, Resources files, List<FileFact> list) {
  private static final int BLOCK = 1 << 16;

  /** A file by its path in the cargo. */
  public record FileFact(String path, long bytes, String sha256) {}

  /** The files of some paths, hashed. */
  public static List<FileFact> facts(Resources files, List<String> paths) throws IOException {
    List<FileFact> facts = new ArrayList<>();
    for (String path : paths) {
      MessageDigest digest = sha256();
      byte[] block = new byte[BLOCK];
      try (InputStream in = files.open(path)) {
        for (int read = in.read(block); read >= 0; read = in.read(block)) {
          digest.update(block, 0, read);
        }
      }
      facts.add(new FileFact(path, files.size(path), HexFormat.of().formatHex(digest.digest())));
    }
    return facts;
  }

  private static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }
}
