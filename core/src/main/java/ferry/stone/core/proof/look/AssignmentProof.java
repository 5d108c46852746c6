package ferry.stone.core.proof.look;

import ferry.stone.core.proof.Landed;
import ferry.stone.core.proof.PartMatch;
import ferry.stone.core.scene.Scene;
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
      int[] order =
          orders.computeIfAbsent(own.mesh().id(), id -> landing.holding().faces(far, own.mesh()));
      compared += order.length;
      Scene.ShownMesh there = parts.landed(i);
      if (there == null) {
        wrong += order.length;
        first = first.isEmpty() ? own.path() : first;
        continue;
      }
      long before = wrong;
      int landed = there.mesh().faces().faceCount();
      Key[] wanted = ofSlots(own, wantedNames, variant);
      Key[] found = ofSlots(there, foundNames, variant);
      for (int f = 0; f < order.length; f++) {
        Key a = wanted[own.mesh().slot(order[f]) + 1];
        Key b = f < landed ? found[there.mesh().slot(f) + 1] : null;
        if (f >= landed || a != b && !Objects.equals(a, b)) {
          wrong++;
          given += a == null && b != null && !wantedNames.containsValue(b) ? 1 : 0;
        }
      }
      first = wrong > before && first.isEmpty() ? own.path() : first;
    }
    return new Result(
        compared, wrong, given, first, landing.holding().isByPrimitives() ? "triangle" : "face");
  }

  /** What each slot of a part shows, after what a face without one does: nothing. */
  private static Key[] ofSlots(Scene.ShownMesh shown, Map<Integer, Key> names, int variant) {
    int[] slots = ((Node.Content.MeshContent) shown.node().content()).slotMaterials();
    int[] own = shown.mesh().materialIds();
    Key[] keys = new Key[own.length + 1];
    for (int slot = 0; slot < own.length; slot++) {
      int material =
          variant >= 0
              ? shown.mesh().materialOfSlot(slot, variant)
              : slots == null ? own[slot] : slot < slots.length ? slots[slot] : -1;
      keys[slot + 1] = names.get(material);
    }
    return keys;
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
