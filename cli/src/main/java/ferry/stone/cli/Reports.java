package ferry.stone.cli;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.report.Report;
import ferry.stone.core.report.ReportSide;
import ferry.stone.core.routine.Asset;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** Pages with a proof, its pictures and the hashes of its files. */
final class Reports {
  private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm");

  private Reports() {}

  /** What was read, with the hashes of the files on the disk. */
  static ReportSide side(String label, Asset cargo) throws IOException {
    Map<String, Path> named = new TreeMap<>();
    for (Path input : cargo.inputs()) {
      if (Files.isRegularFile(input)) {
        named.put(input.getFileName().toString(), input);
      }
    }
    return new ReportSide(label, cargo.near(), cargo.resources(), facts(named));
  }

  /** Files by the names that are shown. */
  static List<ReportSide.FileFact> facts(Map<String, Path> named) throws IOException {
    return ReportSide.facts(new CargoFolder(named), new ArrayList<>(named.keySet()));
  }

  static void write(
      Path file,
      Report.Kind kind,
      String title,
      Proof proof,
      ReportSide first,
      ReportSide second,
      Report.Against against,
      Map<String, String> settings)
      throws IOException {
    Files.writeString(file, page(kind, title, proof, first, second, against, settings));
  }

  /** The page itself. */
  static String page(
      Report.Kind kind,
      String title,
      Proof proof,
      ReportSide first,
      ReportSide second,
      Report.Against against,
      Map<String, String> settings) {
    String made = "Made by Stone Ferry " + Ferry.VERSION + ", " + DAY.format(LocalDateTime.now());
    return new Report(kind, title, made, proof, first, second, against, settings)
        .html(Progress.NONE);
  }
}
