package ferry.stone.core.handling;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.MeshSequence;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/**
 * Meshes that change over time, after a step: what a step did to the surface at one moment does not
 * count for the others, so such a mesh stays as the step left it, and that is said.
 */
final class Sequences {
  private Sequences() {}

  static StepResult after(Scene before, StepResult result) {
    Scene scene = result.scene();
    if (scene.sequences().isEmpty()) {
      return result;
    }
    Map<Integer, PolygonMesh> old = before.meshesById();
    Map<Integer, PolygonMesh> now = scene.meshesById();
    List<MeshSequence> kept = new ArrayList<>();
    List<Finding> findings = new ArrayList<>(result.findings());
    for (MeshSequence sequence : scene.sequences()) {
      PolygonMesh was = old.get(sequence.meshId());
      PolygonMesh is = now.get(sequence.meshId());
      boolean followed = !before.sequences().contains(sequence);
      boolean same = was != null && is != null && alike(was, is);
      if (is != null && (followed || same)) {
        kept.add(sequence);
      } else if (is != null) {
        findings.add(
            Finding.of(
                    "changing-mesh-stilled",
                    Severity.LOOK,
                    is.name(),
                    "The step works on the mesh as it is at its first moment: it does not change"
                        + " over time any more.")
                .measured(sequence.sampleCount() + " samples"));
      }
    }
    return kept.size() == scene.sequences().size()
        ? result
        : new StepResult(scene.toBuilder().sequences(kept).build(), findings, result.figure());
  }

  /** Whether the surface is the same, whatever it is dressed in. */
  private static boolean alike(PolygonMesh was, PolygonMesh is) {
    return was.points() == is.points()
        && was.faces() == is.faces()
        && was.loose() == is.loose()
        && was.attributes().equals(is.attributes());
  }
}
