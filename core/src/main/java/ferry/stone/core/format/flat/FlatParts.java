package ferry.stone.core.format.flat;

import ferry.stone.core.geometry.mesh.Layers;
import ferry.stone.core.geometry.mesh.MeshClean;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.joml.Matrix3d;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * The parts of a scene as formats hold them that know no hierarchy and no skins: each part that
 * shows something at the top, in its rest pose, its place in its points. Of detail levels the
 * finest. Hidden parts are among them. Corners without a place go with their faces.
 */
public final class FlatParts {
  /** Layers that such formats may hold. */
  static final List<Attribute.Semantic> LAYERS =
      List.of(Attribute.Semantic.NORMAL, Attribute.Semantic.UV, Attribute.Semantic.COLOUR);

  private FlatParts() {}

  /** Whether a transform changes nothing. */
  static boolean isIdentity(LocalTransform transform) {
    return transform == LocalTransform.IDENTITY
        || transform.toMatrix().equals(new Matrix4d(), 1e-12);
  }

  /**
   * Bare parts: faces with normals, UVs and colours. Vertices that no face uses go.
   *
   * @return in the same frame; nodes keep their ids and names
   */
  public static Scene of(Scene scene) {
    return of(scene, false);
  }

  /**
   * Parts with all that lies on their meshes, and with their materials: lines and points,
   * smoothing, sets of faces, every vertex where it stood in the list.
   */
  public static Scene dressed(Scene scene) {
    Scene parts = of(scene, true);
    return parts.toBuilder().materials(scene.materials()).textures(scene.textures()).build();
  }

  private static Scene of(Scene scene, boolean dressed) {
    Pose rest = Pose.rest(scene);
    boolean[] coarse = coarse(scene);
    List<Node> nodes = new ArrayList<>();
    List<PolygonMesh> meshes = new ArrayList<>();
    SceneBuilder builder = new SceneBuilder(scene.name());
    builder.frame(scene.frame(), scene.unitSource(), scene.axesSource());
    builder.uvOrigin(scene.uvOrigin()).linearColours(scene.linearColours());
    builder.nextId(scene.toBuilder().newId());
    Map<Integer, PolygonMesh> byId = scene.meshesById();
    for (int i = 0; i < scene.nodes().size(); i++) {
      Node node = scene.nodes().get(i);
      if (coarse[i] || !(node.content() instanceof Node.Content.MeshContent content)) {
        continue;
      }
      PolygonMesh own = byId.get(content.meshId());
      double[] points = Deform.world(scene, rest, i);
      boolean skinned = scene.skin(content.skinId()).isPresent();
      Matrix4d world =
          skinned ? new Matrix4d() : new Matrix4d(rest.world()[i]).mul(node.geometric().toMatrix());
      PolygonMesh placed = placed(own, points, world, dressed);
      PolygonMesh flat = dressed ? whole(placed, content) : MeshClean.brokenVertices(placed).mesh();
      if (flat.faces().triangleCount() == 0 && !Contents.shows(flat.loose())) {
        continue;
      }
      int id = builder.newId();
      meshes.add(flat.toBuilder().id(id).name(node.name()).build());
      nodes.add(Node.of(node.id(), node.name(), -1, Node.Content.MeshContent.of(id)));
    }
    return builder.meshes(meshes).nodes(nodes).build();
  }

  /** Nodes that stand for a coarser level, and all below them. */
  private static boolean[] coarse(Scene scene) {
    List<Node> nodes = scene.nodes();
    boolean[] coarse = new boolean[nodes.size()];
    boolean[] hasFinest = new boolean[nodes.size()];
    for (int i = 0; i < coarse.length; i++) {
      int parent = nodes.get(i).parent();
      if (parent < 0) {
        continue;
      }
      boolean level = nodes.get(parent).content() instanceof Node.Content.DetailGroup;
      coarse[i] = coarse[parent] || level && hasFinest[parent];
      hasFinest[parent] |= level;
    }
    return coarse;
  }

  /** The mesh with the materials that its part shows, and nothing at places that are none. */
  private static PolygonMesh whole(PolygonMesh mesh, Node.Content.MeshContent content) {
    PolygonMesh shown =
        content.slotMaterials() == null
            ? mesh
            : mesh.toBuilder().materials(content.slotMaterials(), mesh.faceSlot()).build();
    if (!Contents.hasNowhere(shown)) {
      return shown;
    }
    LooseElements loose = LooseParts.placed(shown.loose(), shown.points());
    return MeshClean.brokenVertices(shown.toBuilder().loose(loose).build()).mesh();
  }

  /** The mesh with its place in the points; a mirrored one with its faces turned. */
  private static PolygonMesh placed(
      PolygonMesh mesh, double[] points, Matrix4d world, boolean dressed) {
    boolean mirrored = world.determinant3x3() < 0;
    List<Attribute> kept = new ArrayList<>();
    for (Attribute a : mesh.attributes()) {
      switch (a.semantic()) {
        case NORMAL -> kept.add(a.withValues(turned(a.values(), world)));
        case UV, COLOUR -> kept.add(a);
        default -> {
          // Tangents and custom layers have no place in such formats.
        }
      }
    }
    Coordinates there = Coordinates.of(points);
    PolygonMesh flat =
        dressed
            ? mesh.toBuilder()
                .points(there)
                .morphs(List.of())
                .subdivision(null)
                .properties(Map.of())
                .variantMaterials(new int[0][])
                .build()
            : PolygonMesh.of(mesh.id(), mesh.name(), there, mesh.faces());
    flat = flat.withAttributes(kept);
    return mirrored ? turnedRound(flat) : flat;
  }

  private static float[] turned(float[] normals, Matrix4d world) {
    Matrix3d by = new Matrix3d(world).invert().transpose();
    float[] result = new float[normals.length];
    Vector3d n = new Vector3d();
    for (int i = 0; i + 2 < normals.length; i += 3) {
      by.transform(n.set(normals[i], normals[i + 1], normals[i + 2]));
      double length = n.length();
      double by1 = length > 0 ? 1 / length : 0;
      result[i] = (float) (n.x * by1);
      result[i + 1] = (float) (n.y * by1);
      result[i + 2] = (float) (n.z * by1);
    }
    return result;
  }

  /** Corners of each face in the opposite order. */
  private static PolygonMesh turnedRound(PolygonMesh mesh) {
    Polygons faces = mesh.faces();
    int[] source = new int[faces.cornerCount()];
    int[] corners = new int[source.length];
    int[] offsets = new int[faces.faceCount() + 1];
    for (int f = 0; f < faces.faceCount(); f++) {
      for (int c = faces.start(f); c < faces.end(f); c++) {
        source[c] = faces.end(f) - 1 - (c - faces.start(f));
        corners[c] = faces.vertex(source[c]);
      }
      offsets[f + 1] = faces.end(f);
    }
    List<Attribute> attributes = new ArrayList<>();
    for (Attribute a : mesh.attributes()) {
      attributes.add(a.domain() == Attribute.Domain.CORNER ? Layers.moved(a, source) : a);
    }
    return mesh.withFaces(Polygons.of(corners, offsets)).withAttributes(attributes);
  }
}
