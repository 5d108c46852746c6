package ferry.stone.server.routine;

import ferry.stone.core.handling.Step;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.routine.Routine;
import ferry.stone.core.routine.RoutineLanding;
import ferry.stone.core.routine.RoutineStep;
import ferry.stone.core.routine.Routines;
import ferry.stone.server.crossing.CargoRepository;
import ferry.stone.server.crossing.CrossingService;
import ferry.stone.server.crossing.HandlingService;
import ferry.stone.server.web.ConflictException;
import ferry.stone.server.web.NotFoundException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Routines: built in, saved from a crossing, brought as JSON; every change is a version. */
@Service
public class RoutineService {
  private final RoutineRepository repository;
  private final CrossingService crossings;
  private final HandlingService handlings;
  private final CargoRepository cargo;

  public RoutineService(
      RoutineRepository repository,
      CrossingService crossings,
      HandlingService handlings,
      CargoRepository cargo) {
    this.repository = repository;
    this.crossings = crossings;
    this.handlings = handlings;
    this.cargo = cargo;
  }

  /** Built-in ones first. */
  public List<Routine> all() {
    List<Routine> all = new ArrayList<>(Routines.builtIn());
    all.addAll(repository.all());
    return all;
  }

  public boolean isBuiltIn(String id) {
    return Routines.builtIn(id).isPresent();
  }

  public Routine get(String id) {
    return Routines.builtIn(id)
        .or(() -> repository.find(id))
        .orElseThrow(() -> new NotFoundException("There is no such routine; it may be deleted."));
  }

  /** All versions, the newest first. */
  public List<Routine> versions(String id) {
    return isBuiltIn(id) ? List.of(get(id)) : repository.versions(get(id).id());
  }

  public Routine version(String id, int version) {
    return versions(id).stream()
        .filter(r -> r.version() == version)
        .findFirst()
        .orElseThrow(() -> new NotFoundException("There is no such version of this routine."));
  }

  /**
   * Saves the handling of a crossing, its choices about the reading and its shore under a name. A
   * routine of that name gets one more version.
   *
   * @param landings as they were chosen
   */
  @Transactional
  public Routine save(String crossingId, String name, String note, List<LandingOptions> landings) {
    List<RoutineStep> steps =
        handlings.steps(crossingId).stream().filter(Step::enabled).map(RoutineStep::of).toList();
    if (landings == null || landings.isEmpty()) {
      throw new IllegalArgumentException("landings must hold at least one landing.");
    }
    return add(
        new Routine(
            Routine.SCHEMA,
            id(name),
            name == null ? null : name.strip(),
            note,
            1,
            cargo.readOptions(crossingId),
            "",
            "",
            crossings.farShore(crossingId),
            false,
            steps,
            landings.stream().map(RoutineLanding::of).toList()));
  }

  /** Takes a routine in: a new one, or one more version of what has its id. */
  @Transactional
  public Routine add(Routine routine) {
    if (isBuiltIn(routine.id())) {
      throw new ConflictException(
          "\"" + routine.name() + "\" comes with the program. Give yours another name.");
    }
    int last = repository.find(routine.id()).map(Routine::version).orElse(0);
    Routine next = routine.as(routine.id(), last + 1);
    repository.insert(next);
    return next;
  }

  @Transactional
  public void delete(String id) {
    if (isBuiltIn(id)) {
      throw new ConflictException("A routine that comes with the program cannot be deleted.");
    }
    repository.delete(get(id).id());
  }

  private static String id(String name) {
    String plain =
        (name == null ? "" : name.strip())
            .toLowerCase(Locale.ROOT)
            .replaceAll("[^a-z0-9]+", "-")
            .replaceAll("^-+|-+$", "");
    plain = plain.length() > 60 ? plain.substring(0, 60) : plain;
    return plain.isEmpty()
        ? "routine-" + Integer.toHexString(String.valueOf(name).hashCode())
        : plain;
  }
}
