package ferry.stone.core.geometry.look;

import ferry.stone.core.geometry.mesh.MeshMerge;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.DoubleList;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Finds the look of a mesh among meshes that have one: the mesh with the same faces in the same
 * order where there is one, or several that were merged into it one after another, which tells the
 * material of each face; else material by material, by the names of sets, how many faces they have,
 * their first face, and where and how large they are.
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
   * @param same a mesh with a look that has the same faces in the same order, or what several make
   *     that were merged into it; {@code null} where there is none
   * @param objects names of those several, which are its sets; empty for one
   */
  public record Look(PolygonMesh same, List<String> objects, List<LookBinding> bindings) {}

  /** Faces of one material of a source. */
  private record Patch(Source source, int materialId, Region region) {}

  /**
   * Some faces of a mesh.
   *
   * @param box around them
   * @param inside the box around the whole mesh
   */
  private record Region(PolygonMesh mesh, int[] faces, Bounds box, Bounds inside) {
    static Region of(PolygonMesh mesh, int[] faces, Bounds inside) {
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
      Bounds all = mesh.points().bounds();
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
    for (Source source : sources) {
      double score = sameFaces(mesh, source.mesh()) ? 1 + NameLikeness.of(path, source.path()) : 0;
      if (score > most) {
        most = score;
        best = source;
      }
    }
    if (best != null) {
      return new Look(best.mesh(), List.of(), byFaces(mesh, best.mesh(), "the same faces"));
    }
    List<MeshMerge.Source> parts = merged(mesh);
    if (parts.isEmpty()) {
      return new Look(null, List.of(), bySets(path, mesh));
    }
    PolygonMesh same = MeshMerge.of(parts, 0);
    String reason = "the faces of " + parts.size() + " parts one after another";
    List<String> names = parts.stream().map(MeshMerge.Source::name).toList();
    return new Look(same, names, byFaces(mesh, same, reason));
  }

  /** Whether a mesh has the faces of another, whatever their vertices do. */
  public static boolean sameFaces(PolygonMesh a, PolygonMesh b) {
    return a.faces().faceCount() > 0 && a.faces().isSame(b.faces());
  }

  /**
   * Whether the faces of a mesh are those of one of the sources, or of several one after another.
   */
  public boolean hasFacesOf(PolygonMesh mesh) {
    return sources.stream().anyMatch(s -> sameFaces(mesh, s.mesh())) || !merged(mesh).isEmpty();
  }

  /** Several sources whose faces one after another are all those of a mesh; empty for none. */
  private List<MeshMerge.Source> merged(PolygonMesh mesh) {
    List<Source> left = new ArrayList<>(sources);
    List<MeshMerge.Source> found = new ArrayList<>();
    Set<String> names = new HashSet<>();
    int face = 0;
    int vertex = 0;
    while (face < mesh.faces().faceCount()) {
      Source next = null;
      for (Source source : left) {
        Polygons faces = source.mesh().faces();
        if (faces.faceCount() > 0 && mesh.faces().holds(faces, face, vertex)) {
          next = source;
          break;
        }
      }
      if (next == null) {
        return List.of();
      }
      left.remove(next);
      String name = next.path().substring(next.path().lastIndexOf('/') + 1);
      String own = names.add(name) ? name : next.path().replace('/', '_');
      // Targets and lines of a model are none of its look.
      PolygonMesh faces = next.mesh().toBuilder().morphs(List.of()).loose(null).build();
      found.add(new MeshMerge.Source(faces, own, faces.materialIds()));
      face += next.mesh().faces().faceCount();
      vertex += next.mesh().points().count();
    }
    return found.size() > 1 && vertex == mesh.points().count() ? found : List.of();
  }

  /** Sets of the mesh where each has one material there; those of the source elsewhere. */
  private List<LookBinding> byFaces(PolygonMesh mesh, PolygonMesh source, String reason) {
    List<LookBinding> bindings = new ArrayList<>();
    BitSet left = new BitSet();
    left.set(0, mesh.faces().faceCount());
    for (FaceSet set : mesh.faceSets()) {
      int material = one(source, set.faces());
      if (material >= 0) {
        bindings.add(bound(set.name(), set.faces(), material, reason));
        for (int face : set.faces()) {
          left.clear(face);
        }
      }
    }
    int[][] bySlot = source.facesOfSlots();
    for (int slot = 0; slot < bySlot.length; slot++) {
      int[] faces = Arrays.stream(bySlot[slot]).filter(left::get).toArray();
      int material = source.materialIds()[slot];
      if (faces.length > 0 && material >= 0) {
        String key = LookBinding.REST + materials.get(material).name();
        bindings.add(bound(key, faces, material, reason));
      }
    }
    return bindings;
  }

  private static LookBinding bound(String key, int[] faces, int material, String reason) {
    return new LookBinding(key, faces, material, BY_FACES, List.of(reason));
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
    Bounds all = mesh.points().bounds();
    BitSet left = new BitSet();
    left.set(0, mesh.faces().faceCount());
    for (FaceSet set : mesh.faceSets()) {
      bindings.add(best(path, set.name(), Region.of(mesh, set.faces(), all)));
      for (int face : set.faces()) {
        left.clear(face);
      }
    }
    if (!left.isEmpty()) {
      Region rest = Region.of(mesh, left.stream().toArray(), all);
      bindings.add(best(path, LookBinding.REST, rest));
    }
    return bindings;
  }

  private LookBinding best(String path, String key, Region region) {
    int[] faces = region.faces();
    LookBinding best = new LookBinding(key, faces, -1, 0, List.of("nothing fits"));
    String set = LookBinding.set(key);
    int own = one(region.mesh(), faces);
    String assigned = own < 0 ? "" : materials.get(own).name();
    for (Patch patch : patches) {
      List<String> reasons = new ArrayList<>();
      double score = score(path, set, region, patch, reasons);
      if (!assigned.isEmpty() && assigned.equals(materials.get(patch.materialId()).name())) {
        score = Math.max(score, BY_ASSIGNED);
        reasons.add(0, "assigned by its name");
      }
      if (score > best.confidence() && score >= LEAST) {
        best = new LookBinding(key, faces, patch.materialId(), Math.min(1, score), reasons);
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

  /** Around the corners of some faces. */
  private static Bounds box(PolygonMesh mesh, int[] faces) {
    DoubleList corners = new DoubleList(12 * faces.length);
    for (int face : faces) {
      for (int c = mesh.faces().start(face); c < mesh.faces().end(face); c++) {
        int v = mesh.faces().vertex(c);
        for (int axis = 0; axis < 3; axis++) {
          corners.add(mesh.points().at(3 * v + axis));
        }
      }
    }
    return Bounds.of(corners.toArray());
  }

  /** How alike two boxes lie in those around them, 0 to 1, whatever the unit. */
  private static double placed(Bounds a, Bounds inA, Bounds b, Bounds inB) {
    double off = 0;
    for (int axis = 0; axis < 3; axis++) {
      double low = part(a.min(axis), inA, axis) - part(b.min(axis), inB, axis);
      double high = part(a.max(axis), inA, axis) - part(b.max(axis), inB, axis);
      off = Math.max(off, Math.max(Math.abs(low), Math.abs(high)));
    }
    return Double.isFinite(off) ? Math.max(0, 1 - 2 * off) : 0;
  }

  private static double part(double at, Bounds inside, int axis) {
    double size = inside.size(axis);
    return size > 0 ? (at - inside.min(axis)) / size : 0;
  }
}
