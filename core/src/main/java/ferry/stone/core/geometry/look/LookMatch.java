package ferry.stone.core.geometry.look;

import ferry.stone.core.math.Bounds;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.Map;

/**
 * Finds the look of a mesh among meshes that have one: the mesh with the same faces in the same
 * order where there is one, which tells the material of each face; else material by material, by
 * the names of sets, how many faces they have, their first face, and where and how large they are.
 */
public final class LookMatch {
  private static final double BY_FACES = 1;
  private static final double BY_ASSIGNED = 0.95;
  private static final double NAME = 0.5;
  private static final double COUNT = 0.2;
  private static final double SIGNATURE = 0.1;
  private static final double PLACE = 0.2;

  /** A match below this is none. */
  private static final double LEAST = 0.25;

  private final List<Source> sources;

  /** Around each source. */
  private final List<double[]> boxes = new ArrayList<>();

  private final List<Patch> patches = new ArrayList<>();
  private final Map<Integer, Material> materials;

  /**
   * A mesh that has a look.
   *
   * @param path of the part that shows it
   */
  public record Source(String path, PolygonMesh mesh) {}

  /**
   * What is known of the look of a mesh.
   *
   * @param source the mesh that it was found on, {@code null} for none
   * @param sameFaces whether that one has the same faces in the same order
   */
  public record Look(Source source, boolean sameFaces, List<LookBinding> bindings) {}

  /** Faces of one material of a source. */
  private record Patch(Source source, int materialId, Region region) {}

  /**
   * Some faces of a mesh.
   *
   * @param box around them
   * @param inside the box around the whole mesh
   */
  private record Region(PolygonMesh mesh, int[] faces, double[] box, double[] inside) {
    static Region of(PolygonMesh mesh, int[] faces, double[] inside) {
      return new Region(mesh, faces, LookMatch.box(mesh, faces), inside);
    }

    /** Number of the first face and how many corners it has. */
    long signature() {
      return faces.length == 0 ? -1 : 1000L * faces[0] + mesh.faces().size(faces[0]);
    }
  }

  public LookMatch(List<Source> sources, Map<Integer, Material> materials) {
    this.sources = List.copyOf(sources);
    this.materials = materials;
    for (Source source : sources) {
      PolygonMesh mesh = source.mesh();
      double[] all = box(mesh);
      boxes.add(all);
      int[][] bySlot = mesh.facesOfSlots();
      for (int slot = 0; slot < bySlot.length; slot++) {
        int[] faces = bySlot[slot];
        if (mesh.materialIds()[slot] >= 0 && faces.length > 0) {
          Region region = Region.of(mesh, faces, all);
          patches.add(new Patch(source, mesh.materialIds()[slot], region));
        }
      }
    }
  }

  /**
   * @param path of the part that shows the mesh
   * @param mesh without a look, or with names of materials alone
   */
  public Look of(String path, PolygonMesh mesh) {
    Source best = null;
    double most = 0;
    boolean same = false;
    double[] own = box(mesh);
    for (int i = 0; i < sources.size(); i++) {
      Source source = sources.get(i);
      boolean faces = sameFaces(mesh, source.mesh());
      double score =
          (faces ? 2 : 0)
              + (mesh.faces().faceCount() == source.mesh().faces().faceCount() ? 0.5 : 0)
              + NameLikeness.of(path, source.path())
              + 0.3 * placed(own, own, boxes.get(i), boxes.get(i));
      if (score > most) {
        most = score;
        best = source;
        same = faces;
      }
    }
    if (same) {
      return new Look(best, true, byFaces(mesh, best));
    }
    return new Look(best, false, bySets(path, mesh));
  }

  /** Whether a mesh has the faces of another, whatever their vertices do. */
  public static boolean sameFaces(PolygonMesh a, PolygonMesh b) {
    return a.faces().faceCount() > 0 && a.faces().isSame(b.faces());
  }

  /** Sets of the mesh where each has one material there; those of the source elsewhere. */
  private List<LookBinding> byFaces(PolygonMesh mesh, Source source) {
    List<LookBinding> bindings = new ArrayList<>();
    BitSet left = new BitSet();
    left.set(0, mesh.faces().faceCount());
    for (FaceSet set : mesh.faceSets()) {
      int material = one(source.mesh(), set.faces());
      if (material >= 0) {
        bindings.add(bound(set.name(), set.faces(), material, BY_FACES, "the same faces"));
        for (int face : set.faces()) {
          left.clear(face);
        }
      }
    }
    int[][] bySlot = source.mesh().facesOfSlots();
    for (int slot = 0; slot < bySlot.length; slot++) {
      int[] faces = Arrays.stream(bySlot[slot]).filter(left::get).toArray();
      int material = source.mesh().materialIds()[slot];
      if (faces.length > 0 && material >= 0) {
        bindings.add(bound("", faces, material, BY_FACES, "the same faces"));
      }
    }
    return bindings;
  }

  private static LookBinding bound(
      String set, int[] faces, int material, double confidence, String reason) {
    return new LookBinding(set, faces, material, confidence, List.of(reason));
  }

  /** The one material of all these faces, −1 where they have several or none. */
  private static int one(PolygonMesh mesh, int[] faces) {
    int material = -1;
    for (int face : faces) {
      int own = mesh.materialOf(face);
      if (own < 0 || material >= 0 && own != material) {
        return -1;
      }
      material = own;
    }
    return material;
  }

  private List<LookBinding> bySets(String path, PolygonMesh mesh) {
    List<LookBinding> bindings = new ArrayList<>();
    double[] all = box(mesh);
    BitSet left = new BitSet();
    left.set(0, mesh.faces().faceCount());
    for (FaceSet set : mesh.faceSets()) {
      bindings.add(best(path, set.name(), Region.of(mesh, set.faces(), all)));
      for (int face : set.faces()) {
        left.clear(face);
      }
    }
    if (!left.isEmpty()) {
      bindings.add(best(path, "", Region.of(mesh, left.stream().toArray(), all)));
    }
    return bindings;
  }

  private LookBinding best(String path, String set, Region region) {
    int[] faces = region.faces();
    LookBinding best = new LookBinding(set, faces, -1, 0, List.of("nothing fits"));
    int assigned = one(region.mesh(), faces);
    for (Patch patch : patches) {
      List<String> reasons = new ArrayList<>();
      double score = score(path, set, region, patch, reasons);
      String own = assigned < 0 ? "" : materials.get(assigned).name();
      if (!own.isEmpty() && own.equals(materials.get(patch.materialId()).name())) {
        score = Math.max(score, BY_ASSIGNED);
        reasons.add(0, "assigned by its name");
      }
      if (score > best.confidence() && score >= LEAST) {
        best = new LookBinding(set, faces, patch.materialId(), Math.min(1, score), reasons);
      }
    }
    return best;
  }

  private double score(String path, String set, Region region, Patch patch, List<String> reasons) {
    String name = set.isEmpty() ? path : set;
    double alike = NameLikeness.of(name, materials.get(patch.materialId()).name());
    if (set.isEmpty()) {
      alike = Math.max(alike, NameLikeness.of(path, patch.source().path()));
    }
    double score = NAME * alike;
    if (alike > 0) {
      reasons.add(alike == 1 ? "its name" : "part of its name");
    }
    Region there = patch.region();
    if (region.faces().length == there.faces().length) {
      score += COUNT;
      reasons.add("as many faces");
    }
    if (region.signature() == there.signature()) {
      score += SIGNATURE;
      reasons.add("the same first face");
    }
    double placed = placed(region.box(), region.inside(), there.box(), there.inside());
    score += PLACE * placed;
    if (placed > 0.8) {
      reasons.add("its place and size");
    }
    return score;
  }

  /** Least and most x, y, z of all points. */
  private static double[] box(PolygonMesh mesh) {
    Bounds all = mesh.points().bounds();
    return new double[] {all.minX(), all.minY(), all.minZ(), all.maxX(), all.maxY(), all.maxZ()};
  }

  /** Least and most x, y, z of the corners of some faces. */
  private static double[] box(PolygonMesh mesh, int[] faces) {
    double[] box = {
      Double.POSITIVE_INFINITY,
      Double.POSITIVE_INFINITY,
      Double.POSITIVE_INFINITY,
      Double.NEGATIVE_INFINITY,
      Double.NEGATIVE_INFINITY,
      Double.NEGATIVE_INFINITY
    };
    for (int face : faces) {
      for (int c = mesh.faces().start(face); c < mesh.faces().end(face); c++) {
        int v = mesh.faces().vertex(c);
        for (int axis = 0; axis < 3; axis++) {
          double at = mesh.points().at(3 * v + axis);
          box[axis] = Math.min(box[axis], at);
          box[3 + axis] = Math.max(box[3 + axis], at);
        }
      }
    }
    return box;
  }

  /** How alike two boxes lie in those around them, 0 to 1, whatever the unit. */
  private static double placed(double[] a, double[] inA, double[] b, double[] inB) {
    double off = 0;
    for (int i = 0; i < 6; i++) {
      int axis = i % 3;
      double own = part(a[i], inA[axis], inA[3 + axis]);
      double there = part(b[i], inB[axis], inB[3 + axis]);
      off = Math.max(off, Math.abs(own - there));
    }
    return Double.isFinite(off) ? Math.max(0, 1 - 2 * off) : 0;
  }

  private static double part(double at, double low, double high) {
    return high > low ? (at - low) / (high - low) : 0;
  }
}
