package ferry.stone.core.format.abc.write;

import ferry.stone.core.format.abc.raw.AbcProperty.Type;
import ferry.stone.core.format.abc.raw.CompoundOut;
import ferry.stone.core.format.abc.raw.Pod;
import ferry.stone.core.format.abc.raw.PropertyOut;
import ferry.stone.core.geometry.mesh.TurnedNormals;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.mesh.Subdivision;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * Meshes and subdivision surfaces. Faces of the format run clockwise seen from outside: each starts
 * at its first corner and runs the other way, and the values of corners with it.
 */
final class ShapeOut {
  static final String MESH = "schema=AbcGeom_PolyMesh_v1;schemaBaseType=AbcGeom_GeomBase_v1";
  static final String SURFACE = "schema=AbcGeom_SubD_v1;schemaBaseType=AbcGeom_GeomBase_v1";
  static final String TITLE = ".geom";

  /** As the library's documentation spells it. */
  private static final String CATMULL_CLARK = "catmull" + '-' + "clark";

  private static final Type WHOLES = new Type(true, Pod.INT32, 1);

  private final AbcOptions options;
  private final LayersOut layers;
  private final Progress progress;
  private final Boxes boxes = new Boxes();

  ShapeOut(Scene scene, AbcOptions options, Progress progress) {
    this.options = options;
    layers = new LayersOut(scene);
    this.progress = progress;
  }

  /** Around the points of all samples. */
  Boxes boxes() {
    return boxes;
  }

  static String schema(PolygonMesh mesh) {
    return mesh.subdivision() == null ? MESH : SURFACE;
  }

  /** For each corner of the file that of the mesh. */
  static int[] clockwise(Polygons faces) {
    int[] order = new int[faces.cornerCount()];
    for (int f = 0; f < faces.faceCount(); f++) {
      int start = faces.start(f);
      int size = faces.size(f);
      for (int k = 0; k < size; k++) {
        order[start + k] = start + (k == 0 ? 0 : size - k);
      }
    }
    return order;
  }

  /** A mesh that rests, or whose points move. */
  void still(CompoundOut geometry, PolygonMesh mesh, PointCache cache) throws IOException {
    double[] seconds = PointsOut.seconds(cache);
    int more = seconds == null ? 0 : seconds.length - 1;
    int[] order = clockwise(mesh.faces());
    new PointsOut(geometry, seconds, "vtx", options.velocities() && cache != null, boxes)
        .write(mesh, cache, null, progress);
    Topology topology = new Topology(geometry, seconds);
    topology.add(mesh, order);
    topology.repeat(more);
    normals(geometry, mesh, cache, order, seconds);
    CompoundOut arbitrary = null;
    boolean first = true;
    for (Attribute layer : mesh.attributes()) {
      if (!isParameter(layer) || layer == mesh.first(Semantic.NORMAL).orElse(null)) {
        continue;
      }
      Attribute told = layers.told(layer);
      boolean main = layer.semantic() == Semantic.UV && first;
      first &= !main;
      CompoundOut holder = geometry;
      if (!main) {
        arbitrary = arbitrary == null ? geometry.compound(".arbGeomParams", "") : arbitrary;
        holder = arbitrary;
      }
      LayersOut.Parameter parameter =
          layers.open(
              holder,
              main ? "uv" : free(holder, layer.name()),
              told,
              LayersOut.isIndexed(told),
              main ? seconds : null);
      layers.add(parameter, told, mesh, order);
      parameter.repeat(main ? more : 0);
    }
    surface(geometry, mesh.subdivision());
  }

  /** Layers that no property of the format's own says already. */
  private static boolean isParameter(Attribute layer) {
    return layer.semantic() != Semantic.TANGENT && !layer.name().equals(PointsOut.VELOCITIES);
  }

  static String free(CompoundOut holder, String name) {
    String clean = name.isEmpty() ? "layer" : name.replaceAll("[/\\p{Cntrl}]", "_");
    String free = clean;
    for (int i = 2; holder.has(free); i++) {
      free = clean + "_" + i;
    }
    return free;
  }

  /** Normals; of points that move, at each sample as the surface turns them. */
  private void normals(
      CompoundOut geometry, PolygonMesh mesh, PointCache cache, int[] order, double[] seconds)
      throws IOException {
    Attribute normals = mesh.first(Semantic.NORMAL).orElse(null);
    if (normals == null) {
      return;
    }
    LayersOut.Parameter parameter =
        layers.open(geometry, "N", normals, LayersOut.isIndexed(normals), seconds);
    layers.add(parameter, normals, mesh, order);
    if (cache == null) {
      return;
    }
    TurnedNormals turned = new TurnedNormals(mesh, normals);
    float[] points = new float[3 * cache.pointCount()];
    for (int s = 1; s < cache.sampleCount(); s++) {
      progress.checkCancelled();
      cache.read(s, 0, cache.pointCount(), points);
      layers.add(parameter, normals.withValues(turned.at(points)), mesh, order);
    }
  }

  /** A mesh that is another one at each sample. */
  void changing(CompoundOut geometry, MeshSequence sequence) throws IOException {
    double[] seconds = sequence.allSeconds();
    Map<String, Attribute> known = known(sequence);
    PointsOut points = new PointsOut(geometry, seconds, "vtx", false, boxes);
    Topology topology = new Topology(geometry, seconds);
    Map<String, LayersOut.Parameter> open = new TreeMap<>();
    CompoundOut arbitrary = null;
    for (var entry : known.entrySet()) {
      Attribute like = layers.told(entry.getValue());
      String property = entry.getKey();
      CompoundOut holder = geometry;
      if (!property.equals("N") && !property.equals("uv")) {
        arbitrary = arbitrary == null ? geometry.compound(".arbGeomParams", "") : arbitrary;
        holder = arbitrary;
      }
      open.put(property, layers.open(holder, property, like, true, seconds));
    }
    for (int s = 0; s < seconds.length; s++) {
      progress.checkCancelled();
      PolygonMesh mesh = sequence.mesh(s);
      int[] order = clockwise(mesh.faces());
      points.add(mesh.points().toFloats());
      topology.add(mesh, order);
      Map<String, Attribute> here = named(mesh);
      for (var entry : open.entrySet()) {
        Attribute layer = here.get(entry.getKey());
        boolean fits = layer != null && fits(layer, known.get(entry.getKey()));
        layers.add(entry.getValue(), fits ? layers.told(layer) : null, mesh, order);
      }
    }
    surface(geometry, sequence.mesh(0).subdivision());
  }

  private static boolean fits(Attribute layer, Attribute like) {
    return layer.domain() == like.domain()
        && layer.components() == like.components()
        && layer.table().type().equals(like.table().type());
  }

  /** The layers of all samples, each as it is where it first occurs, by their property. */
  private static Map<String, Attribute> known(MeshSequence sequence) throws IOException {
    Map<String, Attribute> known = new TreeMap<>();
    for (int s = 0; s < sequence.sampleCount(); s++) {
      named(sequence.mesh(s)).forEach(known::putIfAbsent);
    }
    return known;
  }

  private static Map<String, Attribute> named(PolygonMesh mesh) {
    Map<String, Attribute> named = new TreeMap<>();
    for (Attribute layer : mesh.attributes()) {
      if (!isParameter(layer)) {
        continue;
      }
      boolean normal = layer.semantic() == Semantic.NORMAL && !named.containsKey("N");
      boolean uv = layer.semantic() == Semantic.UV && !named.containsKey("uv");
      String name = normal ? "N" : uv ? "uv" : layer.name().replaceAll("[/\\p{Cntrl}]", "_");
      named.putIfAbsent(name.isEmpty() ? "layer" : name, layer);
    }
    return named;
  }

  private static final class Topology {
    private final PropertyOut vertices;
    private final PropertyOut counts;

    Topology(CompoundOut geometry, double[] seconds) {
      vertices = geometry.property(".faceIndices", WHOLES, "", seconds);
      counts = geometry.property(".faceCounts", WHOLES, "", seconds);
    }

    void add(PolygonMesh mesh, int[] order) throws IOException {
      Polygons faces = mesh.faces();
      int[] corners = new int[order.length];
      for (int c = 0; c < corners.length; c++) {
        corners[c] = faces.vertex(order[c]);
      }
      int[] sizes = new int[faces.faceCount()];
      for (int f = 0; f < sizes.length; f++) {
        sizes[f] = faces.size(f);
      }
      vertices.add(corners);
      counts.add(sizes);
    }

    void repeat(int times) {
      vertices.repeat(times);
      counts.repeat(times);
    }
  }

  private static void surface(CompoundOut geometry, Subdivision how) throws IOException {
    if (how == null) {
      return;
    }
    for (String rule :
        List.of(
            ".faceVaryingInterpolateBoundary",
            ".faceVaryingPropagateCorners",
            ".interpolateBoundary")) {
      geometry.property(rule, new Type(false, Pod.INT32, 1), "", null).add(0);
    }
    Type sharp = new Type(true, Pod.FLOAT32, 1);
    if (how.creaseEdges().length > 0) {
      // Edges one by one: a crease of two vertices each.
      int[] lengths = new int[how.creaseSharpness().length];
      Arrays.fill(lengths, 2);
      geometry.property(".creaseIndices", WHOLES, "", null).add(how.creaseEdges());
      geometry.property(".creaseLengths", WHOLES, "", null).add(lengths);
      geometry.property(".creaseSharpnesses", sharp, "", null).add(how.creaseSharpness());
    }
    if (how.creaseVertices().length > 0) {
      geometry.property(".cornerIndices", WHOLES, "", null).add(how.creaseVertices());
      geometry.property(".cornerSharpnesses", sharp, "", null).add(how.vertexSharpness());
    }
    if (how.holes().length > 0) {
      geometry.property(".holes", WHOLES, "", null).add(how.holes());
    }
    List<String> scheme = new ArrayList<>();
    scheme.add(how.scheme().equals("catmullClark") ? CATMULL_CLARK : how.scheme());
    geometry.property(".scheme", new Type(false, Pod.STRING, 1), "", null).add(scheme);
  }
}
