package ferry.stone.server.crossing;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.ReadFields;
import ferry.stone.core.field.Field;
import ferry.stone.core.format.CargoRole;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.scene.Composition;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.view.FindingView;
import ferry.stone.server.jobs.Job;
import ferry.stone.server.web.NotFoundException;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.springframework.core.io.FileSystemResource;
import org.springframework.core.io.Resource;
import org.springframework.http.CacheControl;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PatchMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Crossings and their cargo. */
@RestController
@RequestMapping("/api/crossings")
public class CrossingController {
  private final CrossingService crossings;
  private final CargoService cargos;
  private final ReadingService readings;
  private final SceneService scenes;
  private final CargoRepository cargo;
  private final SurveyService surveys;

  public CrossingController(
      CrossingService crossings,
      CargoService cargos,
      ReadingService readings,
      SceneService scenes,
      CargoRepository cargo,
      SurveyService surveys) {
    this.surveys = surveys;
    this.crossings = crossings;
    this.cargos = cargos;
    this.readings = readings;
    this.scenes = scenes;
    this.cargo = cargo;
  }

  /** A name for a new or renamed crossing. */
  public record NameRequest(String name) {}

  /** A file for a written reference; an empty file takes the choice back. */
  public record BindRequest(String reference, String file) {}

  /**
   * The cargo with the role of every file and what it misses.
   *
   * @param fields what can be chosen about its reading
   * @param options what was chosen, by the fields' names
   */
  public record CargoView(
      List<FileView> files,
      List<ReferenceView> references,
      List<Field> fields,
      Map<String, Object> options,
      CompositionView composition) {}

  /**
   * What the cargo was put together from; empty lists where it is one file of parts.
   *
   * @param layers files, and how each came in
   * @param choices sets of variants
   * @param payloads parts that are loaded on demand
   */
  public record CompositionView(
      List<Composition.Layer> layers,
      List<Composition.Choice> choices,
      List<Composition.Payload> payloads) {}

  /**
   * A file and the part it plays.
   *
   * @param taken what is taken of it, where several scene files make one asset
   */
  public record FileView(
      String path,
      long size,
      String role,
      String roleLabel,
      List<String> usedFor,
      @Schema(nullable = true) String taken,
      @Schema(nullable = true) String unpackedFrom) {}

  /**
   * A file that the cargo names.
   *
   * @param found path of the file, or {@code null}
   * @param chosen whether the user chose it
   * @param proposals files that it may have become
   */
  public record ReferenceView(
      String written,
      @Schema(nullable = true) String found,
      boolean chosen,
      List<String> proposals) {}

  @GetMapping
  public List<Crossing> list() {
    return crossings.all();
  }

  @PostMapping
  @ResponseStatus(HttpStatus.CREATED)
  public Crossing create(@RequestBody NameRequest request) {
    return crossings.create(request.name());
  }

  @GetMapping("/{id}")
  public Crossing get(@PathVariable String id) {
    return crossings.get(id);
  }

  @PatchMapping("/{id}")
  public Crossing rename(@PathVariable String id, @RequestBody NameRequest request) {
    return crossings.rename(id, request.name());
  }

  @DeleteMapping("/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  public void delete(@PathVariable String id) {
    crossings.delete(id);
  }

  @PutMapping(path = "/{id}/files", consumes = MediaType.ALL_VALUE)
  public CargoRepository.StoredFile upload(
      @PathVariable String id, @RequestParam String path, HttpServletRequest request)
      throws IOException, FormatException {
    return cargos.upload(id, path, request.getContentLengthLong(), request.getInputStream());
  }

  @DeleteMapping("/{id}/files")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  public void removeFile(@PathVariable String id, @RequestParam String path) {
    cargos.removeFile(id, path);
  }

  @PostMapping("/{id}/read")
  @ResponseStatus(HttpStatus.ACCEPTED)
  public Job read(@PathVariable String id) {
    return readings.read(id);
  }

  @PutMapping("/{id}/bindings")
  @ResponseStatus(HttpStatus.ACCEPTED)
  public Job bind(@PathVariable String id, @RequestBody BindRequest request) {
    return readings.bind(id, request.reference(), request.file());
  }

  /** Reads the cargo anew with other choices, by the names of its fields. */
  @PutMapping("/{id}/reading")
  @ResponseStatus(HttpStatus.ACCEPTED)
  public Job choose(@PathVariable String id, @RequestBody Map<String, Object> options) {
    return readings.choose(id, options);
  }

  @GetMapping("/{id}/cargo")
  public CargoView cargo(@PathVariable String id) throws IOException, FormatException {
    Map<String, String> bindings = cargo.bindings(id);
    Map<String, TreeSet<String>> usedFor = new HashMap<>();
    List<ReferenceView> references = new ArrayList<>();
    List<String> paths = cargos.files(id).stream().map(CargoRepository.StoredFile::path).toList();
    Composition composition = Composition.NONE;
    if (crossings.get(id).state().equals("ready")) {
      Scene scene = scenes.scenes(id).near();
      composition = scene.composition();
      layerUses(composition, usedFor);
      references.addAll(imageUses(scene, bindings.keySet(), paths, usedFor));
      references.addAll(layersLookedFor(composition, bindings, paths));
    }
    Set<String> layers =
        composition.layers().stream()
            .filter(layer -> !layer.where().isEmpty())
            .map(Composition.Layer::path)
            .collect(Collectors.toSet());
    List<FileView> files = new ArrayList<>();
    CargoFolder folder = cargos.folder(id);
    List<String> mains = new ArrayList<>(ofRole(paths, CargoRole.SCENE));
    mains.removeAll(layers);
    Map<String, String> taken = ReadFields.taken(mains, cargo.readOptions(id));
    for (CargoRepository.StoredFile file : cargos.files(id)) {
      CargoRole role = CargoRole.of(file.path(), folder);
      files.add(
          new FileView(
              file.path(),
              file.size(),
              role.name(),
              layers.contains(file.path()) ? "layer" : role.label(),
              List.copyOf(usedFor.getOrDefault(file.path(), new TreeSet<>())),
              taken.get(file.path()),
              file.unpackedFrom()));
    }
    return new CargoView(
        files,
        references,
        ReadFields.of(folder),
        cargo.readOptions(id),
        new CompositionView(composition.layers(), composition.choices(), composition.payloads()));
  }

  /** Layers that are named and not there, and those that were chosen instead of one. */
  private static List<ReferenceView> layersLookedFor(
      Composition composition, Map<String, String> bindings, List<String> paths) {
    List<String> layers = ofRole(paths, CargoRole.SCENE);
    List<ReferenceView> references = new ArrayList<>();
    composition.layers().stream()
        .filter(layer -> layer.how().equals("missing"))
        .map(Composition.Layer::path)
        .distinct()
        .forEach(path -> references.add(new ReferenceView(path, null, false, layers)));
    bindings.forEach(
        (written, file) -> {
          if (CargoRole.of(written) == CargoRole.SCENE) {
            references.add(new ReferenceView(written, file, true, layers));
          }
        });
    return references;
  }

  private static List<String> ofRole(List<String> paths, CargoRole role) {
    return paths.stream().filter(path -> CargoRole.of(path) == role).toList();
  }

  /** The images that a scene looks for, and what each file is used for. */
  private static List<ReferenceView> imageUses(
      Scene scene, Set<String> bound, List<String> paths, Map<String, TreeSet<String>> usedFor) {
    List<String> images = ofRole(paths, CargoRole.TEXTURE);
    List<ReferenceView> references = new ArrayList<>();
    for (var texture : scene.textures()) {
      if (texture.embedded() != null) {
        // An image inside the scene file needs no file of its own.
        continue;
      }
      references.add(
          new ReferenceView(
              texture.written(), texture.resource(), bound.contains(texture.written()), images));
      if (texture.resource() != null) {
        TreeSet<String> uses = usedFor.computeIfAbsent(texture.resource(), k -> new TreeSet<>());
        for (var material : scene.materials()) {
          material
              .channels()
              .forEach(
                  (channel, value) -> {
                    if (value.texture() != null && value.texture().textureId() == texture.id()) {
                      uses.add(material.name() + " · " + channel.label());
                    }
                  });
        }
      }
    }
    return references;
  }

  /** How files came in that others are made of. */
  private static void layerUses(Composition composition, Map<String, TreeSet<String>> usedFor) {
    for (Composition.Layer layer : composition.layers()) {
      String file = layer.path().replaceFirst("\\[.*", "");
      String where = layer.where().isEmpty() ? "" : " of " + layer.where();
      usedFor.computeIfAbsent(file, k -> new TreeSet<>()).add(layer.how() + where);
    }
  }

  /** The shore that a crossing is sent to. */
  public record ShoreRequest(String shore) {}

  @PutMapping("/{id}/shore")
  public Crossing shore(@PathVariable String id, @RequestBody ShoreRequest request) {
    return crossings.chooseShore(id, request.shore());
  }

  @GetMapping("/{id}/survey")
  public SurveyView survey(@PathVariable String id) throws IOException, FormatException {
    return surveys.view(id);
  }

  @GetMapping("/{id}/survey/{index}/marks")
  public FindingView.MarksView marks(@PathVariable String id, @PathVariable int index)
      throws IOException, FormatException {
    return surveys.marks(id, index);
  }

  @GetMapping(path = "/{id}/thumbnail", produces = MediaType.IMAGE_PNG_VALUE)
  public ResponseEntity<Resource> thumbnail(@PathVariable String id) {
    String blob = crossings.get(id).thumbnail();
    if (blob == null) {
      throw new NotFoundException("There is no picture yet.");
    }
    return ResponseEntity.ok()
        .cacheControl(CacheControl.noCache())
        .eTag(blob)
        .body(new FileSystemResource(crossings.blob(blob)));
  }
}
