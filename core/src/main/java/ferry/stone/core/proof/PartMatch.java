package ferry.stone.core.proof;

import ferry.stone.core.geometry.mesh.MeshMeasure;
import ferry.stone.core.geometry.triangle.GeometricFold;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.Scene.ShownMesh;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Deque;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import org.joml.Vector3d;

/**
 * Which landed part is which part of the far side: as somebody says, by path, by name, by the name
 * of a child that was made for what the part shows; for parts that lost their names by mesh and
 * place, and last by shape, where no other part has as many vertices and faces and the same
 * surface.
 */
public final class PartMatch {
  /** Parts stand at the same place when they are nearer than this part of the asset's diagonal. */
  private static final double NEAR = 1e-4;

  /** Steps by which surfaces are told apart: one in so many. */
  private static final double SURFACE_STEPS = 1e4;

  /** How a part was found. */
  public enum How {
    HAND("as you say"),
    PATH("by path"),
    NAME("by name"),
    PLACE("by mesh and place"),
    SHAPE("by shape"),
    NONE("not found");

    private final String words;

    How(String words) {
      this.words = words;
    }

    public String words() {
      return words;
    }
  }

  private final ShownMesh[] landed;
  private final How[] how;
  private final List<ShownMesh> wanted;
  private final List<ShownMesh> all;
  private final Set<ShownMesh> taken = Collections.newSetFromMap(new IdentityHashMap<>());

  /** Pairs the parts of two scenes in the same frame. */
  public PartMatch(Scene far, Scene read) {
    this(far, read, Map.of());
  }

  /**
   * @param byHand paths of parts that were found, by those of the parts that they are
   */
  public PartMatch(Scene far, Scene read, Map<String, String> byHand) {
    wanted = far.shownMeshes();
    all = read.shownMeshes();
    landed = new ShownMesh[wanted.size()];
    how = new How[wanted.size()];
    by(How.HAND, s -> byHand.getOrDefault(s.path(), ""), s -> s.path());
    by(How.PATH, s -> byHand.containsKey(s.path()) ? "" : s.path(), s -> s.path());
    by(How.NAME, s -> s.node().name(), s -> s.node().name());
    by(How.NAME, s -> s.node().name() + GeometricFold.SHAPE, s -> s.node().name());
    byPlace(NEAR * Math.max(far.bounds().diagonal(), 1e-6));
    byShape();
  }

  private void take(int place, ShownMesh found, How by) {
    landed[place] = found;
    how[place] = by;
    taken.add(found);
  }

  /** Pairs what has the same word, in order. */
  private void by(
      How kind, Function<ShownMesh, String> word, Function<ShownMesh, String> landedWord) {
    Map<String, Deque<ShownMesh>> words = new HashMap<>();
    for (ShownMesh shown : all) {
      if (!taken.contains(shown)) {
        words.computeIfAbsent(landedWord.apply(shown), k -> new ArrayDeque<>()).add(shown);
      }
    }
    for (int i = 0; i < landed.length; i++) {
      String own = landed[i] == null ? word.apply(wanted.get(i)) : "";
      Deque<ShownMesh> same = own.isEmpty() ? null : words.get(own);
      ShownMesh found = same == null ? null : same.poll();
      if (found != null) {
        take(i, found, kind);
      }
    }
  }

  private void byPlace(double near) {
    Map<String, List<ShownMesh>> cells = new HashMap<>();
    for (ShownMesh shown : more()) {
      cells.computeIfAbsent(cell(shown, near, 0, 0, 0), k -> new ArrayList<>()).add(shown);
    }
    for (int i = 0; i < landed.length && !cells.isEmpty(); i++) {
      for (int c = 0; c < 27 && landed[i] == null; c++) {
        // A place on the border of a cell may have been rounded into the next one.
        String cell = cell(wanted.get(i), near, c % 3 - 1, c / 3 % 3 - 1, c / 9 - 1);
        List<ShownMesh> there = cells.getOrDefault(cell, List.of());
        if (!there.isEmpty()) {
          take(i, there.remove(there.size() - 1), How.PLACE);
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

  /** Pairs what is alone with its shape on both sides. */
  private void byShape() {
    Map<String, List<Integer>> left = new HashMap<>();
    for (int i = 0; i < landed.length; i++) {
      if (landed[i] == null) {
        left.computeIfAbsent(shape(wanted.get(i)), k -> new ArrayList<>()).add(i);
      }
    }
    Map<String, List<ShownMesh>> found = new HashMap<>();
    for (ShownMesh shown : left.isEmpty() ? List.<ShownMesh>of() : more()) {
      found.computeIfAbsent(shape(shown), k -> new ArrayList<>()).add(shown);
    }
    left.forEach(
        (shape, places) -> {
          List<ShownMesh> same = found.getOrDefault(shape, List.of());
          if (places.size() == 1 && same.size() == 1) {
            take(places.get(0), same.get(0), How.SHAPE);
          }
        });
  }

  /** Counts, and the surface as it stands in the world in steps of a ten-thousandth. */
  private static String shape(ShownMesh shown) {
    double scale = Math.cbrt(Math.abs(shown.world().determinant3x3()));
    double area = MeshMeasure.of(shown.mesh()).area() * scale * scale;
    return shown.mesh().points().count()
        + "/"
        + shown.mesh().faces().faceCount()
        + "/"
        + Math.round(Math.log(Math.max(area, 1e-300)) * SURFACE_STEPS);
  }

  /** The landed part for a part of the far side by its place among those shown, or {@code null}. */
  public ShownMesh landed(int shown) {
    return landed[shown];
  }

  /** How it was found. */
  public How how(int shown) {
    return how[shown] == null ? How.NONE : how[shown];
  }

  /** The parts of the far side, in their order. */
  public List<ShownMesh> wanted() {
    return wanted;
  }

  /** Landed parts that no part of the far side is. */
  public List<ShownMesh> more() {
    return all.stream().filter(s -> !taken.contains(s)).toList();
  }
}
