package ferry.stone.core.proof;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.format.CargoPath;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.Resources;
import ferry.stone.core.format.fbx.FbxReader;
import ferry.stone.core.format.gltf.GltfPacking;
import ferry.stone.core.format.gltf.GltfReader;
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
 * @param findings of the writer
 */
public record Landed(
    Resources files,
    String mainFile,
    Frame frame,
    GltfPacking packing,
    boolean triangulated,
    List<Finding> findings) {

  /** A glTF. */
  public static Landed gltf(
      Resources files, String mainFile, GltfPacking packing, List<Finding> findings) {
    return new Landed(files, mainFile, Frame.Y_UP_METRE, packing, true, findings);
  }

  /** A format that holds polygons. */
  public static Landed polygons(
      Resources files, String mainFile, Frame frame, boolean triangulated, List<Finding> findings) {
    return new Landed(files, mainFile, frame, null, triangulated, findings);
  }

  boolean isGltf() {
    return packing != null;
  }

  /** The format's name for people. */
  String format() {
    return isGltf() ? "glTF" : CargoPath.extension(mainFile).toUpperCase(java.util.Locale.ROOT);
  }

  Scene read() throws IOException, FormatException {
    return isGltf()
        ? GltfReader.read(mainFile, ReadContext.of(files))
        : FbxReader.read(mainFile, ReadContext.of(files));
  }
}
