package ferry.stone.core.format.fbx.raw;

import ferry.stone.core.scene.time.KeyCurve;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Turns the tree of a file of version 6 into that of a version 7 file: objects get ids for their
 * names, geometry leaves its model, and the takes become objects. Keys after files seen in the
 * wild, from memory: no source.
 */
final class FbxSix {
  private static final Set<String> SHAPE =
      Set.of("Vertices", "PolygonVertexIndex", "Edges", "Smoothness", "PreviewDivisionLevels");

  private final FbxRecord root;
  private final Map<String, Long> ids = new HashMap<>();
  private final List<FbxRecord> objects = new ArrayList<>();
  private final List<FbxRecord> connections = new ArrayList<>();
  private final Map<String, Map<String, Long>> channels = new HashMap<>();
  private final Map<String, List<Long>> materialsOf = new HashMap<>();
  private final Map<Long, Long> geometryOf = new HashMap<>();
  private long next = 1;

  private FbxSix(FbxRecord root) {
    this.root = root;
  }

  static FbxRecord modern(FbxRecord root) {
    return new FbxSix(root).run();
  }

  private FbxRecord run() {
    FbxRecord settings = root.at("GlobalSettings");
    for (FbxRecord object : root.at("Objects").children()) {
      if (object.name().equals("GlobalSettings")) {
        settings = object;
      } else {
        object(object);
      }
    }
    for (FbxRecord c : root.at("Connections").children()) {
      Long id = ids.get(c.text(1));
      if (id != null && isOf(c.text(1), "Material")) {
        materialsOf.computeIfAbsent(c.text(2), k -> new ArrayList<>()).add(id);
      }
    }
    for (FbxRecord c : root.at("Connections").children()) {
      connect(c);
    }
    for (FbxRecord take : root.at("Takes").all("Take")) {
      take(take);
    }
    FbxRecord result = new FbxRecord("", "");
    List<FbxRecord> header = new ArrayList<>();
    header.add(FbxBuild.properties(properties(settings)));
    result.children().add(FbxBuild.list("GlobalSettings", List.of(), header));
    result.children().add(FbxBuild.list("Objects", List.of(), objects));
    result.children().add(FbxBuild.list("Connections", List.of(), connections));
    return result;
  }

  /** {@code Property: name, type, flags, values} gets a second type name. */
  private static List<FbxRecord> properties(FbxRecord holder) {
    List<FbxRecord> result = new ArrayList<>();
    for (FbxRecord old : holder.at("Properties60").children()) {
      FbxRecord p = new FbxRecord("P", old.place());
      p.values().addAll(List.of(old.text(0), old.text(1), "", old.text(2)));
      for (int v = 3; v < old.values().size(); v++) {
        p.values().add(old.values().get(v));
      }
      result.add(p);
    }
    return result;
  }

  private FbxRecord object(String kind, long id, String name, String type, FbxRecord from) {
    FbxRecord object = new FbxRecord(kind, from.place());
    object.values().addAll(List.of(id, name, type));
    objects.add(object);
    return object;
  }

  private void object(FbxRecord old) {
    String name = old.text(0);
    long id = next++;
    ids.putIfAbsent(name, id);
    String type = old.text(1);
    FbxRecord made = object(old.name(), id, name, type, old);
    List<FbxRecord> own = properties(old);
    made.children().add(FbxBuild.properties(own));
    boolean model = old.name().equals("Model");
    boolean mesh = model && old.child("Vertices").isPresent();
    FbxRecord geometry = mesh ? object("Geometry", next++, name, "Mesh", old) : null;
    if (mesh) {
      geometryOf.put(id, geometry.id(0));
      connections.add(FbxBuild.record("C", "OO", geometry.id(0), id));
    }
    for (FbxRecord child : old.children()) {
      boolean shape = SHAPE.contains(child.name()) || child.name().startsWith("LayerElement");
      if (child.name().equals("Properties60") || child.name().equals("Shape")) {
        continue;
      }
      (mesh && shape ? geometry : made).children().add(child);
    }
    if (mesh) {
      shapes(old, geometry.id(0), own);
    }
    if (type.equals("Camera") || type.equals("Light")) {
      FbxRecord attribute = object("NodeAttribute", next++, name, type, old);
      attribute.children().add(FbxBuild.properties(own));
      connections.add(FbxBuild.record("C", "OO", attribute.id(0), id));
      channels.computeIfAbsent(name, k -> new HashMap<>()).put("", attribute.id(0));
    }
  }

  /** Blend shapes stand in the model, their weights among its properties. */
  private void shapes(FbxRecord old, long geometry, List<FbxRecord> own) {
    List<FbxRecord> shapes = old.all("Shape");
    if (shapes.isEmpty()) {
      return;
    }
    FbxRecord blend = object("Deformer", next++, "shapes", "BlendShape", old);
    connections.add(FbxBuild.record("C", "OO", blend.id(0), geometry));
    for (FbxRecord shape : shapes) {
      String name = shape.text(0);
      double weight = 0;
      for (FbxRecord p : own) {
        weight = p.text(0).equals(name) ? p.number(4, 0) : weight;
      }
      FbxRecord channel = object("Deformer", next++, name, "BlendShapeChannel", shape);
      channel.children().add(FbxBuild.record("DeformPercent", weight));
      connections.add(FbxBuild.record("C", "OO", channel.id(0), blend.id(0)));
      FbxRecord made = object("Geometry", next++, name, "Shape", shape);
      made.children().addAll(shape.children());
      connections.add(FbxBuild.record("C", "OO", made.id(0), channel.id(0)));
      channels.computeIfAbsent(old.text(0), k -> new HashMap<>()).put(name, channel.id(0));
    }
  }

  /** Whether a name is that of an object of a class, in either form. */
  private static boolean isOf(String name, String type) {
    return name.startsWith(type + "::") || name.endsWith("\u0001" + type);
  }

  private void connect(FbxRecord c) {
    Long from = ids.get(c.text(1));
    String target = c.text(2);
    if (from == null) {
      return;
    }
    Long to =
        target.endsWith("Scene") && !ids.containsKey(target) ? Long.valueOf(0) : ids.get(target);
    if (to == null) {
      return;
    }
    // What deforms or covers a model of version 6 belongs to its geometry now.
    boolean deforms = isOf(c.text(1), "Deformer");
    Long geometry = deforms ? geometryOf.get(to) : null;
    FbxRecord made = FbxBuild.record("C", c.text(0), from, geometry != null ? geometry : to);
    if (c.values().size() > 3) {
      made.values().add(c.text(3));
    }
    connections.add(made);
    texture(c, from, to);
  }

  /** Textures hung on models then: they belong to the colour of the model's materials. */
  private void texture(FbxRecord c, long from, long to) {
    if (!isOf(c.text(1), "Texture") || !geometryOf.containsKey(to)) {
      return;
    }
    for (long id : materialsOf.getOrDefault(c.text(2), List.of())) {
      connections.add(FbxBuild.record("C", "OP", from, id, "DiffuseColor"));
    }
  }

  private void take(FbxRecord take) {
    FbxRecord stack = object("AnimationStack", next++, take.text(0), "", take);
    List<FbxRecord> p = new ArrayList<>();
    FbxRecord time = take.at("LocalTime");
    if (time.values().size() >= 2) {
      p.add(FbxBuild.p("LocalStart", "KTime", "Time", "", time.id(0)));
      p.add(FbxBuild.p("LocalStop", "KTime", "Time", "", time.id(1)));
    }
    stack.children().add(FbxBuild.properties(p));
    FbxRecord layer = object("AnimationLayer", next++, take.text(0), "", take);
    connections.add(FbxBuild.record("C", "OO", layer.id(0), stack.id(0)));
    for (FbxRecord model : take.all("Model")) {
      Long id = ids.get(model.text(0));
      if (id == null) {
        continue;
      }
      for (FbxRecord channel : model.all("Channel")) {
        if (channel.text(0).equals("Transform")) {
          for (FbxRecord part : channel.all("Channel")) {
            String property =
                switch (part.text(0)) {
                  case "T" -> "Lcl Translation";
                  case "R" -> "Lcl Rotation";
                  default -> "Lcl Scaling";
                };
            node(layer.id(0), id, property, part.all("Channel"));
          }
        } else {
          value(layer.id(0), id, model.text(0), channel);
        }
      }
    }
  }

  /** Visibility, the weight of a shape, or a value of a camera or light. */
  private void value(long layer, long model, String name, FbxRecord channel) {
    Map<String, Long> own = channels.getOrDefault(name, Map.of());
    Long shape = own.get(channel.text(0));
    List<FbxRecord> parts = channel.all("Channel");
    parts = parts.isEmpty() ? List.of(channel) : parts;
    if (shape != null) {
      node(layer, shape, "DeformPercent", parts);
    } else if (channel.text(0).equals("Visibility")) {
      node(layer, model, "Visibility", parts);
    } else {
      node(layer, own.getOrDefault("", model), channel.text(0), parts);
    }
  }

  private void node(long layer, long target, String property, List<FbxRecord> parts) {
    List<FbxRecord> still = new ArrayList<>();
    FbxRecord node = FbxBuild.record("AnimationCurveNode", next++, property, "");
    String[] names = {"d|X", "d|Y", "d|Z"};
    int moving = 0;
    for (int c = 0; c < Math.min(3, parts.size()); c++) {
      FbxRecord part = parts.get(c);
      KeyCurve curve = FbxSixKeys.read(part.at("Key"));
      still.add(FbxBuild.p(names[c], "Number", "", "A", part.at("Default").number(0, 0)));
      if (curve == null) {
        continue;
      }
      moving++;
      FbxRecord made = FbxBuild.record("AnimationCurve", next++, "", "");
      made.children().addAll(FbxCurve.write(curve));
      objects.add(made);
      connections.add(FbxBuild.record("C", "OP", made.id(0), node.id(0), names[c]));
    }
    if (moving > 0) {
      node.children().add(FbxBuild.properties(still));
      objects.add(node);
      connections.add(FbxBuild.record("C", "OO", node.id(0), layer));
      connections.add(FbxBuild.record("C", "OP", node.id(0), target, property));
    }
  }
}
