package ferry.stone.core.cargo;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.CargoRole;
import ferry.stone.core.format.Format;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.Resources;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Holds the scenes and caches of a cargo to the rules of their standards. */
public final class CargoRules {
  private CargoRules() {}

  /**
   * What they break. A file that cannot be held to them, since it cannot be read, tells nothing
   * here: reading it tells why.
   */
  public static List<Finding> broken(Resources files) throws IOException {
    List<String> scenes = new ArrayList<>();
    List<String> held = new ArrayList<>();
    for (String path : files.paths()) {
      Optional<Format> format = Formats.of(path, files);
      if (format.isPresent()) {
        (format.get().role() == CargoRole.SCENE ? scenes : held).add(path);
      }
    }
    held.addAll(MainFiles.of(scenes, ReadContext.of(files)));
    Findings broken = new Findings();
    for (String path : held) {
      try {
        Formats.of(path, files).orElseThrow().check(path, files, broken);
      } catch (FormatException e) {
        continue;
      }
    }
    return broken.list();
  }
}
