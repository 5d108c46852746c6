package ferry.stone.core.format.gltf.write;

/**
 * How a glTF is written.
 *
 * @param container one GLB, or JSON with other files beside it
 * @param embedTextures inside the binary (GLB) or as data URIs; else image files beside it
 * @param embedBuffers for JSON: geometry as a data URI instead of a {@code .bin} beside it
 * @param influences most joints that move a vertex, a multiple of 4; 0 for all. The standard only
 *     promises that viewers use 4.
 * @param packing what makes the file smaller
 */
public record GltfOptions(
    Container container,
    boolean embedTextures,
    boolean embedBuffers,
    int influences,
    GltfPacking packing) {
  /** Without packing. */
  public GltfOptions(
      Container container, boolean embedTextures, boolean embedBuffers, int influences) {
    this(container, embedTextures, embedBuffers, influences, GltfPacking.NONE);
  }

  public GltfOptions withPacking(GltfPacking newPacking) {
    return new GltfOptions(container, embedTextures, embedBuffers, influences, newPacking);
  }

  /** What every viewer of glTF uses: section 3.7.3.3. */
  public static final int USUAL_INFLUENCES = 4;

  /** The file that carries the JSON. */
  public enum Container {
    GLB,
    GLTF
  }

  public static GltfOptions glb() {
    return new GltfOptions(Container.GLB, true, true, USUAL_INFLUENCES, GltfPacking.NONE);
  }
}
