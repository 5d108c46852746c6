package ferry.stone.core.proof;

import com.fasterxml.jackson.annotation.JsonIgnoreProperties;
import com.fasterxml.jackson.annotation.JsonProperty;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.FileTree;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.flat.Contents;
import ferry.stone.core.format.flat.FittingLayers;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.ReadBack;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.geometry.triangle.Triangulate;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.Frame;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.look.MaterialProof;
import ferry.stone.core.proof.value.KeptShapeProof;
import ferry.stone.core.proof.value.ValuesProof;
import ferry.stone.core.proof.value.WordsProof;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Beside;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;

/**
 * The written file read back and compared with the far side.
 *
 * @param file the file that was read back
 * @param bytes size of all landed files
 * @param readSeconds how long reading took
 * @param rows all facts
 * @param kept rows that arrived the same
 * @param changed rows that arrived in another form
 * @param lost rows that did not arrive
 * @param seenFrom metres from which it is seen, to which the rows' {@code seenWithin} is held;
 *     {@code null} in proofs before the third schema
 */
@JsonIgnoreProperties(
    value = {"schema", "within", "beyond"},
    allowGetters = true)
public record Proof(
    String file,
    long bytes,
    double readSeconds,
    List<LedgerRow> rows,
    int kept,
    int changed,
    int lost,
    Double seenFrom) {

  /** Form of a proof as JSON; proofs without a number are of the same form. */
  public static final int SCHEMA = 3;

  @JsonProperty("schema")
  public int schema() {
    return SCHEMA;
  }

  /** Rows that changed, and that the shore lets pass. */
  @JsonProperty("within")
  public int within() {
    return (int) rows.stream().filter(LedgerRow::isWithin).count();
  }

  /** Rows that changed by more than the shore lets pass. */
  @JsonProperty("beyond")
  public int beyond() {
    return (int) rows.stream().filter(LedgerRow::isBeyond).count();
  }

  /** Positions agree when they differ by less than this part of {@link #size}. */
  static final double POSITION_TOLERANCE = 2e-6;

  private static final double LEAST = 1e-6;

  /** How much of the distance from the origin counts: four steps of a 32-bit number. */
  private static final double ROUNDING = 4 * 0x1p-23 / POSITION_TOLERANCE;

  /**
   * @param near the scene as read
   * @param asked the scene after the handling
   * @param landed what was written
   * @param cargo the source files, for their textures
   */
  public static Proof of(Scene near, Scene asked, Landed landed, Resources cargo, Progress progress)
      throws IOException, FormatException {
    return of(near, asked, landed, cargo, Map.of(), progress);
  }

  /**
   * @param byHand paths of landed parts by those of the parts that they are
   */
  public static Proof of(
      Scene near,
      Scene asked,
      Landed landed,
      Resources cargo,
      Map<String, String> byHand,
      Progress progress)
      throws IOException, FormatException {
    Scene whole = FittingLayers.of(asked, (mesh, layer) -> {});
    Findings told = new Findings();
    Scene far;
    ReadBack back;
    double seconds;
    try (Beside beside = new Beside()) {
      Supplier<Scene> held = beside.give(() -> held(whole, landed));
      progress.report("reading back " + landed.mainFile(), 0);
      long start = System.nanoTime();
      back = landed.back(told);
      seconds = (System.nanoTime() - start) / 1e9;
      far = held.get();
    }
    Scene file = back.scene();
    progress.report("comparing", 0.3);
    // Both are compared in one frame, so that a wrong header shows as wrong sizes.
    Scene arrived = Rebase.intoData(cut(far, landed), Frame.Y_UP_METRE);
    Scene read = Rebase.intoData(file, Frame.Y_UP_METRE);
    Ledger ledger = new Ledger(Judge.of(landed.tolerances(), arrived.bounds()));
    whole(ledger, near, whole, arrived, read, file.frame(), landed);
    PartMatch match = new PartMatch(arrived, read, byHand);
    parts(ledger, near, far, arrived, read, back.tree().of(read), match, landed, progress);
    new RigProof(ledger, near, arrived, read, match, landed).run(progress);
    new CacheProof(ledger, near, arrived, read, match).run(landed, progress);
    new SequenceProof(ledger, arrived, read, match).run(landed, progress);
    new MaterialProof(ledger, near, arrived, read, match, cargo, landed).run(progress);
    ReadingProof.list(ledger, told);
    NotCarried.list(ledger, whole, landed);
    List<LedgerRow> rows = ledger.rows();
    Resources files = landed.files();
    long bytes = files.paths().stream().mapToLong(files::size).sum();
    return new Proof(
        CargoPath.name(landed.mainFile()),
        bytes,
        seconds,
        rows,
        count(rows, Verdict.KEPT),
        count(rows, Verdict.CHANGED),
        count(rows, Verdict.LOST),
        ledger.seenFrom());
  }

  /**
   * The proofs of several files as one.
   *
   * @param names of the files, which the rows stand under
   */
  public static Proof joined(List<Proof> proofs, List<String> names) {
    List<LedgerRow> rows = new ArrayList<>();
    long bytes = 0;
    double seconds = 0;
    for (int i = 0; i < proofs.size(); i++) {
      String name = names.get(i);
      proofs.get(i).rows().forEach(r -> rows.add(r.under(name + " · " + r.group())));
      bytes += proofs.get(i).bytes();
      seconds += proofs.get(i).readSeconds();
    }
    return new Proof(
        Figures.count(proofs.size(), "file"),
        bytes,
        seconds,
        rows,
        count(rows, Verdict.KEPT),
        count(rows, Verdict.CHANGED),
        count(rows, Verdict.LOST),
        null);
  }

  /** The far side as the format holds it. */
  private static Scene held(Scene whole, Landed landed) {
    Scene shaped = landed.holding().shaped(whole);
    return landed.holding().isFlat()
        ? landed.holding().held(cut(shaped, landed), landed.mainFile())
        : landed.holding().held(shaped, landed.mainFile());
  }

  /** The far side as it was written: cut into triangles where the landing was told to. */
  private static Scene cut(Scene far, Landed landed) {
    return landed.holding().isByPrimitives() || !landed.holding().isTriangulated()
        ? far
        : Triangulate.all(far);
  }

  private static int count(List<LedgerRow> rows, Verdict verdict) {
    return (int) rows.stream().filter(r -> r.verdict() == verdict).count();
  }

  private static void whole(
      Ledger ledger, Scene near, Scene handled, Scene far, Scene read, Frame found, Landed landed) {
    ledger.group("Whole scene");
    Bounds n = near.bounds();
    Bounds f = far.bounds();
    Bounds l = read.bounds();
    double size = size(far);
    Frame frame = near.frame();
    int up = frame.up().index();
    int front = frame.front().index();
    Capability why = landed.poses();
    boolean unused = landed.fate(Capability.UNUSED_VERTICES) == Capability.Fate.LOST;
    if (why == null && unused && new Contents(far).find(Capability.UNUSED_VERTICES).count() > 0) {
      why = Capability.UNUSED_VERTICES;
    }
    length(ledger, "Height", n.size(up), f.size(1), l.size(1), size, near, why);
    length(ledger, "Width", n.size(3 - up - front), f.size(0), l.size(0), size, near, why);
    length(ledger, "Depth", n.size(front), f.size(2), l.size(2), size, near, why);
    if (!f.isEmpty() && !l.isEmpty()) {
      length(ledger, "Lowest point", lowest(n, near), f.minY(), l.minY(), size, near, why);
      double off = f.centre().distance(l.centre());
      ledger
          .about(why)
          .off(off)
          .add(
              "Middle of the box",
              -1,
              n.isEmpty() ? "—" : vector(n.centre().x, n.centre().y, n.centre().z, ""),
              vector(f.centre().x, f.centre().y, f.centre().z, " m"),
              vector(l.centre().x, l.centre().y, l.centre().z, " m"),
              millimetres(off),
              verdict(off, size),
              "");
    }
    ledger.add(
        "Unit and axes",
        -1,
        near.unitSource() == FrameSource.ASSUMED ? "not stated" : frame.label(),
        landed.frame().equals(handled.frame()) ? "as they were" : "to " + landed.frame().label(),
        found.label(),
        found.equals(landed.frame()) ? "same" : "",
        found.equals(landed.frame()) ? Verdict.KEPT : Verdict.LOST,
        found.equals(landed.frame()) ? "" : "the file says " + found.label());
  }

  private static double lowest(Bounds bounds, Scene scene) {
    var up = scene.frame().up();
    return bounds.isEmpty() ? 0 : up.sign() > 0 ? bounds.min(up.index()) : -bounds.max(up.index());
  }

  private static void detailLevels(Ledger ledger, Scene near, Scene far, Scene read) {
    int wanted = levelGroups(far);
    if (wanted > 0 || levelGroups(read) > 0) {
      ledger
          .about(Capability.DETAIL_LEVELS)
          .count(
              "Groups of detail levels",
              -1,
              levelGroups(near),
              wanted,
              levelGroups(read),
              "levels came apart");
    }
  }

  private static int levelGroups(Scene scene) {
    return (int)
        scene.nodes().stream().filter(n -> n.content() instanceof Node.Content.DetailGroup).count();
  }

  private static void length(
      Ledger ledger,
      String fact,
      double near,
      double far,
      double landed,
      double size,
      Scene nearScene,
      Capability why) {
    double off = Math.abs(far - landed);
    boolean known = nearScene.unitSource() != FrameSource.ASSUMED;
    Double nearMetres = known ? near * nearScene.frame().metresPerUnit() : null;
    ledger.about(why).measure(new Measure(Measure.METRES, nearMetres, far, landed, off));
    String nearText =
        nearScene.unitSource() == FrameSource.ASSUMED
            ? Figures.plain(near) + " units"
            : Figures.length(near * nearScene.frame().metresPerUnit());
    ledger.add(
        fact,
        -1,
        nearText,
        Figures.length(far),
        Figures.length(landed),
        millimetres(off),
        verdict(off, size),
        "");
  }

  static String vector(double x, double y, double z, String unit) {
    return Figures.plain(round(x))
        + ", "
        + Figures.plain(round(y))
        + ", "
        + Figures.plain(round(z))
        + unit;
  }

  private static double round(double v) {
    return Math.abs(v) < 1e-9 ? 0 : v;
  }

  static String millimetres(double metres) {
    return String.format(java.util.Locale.ROOT, "%.3f mm", metres * 1000);
  }

  /**
   * What differences are measured by: the diagonal, and some of how far from the origin positions
   * stand, in the scene or in the numbers of a mesh.
   */
  static double size(Scene scene) {
    Bounds all = scene.bounds();
    if (all.isEmpty()) {
      return LEAST;
    }
    double far = all.farthest();
    for (Scene.ShownMesh shown : scene.shownMeshes()) {
      double scale = Math.cbrt(Math.abs(shown.world().determinant3x3()));
      far = Math.max(far, scale * shown.mesh().points().bounds().farthest());
    }
    return Math.max(all.diagonal() + ROUNDING * far, LEAST);
  }

  private static Verdict verdict(double off, double size) {
    return off <= POSITION_TOLERANCE * size ? Verdict.KEPT : Verdict.CHANGED;
  }

  private static void parts(
      Ledger ledger,
      Scene near,
      Scene handled,
      Scene far,
      Scene read,
      FileTree tree,
      PartMatch match,
      Landed landed,
      Progress progress)
      throws FormatException {
    ledger.group("Parts");
    double size = size(far);
    new TreeProof(ledger, near, handled, far, tree, landed, POSITION_TOLERANCE * size).run();
    detailLevels(ledger, near, far, read);
    ValuesProof.list(ledger, near, far, read, landed);
    WordsProof.list(ledger, near, far, read, landed);
    KeptShapeProof.list(ledger, near, far, read, landed);
    Map<Integer, PolygonMesh> nearMeshes = near.meshesById();
    List<Scene.ShownMesh> shown = far.shownMeshes();
    for (int i = 0; i < shown.size(); i++) {
      progress.checkCancelled();
      progress.report("comparing " + shown.get(i).node().name(), 0.3 + 0.5 * i / shown.size());
      ledger.group(shown.get(i).path());
      PolygonMesh before = nearMeshes.get(shown.get(i).mesh().id());
      new MeshProof(ledger, far, read, shown.get(i), match.landed(i), before, size, landed)
          .run(progress);
    }
  }
}
