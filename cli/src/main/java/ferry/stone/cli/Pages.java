package ferry.stone.cli;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.handover.HandoverPage;
import ferry.stone.core.handover.PageAsset;
import ferry.stone.core.landing.Landings;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.routine.Asset;
import ferry.stone.core.work.Progress;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;

/** Pages with an asset in them, or with two and the seam between them. */
final class Pages {
  private Pages() {}

  /**
   * What landed, or what was read and what landed.
   *
   * @param written all files of the landing by their paths
   * @param proof {@code null} for what landed alone
   */
  static void write(
      Asset cargo, Landings landings, Map<String, Path> written, Proof proof, OutputStream to)
      throws IOException, FormatException {
    CargoFolder files = new CargoFolder(written);
    try (PageAsset near = proof == null ? null : asset("near", cargo);
        PageAsset landed =
            PageAsset.landed("landed", cargo.name(), landings.mainFiles(), files, Progress.NONE)) {
      String title = near == null ? cargo.name() : cargo.name() + ", near and landed";
      List<PageAsset> sides = near == null ? List.of(landed) : List.of(near, landed);
      new HandoverPage(title, made(), sides, proof).write(to, Progress.NONE);
    }
  }

  /** Two files that were compared. */
  static void write(Asset first, Asset second, Proof proof, Path file)
      throws IOException, FormatException {
    try (PageAsset a = asset("first", first);
        PageAsset b = asset("second", second);
        OutputStream to = new BufferedOutputStream(Files.newOutputStream(file))) {
      String title = second.name() + " against " + first.name();
      new HandoverPage(title, made(), List.of(a, b), proof).write(to, Progress.NONE);
    }
  }

  private static PageAsset asset(String label, Asset cargo) throws IOException, FormatException {
    return PageAsset.made(
        label, cargo.name(), cargo.near(), cargo.resources(), cargo.reread(), Progress.NONE);
  }

  private static String made() {
    return "Made by Stone Ferry " + Ferry.VERSION + ", " + LocalDate.now();
  }
}
