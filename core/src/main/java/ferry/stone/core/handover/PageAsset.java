package ferry.stone.core.handover;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.Output;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.landing.Alternates;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.landing.Landings;
import ferry.stone.core.scene.Composition;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * One asset of a page, as a GLB file that every viewer of the standard can show.
 *
 * @param label such as "landed"
 * @param from the file that it was read from
 * @param bytes of that file and of all that belong to it
 * @param asItIs whether the GLB is that file byte by byte; else it was made from it
 * @param path of the GLB among {@code files}
 * @param made deleted by {@link #close}; {@code null} where the GLB was there
 */
public record PageAsset(
    String label, String from, long bytes, boolean asItIs, Resources files, String path, Path made)
    implements AutoCloseable {
  private static final String MADE = "page.glb";

  /**
   * What landed, read anew: a single GLB that every viewer knows as it is, anything else made into
   * one, with its looks.
   *
   * @param name of the asset
   * @param mains the files to read; all that can be read when empty
   * @param files with all that belongs to them, and nothing else
   */
  public static PageAsset landed(
      String label, String name, List<String> mains, Resources files, Progress progress)
      throws IOException, FormatException {
    if (mains.size() == 1 && files.paths().size() == 1 && PlainGlb.is(mains.get(0), files)) {
      String main = mains.get(0);
      within(main, files.size(main));
      return new PageAsset(label, main, files.size(main), true, files, main, null);
    }
    Alternates.Reread read =
        variants -> {
          ReadContext plain = ReadContext.of(files);
          ReadContext context =
              variants.isEmpty()
                  ? plain
                  : plain.withOptions(Map.of(Composition.VARIANTS, variants));
          return mains.isEmpty()
              ? CargoReader.read(name, context)
              : CargoReader.read(name, mains, context);
        };
    String from = mains.size() == 1 ? mains.get(0) : files.paths().size() + " files";
    return made(label, from, read.with(""), files, read, progress);
  }

  /**
   * A GLB file of a scene, with its images and its looks.
   *
   * @param from the file that it was read from, or a name
   * @param files all that belong to it
   * @param again reads it with another look; {@code null} where it has one only
   */
  public static PageAsset made(
      String label,
      String from,
      Scene scene,
      Resources files,
      Alternates.Reread again,
      Progress progress)
      throws IOException, FormatException {
    Path glb = Files.createTempFile("ferry-", ".glb");
    try {
      Output output = path -> new BufferedOutputStream(Files.newOutputStream(glb), 1 << 16);
      LandingOptions options = LandingOptions.of(Formats.HANDED_ON).with("plainImages", true);
      Alternates looks = again == null ? null : new Alternates(scene, List.of(), again);
      Landings.write(scene, options, "page", files, output, looks, progress);
      within(from, Files.size(glb));
      return new PageAsset(
          label, from, size(files), false, new CargoFolder(Map.of(MADE, glb)), MADE, glb);
    } catch (IOException | FormatException | RuntimeException e) {
      Files.deleteIfExists(glb);
      throw e;
    }
  }

  /** What a browser holds in one piece. */
  static void within(String name, long bytes) throws FormatException {
    if (bytes > Integer.MAX_VALUE) {
      throw new FormatException(
          FormatException.Kind.TOO_LARGE,
          name,
          "",
          String.format(
              Locale.ROOT,
              "as a GLB it has %.1f GB, and a page opens up to 2.1 GB. Land fewer parts, or make"
                  + " images and meshes smaller.",
              bytes / 1e9));
    }
  }

  private static long size(Resources files) throws IOException {
    long bytes = 0;
    for (String path : files.paths()) {
      bytes += files.size(path);
    }
    return bytes;
  }

  /** The GLB, from its beginning. */
  InputStream open() throws IOException {
    return files.open(path);
  }

  /** What the page says of it. */
  Map<String, Object> about() throws IOException {
    return Map.of(
        "label",
        label,
        "from",
        from,
        "bytes",
        bytes,
        "asItIs",
        asItIs,
        "glbBytes",
        files.size(path));
  }

  @Override
  public void close() throws IOException {
    if (made != null) {
      Files.deleteIfExists(made);
    }
  }
}
