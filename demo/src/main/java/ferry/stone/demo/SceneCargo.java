package ferry.stone.demo;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.abc.write.AbcOptions;
import ferry.stone.core.format.abc.write.AbcWriter;
import ferry.stone.core.format.fbx.write.FbxOptions;
import ferry.stone.core.format.fbx.write.FbxWriter;
import ferry.stone.core.format.files.MemoryFiles;
import ferry.stone.core.format.files.Output;
import ferry.stone.core.format.gltf.write.GltfOptions;
import ferry.stone.core.format.gltf.write.GltfWriter;
import ferry.stone.core.format.usd.write.UsdOptions;
import ferry.stone.core.format.usd.write.UsdWriter;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.Handedness;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.Map;

/** Writes scenes that were built in centimetres with Z up as glTF or FBX. */
final class SceneCargo {
  /** How the shapes are built: centimetres, +Z up, −Y to the front. */
  static final Frame BUILT =
      new Frame(0.01, SignedAxis.PLUS_Z, SignedAxis.MINUS_Y, Handedness.RIGHT);

  private SceneCargo() {}

  /**
   * @param files textures that the scene names
   */
  static void write(
      Scene built, GltfOptions options, String stem, Map<String, byte[]> files, Output output)
      throws IOException {
    Scene framed = built.toBuilder().frame(BUILT, FrameSource.CHOSEN, FrameSource.CHOSEN).build();
    try {
      GltfWriter.write(
          Rebase.intoData(framed, Frame.Y_UP_METRE),
          options,
          stem,
          new MemoryFiles(files),
          output,
          new Findings(),
          Progress.NONE);
    } catch (FormatException e) {
      throw new IOException(e);
    }
  }

  /**
   * As FBX in the frame that they were built in.
   *
   * @param files textures that the scene names
   */
  static void writeFbx(
      Scene built, FbxOptions options, String stem, Map<String, byte[]> files, Output output)
      throws IOException {
    writeFbx(built, BUILT, options, stem, files, output);
  }

  /** As FBX whose header says another frame than the numbers are in. */
  static void writeFbx(
      Scene built,
      Frame said,
      FbxOptions options,
      String stem,
      Map<String, byte[]> files,
      Output output)
      throws IOException {
    Scene framed = built.toBuilder().frame(said, FrameSource.CHOSEN, FrameSource.CHOSEN).build();
    try {
      FbxWriter.write(
          framed, options, stem, new MemoryFiles(files), output, new Findings(), Progress.NONE);
    } catch (FormatException e) {
      throw new IOException(e);
    }
  }

  /** As Alembic, in the numbers that they were built in. */
  static void writeAbc(Scene built, AbcOptions options, String stem, Output output)
      throws IOException {
    try {
      AbcWriter.write(
          built,
          options,
          new SceneWriter.Target(
              stem, new MemoryFiles(Map.of()), output, new Findings(), Progress.NONE));
    } catch (FormatException e) {
      throw new IOException(e);
    }
  }

  /**
   * As a crate, in the numbers that they were built in.
   *
   * @param files textures that the scene names
   */
  static void writeUsd(Scene built, String stem, Map<String, byte[]> files, Output output)
      throws IOException {
    Scene framed = built.toBuilder().frame(BUILT, FrameSource.CHOSEN, FrameSource.CHOSEN).build();
    try {
      UsdWriter.write(
          framed,
          new UsdOptions(UsdOptions.Container.CRATE, 0, "", true),
          new SceneWriter.Target(
              stem, new MemoryFiles(files), output, new Findings(), Progress.NONE));
    } catch (FormatException e) {
      throw new IOException(e);
    }
  }
}
