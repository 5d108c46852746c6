package ferry.stone.core.handling.step.motion;

import ferry.stone.core.handling.Selection;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.PointCache;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** The caches of the meshes that the chosen parts show. */
final class ChosenCaches {
  private ChosenCaches() {}

  /** Ids of the meshes. */
  static Set<Integer> meshes(Scene scene, Selection selection) {
    Set<Integer> ids = new HashSet<>();
    boolean[] chosen = selection.withBelow(scene);
    for (int i = 0; i < chosen.length; i++) {
      Node node = scene.nodes().get(i);
      if (chosen[i] && node.content() instanceof Node.Content.MeshContent content) {
        ids.add(content.meshId());
      }
    }
    return ids;
  }

  /** Chosen meshes by the caches that fit them, in the order of the caches. */
  static Map<PointCache, PolygonMesh> fitting(Scene scene, Selection selection) {
    Set<Integer> ids = meshes(scene, selection);
    Map<Integer, PolygonMesh> byId = scene.meshesById();
    Map<PointCache, PolygonMesh> fitting = new LinkedHashMap<>();
    for (PointCache cache : scene.caches()) {
      PolygonMesh mesh = ids.contains(cache.meshId()) ? byId.get(cache.meshId()) : null;
      if (mesh != null && mesh.points().count() == cache.pointCount()) {
        fitting.put(cache, mesh);
      }
    }
    return fitting;
  }

  /** What becomes of a cache. */
  interface Change {
    /** {@code null} for one that is no more. */
    PointCache of(PointCache cache) throws IOException;
  }

  /** The scene with each chosen cache changed. */
  static Scene each(Scene scene, Selection selection, Change change) {
    Set<Integer> ids = meshes(scene, selection);
    List<PointCache> caches = new ArrayList<>();
    try {
      for (PointCache cache : scene.caches()) {
        PointCache changed = ids.contains(cache.meshId()) ? change.of(cache) : cache;
        if (changed != null) {
          caches.add(changed);
        }
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return scene.toBuilder().caches(caches).build();
  }

  /**
   * Samples by their numbers from 1: {@code 10-29, 40}.
   *
   * @param text empty for all
   * @throws IllegalArgumentException in a sentence
   */
  static BitSet samples(String text, int count) {
    BitSet samples = new BitSet(count);
    if (text.isBlank()) {
      samples.set(0, count);
      return samples;
    }
    for (String part : text.split("[,;]")) {
      String plain = part.strip();
      if (!plain.matches("\\d{1,9}(\\s*[-–]\\s*\\d{1,9})?")) {
        throw new IllegalArgumentException(
            "samples must be numbers from 1 on and ranges, like 10-29, 40; not \"" + text + "\"");
      }
      String[] ends = plain.split("\\s*[-–]\\s*");
      int first = Integer.parseInt(ends[0]);
      int last = Integer.parseInt(ends[ends.length - 1]);
      if (first < 1 || last < first) {
        throw new IllegalArgumentException("samples run upwards from 1, not \"" + plain + "\"");
      }
      samples.set(Math.min(count, first - 1), Math.min(count, last));
    }
    return samples;
  }
}
