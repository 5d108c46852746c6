package ferry.stone.server.landing;

import ferry.stone.core.field.Field;
import ferry.stone.core.format.CargoRole;
import ferry.stone.core.format.Format;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.landing.LayerTrial;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The formats that are read and written, with what a landing in each can choose. */
@RestController
@RequestMapping("/api/formats")
public class FormatController {

  /**
   * A format.
   *
   * @param key what options and shores call it
   * @param name for people, short
   * @param label with what tells it from other forms
   * @param extensions endings of its main files
   * @param cache whether it holds points over time alone, which belong to a scene of their name
   * @param frames what its files say of unit and axes, in words
   * @param fields what a landing in it can choose
   */
  public record FormatView(
      String key,
      String name,
      String label,
      List<String> extensions,
      boolean reads,
      boolean writes,
      boolean holdsPlaces,
      boolean cache,
      String frames,
      List<Field> fields) {

    static FormatView of(Format format) {
      return new FormatView(
          format.key(),
          format.name(),
          format.label(),
          format.extensions().stream().sorted().toList(),
          format.reader().isPresent(),
          format.writer().isPresent(),
          format.writer().map(SceneWriter::holdsPlaces).orElse(false),
          format.role() == CargoRole.CACHE,
          format.frames().words(),
          format.writer().map(SceneWriter::fields).orElse(List.of()));
    }
  }

  @GetMapping
  public List<FormatView> list() {
    return Formats.ALL.stream().map(FormatView::of).toList();
  }

  /** What each format holds of the layers of a material, tried by landing one that has them all. */
  @GetMapping("/layers")
  public List<LayerTrial.LayerRow> layers() {
    return LayerTrial.rows();
  }
}
