package ferry.stone.core.format.collada;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.geometry.triangle.HoleBridge;
import ferry.stone.core.math.DoubleList;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.joml.Matrix3d;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * Makes a mesh of a {@code mesh}: its vertices in the order of their source, faces in the order of
 * the file, each primitive's material symbol as a slot. Layers keep their indices.
 */
final class DaeMeshReader {
  private final DaeDocument document;
  private final DaeElement geometry;
  private final Matrix4d toFile;
  private final Map<DaeElement, DaeSource> sources = new LinkedHashMap<>();
  private DaeSource positions;

  private final IntList corners = new IntList(256);
  private final IntList offsets = new IntList(128);
  private final IntList slots = new IntList(128);
  private final IntList lineOffsets = new IntList(16);
  private final IntList lineVertices = new IntList(16);
  private final Map<String, Integer> symbols = new LinkedHashMap<>();
  private final Map<String, Layer> layers = new LinkedHashMap<>();
  private int bridged;

  /** A layer under way: values of all sources that feed it, an index a corner. */
  private static final class Layer {
    private final String name;
    private final Semantic semantic;
    private final int components;
    private final DoubleList values = new DoubleList(256);
    private final IntList indices = new IntList(256);
    private final Map<DaeSource, Integer> starts = new LinkedHashMap<>();

    Layer(String name, Semantic semantic, int components) {
      this.name = name;
      this.semantic = semantic;
      this.components = components;
    }

    int start(DaeSource source) {
      return starts.computeIfAbsent(
          source,
          s -> {
            int first = values.size() / components;
            for (int i = 0; i < s.count(); i++) {
              for (int k = 0; k < components; k++) {
                values.add(k < s.components() ? s.at(i, k) : k == 3 ? 1 : 0);
              }
            }
            return first;
          });
    }
  }

  /**
   * @param mesh {@code null} when the geometry holds no mesh
   * @param symbols name of the material of each slot
   */
  record Result(PolygonMesh mesh, List<String> symbols) {}

  private DaeMeshReader(DaeDocument document, DaeElement geometry, Matrix4d toFile) {
    this.document = document;
    this.geometry = geometry;
    this.toFile = toFile;
  }

  static Result read(DaeDocument document, DaeElement geometry, Matrix4d toFile, int id)
      throws FormatException {
    return new DaeMeshReader(document, geometry, toFile).read(id);
  }

  private Result read(int id) throws FormatException {
    DaeElement mesh = geometry.child("mesh");
    mesh = mesh == null ? geometry.child("convex_mesh") : mesh;
    if (mesh == null || mesh.child("vertices") == null) {
      document.say(
          "geometry-not-read",
          geometry,
          "Only meshes are read: curves and solids are left out. Turn it into a mesh.");
      return new Result(null, List.of());
    }
    for (DaeElement input : mesh.child("vertices").all("input")) {
      if (input.attribute("semantic").equals("POSITION")) {
        positions = source(input);
      }
    }
    if (positions == null || positions.numbers() == null || positions.components() < 3) {
      throw document.broken(
          mesh.child("vertices"), "the vertices have no positions of 3 numbers. Export it again.");
    }
    offsets.add(0);
    for (DaeElement primitive : mesh.children) {
      switch (primitive.name) {
        case "triangles", "polylist", "polygons", "trifans", "tristrips", "lines", "linestrips" ->
            primitive(mesh, primitive);
        default -> {
          // Sources, vertices and what others add.
        }
      }
    }
    if (bridged > 0) {
      document.findings.add(
          ferry.stone.core.finding.Finding.of(
                  "holes-bridged",
                  ferry.stone.core.finding.Severity.NOTE,
                  geometry.label("geometry"),
                  "Faces with holes became faces whose outline runs to each hole and back.")
              .measured(ferry.stone.core.math.Figures.count(bridged, "face")));
    }
    return new Result(build(id), new ArrayList<>(symbols.keySet()));
  }

  private DaeSource source(DaeElement input) throws FormatException {
    DaeElement named = document.named(input, "source", "source");
    if (named == null) {
      return null;
    }
    if (!sources.containsKey(named)) {
      sources.put(named, DaeSource.of(document, named));
    }
    return sources.get(named);
  }

  /** How the numbers of a primitive's corners are to be read. */
  private final class Inputs {
    private final DaeElement primitive;
    private int stride = 1;
    private int vertexOffset;
    private final List<Layer> fed = new ArrayList<>();
    private final List<DaeSource> from = new ArrayList<>();
    private final IntList at = new IntList(8);
    private final IntList first = new IntList(8);

    Inputs(DaeElement mesh, DaeElement primitive) throws FormatException {
      this.primitive = primitive;
      boolean hasVertices = false;
      for (DaeElement input : primitive.all("input")) {
        int offset = Math.max(0, input.number("offset", 0));
        stride = Math.max(stride, offset + 1);
        if (input.attribute("semantic").equals("VERTEX")) {
          hasVertices = true;
          vertexOffset = offset;
          for (DaeElement inner : mesh.child("vertices").all("input")) {
            if (!inner.attribute("semantic").equals("POSITION")) {
              add(inner, offset);
            }
          }
        } else {
          add(input, offset);
        }
      }
      if (!hasVertices && primitive.child("p") != null) {
        throw document.broken(primitive, "its corners name no vertices. Export the file again.");
      }
    }

    private void add(DaeElement input, int offset) throws FormatException {
      Semantic semantic =
          switch (input.attribute("semantic")) {
            case "NORMAL" -> Semantic.NORMAL;
            case "TEXCOORD", "UV" -> Semantic.UV;
            case "COLOR" -> Semantic.COLOUR;
            case "TANGENT", "TEXTANGENT" -> Semantic.TANGENT;
            default -> null;
          };
      if (semantic == null) {
        return;
      }
      DaeSource source = source(input);
      if (source == null || source.numbers() == null || source.count() == 0) {
        return;
      }
      int components = semantic == Semantic.UV ? 2 : Math.min(4, source.components());
      components = semantic == Semantic.NORMAL || semantic == Semantic.TANGENT ? 3 : components;
      if (source.components() < components || !semantic.holds(components)) {
        document.say("layer-too-short", input, "Its values have too few numbers: left out.");
        return;
      }
      String set = input.attribute("set").strip();
      String name = name(semantic) + (set.isEmpty() || set.equals("0") ? "" : set);
      int width = components;
      Layer layer =
          layers.computeIfAbsent(
              semantic + "/" + (set.isEmpty() ? "0" : set) + "/" + width,
              k -> new Layer(name, semantic, width));
      if (fed.contains(layer)) {
        return;
      }
      fed.add(layer);
      from.add(source);
      at.add(offset);
      first.add(layer.start(source));
    }

    private static String name(Semantic semantic) {
      return switch (semantic) {
        case NORMAL -> "normal";
        case UV -> "uv";
        case COLOUR -> "colour";
        default -> "tangent";
      };
    }

    int vertex(int[] p, int corner) throws FormatException {
      int vertex = p[stride * corner + vertexOffset];
      if (vertex < 0 || vertex >= positions.count()) {
        throw document.broken(
            primitive,
            "corner "
                + corner
                + " names vertex "
                + vertex
                + ", and there are "
                + positions.count()
                + ". Export the file again.");
      }
      return vertex;
    }

    /** Notes a corner of a face with its layers. */
    void corner(int[] p, int corner) throws FormatException {
      corners.add(vertex(p, corner));
      for (int i = 0; i < fed.size(); i++) {
        Layer layer = fed.get(i);
        // Corners of primitives without this layer have none.
        layer.indices.fill(-1, corners.size() - 1 - layer.indices.size());
        int index = p[stride * corner + at.get(i)];
        layer.indices.add(index >= 0 && index < from.get(i).count() ? first.get(i) + index : -1);
      }
    }
  }

  private void primitive(DaeElement mesh, DaeElement primitive) throws FormatException {
    Inputs inputs = new Inputs(mesh, primitive);
    boolean isLine = primitive.name.startsWith("line");
    int slot =
        isLine
            ? -1
            : primitive.attribute("material").isEmpty()
                ? -1
                : symbols.computeIfAbsent(primitive.attribute("material"), k -> symbols.size());
    for (DaeElement p : primitive.all("p")) {
      int count = p.wholes.length / inputs.stride;
      switch (primitive.name) {
        case "triangles" -> faces(inputs, p.wholes, slot, 3, count / 3);
        case "polylist" -> polylist(inputs, primitive, p.wholes, slot);
        case "polygons" -> face(inputs, p.wholes, slot, 0, count);
        case "trifans" -> {
          for (int i = 1; i + 1 < count; i++) {
            triangle(inputs, p.wholes, slot, 0, i, i + 1);
          }
        }
        case "tristrips" -> {
          for (int i = 0; i + 2 < count; i++) {
            triangle(inputs, p.wholes, slot, i, i + 1 + i % 2, i + 2 - i % 2);
          }
        }
        case "lines" -> {
          for (int i = 0; i + 1 < count; i += 2) {
            line(inputs, p.wholes, i, 2);
          }
        }
        default -> line(inputs, p.wholes, 0, count);
      }
    }
    for (DaeElement holed : primitive.all("ph")) {
      holed(inputs, holed, slot);
    }
  }

  private void faces(Inputs inputs, int[] p, int slot, int size, int count) throws FormatException {
    for (int f = 0; f < count; f++) {
      face(inputs, p, slot, size * f, size);
    }
  }

  private void polylist(Inputs inputs, DaeElement primitive, int[] p, int slot)
      throws FormatException {
    DaeElement sizes = primitive.child("vcount");
    int at = 0;
    for (int size : sizes == null ? new int[0] : sizes.wholes) {
      if (size < 0 || (long) (at + (long) size) * inputs.stride > p.length) {
        throw document.broken(
            primitive, "its faces have more corners than its list holds. Export the file again.");
      }
      face(inputs, p, slot, at, size);
      at += size;
    }
  }

  private void face(Inputs inputs, int[] p, int slot, int from, int size) throws FormatException {
    if (size < 3) {
      return;
    }
    for (int c = from; c < from + size; c++) {
      inputs.corner(p, c);
    }
    end(slot);
  }

  private void triangle(Inputs inputs, int[] p, int slot, int a, int b, int c)
      throws FormatException {
    inputs.corner(p, a);
    inputs.corner(p, b);
    inputs.corner(p, c);
    end(slot);
  }

  private void end(int slot) {
    offsets.add(corners.size());
    slots.add(slot);
  }

  /** A face with holes: its outline is joined to each of them. */
  private void holed(Inputs inputs, DaeElement holed, int slot) throws FormatException {
    List<int[]> loops = new ArrayList<>();
    List<int[]> cornersOf = new ArrayList<>();
    for (DaeElement loop : holed.children) {
      if (loop.wholes == null || loop.wholes.length / inputs.stride < 3) {
        continue;
      }
      int[] own = new int[loop.wholes.length / inputs.stride];
      for (int c = 0; c < own.length; c++) {
        own[c] = inputs.vertex(loop.wholes, c);
      }
      loops.add(own);
      cornersOf.add(loop.wholes);
    }
    if (loops.isEmpty()) {
      return;
    }
    double[] flat = new double[3 * loops.stream().mapToInt(l -> l.length).sum()];
    int at = 0;
    for (int[] loop : loops) {
      for (int vertex : loop) {
        for (int k = 0; k < 3; k++) {
          flat[at++] = positions.at(vertex, k);
        }
      }
    }
    int[] sizes = loops.stream().mapToInt(l -> l.length).toArray();
    for (int place : HoleBridge.join(flat, sizes)) {
      int loop = 0;
      int corner = place;
      while (corner >= sizes[loop]) {
        corner -= sizes[loop++];
      }
      inputs.corner(cornersOf.get(loop), corner);
    }
    end(slot);
    bridged += loops.size() > 1 ? 1 : 0;
  }

  private void line(Inputs inputs, int[] p, int from, int count) throws FormatException {
    if (count < 2) {
      return;
    }
    lineOffsets.add(lineVertices.size());
    for (int c = from; c < from + count; c++) {
      lineVertices.add(inputs.vertex(p, c));
    }
  }

  private PolygonMesh build(int id) {
    List<Attribute> attributes = new ArrayList<>();
    for (Layer layer : layers.values()) {
      layer.indices.fill(-1, corners.size() - layer.indices.size());
      if (corners.size() > 0) {
        attributes.add(
            new Attribute(
                layer.name,
                layer.semantic,
                Domain.CORNER,
                layer.components,
                values(layer),
                layer.indices.toArray()));
      }
    }
    int[] slotOfFace = slots.toArray();
    boolean one = symbols.size() == 1 && Arrays.stream(slotOfFace).allMatch(s -> s == 0);
    int[] none = new int[symbols.size()];
    Arrays.fill(none, -1);
    PolygonMesh mesh =
        PolygonMesh.of(
                id,
                geometry.label("geometry"),
                points(),
                Polygons.of(corners.toArray(), offsets.toArray()))
            .withAttributes(attributes)
            .toBuilder()
            .materials(none, one || symbols.isEmpty() ? null : slotOfFace)
            .build();
    if (lineVertices.size() == 0) {
      return mesh;
    }
    lineOffsets.add(lineVertices.size());
    return mesh.toBuilder()
        .loose(new LooseElements(lineOffsets.toArray(), lineVertices.toArray(), new int[0]))
        .build();
  }

  private float[] values(Layer layer) {
    float[] values = new float[layer.values.size()];
    for (int i = 0; i < values.length; i++) {
      values[i] = (float) layer.values.get(i);
    }
    boolean turns = layer.semantic == Semantic.NORMAL || layer.semantic == Semantic.TANGENT;
    if (toFile != null && turns) {
      Matrix3d turn = new Matrix3d(toFile);
      Vector3d n = new Vector3d();
      for (int i = 0; i + 2 < values.length; i += 3) {
        turn.transform(n.set(values[i], values[i + 1], values[i + 2])).normalize();
        values[i] = (float) n.x;
        values[i + 1] = (float) n.y;
        values[i + 2] = (float) n.z;
      }
    }
    return values;
  }

  /** Floats where they say the same: the text holds what somebody's float was. */
  private Coordinates points() {
    double[] xyz = new double[3 * positions.count()];
    double largest = 0;
    for (int v = 0; v < positions.count(); v++) {
      for (int k = 0; k < 3; k++) {
        xyz[3 * v + k] = positions.at(v, k);
        largest = Math.max(largest, Math.abs(xyz[3 * v + k]));
      }
    }
    Coordinates wide = Coordinates.of(xyz);
    if (toFile != null) {
      return wide.transform(toFile);
    }
    boolean far = largest > 16 * wide.bounds().diagonal();
    return far ? wide : Coordinates.of(wide.toFloats());
  }
}
