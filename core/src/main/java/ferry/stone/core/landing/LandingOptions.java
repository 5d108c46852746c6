package ferry.stone.core.landing;

import ferry.stone.core.format.gltf.GltfPacking;

/**
 * How a far side is landed.
 *
 * @param format {@code glb} or {@code gltf}
 * @param embedTextures inside the file; else in a {@code textures} folder beside it
 * @param embedBuffers for {@code gltf}: geometry inside the JSON; else a {@code .bin} beside it
 * @param transforms where the change of frame and the placement go
 * @param doubleSided show both sides of every material
 * @param influences most joints that move a vertex, a multiple of 4; 0 for all
 * @param packing what makes the file smaller; nothing when left out
 * @param fileName name of the file without ending, also for the files beside it; the crossing's
 *     name when left out
 */
public record LandingOptions(
    String format,
    boolean embedTextures,
    boolean embedBuffers,
    Transforms transforms,
    boolean doubleSided,
    int influences,
    GltfPacking packing,
    String fileName) {

  /** Where the change of frame goes. */
  public enum Transforms {
    /** All numbers change, nodes stay clean. */
    DATA,
    /** One root node carries it, numbers stay. */
    ROOT
  }

  public LandingOptions {
    if (!"glb".equals(format) && !"gltf".equals(format)) {
      throw new IllegalArgumentException("format must be glb or gltf, not \"" + format + "\"");
    }
    if (influences < 0 || influences % 4 != 0) {
      throw new IllegalArgumentException(
          "influences must be a multiple of 4, or 0 for all, not " + influences);
    }
    transforms = transforms == null ? Transforms.DATA : transforms;
    packing = packing == null ? GltfPacking.NONE : packing;
  }

  /** Without packing. */
  public LandingOptions(
      String format,
      boolean embedTextures,
      boolean embedBuffers,
      Transforms transforms,
      boolean doubleSided,
      int influences) {
    this(format, embedTextures, embedBuffers, transforms, doubleSided, influences, null, null);
  }

  /** Name of the written files without ending. */
  public String stem(String crossing) {
    return Landing.stem(fileName == null || fileName.isBlank() ? crossing : fileName);
  }

  public LandingOptions withPacking(GltfPacking newPacking) {
    return new LandingOptions(
        format,
        embedTextures,
        embedBuffers,
        transforms,
        doubleSided,
        influences,
        newPacking,
        fileName);
  }

  public static LandingOptions glb() {
    return new LandingOptions("glb", true, true, Transforms.DATA, false, 4);
  }
}
