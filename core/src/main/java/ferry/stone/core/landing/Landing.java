package ferry.stone.core.landing;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Output;
import ferry.stone.core.format.Resources;
import ferry.stone.core.format.gltf.GltfOptions;
import ferry.stone.core.format.gltf.GltfWriter;
import ferry.stone.core.geometry.Rebase;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.List;

/**
 * What was written.
 *
 * @param mainFile the file to open
 * @param findings what the writer changed or could not carry
 */
public record Landing(String mainFile, List<Finding> findings) {

  /** Carries a far side into the shore's frame and writes it. */
  public static Landing write(
      Scene far,
      LandingOptions options,
      String stem,
      Resources resources,
      Output output,
      Progress progress)
      throws IOException, FormatException {
    Findings findings = new Findings();
    progress.report("changing units and axes", 0);
    Scene arrived =
        options.transforms() == LandingOptions.Transforms.DATA
            ? Rebase.intoData(far, Frame.Y_UP_METRE)
            : Rebase.onRoot(far, Frame.Y_UP_METRE);
    GltfOptions gltf =
        new GltfOptions(
            options.format().equals("glb") ? GltfOptions.Container.GLB : GltfOptions.Container.GLTF,
            options.embedTextures(),
            options.embedBuffers(),
            options.doubleSided(),
            options.influences(),
            options.packing());
    String main =
        GltfWriter.write(arrived, gltf, stem, resources, output, findings, progress.part(0.05, 1));
    return new Landing(main, findings.list());
  }

  /** A file name stem of a crossing's name: no path, no character that file systems refuse. */
  public static String stem(String name) {
    String clean =
        name.strip().replaceAll("[\\\\/:*?\"<>|\\p{Cntrl}]+", "_").replaceAll("\\s+", "_");
    clean = clean.replaceAll("^[._]+|[._]+$", "");
    return clean.isEmpty() ? "landed" : clean.length() > 80 ? clean.substring(0, 80) : clean;
  }
}
