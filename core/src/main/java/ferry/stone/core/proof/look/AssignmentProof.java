package ferry.stone.core.proof.look;

import ferry.stone.core.geometry.triangle.RenderPrimitive;
import ferry.stone.core.proof.Landed;
import ferry.stone.core.proof.PartMatch;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;

/** Compares which material each face of each part shows, face by face. */
public final class AssignmentProof {
  private final Scene far;
  private final Scene read;
  private final PartMatch parts;
  private final Landed landing;

  /** What stands for a material on both sides: its place among those of its name. */
  private record Key(String name, int which) {}

  /**
   * @param compared triangles or faces of all parts
   * @param wrong those that show another material, or are gone
   * @param given those of them that had none and show one that was added
   * @param first part with a wrong one
   */
  record Result(long compared, long wrong, long given, String first, String noun) {}

  AssignmentProof(Scene far, Scene read, PartMatch parts, Landed landing) {
    this.far = far;
    this.read = read;
    this.parts = parts;
    this.landing = landing;
  }

  /** Faces that the parts of a scene show. */
  static long faces(Scene scene) {
    return scene.shownMeshes().stream().mapToLong(s -> s.mesh().faces().triangleCount()).sum();
  }

  /**
   * @param variant place of the look, −1 for the usual one
   */
  Result compare(int variant, Progress progress) {
    Map<Integer, Key> wantedNames = keys(far);
    Map<Integer, Key> foundNames = keys(read);
    foundNames.replaceAll((id, key) -> original(key));
    List<Scene.ShownMesh> shown = far.shownMeshes();
    Map<Integer, int[]> orders = new HashMap<>();
    long compared = 0;
    long wrong = 0;
    long given = 0;
    String first = "";
    for (int i = 0; i < shown.size(); i++) {
      progress.checkCancelled();
      Scene.ShownMesh own = shown.get(i);
      int[] order = orders.computeIfAbsent(own.mesh().id(), id -> order(own.mesh()));
      compared += order.length;
      Scene.ShownMesh there = parts.landed(i);
      if (there == null) {
        wrong += order.length;
        first = first.isEmpty() ? own.path() : first;
        continue;
      }
      long before = wrong;
      int landed = there.mesh().faces().faceCount();
      for (int f = 0; f < order.length; f++) {
        Key a = wantedNames.get(material(own, order[f], variant));
        Key b = f < landed ? foundNames.get(material(there, f, variant)) : null;
        if (f >= landed || !Objects.equals(a, b)) {
          wrong++;
          given += a == null && b != null && !wantedNames.containsValue(b) ? 1 : 0;
        }
      }
      first = wrong > before && first.isEmpty() ? own.path() : first;
    }
    return new Result(
        compared, wrong, given, first, landing.holding().isByPrimitives() ? "triangle" : "face");
  }

  /** The far face behind each landed one, in the order of the file. */
  private int[] order(PolygonMesh mesh) {
    if (!landing.holding().isByPrimitives()) {
      int[] all = new int[mesh.faces().faceCount()];
      for (int f = 0; f < all.length; f++) {
        all[f] = f;
      }
      return all;
    }
    List<RenderPrimitive> primitives = landing.holding().order(far, mesh);
    int[] all = new int[primitives.stream().mapToInt(RenderPrimitive::triangleCount).sum()];
    int at = 0;
    for (RenderPrimitive p : primitives) {
      System.arraycopy(p.triangleFace(), 0, all, at, p.triangleCount());
      at += p.triangleCount();
    }
    return all;
  }

  private static int material(Scene.ShownMesh shown, int face, int variant) {
    Node.Content.MeshContent content = (Node.Content.MeshContent) shown.node().content();
    PolygonMesh mesh = shown.mesh();
    if (variant >= 0) {
      return mesh.materialOf(face, variant);
    }
    int slot = mesh.slot(face);
    int[] slots = content.slotMaterials();
    return slots == null
        ? mesh.materialOf(face)
        : slot < 0 || slot >= slots.length ? -1 : slots[slot];
  }

  /** A copy without textures stands for the material that it was made of. */
  private Key original(Key key) {
    boolean copy = landing.said("texture-without-uvs");
    return copy ? new Key(landing.holding().originalMaterial(key.name()), key.which()) : key;
  }

  private static Map<Integer, Key> keys(Scene scene) {
    Map<String, Integer> counts = new HashMap<>();
    Map<Integer, Key> keys = new HashMap<>();
    for (var m : new ArrayList<>(scene.materials())) {
      keys.put(m.id(), new Key(m.name(), counts.merge(m.name(), 1, Integer::sum)));
    }
    return keys;
  }
}
