package ferry.stone.server.routine;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.routine.BatchReport;
import ferry.stone.core.routine.BatchTask;
import ferry.stone.core.routine.RunRecord;
import ferry.stone.core.work.Release;
import ferry.stone.server.crossing.CrossingService;
import ferry.stone.server.landing.LandingRecord;
import ferry.stone.server.landing.LandingService;
import ferry.stone.server.landing.ReportService;
import ferry.stone.server.routine.BatchRepository.AssetRow;
import ferry.stone.server.routine.BatchRepository.BatchRow;
import ferry.stone.server.store.BlobStore;
import ferry.stone.server.store.Json;
import ferry.stone.server.web.NotFoundException;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.springframework.stereotype.Component;

/**
 * What a batch hands out: the report of all, and everything that was landed, as the command does.
 */
@Component
class BatchFiles {
  private final BatchRepository repository;
  private final CrossingService crossings;
  private final LandingService landings;
  private final ReportService reports;
  private final BlobStore blobs;
  private final Json json;

  BatchFiles(
      BatchRepository repository,
      CrossingService crossings,
      LandingService landings,
      ReportService reports,
      BlobStore blobs,
      Json json) {
    this.repository = repository;
    this.crossings = crossings;
    this.landings = landings;
    this.reports = reports;
    this.blobs = blobs;
    this.json = json;
  }

  /** Tasks name their crossing as the only thing given. */
  BatchReport report(BatchRow batch) {
    List<AssetRow> assets = repository.assets(batch.id());
    List<BatchTask> tasks =
        assets.stream()
            .map(a -> new BatchTask(a.name(), List.of(Path.of(a.crossingId()))))
            .toList();
    return new BatchReport(
        batch.routine(), tasks, assets.stream().map(AssetRow::record).toList(), Release.VERSION);
  }

  boolean hasPicture(AssetRow asset) {
    try {
      return crossings.get(asset.crossingId()).thumbnail() != null;
    } catch (NotFoundException e) {
      return false;
    }
  }

  byte[] picture(BatchTask task) throws IOException {
    String blob = crossings.get(task.given().get(0).toString()).thumbnail();
    return blob == null ? null : Files.readAllBytes(crossings.blob(blob));
  }

  /** The folders that {@code ferry run --reports} writes. */
  void zip(BatchRow batch, OutputStream out) throws IOException, FormatException {
    BatchReport report = report(batch);
    try (ZipOutputStream zip = new ZipOutputStream(out)) {
      text(zip, "batch.html", report.html(this::picture));
      text(zip, "batch.json", report.json());
      for (AssetRow asset : repository.assets(batch.id())) {
        if (asset.record() != null) {
          asset(zip, asset);
        }
      }
    }
  }

  private void asset(ZipOutputStream zip, AssetRow asset) throws IOException, FormatException {
    String folder = asset.name() + "/";
    text(zip, folder + "run.json", json.write(asset.record()));
    String picture = crossings.get(asset.crossingId()).thumbnail();
    if (picture != null) {
      file(zip, folder + "picture.png", crossings.blob(picture));
    }
    List<RunRecord.LandingFact> facts = asset.record().landings();
    for (int i = 0; i < facts.size(); i++) {
      RunRecord.LandingFact fact = facts.get(i);
      for (var file : fact.files()) {
        file(zip, folder + fact.folder() + file.path(), blobs.path(file.sha256()));
      }
      LandingRecord landing = landings.get(asset.landings().get(i));
      text(zip, folder + fact.proof(), json.write(landing.proof()));
      text(zip, folder + fact.report(), reports.page(landing));
    }
  }

  private static void text(ZipOutputStream zip, String path, String text) throws IOException {
    zip.putNextEntry(new ZipEntry(path));
    zip.write(text.getBytes(StandardCharsets.UTF_8));
    zip.closeEntry();
  }

  private static void file(ZipOutputStream zip, String path, Path file) throws IOException {
    zip.putNextEntry(new ZipEntry(path));
    Files.copy(file, zip);
    zip.closeEntry();
  }
}
