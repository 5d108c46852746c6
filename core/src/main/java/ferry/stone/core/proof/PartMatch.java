package ferry.stone.core.proof;

import ferry.stone.core.geometry.triangle.GeometricFold;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.Scene.ShownMesh;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.joml.Vector3d;

/**
 * Which landed part is which part of the far side: by name; by the name of a child that was made
 * for what the part shows; else, for copies that lost their names, by mesh and place.
 */
public final class PartMatch {
  /** Parts stand at the same place when they are nearer than this part of the asset's diagonal. */
  private static final double NEAR = 1e-4;

  private final ShownMesh[] landed;

  /** Pairs the parts of two scenes in the same frame. */
  public PartMatch(Scene far, Scene read) {
    List<ShownMesh> wanted = far.shownMeshes();
    landed = new ShownMesh[wanted.size()];
    Map<String, Deque<ShownMesh>> byName = new HashMap<>();
    for (ShownMesh shown : read.shownMeshes()) {
      byName.computeIfAbsent(shown.node().name(), k -> new ArrayDeque<>()).add(shown);
    }
    for (int i = 0; i < landed.length; i++) {
      String name = wanted.get(i).node().name();
      landed[i] = poll(byName, name);
      if (landed[i] == null) {
        landed[i] = poll(byName, name + GeometricFold.SHAPE);
      }
    }
    byPlace(wanted, byName, NEAR * Math.max(far.bounds().diagonal(), 1e-6));
  }

  private static ShownMesh poll(Map<String, Deque<ShownMesh>> byName, String name) {
    Deque<ShownMesh> same = byName.get(name);
    return same == null ? null : same.poll();
  }

  private void byPlace(List<ShownMesh> wanted, Map<String, Deque<ShownMesh>> rest, double near) {
    Map<String, List<ShownMesh>> cells = new HashMap<>();
    rest.values()
        .forEach(
            list ->
                list.forEach(
                    shown ->
                        cells
                            .computeIfAbsent(cell(shown, near, 0, 0, 0), k -> new ArrayList<>())
                            .add(shown)));
    for (int i = 0; i < landed.length && !cells.isEmpty(); i++) {
      for (int c = 0; c < 27 && landed[i] == null; c++) {
        // A place on the border of a cell may have been rounded into the next one.
        String cell = cell(wanted.get(i), near, c % 3 - 1, c / 3 % 3 - 1, c / 9 - 1);
        List<ShownMesh> there = cells.getOrDefault(cell, List.of());
        if (!there.isEmpty()) {
          landed[i] = there.remove(there.size() - 1);
        }
      }
    }
  }

  private static String cell(ShownMesh shown, double near, int dx, int dy, int dz) {
    Vector3d p = new Vector3d(shown.mesh().points().bounds().centre());
    shown.world().transformPosition(p);
    return shown.mesh().name()
        + "/"
        + (Math.round(p.x / near) + dx)
        + "/"
        + (Math.round(p.y / near) + dy)
        + "/"
        + (Math.round(p.z / near) + dz);
  }

  /** The landed part for a part of the far side by its place among those shown, or {@code null}. */
  public ShownMesh landed(int shown) {
    return landed[shown];
  }
}
