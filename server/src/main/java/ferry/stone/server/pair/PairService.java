package ferry.stone.server.pair;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.handover.HandoverPage;
import ferry.stone.core.handover.PageAsset;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.proof.pair.PairProof;
import ferry.stone.core.proof.pair.PairProof.How;
import ferry.stone.core.report.Apart;
import ferry.stone.core.report.Report;
import ferry.stone.core.report.ReportSide;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.view.picture.ViewFrom;
import ferry.stone.core.work.Progress;
import ferry.stone.core.work.Release;
import ferry.stone.server.crossing.CrossingService;
import ferry.stone.server.crossing.SceneService;
import ferry.stone.server.crossing.StateService;
import ferry.stone.server.jobs.JobService;
import ferry.stone.server.web.Attachments;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.lang.ref.SoftReference;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.springframework.stereotype.Service;

/** Two crossings as any two files: each as it was read, or as a state of its handling has it. */
@Service
public class PairService {
  private final CrossingService crossings;
  private final SceneService scenes;
  private final StateService states;
  private final JobService jobs;
  private volatile Held last;

  public PairService(
      CrossingService crossings, SceneService scenes, StateService states, JobService jobs) {
    this.crossings = crossings;
    this.scenes = scenes;
    this.states = states;
    this.jobs = jobs;
  }

  /**
   * What is compared.
   *
   * @param state as {@link StateService} names it: {@code near}, {@code now} …
   */
  public record Side(String crossing, String state) {}

  /**
   * @param firstParts paths of the parts with a shape
   * @param secondParts likewise
   * @param firstClips names of its clips
   * @param secondClips likewise
   */
  public record Compared(
      Proof proof,
      List<String> firstParts,
      List<String> secondParts,
      List<String> firstClips,
      List<String> secondClips) {}

  public Compared compare(Side first, Side second, How how) throws IOException, FormatException {
    PairProof.Side a = side(first);
    PairProof.Side b = side(second);
    check(a, b, how);
    Proof proof = proof(second.crossing(), a, b, how);
    return new Compared(
        proof, parts(a.scene()), parts(b.scene()), clips(a.scene()), clips(b.scene()));
  }

  /** As work that is seen and can be cancelled. */
  private Proof proof(String crossing, PairProof.Side a, PairProof.Side b, How how)
      throws IOException, FormatException {
    List<Proof> proof = new ArrayList<>();
    List<FormatException> refused = new ArrayList<>();
    try {
      jobs.here(
          "compare",
          crossing,
          "Comparing " + a.name() + " and " + b.name(),
          progress -> {
            try {
              proof.add(PairProof.of(a, b, how, progress));
            } catch (IOException e) {
              throw new UncheckedIOException(e);
            } catch (FormatException e) {
              refused.add(e);
            }
          });
    } catch (UncheckedIOException e) {
      throw e.getCause();
    }
    if (!refused.isEmpty()) {
      throw refused.get(0);
    }
    return proof.get(0);
  }

  /** A page of it to hand over. */
  public String page(Side first, Side second, How how) throws IOException, FormatException {
    PairProof.Side a = side(first);
    PairProof.Side b = side(second);
    check(a, b, how);
    Map<String, String> settings = new LinkedHashMap<>();
    settings.put("Stands", how.together().name().toLowerCase(Locale.ROOT).replace('_', ' '));
    settings.put("First", first.state());
    settings.put("Second", second.state());
    how.byHand().forEach((one, other) -> settings.put("Part " + one, other));
    if (!how.firstClip().isEmpty()) {
      settings.put("Takes", how.firstClip() + " against " + how.secondClip());
    }
    return new Report(
            Report.Kind.PAIR,
            b.name() + " against " + a.name(),
            "Made by Stone Ferry " + Release.VERSION,
            proof(second.crossing(), a, b, how),
            report("first, " + a.name(), a),
            report("second, " + b.name(), b),
            new Report.Against(a.scene(), how),
            settings)
        .html(Progress.NONE);
  }

  /** Both in one page, with the seam between them. */
  public void seam(Side first, Side second, How how, Attachments.Target target)
      throws IOException, FormatException {
    PairProof.Side a = side(first);
    PairProof.Side b = side(second);
    check(a, b, how);
    Proof proof = proof(second.crossing(), a, b, how);
    try (PageAsset one = asset("first", a);
        PageAsset other = asset("second", b)) {
      String made = "Made by Stone Ferry " + Release.VERSION;
      new HandoverPage(b.name() + " against " + a.name(), made, List.of(one, other), proof)
          .write(target.open(), Progress.NONE);
    }
  }

  private static PageAsset asset(String label, PairProof.Side side)
      throws IOException, FormatException {
    return PageAsset.made(label, side.name(), side.scene(), side.files(), null, Progress.NONE);
  }

  private static ReportSide report(String label, PairProof.Side side) throws IOException {
    List<String> paths = new ArrayList<>(side.files().paths());
    return new ReportSide(label, side.scene(), side.files(), ReportSide.facts(side.files(), paths));
  }

  private PairProof.Side side(Side side) throws IOException, FormatException {
    String name = crossings.get(side.crossing()).name();
    Scene scene = states.scene(side.crossing(), side.state());
    boolean asRead = side.state().equals("near");
    return new PairProof.Side(scene, scenes.scenes(side.crossing()).cargo(), name, asRead);
  }

  /**
   * A picture of the second in the colours of how far it lies from the first, as PNG.
   *
   * @param part path of a part of the first, which is shown alone; empty for all
   */
  public byte[] apart(
      Side first, Side second, How how, String part, ViewFrom from, int width, int height)
      throws IOException, FormatException {
    PairProof.Side a = side(first);
    PairProof.Side b = side(second);
    check(a, b, how);
    Held held = last;
    if (held == null || !held.isOf(a.scene(), b.scene(), how)) {
      held = new Held(a.scene(), b.scene(), how, new SoftReference<>(apart(second, a, b, how)));
      last = held;
    }
    Apart apart = held.apart.get();
    apart = apart == null ? apart(second, a, b, how) : apart;
    String only = part.isEmpty() ? null : part;
    return ImageCodec.encodePng(apart.taken(from, width, height, only, Progress.NONE));
  }

  private Apart apart(Side second, PairProof.Side a, PairProof.Side b, How how) {
    List<Apart> made = new ArrayList<>();
    jobs.here(
        "compare",
        second.crossing(),
        "Drawing where " + a.name() + " and " + b.name() + " lie apart",
        progress -> made.add(Apart.of(a.scene(), b.scene(), b.files(), how, progress)));
    return made.get(0);
  }

  /** What was held against what last: its pictures are asked for one by one. */
  private record Held(Scene first, Scene second, How how, SoftReference<Apart> apart) {
    boolean isOf(Scene a, Scene b, How otherHow) {
      return first == a && second == b && how.equals(otherHow);
    }
  }

  private static List<String> clips(Scene scene) {
    return scene.clips().stream().map(Clip::name).distinct().toList();
  }

  private static List<String> parts(Scene scene) {
    return scene.shownMeshes().stream().map(Scene.ShownMesh::path).distinct().toList();
  }

  private static void check(PairProof.Side a, PairProof.Side b, How how) {
    how.byHand()
        .forEach(
            (one, other) -> {
              if (!parts(a.scene()).contains(one) || !parts(b.scene()).contains(other)) {
                throw new IllegalArgumentException(
                    "match names a part that is not there: \"" + one + "\" or \"" + other + "\".");
              }
            });
  }
}
