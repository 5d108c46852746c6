package ferry.stone.core.survey;

import ferry.stone.core.geometry.mesh.EdgeTable;
import ferry.stone.core.geometry.mesh.Pieces;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;

/** Counts of everything in a scene. Lengths are in scene units. */
public record Inventory(
    int nodes,
    int meshes,
    long vertices,
    long faces,
    long triangles,
    long triangleFaces,
    long quadFaces,
    long largerFaces,
    long pieces,
    double meanEdge,
    long lines,
    long points,
    int uvSets,
    int colourSets,
    int materials,
    int textures,
    int texturesMissing,
    int joints,
    int morphTargets,
    int clips,
    int cameras,
    int lights,
    List<MeshFacts> perMesh) {

  /** Counts of one mesh. */
  public record MeshFacts(
      int meshId,
      int vertices,
      int faces,
      long triangles,
      int quads,
      int larger,
      int pieces,
      int edges,
      double meanEdge,
      boolean closed,
      int uvSets,
      boolean hasNormals,
      int materials,
      int faceSets) {}

  public static Inventory of(Scene scene) {
    return of(scene, Inventory::facts);
  }

  static Inventory of(Scene scene, Function<PolygonMesh, MeshFacts> factsOf) {
    List<MeshFacts> facts = new ArrayList<>();
    long vertices = 0;
    long faces = 0;
    long triangles = 0;
    long threes = 0;
    long fours = 0;
    long pieces = 0;
    long lines = 0;
    long points = 0;
    int uvSets = 0;
    int colourSets = 0;
    int morphs = 0;
    double edgeSum = 0;
    long edgeCount = 0;
    for (PolygonMesh mesh : scene.meshes()) {
      MeshFacts f = factsOf.apply(mesh);
      edgeSum += f.meanEdge * f.edges;
      edgeCount += f.edges;
      facts.add(f);
      vertices += f.vertices;
      faces += f.faces;
      triangles += f.triangles;
      threes += mesh.faces().countOfSize(3);
      fours += f.quads;
      pieces += f.pieces;
      LooseElements loose = mesh.loose();
      lines += loose == null ? 0 : loose.lineCount();
      points += loose == null ? 0 : loose.points().length;
      uvSets = Math.max(uvSets, f.uvSets);
      colourSets = Math.max(colourSets, mesh.all(Semantic.COLOUR).size());
      morphs += mesh.morphs().size();
    }
    return new Inventory(
        scene.nodes().size(),
        scene.meshes().size(),
        vertices,
        faces,
        triangles,
        threes,
        fours,
        faces - threes - fours,
        pieces,
        edgeCount == 0 ? 0 : edgeSum / edgeCount,
        lines,
        points,
        uvSets,
        colourSets,
        scene.materials().size(),
        scene.textures().size(),
        (int) scene.textures().stream().filter(t -> !t.isFound()).count(),
        joints(scene),
        morphs,
        scene.clips().size(),
        scene.cameras().size(),
        scene.lights().size(),
        List.copyOf(facts));
  }

  private static int joints(Scene scene) {
    return (int)
        scene.nodes().stream().filter(n -> n.content() instanceof Node.Content.Joint).count();
  }

  static MeshFacts facts(PolygonMesh mesh) {
    int points = mesh.points().count();
    return facts(
        mesh, EdgeTable.of(mesh.faces(), points), Pieces.byVertex(mesh.faces(), points).count());
  }

  /**
   * @param edges of the mesh's faces
   * @param pieces by shared vertices
   */
  static MeshFacts facts(PolygonMesh mesh, EdgeTable edges, int pieces) {
    double edgeSum = lengthOf(edges, mesh);
    boolean closed = edges.count() > 0;
    for (int e = 0; closed && e < edges.count(); e++) {
      closed = edges.uses(e) == 2;
    }
    int threes = mesh.faces().countOfSize(3);
    int fours = mesh.faces().countOfSize(4);
    return new MeshFacts(
        mesh.id(),
        mesh.points().count(),
        mesh.faces().faceCount(),
        mesh.faces().triangleCount(),
        fours,
        mesh.faces().faceCount() - threes - fours,
        pieces,
        edges.count(),
        edges.count() == 0 ? 0 : edgeSum / edges.count(),
        closed,
        mesh.all(Semantic.UV).size(),
        mesh.first(Semantic.NORMAL).isPresent(),
        mesh.materialIds().length,
        mesh.faceSets().size());
  }

  private static double lengthOf(EdgeTable edges, PolygonMesh mesh) {
    double sum = 0;
    for (int e = 0; e < edges.count(); e++) {
      double x = mesh.points().x(edges.low(e)) - mesh.points().x(edges.high(e));
      double y = mesh.points().y(edges.low(e)) - mesh.points().y(edges.high(e));
      double z = mesh.points().z(edges.low(e)) - mesh.points().z(edges.high(e));
      double length = Math.sqrt(x * x + y * y + z * z);
      sum += Double.isFinite(length) ? length : 0;
    }
    return sum;
  }
}
