package ferry.stone.core.proof;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.format.ArrangedParts;
import ferry.stone.core.format.Capability;
import ferry.stone.core.format.Capability.Fate;
import ferry.stone.core.format.CapabilityTable;
import ferry.stone.core.format.CargoPath;
import ferry.stone.core.format.FileTree;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.Resources;
import ferry.stone.core.format.fbx.FbxCapabilities;
import ferry.stone.core.format.fbx.FbxReader;
import ferry.stone.core.format.gltf.GltfCapabilities;
import ferry.stone.core.format.gltf.GltfPacking;
import ferry.stone.core.format.gltf.GltfReader;
import ferry.stone.core.format.gltf.GltfTree;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Scene;
import java.io.IOException;
import java.util.List;

/**
 * What was written, and what was asked of the writer.
 *
 * @param files the written files
 * @param mainFile the one to open
 * @param frame what its numbers were to mean
 * @param packing how a glTF was packed; {@code null} for formats that hold polygons as they are
 * @param triangulated whether faces were cut into triangles before they were written
 * @param baked whether pivots and inherited scales were baked, as chosen
 * @param findings of the writer
 * @param skinMove how far a vertex may move when joints are left out, in millimetres on something
 *     of a person's size
 */
public record Landed(
    Resources files,
    String mainFile,
    Frame frame,
    GltfPacking packing,
    boolean triangulated,
    boolean baked,
    List<Finding> findings,
    double skinMove) {

  /** A glTF. */
  public static Landed gltf(
      Resources files,
      String mainFile,
      GltfPacking packing,
      List<Finding> findings,
      double skinMove) {
    return new Landed(files, mainFile, Frame.Y_UP_METRE, packing, true, false, findings, skinMove);
  }

  /** A format that holds polygons. */
  public static Landed polygons(
      Resources files,
      String mainFile,
      Frame frame,
      boolean triangulated,
      boolean baked,
      List<Finding> findings) {
    return new Landed(files, mainFile, frame, null, triangulated, baked, findings, 0);
  }

  boolean isGltf() {
    return packing != null;
  }

  /** The format's name for people. */
  String format() {
    return isGltf() ? "glTF" : CargoPath.extension(mainFile).toUpperCase(java.util.Locale.ROOT);
  }

  /** What becomes of a capability in this landing. */
  Fate fate(Capability capability) {
    boolean plain = capability == Capability.PIVOTS || capability == Capability.INHERITED_SCALE;
    return baked && plain ? Fate.CHANGED : table().of(capability).written();
  }

  CapabilityTable table() {
    return isGltf() ? GltfCapabilities.TABLE : FbxCapabilities.TABLE;
  }

  /** Whether the writer said something. */
  boolean said(String code) {
    return findings.stream().anyMatch(f -> f.code().equals(code));
  }

  /** How the writer had to arrange the hierarchy, or {@code null}. */
  Capability arrangement() {
    return said("copies-gathered")
        ? Capability.PACKING
        : said("skinned-at-top")
            ? Capability.SKINNED_BELOW
            : said("skeleton-root-added") ? Capability.JOINTS_APART : null;
  }

  /** Why vertices may not stand where they stood, or {@code null}. */
  Capability poses() {
    boolean rounded = packing != null && packing.quantized();
    return said("influences-reduced")
        ? Capability.INFLUENCES
        : said("vertices-given-a-joint")
            ? Capability.VERTICES_WITHOUT_JOINT
            : said(ArrangedParts.SHEARED) ? Capability.SHEAR : rounded ? Capability.PACKING : null;
  }

  /** The file as other readers see it: they know no shear in a glTF. */
  Scene read() throws IOException, FormatException {
    return isGltf()
        ? GltfTree.viewed(GltfReader.read(mainFile, ReadContext.of(files)))
        : FbxReader.read(mainFile, ReadContext.of(files));
  }

  /**
   * The file's hierarchy as other readers list it.
   *
   * @param read what was read here, in metres with Y up
   */
  FileTree tree(Scene read) throws IOException, FormatException {
    return isGltf() ? GltfTree.read(mainFile, files) : FileTree.of(read);
  }
}
