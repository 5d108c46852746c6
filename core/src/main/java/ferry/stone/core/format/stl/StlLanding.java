package ferry.stone.core.format.stl;

import ferry.stone.core.field.Field;
import ferry.stone.core.field.Values;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.flat.FlatFields;
import ferry.stone.core.format.flat.FlatParts;
import ferry.stone.core.format.flat.FlatWriter;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.geometry.triangle.Triangulate;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Node;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/** Landing as STL. */
final class StlLanding implements FlatWriter {
  @Override
  public List<Field> fields() {
    List<Field> fields = new ArrayList<>();
    fields.add(
        Field.choice(
                "encoding",
                "Encoding of the file",
                "Text keeps the parts and their names; binary is a fifth of the size.",
                "binary",
                "Binary, all parts as one",
                "text",
                "Text, a solid for each part")
            .under("Encoding"));
    fields.addAll(FlatFields.frame("mm", "z"));
    return fields;
  }

  @Override
  public Scene prepared(Scene far, Values options) {
    return Triangulate.all(far);
  }

  private static boolean isText(Values options) {
    return options.text("encoding").equals("text");
  }

  /** Each part as a list of triangles; all of them one after another in the binary form. */
  private static Scene held(Scene far, boolean text, String stem) {
    Scene flat = FlatParts.of(far);
    List<PolygonMesh> meshes = new ArrayList<>();
    List<Node> nodes = new ArrayList<>();
    List<Coordinates> all = new ArrayList<>();
    for (int i = 0; i < flat.nodes().size(); i++) {
      PolygonMesh mesh = flat.meshes().get(i);
      int[] source = new int[mesh.faces().cornerCount()];
      for (int c = 0; c < source.length; c++) {
        source[c] = mesh.faces().vertex(c);
      }
      Coordinates points = mesh.points().picked(source);
      all.add(points);
      if (text) {
        String name = name(flat.nodes().get(i).name(), stem);
        meshes.add(soup(mesh.id(), name, points));
        nodes.add(flat.nodes().get(i).withName(name));
      }
    }
    if (!text && !flat.nodes().isEmpty()) {
      Node first = flat.nodes().get(0);
      int id = flat.meshes().get(0).id();
      meshes.add(soup(id, stem, Coordinates.joined(all)));
      nodes.add(Node.of(first.id(), stem, -1, Node.Content.MeshContent.of(id)));
    }
    return flat.toBuilder().meshes(meshes).nodes(nodes).build();
  }

  /** A solid's name is the rest of its line. */
  private static String name(String name, String stem) {
    String line = name.replaceAll("\\s+", " ").strip();
    return line.isEmpty() ? stem : line;
  }

  private static PolygonMesh soup(int id, String name, Coordinates points) {
    int[] corners = new int[points.count()];
    for (int c = 0; c < corners.length; c++) {
      corners[c] = c;
    }
    return PolygonMesh.of(id, name, points, Polygons.triangles(corners));
  }

  @Override
  public Holding holding(Values options) {
    return new StlHolding(frame(options), isText(options));
  }

  private record StlHolding(Frame frame, boolean text) implements Holding {
    @Override
    public String format() {
      return "STL";
    }

    @Override
    public Capability.Fate fate(Capability capability) {
      boolean parts = capability == Capability.SEVERAL_PARTS && text;
      return parts ? Capability.Fate.KEPT : StlFormat.TABLE.of(capability).written();
    }

    @Override
    public Scene read(String mainFile, ReadContext context) throws IOException, FormatException {
      return FlatFields.read(StlRules::check, StlReader::read, mainFile, context, frame);
    }

    @Override
    public boolean isTriangulated() {
      return true;
    }

    @Override
    public boolean isFlat() {
      return true;
    }

    @Override
    public Scene held(Scene far, String mainFile) {
      return StlLanding.held(far, text, CargoPath.stem(mainFile));
    }
  }

  @Override
  public String write(Scene arrived, Values options, Target target)
      throws IOException, FormatException {
    boolean text = isText(options);
    String main = target.stem() + ".stl";
    Scene held = held(arrived, text, target.stem());
    StlWriter.write(held, text, frame(options), target.output(), main, target.progress());
    return main;
  }
}
