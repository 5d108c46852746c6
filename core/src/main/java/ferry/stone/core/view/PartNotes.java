package ferry.stone.core.view;

import ferry.stone.core.math.Figures;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.EdgeSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Subdivision;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.node.Lens;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.InheritedTransform;
import ferry.stone.core.scene.node.LocalTransform.PivotTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.NodeSet;
import ferry.stone.core.scene.node.Purpose;
import ferry.stone.core.scene.node.Visibility;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.scene.time.Samples;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.joml.Vector3dc;

/** Says in words what the source wrote of a part besides its numbers. */
final class PartNotes {
  private PartNotes() {}

  private static void seen(Scene scene, Node node, Map<String, String> notes) {
    int place = scene.nodes().indexOf(node);
    boolean above = node.parent() < 0 || scene.seen()[node.parent()];
    if (node.visibility() == Visibility.HIDDEN) {
      notes.put("Seen", "no");
    } else if (!above) {
      boolean shown = node.visibility() == Visibility.SHOWN;
      notes.put("Seen", shown ? "yes, below a hidden part" : "no, a part above is hidden");
    }
    Purpose purpose = scene.purposes()[place];
    if (purpose != Purpose.DEFAULT) {
      notes.put(
          "Purpose",
          switch (purpose) {
            case PROXY -> "stand-in";
            case GUIDE -> "guide";
            default -> "final picture";
          });
    }
  }

  /** What a cache has of the part, or another mesh at each sample. */
  private static void sampled(Scene scene, int meshId, Map<String, String> notes) {
    PointCache cache = Caches.of(scene, meshId);
    if (cache != null) {
      double bytes = 12.0 * cache.pointCount() * cache.sampleCount();
      notes.put("Cache", cache.name());
      notes.put("Samples", span(cache));
      notes.put("Points", Figures.count(cache.pointCount()) + ", " + Figures.bytes((long) bytes));
      notes.put("Topology", "one mesh whose points move");
    }
    for (MeshSequence sequence : scene.sequences()) {
      if (sequence.meshId() == meshId) {
        notes.put("Samples", span(sequence));
        notes.put("Topology", "another mesh at each sample");
      }
    }
  }

  private static String span(Samples samples) {
    int count = samples.sampleCount();
    double seconds = samples.endSeconds() - samples.startSeconds();
    String rate = seconds > 0 ? ", " + plain((count - 1) / seconds) + "/s" : "";
    return Figures.count(count)
        + ", "
        + plain(samples.startSeconds())
        + "–"
        + plain(samples.endSeconds())
        + " s"
        + rate;
  }

  private static String plain(double number) {
    return Figures.plain(Math.round(1000 * number) / 1000.0);
  }

  private static void lens(Camera camera, Map<String, String> notes) {
    Lens lens = camera.lens();
    if (lens == null) {
      return;
    }
    notes.put("Focal length", millimetres(lens.focalLength(camera.verticalAngleRadians())));
    notes.put("Film", millimetres(lens.gateWidth()) + " × " + millimetres(lens.gateHeight()));
    if (lens.shiftX() != 0 || lens.shiftY() != 0) {
      notes.put("Shift", millimetres(lens.shiftX()) + ", " + millimetres(lens.shiftY()));
    }
    if (lens.fStop() != 0) {
      notes.put("F-stop", Figures.plain(lens.fStop()));
    }
  }

  private static String millimetres(double value) {
    return Figures.plain(Math.round(value * 100) / 100.0) + " mm";
  }

  /** How the source wrote a transform. */
  static String form(LocalTransform transform) {
    if (transform instanceof LocalTransform.MatrixTransform) {
      return "matrix";
    }
    return transform instanceof LocalTransform.Trs ? "translation, rotation, scale" : "with pivots";
  }

  static Map<String, String> of(Scene scene, Node node) {
    Map<String, String> notes = new LinkedHashMap<>();
    seen(scene, node, notes);
    List<String> layers = scene.composition().sources().getOrDefault(node.id(), List.of());
    if (!layers.isEmpty()) {
      notes.put("Said in", String.join(", ", layers));
    }
    if (node.content() instanceof Node.Content.MeshContent content) {
      sampled(scene, content.meshId(), notes);
    }
    PivotTransform own =
        node.transform() instanceof PivotTransform p
            ? p
            : node.transform() instanceof InheritedTransform i ? i.own() : null;
    if (own != null) {
      pivots(own, notes);
    }
    if (node.content() instanceof Node.Content.MeshContent content) {
      scene.mesh(content.meshId()).ifPresent(mesh -> mesh(mesh, notes));
      for (MeshSequence sequence : scene.sequences()) {
        if (sequence.meshId() == content.meshId()) {
          notes.put("Another mesh over time", Figures.count(sequence.sampleCount(), "sample"));
        }
      }
    }
    if (node.content() instanceof Node.Content.DetailGroup group) {
      boolean distances = group.measure() == Node.Content.DetailGroup.Measure.DISTANCE;
      notes.put(
          distances ? "Levels end at" : "Levels by height on screen",
          IntStream.range(0, group.thresholds().length)
              .mapToObj(i -> threshold(group.thresholds()[i], distances, scene))
              .collect(Collectors.joining(", ")));
    }
    if (node.content() instanceof Node.Content.CameraContent content) {
      scene.camera(content.cameraId()).ifPresent(camera -> lens(camera, notes));
    }
    copies(scene, node, notes);
    for (Clip clip : scene.clips()) {
      for (Clip.Words words : clip.words()) {
        if (words.targetId() == node.id()) {
          String name = words.property().substring(Clip.CUSTOM.length());
          notes.put(name + " in " + clip.name(), String.join(", ", words.values()));
        }
      }
    }
    for (NodeSet set : scene.sets()) {
      if (IntStream.of(set.nodeIds()).anyMatch(id -> id == node.id())) {
        notes.merge(
            set.kind() == NodeSet.Kind.LAYER ? "Layer" : "In selections",
            set.name(),
            (a, b) -> a + ", " + b);
      }
    }
    return notes;
  }

  private static void copies(Scene scene, Node node, Map<String, String> notes) {
    for (CopySet set : scene.copies()) {
      String all = Figures.count(set.nodeIds().length, "copy");
      if (set.holderId() == node.id()) {
        notes.put("Lists places of one mesh", all);
      } else if (IntStream.of(set.nodeIds()).anyMatch(id -> id == node.id())) {
        notes.put("One of", all);
      }
    }
  }

  private static String threshold(double value, boolean distance, Scene scene) {
    if (distance) {
      return value == Double.MAX_VALUE || !Double.isFinite(value)
          ? "no end"
          : Figures.length(value * scene.frame().metresPerUnit());
    }
    return Figures.plain(Math.round(1000 * value) / 10.0) + " %";
  }

  private static void pivots(PivotTransform own, Map<String, String> notes) {
    if (own.order() != LocalTransform.EulerOrder.XYZ) {
      notes.put("Turns in the order", own.order().name());
    }
    put(notes, "Pre-rotation", own.preRotation(), "°");
    put(notes, "Post-rotation", own.postRotation(), "°");
    put(notes, "Rotation pivot", own.rotationPivot(), "");
    put(notes, "Scaling pivot", own.scalingPivot(), "");
    switch (own.inheritance()) {
      case AFTER_ROTATION -> notes.put("Parent's scale", "after both rotations");
      case NONE -> notes.put("Parent's scale", "not passed on");
      default -> {
        // The plain way needs no words.
      }
    }
  }

  private static void put(Map<String, String> notes, String name, Vector3dc v, String unit) {
    if (v.lengthSquared() > 0) {
      notes.put(name, number(v.x()) + ", " + number(v.y()) + ", " + number(v.z()) + unit);
    }
  }

  private static String number(double v) {
    return Figures.plain(Math.round(1e4 * v) / 1e4);
  }

  private static void mesh(PolygonMesh mesh, Map<String, String> notes) {
    Subdivision s = mesh.subdivision();
    if (s != null) {
      notes.put(
          "Subdivision",
          Figures.count(s.level(), "level")
              + ", "
              + Figures.count(s.creaseSharpness().length, "crease")
              + (s.holes().length > 0 ? ", " + Figures.count(s.holes().length, "hole") : "")
              + "; shown as its cage");
    }
    if (!mesh.edgeSets().isEmpty()) {
      notes.put(
          "Sets of edges", String.join(", ", mesh.edgeSets().stream().map(EdgeSet::name).toList()));
    }
    if (mesh.hardEdges() != null) {
      notes.put("Sharp edges", Figures.count(mesh.hardEdges().length / 2));
    }
  }
}
