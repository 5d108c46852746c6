package ferry.stone.server.routine;

import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.routine.Routine;
import ferry.stone.core.routine.Routines;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Routines: list, save, bring and take as JSON. */
@RestController
@RequestMapping("/api/routines")
public class RoutineController {
  private final RoutineService routines;

  public RoutineController(RoutineService routines) {
    this.routines = routines;
  }

  /**
   * A routine in words.
   *
   * @param builtIn whether it comes with the program and cannot be changed
   * @param versions those that there are, the newest first
   * @param steps in words
   * @param landings in words
   */
  public record RoutineView(
      String id,
      String name,
      String note,
      int version,
      boolean builtIn,
      List<Integer> versions,
      String shore,
      boolean accept,
      List<String> steps,
      List<String> landings) {}

  /** What of a crossing is saved as a routine. */
  public record SaveRequest(
      String crossingId, String name, String note, List<LandingOptions> landings) {}

  private RoutineView view(Routine r) {
    return new RoutineView(
        r.id(),
        r.name(),
        r.note(),
        r.version(),
        routines.isBuiltIn(r.id()),
        routines.versions(r.id()).stream().map(Routine::version).toList(),
        r.shore().name(),
        r.accept(),
        r.steps().stream().map(RoutineWords::step).toList(),
        r.landings().stream().map(RoutineWords::landing).toList());
  }

  @GetMapping
  public List<RoutineView> list() {
    return routines.all().stream().map(this::view).toList();
  }

  @GetMapping("/{id}")
  public RoutineView get(@PathVariable String id) {
    return view(routines.get(id));
  }

  /** Saves the handling of a crossing; a routine of that name gets one more version. */
  @PostMapping
  @ResponseStatus(HttpStatus.CREATED)
  public RoutineView save(@RequestBody SaveRequest request) {
    return view(
        routines.save(request.crossingId(), request.name(), request.note(), request.landings()));
  }

  /** Brings a routine as the text of its JSON. */
  @PostMapping(path = "/file", consumes = MediaType.TEXT_PLAIN_VALUE)
  @ResponseStatus(HttpStatus.CREATED)
  public RoutineView bring(@RequestBody String body) {
    try {
      return view(routines.add(Routines.read(body)));
    } catch (IllegalArgumentException e) {
      throw new IllegalArgumentException("This is no routine: " + e.getMessage() + ".", e);
    }
  }

  /** A routine as a file to hand on, the newest version where none is named. */
  @GetMapping(path = "/{id}/file", produces = MediaType.APPLICATION_JSON_VALUE)
  public ResponseEntity<byte[]> file(
      @PathVariable String id, @RequestParam(required = false) Integer version) {
    Routine routine = version == null ? routines.get(id) : routines.version(id, version);
    return ResponseEntity.ok()
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            ContentDisposition.attachment()
                .filename(id + ".routine.json", StandardCharsets.UTF_8)
                .build()
                .toString())
        .body(Routines.write(routine).getBytes(StandardCharsets.UTF_8));
  }

  /** What a routine's file looks like. */
  @GetMapping(path = "/schema", produces = MediaType.APPLICATION_JSON_VALUE)
  public String schema() {
    return Routines.schema();
  }

  @DeleteMapping("/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  public void delete(@PathVariable String id) {
    routines.delete(id);
  }
}
