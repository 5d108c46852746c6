package ferry.stone.server.crossing;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.CapabilityTable;
import ferry.stone.core.landing.Forecast;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.LedgerPage;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.pair.SideLedger;
import ferry.stone.core.view.Deviation;
import ferry.stone.core.view.PickedElement;
import ferry.stone.core.view.SideView;
import ferry.stone.core.work.Progress;
import ferry.stone.server.web.NotFoundException;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** States to compare, what was picked in a view, what a landing will lose, what formats carry. */
@RestController
@RequestMapping("/api")
public class StateController {
  private static final int MOST_PARTS = 200;

  private final StateService states;
  private final SceneService scenes;

  public StateController(StateService states, SceneService scenes) {
    this.states = states;
    this.scenes = scenes;
  }

  /** A name for the handling as it is now. */
  public record StateRequest(String name) {}

  @GetMapping("/crossings/{id}/states")
  public List<StateRepository.NamedState> list(@PathVariable String id) {
    return states.list(id);
  }

  @PostMapping("/crossings/{id}/states")
  @ResponseStatus(HttpStatus.CREATED)
  public List<StateRepository.NamedState> keep(
      @PathVariable String id, @RequestBody StateRequest request) {
    return states.keep(id, request.name());
  }

  @DeleteMapping("/crossings/{id}/states/{state}")
  public List<StateRepository.NamedState> delete(
      @PathVariable String id, @PathVariable String state) {
    return states.delete(id, state);
  }

  @PostMapping("/crossings/{id}/states/{state}/restore")
  public HandlingService.HandlingState restore(@PathVariable String id, @PathVariable String state)
      throws IOException, FormatException {
    return states.restore(id, state);
  }

  /**
   * A state as a view takes it.
   *
   * @param ref see {@link StateService}
   */
  @GetMapping("/crossings/{id}/sides")
  public SideView side(@PathVariable String id, @RequestParam String ref)
      throws IOException, FormatException {
    return states.view(id, ref);
  }

  /**
   * Two states, fact by fact: the first rows that fit.
   *
   * @param find what group, fact or note holds
   * @param count how many at most
   */
  @GetMapping("/crossings/{id}/compare")
  public LedgerPage compare(
      @PathVariable String id,
      @RequestParam String a,
      @RequestParam String b,
      @RequestParam(required = false) LedgerRow.Verdict verdict,
      @RequestParam(defaultValue = "") String find,
      @RequestParam(defaultValue = "500") int count)
      throws IOException, FormatException {
    List<LedgerRow> rows = SideLedger.of(states.scene(id, a), states.scene(id, b));
    return LedgerPage.of(rows, verdict, find, count);
  }

  /**
   * How far parts of state {@code b} lie from state {@code a}: for each asked part uint32 length,
   * then a block as {@link Deviation#of} makes it.
   *
   * @param parts ids of nodes, separated by commas; at most {@value #MOST_PARTS}
   * @param sameSpot whether both are put on one spot first
   */
  @GetMapping(
      path = "/crossings/{id}/deviation",
      produces = MediaType.APPLICATION_OCTET_STREAM_VALUE)
  public void deviation(
      @PathVariable String id,
      @RequestParam String a,
      @RequestParam String b,
      @RequestParam List<Integer> parts,
      @RequestParam(defaultValue = "false") boolean sameSpot,
      HttpServletResponse response)
      throws IOException, FormatException {
    if (parts.size() > MOST_PARTS) {
      throw new IllegalArgumentException("At most " + MOST_PARTS + " parts at once.");
    }
    Deviation deviation = Deviation.between(states.scene(id, b), states.scene(id, a), sameSpot);
    response.setContentType(MediaType.APPLICATION_OCTET_STREAM_VALUE);
    OutputStream out = response.getOutputStream();
    for (int part : parts) {
      byte[] block = deviation.of(part, Progress.NONE);
      out.write(ByteBuffer.allocate(4).order(ByteOrder.LITTLE_ENDIAN).putInt(block.length).array());
      out.write(block);
    }
  }

  /**
   * The face and vertex behind a triangle of a view.
   *
   * @param mesh key as the side names it
   * @param point x, y, z in the mesh's own numbers
   */
  @GetMapping("/crossings/{id}/pick")
  public PickedElement pick(
      @PathVariable String id,
      @RequestParam String mesh,
      @RequestParam int primitive,
      @RequestParam int triangle,
      @RequestParam double[] point)
      throws IOException, FormatException {
    LoadedCrossing.Shown shown = scenes.scenes(id).shown(mesh);
    if (shown == null) {
      throw new NotFoundException("This mesh is not shown any more: pick again.");
    }
    double[] p = Arrays.copyOf(point, 3);
    return PickedElement.of(shown.mesh(), primitive, triangle, p[0], p[1], p[2]);
  }

  /** What a landing will change or lose, before it is written. */
  @PostMapping("/crossings/{id}/forecast")
  public Forecast forecast(@PathVariable String id, @RequestBody LandingOptions options)
      throws IOException, FormatException {
    return Forecast.of(states.scene(id, "now"), options, scenes.scenes(id).cargo());
  }

  /** A capability with what each format does with it. */
  public record AtlasRow(
      Capability capability, String label, String group, List<AtlasCell> formats) {}

  /** What one format does with it. */
  public record AtlasCell(
      String format, Capability.Fate read, Capability.Fate written, String how) {}

  /**
   * A format at the head of a column.
   *
   * @param frames what its files say of unit and axes, in words
   */
  public record AtlasFormat(String format, String label, String versions, String frames) {
    static AtlasFormat of(CapabilityTable table) {
      String words =
          Formats.ALL.stream()
              .filter(f -> f.losses().format().equals(table.format()))
              .findFirst()
              .map(f -> f.frames().words())
              .orElse("");
      return new AtlasFormat(table.format(), table.label(), table.versions(), words);
    }
  }

  /** What each format can carry, as its own tables say. */
  public record Atlas(List<AtlasFormat> formats, List<AtlasRow> rows) {}

  @GetMapping("/atlas")
  public Atlas atlas() {
    List<CapabilityTable> tables = Formats.tables();
    List<AtlasRow> rows =
        Arrays.stream(Capability.values())
            .filter(c -> c != Capability.PACKING)
            .map(
                c ->
                    new AtlasRow(
                        c,
                        c.label(),
                        c.group(),
                        tables.stream()
                            .map(
                                t ->
                                    new AtlasCell(
                                        t.format(),
                                        t.of(c).read(),
                                        t.of(c).written(),
                                        t.of(c).how()))
                            .toList()))
            .toList();
    return new Atlas(tables.stream().map(AtlasFormat::of).toList(), rows);
  }
}
