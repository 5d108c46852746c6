package ferry.stone.core.scene.mesh;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;

/**
 * A mesh of polygons with layers of values over it.
 *
 * @param id stable through steps
 * @param points vertex positions
 * @param faces corners of the faces
 * @param attributes normals, UV sets, colours …, in the source's order
 * @param materialIds material of each slot, −1 for a slot that has none
 * @param variantMaterials material of each slot in each of the scene's variants, −1 where the slot
 *     keeps its own; empty when no variant changes it
 * @param faceSlot slot of each face, −1 for none; {@code null} when all faces have slot 0
 * @param smoothing smoothing group bits or numbers of each face, 0 for none; {@code null} if unsaid
 * @param hardEdges pairs of vertices between which shading breaks, smooth elsewhere; {@code null}
 *     if unsaid
 * @param faceSets named sets
 * @param edgeSets named sets of edges
 * @param loose lines and points, or {@code null}
 * @param morphs morph targets in order
 * @param subdivision or {@code null}
 * @param properties custom values
 */
public record PolygonMesh(
    int id,
    String name,
    Coordinates points,
    Polygons faces,
    List<Attribute> attributes,
    int[] materialIds,
    int[][] variantMaterials,
    int[] faceSlot,
    int[] smoothing,
    int[] hardEdges,
    List<FaceSet> faceSets,
    List<EdgeSet> edgeSets,
    LooseElements loose,
    List<MorphTarget> morphs,
    Subdivision subdivision,
    Map<String, Object> properties) {

  public PolygonMesh {
    attributes = List.copyOf(attributes);
    faceSets = List.copyOf(faceSets);
    edgeSets = List.copyOf(edgeSets);
    morphs = List.copyOf(morphs);
    properties = Map.copyOf(properties);
  }

  /** A mesh with geometry only; the other parts are added with the {@code with} methods. */
  public static PolygonMesh of(int id, String name, Coordinates points, Polygons faces) {
    return new PolygonMesh(
        id,
        name,
        points,
        faces,
        List.of(),
        new int[0],
        new int[0][],
        null,
        null,
        null,
        List.of(),
        List.of(),
        null,
        List.of(),
        null,
        Map.of());
  }

  /** The first attribute of a meaning. */
  public Optional<Attribute> first(Attribute.Semantic semantic) {
    return attributes.stream().filter(a -> a.semantic() == semantic).findFirst();
  }

  /** All attributes of a meaning. */
  public List<Attribute> all(Attribute.Semantic semantic) {
    return attributes.stream().filter(a -> a.semantic() == semantic).toList();
  }

  /** Slot of a face, −1 for none. */
  public int slot(int face) {
    return faceSlot != null ? faceSlot[face] : materialIds.length == 0 ? -1 : 0;
  }

  /** Material of a face, −1 for none. */
  public int materialOf(int face) {
    int slot = slot(face);
    return slot < 0 ? -1 : materialIds[slot];
  }

  /** Rising indices of the faces of each slot. O(faces). */
  public int[][] facesOfSlots() {
    int[] counts = new int[materialIds.length];
    int[][] all = new int[counts.length][];
    if (faceSlot == null || counts.length == 0) {
      Arrays.fill(all, new int[0]);
      if (counts.length > 0) {
        all[0] = new int[faces.faceCount()];
        Arrays.setAll(all[0], f -> f);
      }
      return all;
    }
    for (int slot : faceSlot) {
      if (slot >= 0) {
        counts[slot]++;
      }
    }
    for (int slot = 0; slot < all.length; slot++) {
      all[slot] = new int[counts[slot]];
    }
    for (int f = faceSlot.length - 1; f >= 0; f--) {
      int slot = faceSlot[f];
      if (slot >= 0) {
        all[slot][--counts[slot]] = f;
      }
    }
    return all;
  }

  /**
   * For each slot the first one that looks the same in every variant, −1 for a slot without any
   * material: which slots need not be told apart.
   */
  public int[] looks() {
    int[] looks = new int[materialIds.length];
    Map<List<Integer>, Integer> first = new HashMap<>();
    for (int slot = 0; slot < looks.length; slot++) {
      List<Integer> look = new ArrayList<>(List.of(materialIds[slot]));
      for (int[] variant : variantMaterials) {
        look.add(variant[slot]);
      }
      boolean bare = look.stream().allMatch(id -> id < 0);
      Integer same = bare ? Integer.valueOf(-1) : first.putIfAbsent(look, slot);
      looks[slot] = same == null ? slot : same;
    }
    return looks;
  }

  /** Material of a face in one of the scene's variants, −1 for none. */
  public int materialOf(int face, int variant) {
    int slot = slot(face);
    return slot < 0 ? -1 : materialOfSlot(slot, variant);
  }

  /** Material of a slot in one of the scene's variants, −1 for none. */
  public int materialOfSlot(int slot, int variant) {
    boolean changes = variant < variantMaterials.length && variantMaterials[variant][slot] >= 0;
    return changes ? variantMaterials[variant][slot] : materialIds[slot];
  }

  /** All materials that the mesh can show. */
  public IntStream usedMaterials() {
    return IntStream.concat(
            Arrays.stream(materialIds),
            Arrays.stream(variantMaterials).flatMapToInt(Arrays::stream))
        .filter(id -> id >= 0);
  }

  /** A changed copy: set what changes, then {@link MeshBuilder#build()}. */
  public MeshBuilder toBuilder() {
    return new MeshBuilder(this);
  }

  public PolygonMesh withPoints(Coordinates newPoints) {
    return toBuilder().points(newPoints).build();
  }

  public PolygonMesh withFaces(Polygons newFaces) {
    return toBuilder().faces(newFaces).build();
  }

  public PolygonMesh withAttributes(List<Attribute> newAttributes) {
    return toBuilder().attributes(newAttributes).build();
  }

  /** The mesh with one attribute meaning replaced: the first of it changes, or it is added. */
  public PolygonMesh withFirst(Attribute.Semantic semantic, Attribute attribute) {
    List<Attribute> changed = new ArrayList<>(attributes);
    for (int i = 0; i < changed.size(); i++) {
      if (changed.get(i).semantic() == semantic) {
        changed.set(i, attribute);
        return withAttributes(changed);
      }
    }
    changed.add(attribute);
    return withAttributes(changed);
  }
}
