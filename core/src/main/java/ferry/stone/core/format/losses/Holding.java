package ferry.stone.core.format.losses;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.FileTree;
import ferry.stone.core.geometry.curve.NurbsAlone;
import ferry.stone.core.geometry.curve.StraightCurves;
import ferry.stone.core.geometry.triangle.RenderPrimitive;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;

/**
 * How a written file holds what it was given, so that a proof can compare like with like without
 * knowing the format. As it stands: polygons, vertices and materials as they were.
 */
public interface Holding {
  /** Name of the format in sentences. */
  String format();

  /** What becomes of a capability with the options of this landing. */
  Capability.Fate fate(Capability capability);

  /** Reads a file back as other readers see it. */
  Scene read(String mainFile, ReadContext context) throws IOException, FormatException;

  /** The same with the file's hierarchy as other readers list it. */
  default ReadBack back(String mainFile, ReadContext context) throws IOException, FormatException {
    return new ReadBack(read(mainFile, context), FileTree::of);
  }

  /** Whether the file lists some parts as places of one node. */
  default boolean listsCopies(Scene arrived) {
    return false;
  }

  /** Whether faces were cut into triangles, because the format holds no others or by choice. */
  default boolean isTriangulated() {
    return false;
  }

  /** Whether meshes are triangles by material with vertices of their own: {@link #primitives}. */
  default boolean isByPrimitives() {
    return false;
  }

  /**
   * The triangles of a mesh in the order of the file.
   *
   * @param scene for the tangents that were computed, or {@code null} where they do not matter
   */
  default List<RenderPrimitive> primitives(Scene scene, PolygonMesh mesh, Progress progress) {
    throw new UnsupportedOperationException(format() + " holds polygons");
  }

  /** The custom layers of a mesh that the file holds, in the order of {@link #primitives}. */
  default List<Attribute> layers(PolygonMesh mesh) {
    return mesh.all(Attribute.Semantic.OTHER);
  }

  /** Their names in the file. */
  default List<String> layerNames(PolygonMesh mesh) {
    return layers(mesh).stream().map(Attribute::name).toList();
  }

  /**
   * The same for their order alone. Tangents count where they are put into the order that draws
   * fastest, since they split vertices; else they need not be computed.
   */
  default List<RenderPrimitive> order(Scene scene, PolygonMesh mesh) {
    return primitives(isReordered() ? scene : null, mesh, Progress.NONE);
  }

  /** The face of a mesh behind each landed one, in the order of the file. */
  default int[] faces(Scene scene, PolygonMesh mesh) {
    if (!isByPrimitives()) {
      int[] all = new int[mesh.faces().faceCount()];
      Arrays.setAll(all, f -> f);
      return all;
    }
    List<RenderPrimitive> primitives = order(scene, mesh);
    int[] all = new int[primitives.stream().mapToInt(RenderPrimitive::triangleCount).sum()];
    int at = 0;
    for (RenderPrimitive p : primitives) {
      System.arraycopy(p.triangleFace(), 0, all, at, p.triangleCount());
      at += p.triangleCount();
    }
    return all;
  }

  /** Whether positions are rounded to steps of the mesh's own cube, 16 bits a side. */
  default boolean isRounded() {
    return false;
  }

  /** Whether images are written as another kind of file, which may lose a little. */
  default boolean isRepacked() {
    return false;
  }

  /** Whether vertices stand in another order by choice. */
  default boolean isReordered() {
    return false;
  }

  /**
   * Whether the format holds parts without a hierarchy, a rig or materials: then a proof compares
   * {@link #held} with the file, and tells the rest by what the scene holds.
   */
  default boolean isFlat() {
    return false;
  }

  /**
   * What a format holds of a far side that it arranges anew, bare parts or motion as samples; the
   * far side itself for others.
   */
  default Scene held(Scene far, String mainFile) {
    return far;
  }

  /** The far side with curves and shapes of other kinds as the format holds them. */
  default Scene shaped(Scene far) {
    boolean nurbs = fate(Capability.NURBS_CURVES) == Capability.Fate.KEPT;
    boolean others = fate(Capability.CURVES) == Capability.Fate.KEPT;
    Scene held = fate(Capability.KEPT_SHAPES) == Capability.Fate.KEPT ? far : KeptShapes.none(far);
    return StraightCurves.of(held, mesh -> NurbsAlone.is(mesh) ? nurbs : others);
  }

  /** The far side with what the format arranges anew by its nature. */
  default Scene expected(Scene far) {
    return far;
  }

  /**
   * The moment nearest to one at which the file says where everything is: a format of samples
   * leaves what is between them to whoever reads it.
   *
   * @param clip as {@link #held} has it
   */
  default double moment(Clip clip, double seconds) {
    return seconds;
  }

  /** Whether materials are translated to metallic-roughness; else they are held as they are. */
  default boolean isMetallicRoughness() {
    return false;
  }

  /** Whether transforms were made plain by choice. */
  default boolean isBaked() {
    return false;
  }

  /** What is multiplied into a channel's image, or {@code null} for nothing. */
  default double[] tint(Channel channel, Material.Value value) {
    return null;
  }

  /** Values of a material that only come back here, since other programs know no place for them. */
  default List<String> ownValues(Material material) {
    return List.of();
  }

  /** Name of the material that a written one was made of. */
  default String originalMaterial(String name) {
    return name;
  }
}
