package ferry.stone.core.format.fbx.rules;

import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.format.losses.BrokenRules;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Meshes, the layers over them, and what bends them. */
final class FbxMeshRules {
  /** How far the weights of a vertex may be from 1 together. */
  private static final double WEIGHTS = 2e-3;

  private static final int MATRIX = 16;

  /** Numbers a value of each kind of layer, with the names of its values and of its indices. */
  private record Kind(String values, String indices, int components) {}

  private static final Map<String, Kind> KINDS =
      Map.of(
          "LayerElementNormal", new Kind("Normals", "NormalsIndex", 3),
          "LayerElementTangent", new Kind("Tangents", "TangentsIndex", 3),
          "LayerElementBinormal", new Kind("Binormals", "BinormalsIndex", 3),
          "LayerElementUV", new Kind("UV", "UVIndex", 2),
          "LayerElementColor", new Kind("Colors", "ColorIndex", 4),
          "LayerElementSmoothing", new Kind("Smoothing", "", 1));

  private final BrokenRules rules;
  private final Map<Long, FbxRecord> objects;
  private final Map<Long, List<Long>> sources;
  private final Map<Long, List<Long>> destinations;

  FbxMeshRules(
      BrokenRules rules,
      Map<Long, FbxRecord> objects,
      Map<Long, List<Long>> sources,
      Map<Long, List<Long>> destinations) {
    this.rules = rules;
    this.objects = objects;
    this.sources = sources;
    this.destinations = destinations;
  }

  void check(long id, FbxRecord record) {
    String where = record.place() + " " + record.name();
    switch (record.name() + "/" + record.text(2)) {
      case "Geometry/Mesh" -> mesh(id, record, where);
      case "Geometry/Shape" -> shape(id, record, where);
      case "Deformer/Skin" -> skin(id, where);
      case "Deformer/Cluster" -> cluster(id, record, where);
      case "Deformer/BlendShapeChannel" -> channel(id, record, where);
      case "Pose/BindPose" -> pose(record, where);
      default -> {
        // Nothing is asked of it here.
      }
    }
  }

  private static int vertices(FbxRecord mesh) {
    return mesh.at("Vertices").doubles().length / 3;
  }

  private void mesh(long id, FbxRecord mesh, String where) {
    double[] points = mesh.at("Vertices").doubles();
    rules.hold(
        points.length % 3 == 0, where + " Vertices", "Positions are not three numbers each.");
    int[] corners = mesh.at("PolygonVertexIndex").ints();
    int polygons = 0;
    boolean inRange = true;
    for (int corner : corners) {
      polygons += corner < 0 ? 1 : 0;
      int vertex = corner < 0 ? ~corner : corner;
      inRange &= vertex < points.length / 3;
    }
    rules.hold(
        inRange, where + " PolygonVertexIndex", "A corner names a vertex that is not there.");
    rules.hold(
        corners.length == 0 || corners[corners.length - 1] < 0,
        where + " PolygonVertexIndex",
        "The last polygon is not closed.");
    int[] edges = mesh.at("Edges").ints();
    for (int edge : edges) {
      if (edge < 0 || edge >= corners.length) {
        rules.broken(where + " Edges", "An edge begins at a corner that is not there.");
        break;
      }
    }
    for (FbxRecord layer : mesh.children()) {
      if (layer.name().startsWith("LayerElement")) {
        layer(id, mesh, layer, corners.length, polygons, edges.length, where);
      }
    }
    listed(mesh, where);
  }

  private void layer(
      long id,
      FbxRecord mesh,
      FbxRecord layer,
      int corners,
      int polygons,
      int edges,
      String where) {
    String at = where + " " + layer.name() + " " + layer.id(0);
    long count =
        switch (layer.at("MappingInformationType").text(0)) {
          case "ByPolygonVertex" -> corners;
          case "ByVertice", "ByVertex" -> vertices(mesh);
          case "ByPolygon" -> polygons;
          case "ByEdge" -> edges;
          case "AllSame" -> 1;
          default -> -1;
        };
    if (count < 0) {
      rules.broken(at, "A layer does not say what carries its values.");
      return;
    }
    if (layer.name().equals("LayerElementMaterial")) {
      materials(id, layer, count, at);
      return;
    }
    Kind kind = KINDS.get(layer.name());
    if (kind == null) {
      return;
    }
    int rows = layer.at(kind.values()).doubles().length / kind.components();
    rules.hold(
        layer.at(kind.values()).doubles().length % kind.components() == 0,
        at,
        "A layer's numbers are not whole values.");
    boolean direct = layer.at("ReferenceInformationType").text(0).equals("Direct");
    if (direct) {
      rules.hold(rows == count, at, "A layer has more or fewer values than what carries them.");
      return;
    }
    int[] indices = layer.at(kind.indices()).ints();
    rules.hold(
        indices.length == count, at, "A layer has more or fewer indices than what carries them.");
    for (int index : indices) {
      // −1 is practice for a corner without a value.
      if (index < -1 || index >= rows) {
        rules.broken(at, "A layer's index names a value that is not there.");
        return;
      }
    }
  }

  private void materials(long id, FbxRecord layer, long count, String at) {
    int[] slots = layer.at("Materials").ints();
    rules.hold(
        slots.length == count, at, "A layer has more or fewer values than what carries them.");
    for (long model : destinations.getOrDefault(id, List.of())) {
      long materials =
          sources.getOrDefault(model, List.of()).stream()
              .filter(s -> objects.containsKey(s) && objects.get(s).name().equals("Material"))
              .count();
      for (int slot : slots) {
        if (slot >= Math.max(1, materials)) {
          rules.broken(at, "A face shows a material that its part does not have.");
          return;
        }
      }
    }
  }

  /** The layers list what there is. */
  private void listed(FbxRecord mesh, String where) {
    Set<String> there = new java.util.HashSet<>();
    for (FbxRecord child : mesh.children()) {
      if (child.name().startsWith("LayerElement")) {
        there.add(child.name() + " " + child.id(0));
      }
    }
    for (FbxRecord layer : mesh.all("Layer")) {
      for (FbxRecord element : layer.all("LayerElement")) {
        String name = element.at("Type").text(0) + " " + element.at("TypedIndex").id(0);
        rules.hold(there.remove(name), where + " " + name, "A layer lists what is not there.");
      }
    }
    rules.hold(
        there.isEmpty(), where, "Values of a mesh are listed in no layer: nobody sees them.");
  }

  private FbxRecord above(long id, String kind) {
    for (long target : destinations.getOrDefault(id, List.of())) {
      FbxRecord record = objects.get(target);
      if (record != null && record.name().equals(kind)) {
        return record;
      }
    }
    return null;
  }

  /** The mesh that something bends, by the objects between. */
  private FbxRecord bent(long id) {
    long at = id;
    for (int i = 0; i < 4; i++) {
      FbxRecord geometry = above(at, "Geometry");
      FbxRecord deformer = above(at, "Deformer");
      if (geometry != null || deformer == null) {
        return geometry;
      }
      at = deformer.id(0);
    }
    return null;
  }

  private void shape(long id, FbxRecord shape, String where) {
    int[] vertices = shape.at("Indexes").ints();
    rules.hold(
        shape.at("Vertices").doubles().length == 3 * vertices.length,
        where,
        "A shape has more or fewer offsets than vertices.");
    inMesh(id, vertices, where);
  }

  private void inMesh(long id, int[] vertices, String where) {
    FbxRecord mesh = bent(id);
    if (mesh == null) {
      rules.broken(where, "What bends a mesh is connected to none.");
      return;
    }
    int count = vertices(mesh);
    for (int v : vertices) {
      if (v < 0 || v >= count) {
        rules.broken(where, "What bends a mesh names a vertex that it does not have.");
        return;
      }
    }
  }

  private void cluster(long id, FbxRecord cluster, String where) {
    int[] vertices = cluster.at("Indexes").ints();
    rules.hold(
        vertices.length == cluster.at("Weights").doubles().length,
        where,
        "A joint has more or fewer weights than vertices.");
    inMesh(id, vertices, where);
    rules.hold(
        cluster.at("Transform").doubles().length == MATRIX
            && cluster.at("TransformLink").doubles().length == MATRIX,
        where,
        "Where a joint was bound is not said by two matrices.");
    rules.hold(
        sources.getOrDefault(id, List.of()).stream()
                .filter(s -> objects.containsKey(s) && objects.get(s).name().equals("Model"))
                .count()
            == 1,
        where,
        "A cluster of weights belongs to no joint, or to several.");
  }

  private void skin(long id, String where) {
    FbxRecord mesh = above(id, "Geometry");
    if (mesh == null) {
      rules.broken(where, "What bends a mesh is connected to none.");
      return;
    }
    double[] sums = new double[vertices(mesh)];
    boolean negative = false;
    for (long source : sources.getOrDefault(id, List.of())) {
      FbxRecord cluster = objects.get(source);
      int[] vertices = cluster == null ? new int[0] : cluster.at("Indexes").ints();
      double[] weights = cluster == null ? new double[0] : cluster.at("Weights").doubles();
      for (int i = 0; i < Math.min(vertices.length, weights.length); i++) {
        negative |= weights[i] < 0;
        if (vertices[i] >= 0 && vertices[i] < sums.length) {
          sums[vertices[i]] += weights[i];
        }
      }
    }
    boolean whole = true;
    for (double sum : sums) {
      whole &= sum == 0 || Math.abs(sum - 1) <= WEIGHTS;
    }
    rules.hold(whole && !negative, where, "The weights of a vertex are not 1 together.");
  }

  private void channel(long id, FbxRecord channel, String where) {
    double[] full = channel.at("FullWeights").doubles();
    boolean rising = true;
    for (int i = 1; i < full.length; i++) {
      rising &= full[i] > full[i - 1];
    }
    long shapes =
        sources.getOrDefault(id, List.of()).stream()
            .filter(s -> objects.containsKey(s) && objects.get(s).name().equals("Geometry"))
            .count();
    rules.hold(
        rising && full.length == shapes,
        where,
        "A morph's weights do not rise, or are not one for each of its shapes.");
  }

  private void pose(FbxRecord pose, String where) {
    List<FbxRecord> nodes = pose.all("PoseNode");
    rules.hold(
        pose.at("NbPoseNodes").number(0, -1) == nodes.size(),
        where,
        "A bind pose counts other nodes than it has.");
    for (FbxRecord node : nodes) {
      rules.hold(
          objects.containsKey(node.at("Node").id(0))
              && node.at("Matrix").doubles().length == MATRIX,
          where,
          "A bind pose names a node that is not there, or has no matrix for it.");
    }
  }
}
