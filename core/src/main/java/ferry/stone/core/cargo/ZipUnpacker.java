package ferry.stone.core.cargo;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.Output;
import ferry.stone.core.math.Figures;
import ferry.stone.core.work.Progress;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.zip.CRC32;
import java.util.zip.CheckedInputStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipFile;

/**
 * Unpacks a zip into a cargo. Refused before anything is written: names that lead outside the
 * folder, too many files, too much content, and content out of all proportion to the zip. Sizes are
 * counted again while unpacking, since a zip can lie about them.
 */
public final class ZipUnpacker {

  /**
   * @param entries most files
   * @param bytes most bytes in all
   * @param ratio most bytes for each byte of the zip, looked at above {@link #RATIO_FROM} bytes
   */
  public record Limits(int entries, long bytes, int ratio) {
    public static final Limits USUAL = new Limits(20_000, 8L << 30, 200);
  }

  /** Small files compress as well as they like. */
  static final long RATIO_FROM = 32L << 20;

  private static final Charset OLD_NAMES = Charset.forName("IBM437");

  private ZipUnpacker() {}

  /** Unpacks all files; returns their paths in the zip's order. */
  public static List<String> unpack(
      Path zip, String shownName, Limits limits, Output output, Progress progress)
      throws IOException, FormatException {
    try (ZipFile file = open(zip, shownName)) {
      List<ZipEntry> entries = check(file, zip, shownName, limits);
      List<String> paths = new ArrayList<>();
      long allowed = allowed(zip, limits);
      long written = 0;
      for (ZipEntry entry : entries) {
        progress.checkCancelled();
        progress.report("unpacking " + entry.getName(), (double) paths.size() / entries.size());
        String path = CargoPath.safe(entry.getName()).orElseThrow();
        CRC32 sum = new CRC32();
        try (InputStream in = new CheckedInputStream(file.getInputStream(entry), sum);
            OutputStream out = output.create(path)) {
          written = copy(in, out, written, allowed, shownName, entry.getName(), progress);
          if (entry.getCrc() >= 0 && entry.getCrc() != sum.getValue()) {
            throw new ZipException("its content is not what was packed");
          }
        } catch (EOFException e) {
          throw new FormatException(
              Kind.TRUNCATED,
              shownName,
              entry.getName(),
              "the zip ends in the middle of this file. Copy or pack it again.");
        } catch (ZipException e) {
          throw new FormatException(
              e.getMessage().contains("encrypted") ? Kind.UNSUPPORTED : Kind.CORRUPT,
              shownName,
              entry.getName(),
              e.getMessage().contains("encrypted")
                  ? "the zip is locked with a password. Pack it again without one."
                  : "the zip is damaged here (" + e.getMessage() + "). Pack it again.");
        }
        paths.add(path);
      }
      return paths;
    }
  }

  private static ZipFile open(Path zip, String shownName) throws IOException, FormatException {
    try {
      return new ZipFile(zip.toFile(), StandardCharsets.UTF_8);
    } catch (ZipException | IllegalArgumentException e) {
      try {
        return new ZipFile(zip.toFile(), OLD_NAMES);
      } catch (ZipException | IllegalArgumentException second) {
        throw new FormatException(
            Kind.CORRUPT,
            shownName,
            "",
            "this is no zip that can be opened (" + second.getMessage() + "). Pack it again.");
      }
    }
  }

  private static long allowed(Path zip, Limits limits) throws IOException {
    long byRatio = Math.max(RATIO_FROM, java.nio.file.Files.size(zip) * limits.ratio());
    return Math.min(limits.bytes(), byRatio);
  }

  private static List<ZipEntry> check(ZipFile file, Path zip, String shownName, Limits limits)
      throws IOException, FormatException {
    if (file.size() > limits.entries()) {
      throw new FormatException(
          Kind.TOO_LARGE,
          shownName,
          "",
          "the zip holds "
              + Figures.count(file.size(), "file")
              + "; at most "
              + Figures.count(limits.entries())
              + " are taken. Split it.");
    }
    List<ZipEntry> entries = new ArrayList<>();
    Set<String> seen = new HashSet<>();
    long claimed = 0;
    var all = file.entries();
    while (all.hasMoreElements()) {
      ZipEntry entry = all.nextElement();
      String name = entry.getName();
      String path =
          CargoPath.safe(name)
              .orElseThrow(
                  () ->
                      new FormatException(
                          Kind.CORRUPT,
                          shownName,
                          name,
                          "the zip names a path outside its own folder. It was refused as a whole;"
                              + " pack it again without such paths."));
      if (entry.isDirectory() || isSystemFile(path)) {
        continue;
      }
      if (!seen.add(path.toLowerCase(Locale.ROOT))) {
        throw new FormatException(
            Kind.CORRUPT, shownName, name, "the zip holds this file twice. Pack it again.");
      }
      claimed += Math.max(0, entry.getSize());
      entries.add(entry);
    }
    if (claimed > allowed(zip, limits)) {
      throw tooLarge(shownName, "", claimed, allowed(zip, limits));
    }
    return entries;
  }

  /** Leftovers of desktop systems that no asset needs. */
  private static boolean isSystemFile(String path) {
    String name = CargoPath.name(path);
    return path.startsWith("__MACOSX/") || name.equals(".DS_Store") || name.equals("Thumbs.db");
  }

  private static long copy(
      InputStream in,
      OutputStream out,
      long before,
      long allowed,
      String shownName,
      String entry,
      Progress progress)
      throws IOException, FormatException {
    byte[] buffer = new byte[1 << 16];
    long written = before;
    int read;
    while ((read = in.read(buffer)) > 0) {
      written += read;
      if (written > allowed) {
        throw tooLarge(shownName, entry, written, allowed);
      }
      progress.checkCancelled();
      out.write(buffer, 0, read);
    }
    return written;
  }

  private static FormatException tooLarge(String name, String entry, long bytes, long allowed) {
    return new FormatException(
        Kind.TOO_LARGE,
        name,
        entry,
        "the zip claims "
            + Figures.bytes(bytes)
            + " of content, but at most "
            + Figures.bytes(allowed)
            + " are taken for its size. It was refused; unpack it and bring the files.");
  }
}
