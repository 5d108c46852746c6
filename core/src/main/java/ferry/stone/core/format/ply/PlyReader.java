package ferry.stone.core.format.ply;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.mesh.Table;
import ferry.stone.core.scene.node.Node;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Set;

/** Reads PLY as one part. Metres and Y up are assumed until the user says otherwise. */
public final class PlyReader {
  private static final int CHECK = 4096;
  private static final int MOST = Integer.MAX_VALUE / 16;

  /** Properties with a meaning that many programs share. */
  private static final Set<String> KNOWN =
      Set.of(
          "nx",
          "ny",
          "nz",
          "s",
          "t",
          "u",
          "v",
          "texture_u",
          "texture_v",
          "red",
          "green",
          "blue",
          "alpha");

  private final String resource;
  private final ReadContext context;
  private final long size;
  private final Budget budget;
  private float[][] columns = {};

  /** Columns whose meaning is their own, with all digits; {@code null} for the others. */
  private double[][] exact = {};

  private double[] points = {};
  private boolean wide;
  private PlyHead.Element vertex;
  private final IntList corners = new IntList(1 << 10);
  private final IntList offsets = new IntList(1 << 10);

  private PlyReader(String resource, ReadContext context) {
    this.resource = resource;
    this.context = context;
    size = context.resources().size(resource);
    budget = Budget.of(resource, context.resources());
    offsets.add(0);
  }

  public static Scene read(String resource, ReadContext context)
      throws IOException, FormatException {
    return new PlyReader(resource, context).read();
  }

  private Scene read() throws IOException, FormatException {
    try (InputStream in = new BufferedInputStream(context.resources().open(resource), 1 << 16)) {
      PlyHead head = PlyHead.read(in, resource, size);
      PlyNumbers numbers = new PlyNumbers(resource, head, in);
      for (PlyHead.Element element : head.elements()) {
        switch (element.name()) {
          case "vertex" -> vertices(element, numbers);
          case "face" -> faces(element, numbers);
          default -> passOver(element, numbers);
        }
      }
    }
    return build();
  }

  private void step(long done, long count, PlyNumbers numbers) {
    if (done % CHECK == 0) {
      context.progress().checkCancelled();
      context
          .progress()
          .report("reading vertices and faces", Math.min(1, (double) numbers.bytes() / size));
    }
  }

  private void vertices(PlyHead.Element element, PlyNumbers numbers)
      throws IOException, FormatException {
    if (vertex != null || element.count() > MOST) {
      throw error(
          vertex != null ? Kind.CORRUPT : Kind.TOO_LARGE,
          "element vertex",
          vertex != null ? "there are two lists of vertices." : "more vertices than are read.");
    }
    vertex = element;
    List<PlyHead.Property> properties = element.properties();
    int count = (int) element.count();
    int[] xyz = {element.place("x"), element.place("y"), element.place("z")};
    if (xyz[0] < 0 || xyz[1] < 0 || xyz[2] < 0) {
      throw error(Kind.CORRUPT, "element vertex", "vertices need the properties x, y and z.");
    }
    for (int axis : xyz) {
      wide |= properties.get(axis).type() == PlyHead.Type.FLOAT64;
    }
    budget.claim(
        (long) count * (3 + properties.size()) * Double.BYTES,
        "element vertex",
        "the list of vertices");
    points = new double[3 * count];
    columns = new float[properties.size()][];
    exact = new double[properties.size()][];
    for (int p = 0; p < columns.length; p++) {
      boolean place = p == xyz[0] || p == xyz[1] || p == xyz[2];
      boolean own = !KNOWN.contains(properties.get(p).name());
      boolean kept = !place && !properties.get(p).isList();
      columns[p] = kept && !own ? new float[count] : null;
      exact[p] = kept && own ? new double[count] : null;
    }
    for (int v = 0; v < count; v++) {
      step(v, count, numbers);
      for (int p = 0; p < columns.length; p++) {
        PlyHead.Property property = properties.get(p);
        if (property.isList()) {
          passOver(property, numbers);
          continue;
        }
        double value = numbers.next(property.type());
        if (columns[p] != null) {
          columns[p][v] = (float) value;
        } else if (exact[p] != null) {
          exact[p][v] = value;
        } else {
          int axis = p == xyz[0] ? 0 : p == xyz[1] ? 1 : 2;
          points[3 * v + axis] = value;
        }
      }
    }
  }

  private void faces(PlyHead.Element element, PlyNumbers numbers)
      throws IOException, FormatException {
    int list = element.place("vertex_indices", "vertex_index");
    if (vertex == null || list < 0 || !element.properties().get(list).isList()) {
      throw error(
          vertex == null ? Kind.UNSUPPORTED : Kind.CORRUPT,
          "element face",
          vertex == null
              ? "faces stand before the vertices. Export the file again."
              : "faces need the list vertex_indices.");
    }
    if (element.properties().size() > 1) {
      left("Properties of faces besides their corners");
    }
    long small = 0;
    for (long f = 0; f < element.count(); f++) {
      step(f, element.count(), numbers);
      for (int p = 0; p < element.properties().size(); p++) {
        if (p == list) {
          small += corners(element.properties().get(p), numbers) ? 0 : 1;
        } else {
          passOver(element.properties().get(p), numbers);
        }
      }
    }
    if (small > 0) {
      left("Faces of fewer than 3 corners");
    }
  }

  /** Whether the face has corners enough to be one. */
  private boolean corners(PlyHead.Property property, PlyNumbers numbers)
      throws IOException, FormatException {
    String place = numbers.place();
    long count = count(property, numbers);
    budget.claim(Integer.BYTES * count, place, "a face");
    int from = corners.size();
    for (long c = 0; c < count; c++) {
      double v = numbers.next(property.type());
      if (!(v >= 0) || v >= vertex.count() || v != Math.rint(v)) {
        throw error(
            Kind.CORRUPT,
            place,
            "a face names vertex " + v + ", but there are " + vertex.count() + ".");
      }
      corners.add((int) v);
    }
    if (count < 3) {
      corners.cutTo(from);
      return false;
    }
    offsets.add(corners.size());
    return true;
  }

  private long count(PlyHead.Property property, PlyNumbers numbers)
      throws IOException, FormatException {
    String place = numbers.place();
    double count = numbers.next(property.count());
    if (!(count >= 0) || count > size || count != Math.rint(count)) {
      throw error(Kind.CORRUPT, place, "a list claims " + count + " values.");
    }
    return (long) count;
  }

  private void passOver(PlyHead.Property property, PlyNumbers numbers)
      throws IOException, FormatException {
    long count = property.isList() ? count(property, numbers) : 1;
    for (long i = 0; i < count; i++) {
      numbers.next(property.type());
    }
  }

  private void passOver(PlyHead.Element element, PlyNumbers numbers)
      throws IOException, FormatException {
    if (element.count() > 0) {
      left("Elements named \"" + element.name() + "\"");
    }
    for (long i = 0; i < element.count(); i++) {
      step(i, element.count(), numbers);
      for (PlyHead.Property property : element.properties()) {
        passOver(property, numbers);
      }
    }
  }

  private void left(String what) {
    context
        .findings()
        .add(Finding.of("statements-not-read", Severity.LOOK, resource, what + " are not read."));
  }

  private Scene build() throws FormatException {
    if (vertex == null) {
      throw error(Kind.CORRUPT, "", "the file has no vertices.");
    }
    String name = CargoPath.stem(resource);
    SceneBuilder scene = new SceneBuilder(name).uvOrigin(UvOrigin.BOTTOM_LEFT);
    Coordinates places = wide ? Coordinates.of(points) : Coordinates.of(narrow(points));
    int id = scene.newId();
    PolygonMesh mesh =
        PolygonMesh.of(id, name, places, Polygons.of(corners.toArray(), offsets.toArray()))
            .withAttributes(layers());
    if (corners.size() == 0 && vertex.count() > 0) {
      int[] all = new int[(int) vertex.count()];
      for (int v = 0; v < all.length; v++) {
        all[v] = v;
      }
      mesh = mesh.toBuilder().loose(new LooseElements(new int[] {0}, new int[0], all)).build();
    }
    scene.add(mesh);
    scene.add(Node.of(scene.newId(), name, -1, Node.Content.MeshContent.of(id)));
    return scene.build();
  }

  private static float[] narrow(double[] values) {
    float[] result = new float[values.length];
    for (int i = 0; i < result.length; i++) {
      result[i] = (float) values[i];
    }
    return result;
  }

  private List<Attribute> layers() {
    List<Attribute> layers = new ArrayList<>();
    layer(
        layers,
        "normal",
        Semantic.NORMAL,
        vertex.place("nx"),
        vertex.place("ny"),
        vertex.place("nz"));
    int u = vertex.place("s", "u", "texture_u");
    int v = vertex.place("t", "v", "texture_v");
    layer(layers, "uv", Semantic.UV, u, v);
    int[] colour = {vertex.place("red"), vertex.place("green"), vertex.place("blue")};
    int alpha = vertex.place("alpha");
    if (alpha >= 0) {
      layer(layers, "colour", Semantic.COLOUR, colour[0], colour[1], colour[2], alpha);
    } else {
      layer(layers, "colour", Semantic.COLOUR, colour);
    }
    for (int p = 0; p < columns.length; p++) {
      String name = vertex.properties().get(p).name();
      if (columns[p] != null) {
        // One of several that belong together came alone.
        layer(layers, name, Semantic.OTHER, p);
      } else if (exact[p] != null) {
        Table table = table(exact[p], vertex.properties().get(p).type());
        layers.add(new Attribute(name, Semantic.OTHER, Domain.VERTEX, table, null));
        exact[p] = null;
      }
    }
    return layers;
  }

  /** A column in the type in which it was written; 32 bits without a sign need more than an int. */
  private static Table table(double[] column, PlyHead.Type type) {
    if (type == PlyHead.Type.FLOAT64 || type == PlyHead.Type.UINT32) {
      return new Table.Doubles(column, 1);
    }
    if (type == PlyHead.Type.FLOAT32) {
      return new Table.Floats(narrow(column), 1, false);
    }
    return new Table.Wholes(Arrays.stream(column).mapToInt(x -> (int) x).toArray(), 1);
  }

  /** Makes a layer of columns when all are there; they are used up then. */
  private void layer(List<Attribute> layers, String name, Semantic semantic, int... places) {
    for (int place : places) {
      if (place < 0 || columns[place] == null) {
        return;
      }
    }
    int n = places.length;
    float[] values = new float[n * (int) vertex.count()];
    for (int k = 0; k < n; k++) {
      float scale = semantic == Semantic.COLOUR ? full(vertex.properties().get(places[k])) : 1;
      float[] column = columns[places[k]];
      for (int i = 0; i < column.length; i++) {
        values[n * i + k] = column[i] / scale;
      }
      columns[places[k]] = null;
    }
    layers.add(new Attribute(name, semantic, Domain.VERTEX, n, values, null));
  }

  /** The number that stands for full brightness: whole numbers run to their type's end. */
  private static float full(PlyHead.Property property) {
    return switch (property.type()) {
      case UINT8, INT8 -> 255;
      case UINT16, INT16 -> 65_535;
      default -> 1;
    };
  }

  private FormatException error(Kind kind, String place, String problem) {
    return new FormatException(kind, resource, place, problem);
  }
}
