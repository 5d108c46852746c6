package ferry.stone.server.landing;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Formats;
import ferry.stone.core.handover.HandoverPage;
import ferry.stone.core.handover.PageAsset;
import ferry.stone.core.work.Progress;
import ferry.stone.core.work.Release;
import ferry.stone.server.crossing.Crossing;
import ferry.stone.server.crossing.CrossingService;
import ferry.stone.server.crossing.LoadedCrossing;
import ferry.stone.server.crossing.SceneService;
import ferry.stone.server.jobs.JobService;
import ferry.stone.server.store.BlobStore;
import ferry.stone.server.web.Attachments;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.stereotype.Service;

/** Pages with a landed asset in them, or with both sides of its proof. */
@Service
public class PageService {
  private final CrossingService crossings;
  private final SceneService scenes;
  private final BlobStore blobs;
  private final JobService jobs;

  public PageService(
      CrossingService crossings, SceneService scenes, BlobStore blobs, JobService jobs) {
    this.crossings = crossings;
    this.scenes = scenes;
    this.blobs = blobs;
    this.jobs = jobs;
  }

  /**
   * Writes the page.
   *
   * @param bothSides with the near side before what landed, and the proof
   */
  public void write(LandingRecord landing, boolean bothSides, Attachments.Target target)
      throws IOException, FormatException {
    List<FormatException> refused = new ArrayList<>();
    Crossing crossing = crossings.get(landing.crossingId());
    try {
      jobs.here(
          "page",
          crossing.id(),
          "Making a page of " + crossing.name(),
          progress -> {
            try {
              write(crossing, landing, bothSides, target, progress);
            } catch (IOException e) {
              throw new UncheckedIOException(e);
            } catch (FormatException e) {
              refused.add(e);
            }
          });
    } catch (UncheckedIOException e) {
      throw e.getCause();
    }
    if (!refused.isEmpty()) {
      throw refused.get(0);
    }
  }

  private void write(
      Crossing crossing,
      LandingRecord landing,
      boolean bothSides,
      Attachments.Target target,
      Progress progress)
      throws IOException, FormatException {
    try (PageAsset near = bothSides ? near(crossing, progress.part(0, 0.3)) : null;
        PageAsset landed = landed(crossing, landing, progress.part(0.3, 0.6))) {
      String name = crossing.name();
      HandoverPage page =
          new HandoverPage(
              bothSides ? name + ", near and landed" : name,
              "Landed with Stone Ferry " + Release.VERSION + ", " + landing.createdAt(),
              near == null ? List.of(landed) : List.of(near, landed),
              near == null ? null : landing.proof());
      page.write(target.open(), progress.part(0.6, 1));
    }
  }

  private PageAsset near(Crossing crossing, Progress progress) throws IOException, FormatException {
    LoadedCrossing loaded = scenes.scenes(crossing.id());
    return PageAsset.made(
        "near",
        crossing.name(),
        loaded.near(),
        loaded.cargo(),
        variants -> scenes.near(crossing.id(), variants),
        progress);
  }

  private PageAsset landed(Crossing crossing, LandingRecord landing, Progress progress)
      throws IOException, FormatException {
    Map<String, Path> written = new TreeMap<>();
    landing.files().forEach(file -> written.put(file.path(), blobs.path(file.blob())));
    String format = Formats.find(landing.options().format()).orElseThrow().name();
    List<String> mains =
        landing.options().parts().isSeveral() ? List.of() : List.of(landing.mainFile());
    return PageAsset.landed(
        "landed as " + format, crossing.name(), mains, new CargoFolder(written), progress);
  }
}
