package ferry.stone.core.geometry.look;

import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.util.ArrayList;
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
  private record Patch(Source source, int materialId, int[] faces) {}

  public LookMatch(List<Source> sources, Map<Integer, Material> materials) {
    this.sources = List.copyOf(sources);
    this.materials = materials;
  }

  /**
   * @param path of the part that shows the mesh
   * @param mesh without a look, or with names of materials alone
   */
  public Look of(String path, PolygonMesh mesh) {
    Source best = null;
    double most = 0;
    boolean same = false;
    for (Source source : sources) {
      boolean faces = sameFaces(mesh, source.mesh());
      double score =
          (faces ? 2 : 0)
              + (mesh.faces().faceCount() == source.mesh().faces().faceCount() ? 0.5 : 0)
              + NameLikeness.of(path, source.path())
              + 0.3
                  * placed(
                      box(mesh, null),
                      box(mesh, null),
                      box(source.mesh(), null),
                      box(source.mesh(), null));
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

  /** Whether all faces have the same corners in the same order, whatever their vertices do. */
  public static boolean sameFaces(PolygonMesh a, PolygonMesh b) {
    Polygons f = a.faces();
    Polygons g = b.faces();
    boolean same =
        f.faceCount() > 0 && f.faceCount() == g.faceCount() && f.cornerCount() == g.cornerCount();
    for (int i = 0; same && i < f.faceCount(); i++) {
      same = f.start(i) == g.start(i);
    }
    for (int c = 0; same && c < f.cornerCount(); c++) {
      same = f.vertex(c) == g.vertex(c);
    }
    return same;
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
    for (int slot = 0; slot < source.mesh().materialIds().length; slot++) {
      IntList faces = new IntList(16);
      for (int f = left.nextSetBit(0); f >= 0; f = left.nextSetBit(f + 1)) {
        if (source.mesh().slot(f) == slot) {
          faces.add(f);
        }
      }
      int material = source.mesh().materialIds()[slot];
      if (faces.size() > 0 && material >= 0) {
        bindings.add(bound("", faces.toArray(), material, BY_FACES, "the same faces"));
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
    List<Patch> patches = patches();
    List<LookBinding> bindings = new ArrayList<>();
    BitSet left = new BitSet();
    left.set(0, mesh.faces().faceCount());
    for (FaceSet set : mesh.faceSets()) {
      bindings.add(best(path, mesh, set.name(), set.faces(), patches));
      for (int face : set.faces()) {
        left.clear(face);
      }
    }
    if (!left.isEmpty()) {
      bindings.add(best(path, mesh, "", left.stream().toArray(), patches));
    }
    return bindings;
  }

  private List<Patch> patches() {
    List<Patch> patches = new ArrayList<>();
    for (Source source : sources) {
      PolygonMesh mesh = source.mesh();
      for (int slot = 0; slot < mesh.materialIds().length; slot++) {
        IntList faces = new IntList(16);
        for (int f = 0; f < mesh.faces().faceCount(); f++) {
          if (mesh.slot(f) == slot) {
            faces.add(f);
          }
        }
        if (mesh.materialIds()[slot] >= 0 && faces.size() > 0) {
          patches.add(new Patch(source, mesh.materialIds()[slot], faces.toArray()));
        }
      }
    }
    return patches;
  }

  private LookBinding best(
      String path, PolygonMesh mesh, String set, int[] faces, List<Patch> patches) {
    LookBinding best = new LookBinding(set, faces, -1, 0, List.of("nothing fits"));
    int assigned = one(mesh, faces);
    for (Patch patch : patches) {
      List<String> reasons = new ArrayList<>();
      double score = score(path, mesh, set, faces, patch, reasons);
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

  private double score(
      String path, PolygonMesh mesh, String set, int[] faces, Patch patch, List<String> reasons) {
    String name = set.isEmpty() ? path : set;
    double alike = NameLikeness.of(name, materials.get(patch.materialId()).name());
    if (set.isEmpty()) {
      alike = Math.max(alike, NameLikeness.of(path, patch.source().path()));
    }
    double score = NAME * alike;
    if (alike > 0) {
      reasons.add(alike == 1 ? "its name" : "part of its name");
    }
    PolygonMesh there = patch.source().mesh();
    if (faces.length == patch.faces().length) {
      score += COUNT;
      reasons.add("as many faces");
    }
    if (signature(mesh, faces) == signature(there, patch.faces())) {
      score += SIGNATURE;
      reasons.add("the same first face");
    }
    double placed =
        placed(box(mesh, faces), box(mesh, null), box(there, patch.faces()), box(there, null));
    score += PLACE * placed;
    if (placed > 0.8) {
      reasons.add("its place and size");
    }
    return score;
  }

  /** Number of the first face and how many corners it has. */
  private static long signature(PolygonMesh mesh, int[] faces) {
    return faces.length == 0 ? -1 : 1000L * faces[0] + mesh.faces().size(faces[0]);
  }

  /** Least and most x, y, z of the corners of some faces, or of all points. */
  private static double[] box(PolygonMesh mesh, int[] faces) {
    if (faces == null) {
      Bounds all = mesh.points().bounds();
      return new double[] {all.minX(), all.minY(), all.minZ(), all.maxX(), all.maxY(), all.maxZ()};
    }
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
