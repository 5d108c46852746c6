package ferry.stone.server.bench;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.landing.MaterialFile;
import ferry.stone.core.scene.Scene;
import ferry.stone.server.crossing.CargoRepository;
import ferry.stone.server.crossing.CargoService;
import ferry.stone.server.crossing.CrossingService;
import ferry.stone.server.crossing.HandlingService;
import ferry.stone.server.crossing.LoadedCrossing;
import ferry.stone.server.crossing.ReadingService;
import ferry.stone.server.crossing.SceneService;
import ferry.stone.server.jobs.Job;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;

/**
 * Materials of one crossing's far side, put into another's cargo as a file that is taken for its
 * looks: the copy stands by itself, whatever becomes of the crossing that it came from.
 */
@Service
public class MaterialCopies {
  private static final String TAKEN = "taken";
  private static final int LONGEST_NAME = 60;

  private final CrossingService crossings;
  private final CargoService cargos;
  private final CargoRepository cargo;
  private final ReadingService readings;
  private final SceneService scenes;
  private final HandlingService handlings;

  public MaterialCopies(
      CrossingService crossings,
      CargoService cargos,
      CargoRepository cargo,
      ReadingService readings,
      SceneService scenes,
      HandlingService handlings) {
    this.crossings = crossings;
    this.cargos = cargos;
    this.cargo = cargo;
    this.readings = readings;
    this.scenes = scenes;
    this.handlings = handlings;
  }

  /**
   * @param job the cargo being read anew
   * @param file name of the file in the cargo
   * @param materials names of those that were copied
   * @param said what could not be carried, and what was translated
   */
  public record Copied(Job job, String file, List<String> materials, List<Finding> said) {}

  Copied copy(String id, String from, List<String> names) throws IOException, FormatException {
    if (id.equals(from)) {
      throw new IllegalArgumentException("Choose another crossing: these are its own materials.");
    }
    crossings.get(id);
    LoadedCrossing other = scenes.scenes(from);
    Scene far = Handling.result(other.near(), other.handle(handlings.steps(from)));
    MaterialFile file = MaterialFile.of(far, names, other.cargo());
    String path = free(id, "materials of " + plain(crossings.get(from).name()));
    cargos.upload(id, path, file.bytes().length, new ByteArrayInputStream(file.bytes()));
    String taken = String.valueOf(cargo.readOptions(id).getOrDefault(TAKEN, ""));
    String all = (taken.isBlank() ? "" : taken + ";") + path + "=looks";
    Job job = readings.choose(id, Map.of(TAKEN, all));
    return new Copied(job, path, file.names(), file.findings());
  }

  /** What may stand in a path and in a pattern of paths. */
  private static String plain(String name) {
    String plain = name.replaceAll("[^\\p{L}\\p{N} ._-]", "_").strip();
    return plain.substring(0, Math.min(LONGEST_NAME, plain.length()));
  }

  private String free(String id, String stem) {
    Set<String> there =
        cargos.files(id).stream().map(CargoRepository.StoredFile::path).collect(Collectors.toSet());
    String path = stem + ".glb";
    for (int i = 2; there.contains(path); i++) {
      path = stem + " " + i + ".glb";
    }
    return path;
  }
}
