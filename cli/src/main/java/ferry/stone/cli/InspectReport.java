package ferry.stone.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.landing.Forecast;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Frame;
import ferry.stone.core.routine.Asset;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.survey.Inventory;
import java.util.List;
import java.util.Locale;

/** What {@code inspect --json} prints; see {@code docs/cli.md}. */
final class InspectReport {
  /** Form of the report; it rises when a member changes its meaning. */
  static final int SCHEMA = 1;

  private InspectReport() {}

  /** With what a landing would change or lose; {@code null} when it was not asked. */
  static ObjectNode of(Asset cargo, Forecast forecast) {
    ObjectNode json = of(cargo);
    if (forecast != null) {
      ArrayNode items = json.putArray("forecast");
      for (Forecast.Item item : forecast.items()) {
        items
            .addObject()
            .put("fate", item.fate().name().toLowerCase(Locale.ROOT))
            .put("what", item.label())
            .put("measured", item.measured())
            .put("where", item.where())
            .put("how", item.how());
      }
    }
    return json;
  }

  static ObjectNode of(Asset cargo) {
    Scene scene = cargo.near();
    ObjectNode json = JsonNodeFactory.instance.objectNode();
    json.put("schema", SCHEMA);
    Frame frame = scene.frame();
    json.putObject("frame")
        .put("metresPerUnit", frame.metresPerUnit())
        .put("up", frame.up().text())
        .put("front", frame.front().text())
        .put("handedness", frame.handedness().name().toLowerCase(Locale.ROOT));
    counts(json.putObject("counts"), cargo.survey().inventory());
    Bounds bounds = scene.bounds().transform(frame.matrixTo(Frame.Y_UP_METRE));
    if (!bounds.isEmpty()) {
      ObjectNode box = json.putObject("bounds");
      for (double v : bounds.minArray()) {
        box.withArray("min").add(v);
      }
      for (double v : bounds.maxArray()) {
        box.withArray("max").add(v);
      }
    } else {
      json.putNull("bounds");
    }
    ArrayNode nodes = json.putArray("nodes");
    List<String> paths = scene.paths();
    for (int i = 0; i < paths.size(); i++) {
      nodes
          .addObject()
          .put("path", paths.get(i))
          .put("type", scene.nodes().get(i).content().kind());
    }
    ArrayNode findings = json.putArray("findings");
    for (Finding f : cargo.survey().findings()) {
      findings
          .addObject()
          .put("code", f.code())
          .put("severity", f.severity().name().toLowerCase(Locale.ROOT))
          .put("where", f.where())
          .put("message", f.message() + (f.measured().isEmpty() ? "" : " " + f.measured() + "."));
    }
    return json;
  }

  private static void counts(ObjectNode json, Inventory i) {
    json.put("nodes", i.nodes())
        .put("meshes", i.meshes())
        .put("vertices", i.vertices())
        .put("faces", i.faces())
        .put("triangles", i.triangles())
        .put("materials", i.materials())
        .put("textures", i.textures())
        .put("joints", i.joints())
        .put("morphTargets", i.morphTargets())
        .put("clips", i.clips())
        .put("cameras", i.cameras())
        .put("lights", i.lights());
  }
}
