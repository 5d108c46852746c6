package ferry.stone.core.landing;

import com.fasterxml.jackson.annotation.JsonIgnore;
import ferry.stone.core.format.gltf.GltfPacking;
import ferry.stone.core.math.Frame;
import ferry.stone.core.shore.Budgets;
import java.util.Set;

/**
 * How a far side is landed.
 *
 * @param format {@code glb}, {@code gltf} or {@code fbx}
 * @param embedTextures inside the file; else in a {@code textures} folder beside it
 * @param embedBuffers for {@code gltf}: geometry inside the JSON; else a {@code .bin} beside it
 * @param transforms where the change of frame and the placement go
 * @param doubleSided show both sides of every material
 * @param influences most joints that move a vertex, a multiple of 4; 0 for all. FBX holds all.
 * @param packing what makes the file smaller; nothing when left out
 * @param fileName name of the file without ending, also for the files beside it; the crossing's
 *     name when left out
 * @param fbx what only FBX asks; the usual when left out, nothing for other formats
 * @param skinMove how far a vertex may move when joints are left out, in millimetres on something
 *     of a person's size, 1.75 m; more is a loss. 0.5 when left out
 * @param parts one file for each part; one file of everything when left out
 */
public record LandingOptions(
    String format,
    boolean embedTextures,
    boolean embedBuffers,
    Transforms transforms,
    boolean doubleSided,
    int influences,
    GltfPacking packing,
    String fileName,
    FbxLanding fbx,
    PartFiles parts,
    Double skinMove) {

  private static final Set<String> FORMATS = Set.of("glb", "gltf", "fbx");

  /** Where the change of frame goes. */
  public enum Transforms {
    /** All numbers change, nodes stay clean. */
    DATA,
    /** One root node carries it, numbers stay. */
    ROOT
  }

  public LandingOptions {
    if (!FORMATS.contains(format == null ? "" : format)) {
      throw new IllegalArgumentException("format must be glb, gltf or fbx, not \"" + format + "\"");
    }
    if (influences < 0 || influences % 4 != 0) {
      throw new IllegalArgumentException(
          "influences must be a multiple of 4, or 0 for all, not " + influences);
    }
    transforms = transforms == null ? Transforms.DATA : transforms;
    packing = packing == null ? GltfPacking.NONE : packing;
    parts = parts == null ? PartFiles.ONE : parts;
    skinMove = skinMove == null ? Double.valueOf(Budgets.USUAL_SKIN_MOVE) : skinMove;
    if (!(skinMove >= 0)) {
      throw new IllegalArgumentException("skinMove must be 0 or more millimetres, not " + skinMove);
    }
    fbx = !format.equals("fbx") ? null : fbx == null ? FbxLanding.USUAL : fbx;
    influences = fbx == null ? influences : 0;
  }

  /** Without packing. */
  public LandingOptions(
      String format,
      boolean embedTextures,
      boolean embedBuffers,
      Transforms transforms,
      boolean doubleSided,
      int influences) {
    this(
        format,
        embedTextures,
        embedBuffers,
        transforms,
        doubleSided,
        influences,
        null,
        null,
        null,
        null,
        null);
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
        fileName,
        fbx,
        parts,
        skinMove);
  }

  public LandingOptions withParts(PartFiles newParts) {
    return new LandingOptions(
        format,
        embedTextures,
        embedBuffers,
        transforms,
        doubleSided,
        influences,
        packing,
        fileName,
        fbx,
        newParts,
        skinMove);
  }

  /** FBX with everything inside. */
  public static LandingOptions fbx(FbxLanding fbx) {
    return new LandingOptions(
        "fbx", true, true, Transforms.DATA, false, 0, null, null, fbx, null, null);
  }

  /** Whether the landing of one scene is more than one file. */
  @JsonIgnore
  public boolean isSeveralFiles() {
    return !embedTextures || format.equals("gltf") && !embedBuffers;
  }

  /** What the landed file's numbers mean. */
  @JsonIgnore
  public Frame frame() {
    return fbx == null ? Frame.Y_UP_METRE : fbx.frame();
  }

  public static LandingOptions glb() {
    return new LandingOptions("glb", true, true, Transforms.DATA, false, 4);
  }
}
