package ferry.stone.core.format.gltf.write;

import ferry.stone.core.format.gltf.plan.ImageKind;
import ferry.stone.core.format.gltf.raw.MeshoptEncoder;
import ferry.stone.core.geometry.triangle.DrawOrder;
import ferry.stone.core.geometry.triangle.RenderMesh;
import ferry.stone.core.geometry.triangle.RenderPrimitive;
import ferry.stone.core.geometry.triangle.SmallPrimitives;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;
import java.util.List;

/**
 * How vertices and images of a glTF are written. What makes it smaller or quicker to draw is off
 * unless asked for.
 *
 * @param quantized vertex values as 16-bit numbers: KHR_mesh_quantization
 * @param compressed numbers packed without loss: EXT_meshopt_compression, which viewers must know
 * @param indexBits width of triangle indices
 * @param drawOrder triangles and vertices in the order that draws fastest; else the source's order
 * @param largestTexture longest side of an image in pixels, 0 for no limit
 * @param instanced copies of one mesh under one parent as one node: EXT_mesh_gpu_instancing
 * @param tangents computed where a normal map needs them and the mesh has none; on when left out
 * @param plainImages KTX2 and WebP images as PNG, for viewers that do not know KHR_texture_basisu
 *     and EXT_texture_webp
 * @param imageKind as what images are written; as they are when left out
 */
public record GltfPacking(
    boolean quantized,
    boolean compressed,
    IndexBits indexBits,
    boolean drawOrder,
    int largestTexture,
    boolean instanced,
    Boolean tangents,
    boolean plainImages,
    ImageKind imageKind) {

  /** With tangents where they are needed. */
  public GltfPacking(
      boolean quantized,
      boolean compressed,
      IndexBits indexBits,
      boolean drawOrder,
      int largestTexture,
      boolean instanced) {
    this(quantized, compressed, indexBits, drawOrder, largestTexture, instanced, true, false, null);
  }

  /** How wide triangle indices are. */
  public enum IndexBits {
    /** 16 bits where they reach, else 32. */
    FITTING,
    /** Always 16: primitives with more than 65,535 vertices are cut into several. */
    SHORT,
    /** Always 32. */
    LONG
  }

  /** Index 65,535 is kept for other uses by the standard: section 3.7.2.1. */
  private static final int MOST_SHORT_VERTICES = 65_535;

  /** Nothing is packed. */
  public static final GltfPacking NONE =
      new GltfPacking(false, false, IndexBits.FITTING, false, 0, false);

  public GltfPacking {
    indexBits = indexBits == null ? IndexBits.FITTING : indexBits;
    tangents = tangents == null || tangents;
    imageKind = imageKind == null ? ImageKind.SAME : imageKind;
    if (largestTexture < 0) {
      throw new IllegalArgumentException(
          "largestTexture must be a number of pixels, or 0 for no limit, not " + largestTexture);
    }
  }

  /** Whether a KTX2 image beside another does not land. */
  public boolean leavesPackedImages() {
    return plainImages || imageKind != ImageKind.SAME;
  }

  /**
   * A mesh's triangles in the order they are written: what pairs source and landed vertices.
   *
   * @param needed which materials want tangents
   */
  public List<RenderPrimitive> primitives(
      PolygonMesh bare, GltfTangents needed, Progress progress) {
    PolygonMesh mesh = needed.lit(bare, progress);
    List<RenderPrimitive> primitives =
        RenderMesh.with(
                mesh, GltfLayers.of(mesh).stream().map(GltfLayers::layer).toList(), progress)
            .stream()
            .map(needed::on)
            .toList();
    if (drawOrder) {
      primitives = primitives.stream().map(DrawOrder::of).toList();
    }
    if (indexBits == IndexBits.SHORT) {
      primitives =
          primitives.stream()
              .flatMap(p -> SmallPrimitives.of(p, MOST_SHORT_VERTICES).stream())
              .toList();
    }
    if (compressed) {
      primitives =
          primitives.stream().map(p -> p.withIndices(MeshoptEncoder.turned(p.indices()))).toList();
    }
    return primitives;
  }
}
