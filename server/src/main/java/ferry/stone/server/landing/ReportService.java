package ferry.stone.server.landing;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.handling.Step;
import ferry.stone.core.report.Report;
import ferry.stone.core.report.ReportSide;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import ferry.stone.server.crossing.Crossing;
import ferry.stone.server.crossing.CrossingService;
import ferry.stone.server.crossing.HandlingService;
import ferry.stone.server.crossing.LoadedCrossing;
import ferry.stone.server.crossing.SceneService;
import ferry.stone.server.crossing.StateService;
import ferry.stone.server.store.BlobStore;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.stereotype.Service;

/** The page to hand over with a landing: its files are read anew for the pictures. */
@Service
public class ReportService {
  private final CrossingService crossings;
  private final SceneService scenes;
  private final HandlingService handlings;
  private final StateService states;
  private final BlobStore blobs;

  public ReportService(
      CrossingService crossings,
      SceneService scenes,
      HandlingService handlings,
      StateService states,
      BlobStore blobs) {
    this.crossings = crossings;
    this.scenes = scenes;
    this.handlings = handlings;
    this.states = states;
    this.blobs = blobs;
  }

  /** The whole page of a landing that is done. */
  public String page(LandingRecord landing) throws IOException, FormatException {
    Crossing crossing = crossings.get(landing.crossingId());
    LoadedCrossing loaded = scenes.scenes(crossing.id());
    Map<String, Path> written = new TreeMap<>();
    landing.files().forEach(file -> written.put(file.path(), blobs.path(file.blob())));
    CargoFolder files = new CargoFolder(written);
    Scene landed = CargoReader.read(crossing.name(), ReadContext.of(files));
    CargoFolder cargo = loaded.cargo();
    List<String> sources = new ArrayList<>(cargo.paths());
    ReportSide near =
        new ReportSide("near", loaded.near(), cargo, ReportSide.facts(cargo, sources));
    ReportSide far =
        new ReportSide(
            "landed", landed, files, ReportSide.facts(files, new ArrayList<>(written.keySet())));
    return new Report(
            Report.Kind.LANDING,
            crossing.name()
                + " as "
                + Formats.find(landing.options().format()).orElseThrow().name(),
            "Landed with Stone Ferry, " + landing.createdAt(),
            landing.proof(),
            near,
            far,
            Report.Against.far(landing.current() ? states.scene(crossing.id(), "now") : null),
            settings(crossing, landing))
        .html(Progress.NONE);
  }

  private Map<String, String> settings(Crossing crossing, LandingRecord landing) {
    Map<String, String> settings = new LinkedHashMap<>();
    settings.put("Shore", crossings.farShore(crossing.id()).name());
    landing.options().options().forEach((name, value) -> settings.put(name, value.toString()));
    int number = 0;
    for (Step step : landing.current() ? handlings.steps(crossing.id()) : List.<Step>of()) {
      String state = step.enabled() ? "" : ", left out";
      settings.put("Step " + ++number, step.kind() + " " + step.params() + state);
    }
    return settings;
  }
}
