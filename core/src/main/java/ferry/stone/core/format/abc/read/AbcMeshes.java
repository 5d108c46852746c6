package ferry.stone.core.format.abc.read;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.abc.raw.AbcCompound;
import ferry.stone.core.format.abc.raw.AbcObject;
import ferry.stone.core.format.abc.raw.AbcProperty;
import ferry.stone.core.format.files.ReadReport;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.PointCache;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;

/**
 * The meshes of an archive, each once however often it is shown, with the materials that they are
 * assigned and what they are over time.
 */
final class AbcMeshes {
  private static final String ASSIGNED = ".material.assign";

  private final ReadReport report;
  private final SceneBuilder scene;
  private final Supplier<ReadReport> later;
  private final Map<String, Integer> known = new HashMap<>();
  private final Map<String, Integer> materials = new HashMap<>();
  private final Map<String, Integer> byName = new HashMap<>();
  private final Set<String> archive = new HashSet<>();
  private final List<PointCache> caches = new ArrayList<>();
  private final List<MeshSequence> sequences = new ArrayList<>();

  /**
   * @param later where reading of samples tells what it meets
   */
  AbcMeshes(ReadReport report, SceneBuilder scene, Supplier<ReadReport> later) {
    this.report = report;
    this.scene = scene;
    this.later = later;
  }

  static boolean isMesh(String schema) {
    return schema.startsWith("AbcGeom_PolyMesh")
        || schema.startsWith("AbcGeom_SubD")
        || schema.startsWith("AbcGeom_Points")
        || schema.startsWith("AbcGeom_Curve");
  }

  List<PointCache> caches() {
    return caches;
  }

  List<MeshSequence> sequences() {
    return sequences;
  }

  /** The id of an object's mesh, which is read where it is new. */
  int mesh(AbcObject object) throws IOException, FormatException {
    Integer there = known.get(object.path());
    if (there != null) {
      return there;
    }
    int id = scene.newId();
    known.put(object.path(), id);
    AbcCompound geometry = object.properties().compound(".geom").orElse(null);
    if (geometry == null) {
      throw report.broken(object.path(), "a mesh without geometry.");
    }
    Dress dress = dress(object);
    AbcProperty clock = clock(geometry);
    ReadReport own = clock == null ? report : report.ofEverySample();
    PolygonMesh mesh = dress.on(read(own, object, geometry, id, 0));
    scene.add(mesh);
    if (clock != null) {
      sequences.add(
          new AbcSamples.Changing(
              scene.newId(),
              object.name(),
              id,
              clock,
              sample -> dress.on(read(later.get(), object, geometry, id, sample))));
    } else {
      motion(object, geometry, mesh);
    }
    return id;
  }

  private static PolygonMesh read(
      ReadReport report, AbcObject object, AbcCompound geometry, int id, int sample)
      throws IOException, FormatException {
    boolean faces =
        object.schema().startsWith("AbcGeom_PolyMesh")
            || object.schema().startsWith("AbcGeom_SubD");
    return faces
        ? new AbcShape(report, object, geometry).read(id, sample)
        : new AbcLoose(report, object, geometry).read(id, sample);
  }

  /** Whose samples a mesh follows that is another one over time; {@code null} for none. */
  private static AbcProperty clock(AbcCompound geometry) throws IOException, FormatException {
    AbcProperty points = geometry.value("P").orElse(null);
    AbcProperty longest = points;
    boolean changes = points != null && !points.hasOneCount();
    for (String name : AbcShape.topology()) {
      AbcProperty property = geometry.value(name).orElse(null);
      if (property != null && !property.isConstant()) {
        changes = true;
        boolean longer = longest == null || property.sampleCount() > longest.sampleCount();
        longest = longer ? property : longest;
      }
    }
    return changes ? longest : null;
  }

  /** Vertices that move. */
  private void motion(AbcObject object, AbcCompound geometry, PolygonMesh mesh) {
    AbcProperty points = geometry.value("P").orElse(null);
    if (points != null && !points.isConstant()) {
      caches.add(
          new AbcSamples.Moving(
              scene.newId(), object.name(), mesh.id(), points, mesh.points().count()));
    }
  }

  /**
   * Which materials a mesh has.
   *
   * @param whole of all faces that no set dresses, −1 for none
   * @param sets material of each dressed set
   */
  private record Dress(int whole, Map<String, Integer> sets) {
    PolygonMesh on(PolygonMesh mesh) {
      if (sets.isEmpty()) {
        return whole < 0 ? mesh : mesh.toBuilder().materials(new int[] {whole}, null).build();
      }
      List<Integer> slots = new ArrayList<>();
      int[] slot = new int[mesh.faces().faceCount()];
      if (whole >= 0) {
        slots.add(whole);
      }
      Arrays.fill(slot, whole >= 0 ? 0 : -1);
      for (var set : mesh.faceSets()) {
        Integer material = sets.get(set.name());
        if (material != null) {
          for (int face : set.faces()) {
            slot[face] = slots.size();
          }
          slots.add(material);
        }
      }
      int[] ids = slots.stream().mapToInt(Integer::intValue).toArray();
      return mesh.toBuilder().materials(ids, slot).build();
    }
  }

  private Dress dress(AbcObject object) throws IOException, FormatException {
    Map<String, Integer> sets = new HashMap<>();
    for (AbcObject child : object.children()) {
      int material = AbcShape.isFaceSet(child) ? material(child) : -1;
      if (material >= 0) {
        sets.put(child.name(), material);
      }
    }
    return new Dress(material(object), sets);
  }

  /** The material that an object is assigned: a path; −1 for none. */
  private int material(AbcObject object) throws IOException, FormatException {
    AbcProperty assigned = object.properties().value(ASSIGNED).orElse(null);
    String path = assigned == null ? "" : String.join("", assigned.texts(0));
    if (path.isEmpty()) {
      return -1;
    }
    return material(path);
  }

  /** Takes a material that stands in the archive. */
  void stands(String path) {
    archive.add(path.substring(1));
    material(path);
  }

  /** The material of a path, which is there from now on. */
  private int material(String named) {
    String path = named.startsWith("/") ? named.substring(1) : named;
    Integer there = materials.get(path);
    if (there != null) {
      return there;
    }
    String name = path.substring(path.lastIndexOf('/') + 1);
    // Archives that were put together name materials where they stood before.
    Integer moved = byName.get(name);
    if (moved != null && !archive.contains(path)) {
      materials.put(path, moved);
      return moved;
    }
    int id = scene.newId();
    byName.putIfAbsent(name, id);
    scene.add(
        new Material(
            id,
            name.isEmpty() ? path : name,
            Material.Shading.METALLIC_ROUGHNESS,
            Map.of(),
            Material.Alpha.OPAQUE,
            0.5,
            false,
            Map.of()));
    materials.put(path, id);
    return id;
  }
}
