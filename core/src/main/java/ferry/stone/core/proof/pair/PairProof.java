package ferry.stone.core.proof.pair;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.CapabilityTable;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Frame;
import ferry.stone.core.proof.Landed;
import ferry.stone.core.proof.Ledger;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.PartMatch;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.shore.Tolerances;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * Whether two files are the same asset: the second is held against the first, fact by fact, as a
 * landing is held against what was to land. Nothing of the second is expected to be lost.
 */
public final class PairProof {
  /**
   * @param together how the second is put on the spot of the first before they are compared
   * @param byHand paths of parts of the second by those of the parts of the first that they are
   * @param tolerances what may differ
   * @param firstClip the only clip of the first that is compared, as a take against a take; empty
   *     for all of them, by their names
   * @param secondClip the clip of the second that it is held against
   */
  public record How(
      Together together,
      Map<String, String> byHand,
      Tolerances tolerances,
      String firstClip,
      String secondClip) {
    public static final How USUAL =
        new How(Together.AS_THEY_ARE, Map.of(), Tolerances.NONE, "", "");

    public How {
      if (firstClip.isEmpty() != secondClip.isEmpty()) {
        throw new IllegalArgumentException(
            "A take is held against a take: name a clip of both, or of neither.");
      }
    }

    public How with(Together newTogether) {
      return new How(newTogether, byHand, tolerances, firstClip, secondClip);
    }

    public How with(Map<String, String> newByHand) {
      return new How(together, newByHand, tolerances, firstClip, secondClip);
    }

    public How with(Tolerances newTolerances) {
      return new How(together, byHand, newTolerances, firstClip, secondClip);
    }

    public How withTakes(String first, String second) {
      return new How(together, byHand, tolerances, first, second);
    }
  }

  /** Where the second asset stands when it is compared. */
  public enum Together {
    /** Where it says. */
    AS_THEY_ARE,
    /** The origins of both first roots on one spot. */
    ROOTS,
    /** The middles of the bases of both boxes on one spot. */
    BASES
  }

  /**
   * @param scene as it was read, in the frame that it is taken to have
   * @param files for its textures
   * @param name of the asset
   * @param isFile whether the scene is what the files say, and not what handling made of it
   */
  public record Side(Scene scene, Resources files, String name, boolean isFile) {
    public Side(Scene scene, Resources files, String name) {
      this(scene, files, name, true);
    }
  }

  private final Side first;
  private final Scene second;
  private final Side other;
  private final How how;

  private PairProof(Side first, Side second, How how) {
    this.first =
        new Side(take(first, how.firstClip, how.firstClip), first.files, first.name, first.isFile);
    this.other = second;
    this.how = how;
    this.second = placed(first.scene, take(second, how.secondClip, how.firstClip), how.together);
  }

  /** All facts; what only the second has is listed too. */
  public static Proof of(Side first, Side second, How how, Progress progress)
      throws IOException, FormatException {
    return new PairProof(first, second, how).proof(progress);
  }

  private Proof proof(Progress progress) throws IOException, FormatException {
    Landed landed =
        new Landed(
            other.files,
            other.name,
            second.frame(),
            CapabilityTable.named("pair", "the second file", "").kept(Capability.values()).build(),
            new AsItIs(second),
            List.of(),
            0,
            how.tolerances);
    Proof plain = Proof.of(first.scene, first.scene, landed, first.files, how.byHand, progress);
    List<LedgerRow> rows = new ArrayList<>();
    for (LedgerRow row : plain.rows()) {
      rows.add(row.fact().equals("Unit and axes") ? frames() : row);
    }
    Scene a = Rebase.intoData(first.scene, Frame.Y_UP_METRE);
    Ledger more = Ledger.judged(how.tolerances, a.bounds());
    Scene b = Rebase.intoData(second, Frame.Y_UP_METRE);
    PartMatch match = new PartMatch(a, b, how.byHand);
    matches(more, match);
    WeightsProof.list(more, a, b, match);
    NodeAxes.list(more, a, b);
    OnlySecond.list(more, a, b, match);
    RulesProof.list(more, first, other);
    rows.addAll(more.rows());
    return new Proof(
        other.name,
        plain.bytes(),
        plain.readSeconds(),
        List.copyOf(rows),
        count(rows, Verdict.KEPT),
        count(rows, Verdict.CHANGED),
        count(rows, Verdict.LOST),
        plain.seenFrom());
  }

  private static int count(List<LedgerRow> rows, Verdict verdict) {
    return (int) rows.stream().filter(r -> r.verdict() == verdict).count();
  }

  private LedgerRow frames() {
    Ledger ledger = new Ledger();
    ledger.group("Whole scene");
    boolean same = first.scene.frame().equals(second.frame());
    ledger.add(
        "Unit and axes",
        -1,
        frame(first.scene),
        frame(first.scene),
        frame(second),
        same ? "same" : "",
        same ? Verdict.KEPT : Verdict.CHANGED,
        same ? "" : "both are compared in metres with Y up");
    return ledger.rows().get(0);
  }

  private static String frame(Scene scene) {
    boolean assumed = scene.unitSource() == FrameSource.ASSUMED;
    return scene.frame().label() + (assumed ? ", not stated" : "");
  }

  /** How parts were found that are not where their path says, and what only the second has. */
  private static void matches(Ledger ledger, PartMatch match) {
    List<Scene.ShownMesh> wanted = match.wanted();
    for (int i = 0; i < wanted.size(); i++) {
      Scene.ShownMesh found = match.landed(i);
      if (found != null && match.how(i) != PartMatch.How.PATH) {
        ledger.group(wanted.get(i).path());
        ledger.add(
            "Compared with",
            wanted.get(i).node().id(),
            wanted.get(i).path(),
            wanted.get(i).path(),
            found.path(),
            "",
            found.path().equals(wanted.get(i).path()) ? Verdict.KEPT : Verdict.CHANGED,
            "found " + match.how(i).words());
      }
    }
    for (Scene.ShownMesh more : match.more()) {
      ledger.group(more.path());
      ledger.add("Part", -1, "—", "—", "yes", "", Verdict.CHANGED, "only the second file has it");
    }
  }

  /** The side with one clip alone, under a name. */
  private static Scene take(Side side, String clip, String name) {
    if (clip.isEmpty()) {
      return side.scene;
    }
    Clip taken =
        side.scene.clips().stream()
            .filter(c -> c.name().equals(clip))
            .findFirst()
            .orElseThrow(
                () ->
                    new IllegalArgumentException(
                        side.name
                            + " has no clip \""
                            + clip
                            + "\"; it has "
                            + (side.scene.clips().isEmpty()
                                ? "none"
                                : side.scene.clips().stream()
                                    .map(Clip::name)
                                    .collect(Collectors.joining(", ")))
                            + "."));
    return side.scene.toBuilder().clips(List.of(taken.withName(name))).build();
  }

  /** The second in its own frame, put on the spot of the first. */
  public static Scene placed(Scene a, Scene b, Together together) {
    if (together == Together.AS_THEY_ARE || a.nodes().isEmpty() || b.nodes().isEmpty()) {
      return b;
    }
    Vector3d from = spot(b, together);
    Vector3d to = spot(a, together);
    if (from == null || to == null) {
      return b;
    }
    Vector3d by = Frame.Y_UP_METRE.matrixTo(b.frame()).transformDirection(to.sub(from));
    Matrix4d placement = new Matrix4d().translation(by).mul(b.placement());
    return b.toBuilder().placement(placement).build();
  }

  /** In metres with Y up; {@code null} for an empty box. */
  private static Vector3d spot(Scene scene, Together together) {
    Matrix4d out = scene.frame().matrixTo(Frame.Y_UP_METRE);
    if (together == Together.ROOTS) {
      return out.transformPosition(scene.worldMatrices()[0].getTranslation(new Vector3d()));
    }
    Bounds box = scene.bounds().transform(out);
    return box.isEmpty() ? null : new Vector3d(box.centre().x(), box.minY(), box.centre().z());
  }
}
