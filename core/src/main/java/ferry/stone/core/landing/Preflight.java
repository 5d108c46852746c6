package ferry.stone.core.landing;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.flat.FittingLayers;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import java.util.Arrays;
import java.util.List;
import org.joml.Matrix4d;

/**
 * What no format can hold is found before anything is written: transforms and keys that are no
 * numbers refuse the landing; layers that are longer than their mesh are cut, those that are too
 * short are left out and told; so are second motions.
 */
final class Preflight {
  private Preflight() {}

  /**
   * The scene as it can be written.
   *
   * @throws FormatException with the part and what to do
   */
  static Scene check(Scene far, Findings findings) throws FormatException {
    List<String> paths = far.paths();
    if (!far.placement().isFinite()) {
      throw nowhere(far, "the placement of the whole scene", "steps that moved it");
    }
    for (int i = 0; i < paths.size(); i++) {
      Node node = far.nodes().get(i);
      Matrix4d own = node.transform().toMatrix();
      if (!own.isFinite() || !node.geometric().toMatrix().isFinite()) {
        throw nowhere(far, paths.get(i), "the part, or reset its transform");
      }
    }
    for (Clip clip : far.clips()) {
      for (Clip.Track track : clip.tracks()) {
        if (!finite(track.timesSeconds())
            || !finite(track.values())
            || !finite(track.inSlopes())
            || !finite(track.outSlopes())) {
          throw new FormatException(
              Kind.CORRUPT,
              far.name(),
              "clip " + clip.name() + ", " + track.property(),
              "keys hold values that are no numbers, so nothing was written. Remove the clip, or"
                  + " bring it again from the tool that made it.");
        }
      }
    }
    secondMotions(far).forEach(findings::add);
    return FittingLayers.of(
        far,
        (mesh, layer) ->
            findings.add(
                Finding.of(
                    "layer-does-not-fit",
                    Severity.FIX,
                    mesh.name() + ", " + layer.name(),
                    "The layer has fewer values than the mesh needs: it is left out.")));
  }

  /** What is said of motions that are kept for comparison. */
  static List<Finding> secondMotions(Scene far) {
    return far.secondMotions().stream()
        .map(
            cache ->
                Finding.of(
                    "second-motion-stays",
                    Severity.NOTE,
                    cache.name(),
                    "A second motion is for comparison: it does not land. Put it on to have it"
                        + " land."))
        .toList();
  }

  private static FormatException nowhere(Scene far, String place, String what) {
    return new FormatException(
        Kind.CORRUPT,
        far.name(),
        place,
        "its transform holds values that are no numbers, so no program could place it. Nothing was"
            + " written: remove "
            + what
            + ", then land again.");
  }

  private static boolean finite(double[] values) {
    return values == null || Arrays.stream(values).allMatch(Double::isFinite);
  }
}
