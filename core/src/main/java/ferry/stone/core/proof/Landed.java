package ferry.stone.core.proof;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.flat.ArrangedParts;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.format.losses.CapabilityTable;
import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.format.losses.ReadBack;
import ferry.stone.core.math.Frame;
import ferry.stone.core.shore.Tolerances;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.List;
import java.util.Map;

/**
 * What was written, and what was asked of the writer.
 *
 * @param files the written files
 * @param mainFile the one to open
 * @param frame what its numbers were to mean
 * @param table what its format can carry
 * @param holding how the format holds what it was given
 * @param findings of the writer
 * @param skinMove how far a vertex may move when joints are left out, in millimetres on something
 *     of a person's size
 * @param tolerances what the shore lets differ
 */
public record Landed(
    Resources files,
    String mainFile,
    Frame frame,
    CapabilityTable table,
    Holding holding,
    List<Finding> findings,
    double skinMove,
    Tolerances tolerances) {

  /** What becomes of a capability in this landing. */
  public Fate fate(Capability capability) {
    return holding.fate(capability);
  }

  /** Whether the writer said something. */
  public boolean said(String code) {
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
    return said("influences-reduced")
        ? Capability.INFLUENCES
        : said("vertices-given-a-joint")
            ? Capability.VERTICES_WITHOUT_JOINT
            : said(ArrangedParts.SHEARED)
                ? Capability.SHEAR
                : holding.isRounded() ? Capability.PACKING : null;
  }

  /**
   * The file as other readers see it.
   *
   * @param told takes what the reader had to leave out, guess or put right
   */
  ReadBack back(Findings told) throws IOException, FormatException {
    return holding.back(mainFile, new ReadContext(files, Map.of(), told, Progress.NONE));
  }
}
