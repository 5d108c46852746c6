package ferry.stone.core.format;

import ferry.stone.core.field.Field;
import ferry.stone.core.field.Values;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.format.losses.CapabilityTable;
import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.geometry.triangle.Triangulate;
import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Node;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * A format of this one class: text, {@code toy} in the first line, then a line for each part and
 * below it one for each triangle, nine numbers in metres, Y up.
 */
public final class ToyFormat implements Format, SceneWriter {
  private static final CapabilityTable TABLE = table();

  /** The line that makes it known; closed, it is gone again. */
  public static AutoCloseable open() {
    return Formats.also(new ToyFormat());
  }

  private static CapabilityTable table() {
    CapabilityTable.Builder table = CapabilityTable.named("toy", "Toy", "1");
    for (Capability capability : Capability.values()) {
      table.set(capability, Fate.NONE, Fate.LOST, "A toy has none.");
    }
    return table
        .kept(Capability.ROOT_TRANSFORM, Capability.SEVERAL_PARTS)
        .set(Capability.POLYGONS, Fate.NONE, Fate.CHANGED, "Cut into triangles.")
        .build();
  }

  @Override
  public String key() {
    return "toy";
  }

  @Override
  public String name() {
    return "Toy";
  }

  @Override
  public Set<String> extensions() {
    return Set.of("toy");
  }

  @Override
  public boolean sniff(byte[] head) {
    return new String(head, StandardCharsets.UTF_8).startsWith("toy\n");
  }

  @Override
  public Optional<SceneReader> reader() {
    return Optional.of(ToyFormat::read);
  }

  @Override
  public Optional<SceneWriter> writer() {
    return Optional.of(this);
  }

  @Override
  public Frames frames() {
    return Frames.UNSAID;
  }

  @Override
  public CapabilityTable losses() {
    return TABLE;
  }

  private static Scene read(String resource, ReadContext context)
      throws IOException, FormatException {
    SceneBuilder scene =
        new SceneBuilder(CargoPath.stem(resource))
            .frame(Frame.Y_UP_METRE, FrameSource.FORMAT, FrameSource.FORMAT);
    FloatList points = new FloatList(16);
    String name = null;
    try (BufferedReader in =
        new BufferedReader(
            new InputStreamReader(context.resources().open(resource), StandardCharsets.UTF_8))) {
      in.readLine();
      for (String line = in.readLine(); line != null; line = in.readLine()) {
        if (line.startsWith("part ")) {
          add(scene, name, points);
          name = line.substring(5);
          points = new FloatList(16);
        } else {
          for (String number : line.split(" ")) {
            points.add(Float.parseFloat(number));
          }
        }
      }
    }
    add(scene, name, points);
    return scene.build();
  }

  private static void add(SceneBuilder scene, String name, FloatList points) {
    if (name == null) {
      return;
    }
    IntList corners = new IntList(16);
    for (int i = 0; i < points.size() / 3; i++) {
      corners.add(i);
    }
    PolygonMesh mesh =
        PolygonMesh.of(
            scene.newId(),
            name,
            Coordinates.of(points.toArray()),
            Polygons.triangles(corners.toArray()));
    scene.add(mesh);
    scene.add(Node.of(scene.newId(), name, -1, Node.Content.MeshContent.of(mesh.id())));
  }

  @Override
  public List<Field> fields() {
    return List.of(Field.flag("loud", "Loud", false, "Ends each part with a line.").under("Toy"));
  }

  @Override
  public Frame frame(Values options) {
    return Frame.Y_UP_METRE;
  }

  @Override
  public Scene prepared(Scene far, Values options) {
    return Triangulate.all(far);
  }

  @Override
  public Holding holding(Values options) {
    return new Holding() {
      @Override
      public String format() {
        return "Toy";
      }

      @Override
      public Fate fate(Capability capability) {
        return TABLE.of(capability).written();
      }

      @Override
      public Scene read(String mainFile, ReadContext context) throws IOException, FormatException {
        return ToyFormat.read(mainFile, context);
      }

      @Override
      public boolean isTriangulated() {
        return true;
      }
    };
  }

  @Override
  public String write(Scene arrived, Values options, Target target) throws IOException {
    StringBuilder text = new StringBuilder("toy\n");
    for (Scene.ShownMesh shown : arrived.shownMeshes()) {
      text.append("part ").append(shown.node().name()).append('\n');
      Polygons faces = shown.mesh().faces();
      for (int f = 0; f < faces.faceCount(); f++) {
        for (int c = faces.start(f); c < faces.end(f); c++) {
          int v = faces.vertex(c);
          var p = shown.mesh().points();
          text.append(c == faces.start(f) ? "" : " ");
          text.append((float) p.x(v)).append(' ').append((float) p.y(v)).append(' ');
          text.append((float) p.z(v));
        }
        text.append('\n');
      }
    }
    try (OutputStream out = target.output().create(target.stem() + ".toy")) {
      out.write(text.toString().getBytes(StandardCharsets.UTF_8));
    }
    return target.stem() + ".toy";
  }
}
