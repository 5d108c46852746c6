package ferry.stone.core.survey;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Marks;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.geometry.mesh.DuplicateFaces;
import ferry.stone.core.geometry.mesh.EdgeTable;
import ferry.stone.core.geometry.mesh.FaceTurns;
import ferry.stone.core.geometry.mesh.Holes;
import ferry.stone.core.geometry.mesh.MeshClean;
import ferry.stone.core.geometry.mesh.Pieces;
import ferry.stone.core.geometry.mesh.Weld;
import ferry.stone.core.geometry.triangle.FaceSizes;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.work.Beside;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;

/** Surface checks of one shown mesh, all in about linear time. */
final class MeshChecks {

  /** Coincident means closer than about this part of the mesh's size. */
  private static final double WELD_PART = 3e-5;

  /** Faces from which it pays to use another core. */
  private static final int MANY = 20_000;

  /** A ring of open edges up to this part of the mesh's size is a hole, not an outline. */
  private static final double HOLE_PART = 0.25;

  private final Scene.ShownMesh shown;
  private final PolygonMesh mesh;
  private final Polygons faces;
  private final Coordinates points;
  private final Findings findings;
  private final MeshReport report;

  private final double metresPerUnit;
  private final boolean splitsAtSeams;
  private final Skin skin;
  private final SurveyMemo memo;
  private EdgeTable edgeTable;
  private Pieces pieces;
  private int[] place;

  /** With vertices at one place as one. */
  private Pieces placed;

  private MeshChecks(
      Scene scene, Scene.ShownMesh shown, Skin skin, double metresPerUnit, SurveyMemo memo) {
    this.memo = memo;
    this.shown = shown;
    this.skin = skin;
    findings = new Findings();
    report = new MeshReport(shown, findings);
    // Formats with one index a vertex have to repeat vertices wherever UVs or normals differ.
    splitsAtSeams = scene.uvOrigin() == UvOrigin.TOP_LEFT;
    double scale = Math.cbrt(Math.abs(shown.world().determinant3x3()));
    this.metresPerUnit = metresPerUnit * (scale > 0 ? scale : 1);
    mesh = shown.mesh();
    faces = mesh.faces();
    points = mesh.points();
  }

  /**
   * What is wrong with a mesh where a node shows it.
   *
   * @param metresPerUnit of the scene, as the evidence reads it
   * @param memo is told what the mesh holds, which comes to light on the way
   */
  static List<Finding> of(
      Scene scene, Scene.ShownMesh shown, Skin skin, double metresPerUnit, SurveyMemo memo) {
    MeshChecks checks = new MeshChecks(scene, shown, skin, metresPerUnit, memo);
    checks.run();
    return checks.findings.list();
  }

  private void run() {
    try (Beside beside = new Beside()) {
      Findings normals = new Findings();
      Findings uvs = new Findings();
      Supplier<FaceSizes> sizes = given(beside, () -> new LayerChecks(shown, normals).normals());
      Supplier<Findings> layers = given(beside, () -> uvs(uvs));
      Supplier<Findings> materials = given(beside, this::materials);
      Supplier<Pieces> byVertex = given(beside, () -> Pieces.byVertex(faces, points.count()));
      Supplier<int[]> places = given(beside, () -> Pieces.firstAtSamePlace(points));
      notNumbers();
      edgeTable = EdgeTable.of(faces, points.count());
      Supplier<FaceTurns> turns = given(beside, this::turns);
      Supplier<IntList> duplicates = given(beside, () -> DuplicateFaces.find(faces, edgeTable));
      place = places.get();
      pieces = byVertex.get();
      Supplier<Inventory.MeshFacts> facts =
          given(beside, () -> Inventory.facts(mesh, edgeTable, pieces.count()));
      placed = isApart() ? pieces : Pieces.byPlace(faces, place);
      edges(turns, sizes);
      IntList unused = MeshClean.unused(mesh);
      badFaces(sizes.get().flat(), duplicates.get());
      unusedVertices(unused);
      memo.facts(mesh, facts.get());
      pieces();
      findings.addAll(layers.get().list());
      findings.addAll(normals.list());
      findings.addAll(materials.get().list());
    }
  }

  /** Gives work to any core where there is much of it; where there is little it is done at once. */
  private <T> Supplier<T> given(Beside beside, Supplier<T> work) {
    if (faces.faceCount() >= MANY) {
      return beside.give(work);
    }
    T done = work.get();
    return () -> done;
  }

  private Findings uvs(Findings found) {
    new LayerChecks(shown, found).uvs();
    return found;
  }

  private void notNumbers() {
    IntList bad = new IntList(16);
    for (int v = 0; v < points.count(); v++) {
      if (!Double.isFinite(points.x(v) + points.y(v) + points.z(v))) {
        bad.add(v);
      }
    }
    report.elements(
        "not-a-number",
        Severity.FIX,
        bad,
        1,
        Marks.Kind.VERTICES,
        "vertex",
        "Positions that are not numbers: faces at them cannot be written.",
        remove("brokenVertices"));
  }

  private void edges(Supplier<FaceTurns> turns, Supplier<FaceSizes> sizes) {
    EdgeTable table = edgeTable;
    IntList open = new IntList(64);
    IntList crowded = new IntList(64);
    IntList opposed = new IntList(64);
    for (int e = 0; e < table.count(); e++) {
      int uses = table.uses(e);
      if (uses == 2) {
        int a = faces.vertex(table.corner(e, 0));
        int b = faces.vertex(table.corner(e, 1));
        if (a == b) {
          opposed.add(table.low(e));
          opposed.add(table.high(e));
        }
      } else {
        IntList list = uses == 1 ? open : crowded;
        list.add(table.low(e));
        list.add(table.high(e));
      }
    }
    int joined = open.size() == 0 ? 0 : joinedOnBorders();
    reportOpen(open, seamCount(open, place), joined, sizes);
    report.elements(
        "non-manifold-edges",
        Severity.FIX,
        crowded,
        2,
        Marks.Kind.EDGES,
        "edge",
        "Edges shared by more than two faces: collisions, baking and printing stumble over them.",
        Offer.step("Cut them apart", "cutApart", Map.of()));
    report.elements(
        "opposed-faces",
        Severity.FIX,
        opposed,
        2,
        Marks.Kind.EDGES,
        "edge",
        "Neighbouring faces are wound against each other: one of the two shows its back.",
        Offer.step("Make faces agree", "unify", Map.of()));
    insideOut(turns.get(), opposed.size() > 0);
    coincident(joined);
  }

  /** Whether no two vertices stand at one place. */
  private boolean isApart() {
    for (int v = 0; v < place.length; v++) {
      if (place[v] != v) {
        return false;
      }
    }
    return true;
  }

  private FaceTurns turns() {
    double distance = seamMillimetres();
    return splitsAtSeams || distance == 0
        ? FaceTurns.of(mesh, edgeTable)
        : FaceTurns.acrossSeams(mesh, distance / 1000 / metresPerUnit, edgeTable);
  }

  /** Closed pieces whose volume is below 0, and panels turned against those beside them. */
  private void insideOut(FaceTurns turns, boolean told) {
    double distance = seamMillimetres();
    IntList turned = new IntList(64);
    for (int f = turns.turn().nextSetBit(0); f >= 0; f = turns.turn().nextSetBit(f + 1)) {
      turned.add(f);
    }
    if (turned.size() == 0 || told && turns.insideOut() == 0) {
      return;
    }
    boolean closed = turns.insideOut() > 0;
    findings.add(
        Finding.of(
                closed ? "inside-out" : "panels-opposed",
                Severity.FIX,
                shown.path(),
                closed
                    ? "Closed pieces are inside out: their backs are outside."
                    : "A panel shows its back where the panels beside it show their front.")
            .measured(
                closed
                    ? Figures.count(turns.insideOut(), "piece")
                    : Figures.count(turned.size(), "face"))
            .at(report.node(), report.marks(turned, 1, Marks.Kind.FACES))
            .offer(
                Offer.step(
                        "Make faces agree",
                        "unify",
                        Map.of("seams", distance == 0 ? 0.1 : distance))
                    .on(List.of(report.node()))));
  }

  /** How close borders must be to count as one seam, in millimetres: a power of ten. */
  private double seamMillimetres() {
    double size = points.bounds().isEmpty() ? 0 : points.bounds().diagonal();
    double millimetres = WELD_PART * size * metresPerUnit * 1000;
    return millimetres > 0 ? Math.max(1e-6, Math.pow(10, Math.rint(Math.log10(millimetres)))) : 0;
  }

  /** How many vertices stand on top of others along borders: unsewn panels, split pieces. */
  private int joinedOnBorders() {
    double distance = seamMillimetres();
    return distance == 0
        ? 0
        : Weld.count(
            mesh, skin, new Weld.Options(distance / 1000 / metresPerUnit, true, true), edgeTable);
  }

  private void coincident(int joined) {
    double distance = seamMillimetres();
    if (joined > 0) {
      findings.add(
          Finding.of(
                  "coincident-vertices",
                  splitsAtSeams ? Severity.NOTE : Severity.LOOK,
                  shown.path(),
                  "Vertices at the same place are not joined: the surface is open along these"
                      + " seams.")
              .measured(Figures.count(joined, "vertex"))
              .evidence("closer than " + Figures.length(distance / 1000) + ", on open borders")
              .at(report.node())
              .offer(
                  Offer.step(
                          "Weld, keep seams",
                          "weld",
                          Map.of("distance", distance, "where", "borders"))
                      .on(List.of(report.node()))));
    }
  }

  private void reportOpen(IntList open, int seams, int joined, Supplier<FaceSizes> sizes) {
    if (open.size() == 0) {
      return;
    }
    int count = open.size() / 2;
    Finding finding =
        Finding.of(
                "open-edges",
                splitsAtSeams && seams == count ? Severity.NOTE : Severity.LOOK,
                shown.path(),
                seams == count
                    ? "Edges that only one face uses, all along seams whose vertices stand at the"
                        + " same place."
                    : "Edges that only one face uses: the surface has borders or holes.")
            .measured(Figures.count(count, "edge"))
            .at(shown.node().id(), report.marks(open, 2, Marks.Kind.EDGES));
    Finding told =
        seams > 0
            ? finding.evidence(Figures.count(seams) + " of them are unwelded seams")
            : finding;
    findings.add(told.offer(borderOffers(joined > 0, seams == count, sizes)));
  }

  /** Seams are sewn first; small rings are holes; what else is open is seen from behind. */
  private Offer[] borderOffers(boolean seams, boolean seamsOnly, Supplier<FaceSizes> faceSizes) {
    List<Integer> own = List.of(report.node());
    List<Offer> offers = new ArrayList<>();
    if (seams) {
      Map<String, Object> sew = Map.of("distance", seamMillimetres(), "where", "borders");
      offers.add(Offer.step("Weld, keep seams", "weld", sew).on(own));
    }
    if (seams && seamsOnly) {
      return offers.toArray(Offer[]::new);
    }
    double whole = points.bounds().isEmpty() ? 0 : points.bounds().diagonal();
    double small = 0;
    double largest = 0;
    // The outlines of panels that are not sewn yet are no holes.
    Holes holes = seams ? null : Holes.of(mesh, place, edgeTable);
    double[] sizes = seams ? new double[0] : holes.sizes();
    boolean[] rims = seams ? new boolean[0] : holes.rims(placed, faceSizes.get());
    for (int i = 0; i < sizes.length; i++) {
      largest = rims[i] ? largest : Math.max(largest, sizes[i]);
      small = sizes[i] <= HOLE_PART * whole ? Math.max(small, sizes[i]) : small;
    }
    if (small > 0) {
      offers.add(close("Close small holes", small));
    }
    offers.add(
        Offer.step("Show both sides", "materialFlags", Map.of("sides", "both")).on(own).asking());
    if (largest > small) {
      offers.add(close("Close all holes", largest));
    }
    return offers.toArray(Offer[]::new);
  }

  private Offer close(String label, double size) {
    double millimetres = Math.min(100_000, size * metresPerUnit * 1000 * 1.001);
    return Offer.step(label, "fill", Map.of("largest", round(millimetres)))
        .on(List.of(report.node()))
        .asking();
  }

  /** Up to three digits, never below. */
  private static double round(double value) {
    double step = Math.pow(10, Math.floor(Math.log10(value)) - 2);
    return Math.ceil(value / step) * step;
  }

  /** Open edges whose two ends stand where the ends of another open edge stand. */
  private int seamCount(IntList open, int[] place) {
    int n = open.size() / 2;
    long[] keys = new long[n];
    for (int i = 0; i < n; i++) {
      int a = place[open.get(2 * i)];
      int b = place[open.get(2 * i + 1)];
      keys[i] = ((long) Math.min(a, b) << 32) | Math.max(a, b);
    }
    Arrays.sort(keys);
    int seams = 0;
    for (int i = 0; i < n; i++) {
      boolean twin = (i > 0 && keys[i - 1] == keys[i]) || (i + 1 < n && keys[i + 1] == keys[i]);
      seams += twin ? 1 : 0;
    }
    return seams;
  }

  private void badFaces(IntList flat, IntList duplicates) {
    report.elements(
        "degenerate-faces",
        Severity.LOOK,
        flat,
        1,
        Marks.Kind.FACES,
        "face",
        "Faces without area: they break normals and baking.",
        remove("degenerateFaces"));
    report.elements(
        "duplicate-faces",
        Severity.FIX,
        duplicates,
        1,
        Marks.Kind.FACES,
        "face",
        "Faces that lie on another face with the same vertices: they flicker.",
        remove("duplicateFaces"));
  }

  private void unusedVertices(IntList unused) {
    report.elements(
        "unused-vertices",
        Severity.LOOK,
        unused,
        1,
        Marks.Kind.VERTICES,
        "vertex",
        "Vertices that no face uses: they stretch the box and do not land.",
        remove("unusedVertices"));
  }

  private void pieces() {
    int byVertex = pieces.count();
    if (byVertex < 2) {
      return;
    }
    int byPlace = placed.count();
    findings.add(
        Finding.of(
                "loose-pieces",
                Severity.NOTE,
                shown.path(),
                byPlace < byVertex
                    ? "The mesh falls into loose pieces; some only because vertices at the same"
                        + " place are not joined."
                    : "The mesh falls into loose pieces.")
            .measured(Figures.count(byVertex, "piece"))
            .evidence(
                byPlace < byVertex
                    ? Figures.count(byPlace, "piece") + " when vertices at one place are joined"
                    : "")
            .at(shown.node().id())
            .offer(
                Offer.step("Split into pieces", "split", Map.of("by", "pieces"))
                    .on(List.of(report.node()))));
  }

  private static Offer remove(String what) {
    return Offer.step("Remove them", "remove", Map.of("what", what));
  }

  private Findings materials() {
    Findings found = new Findings();
    IntList none = new IntList(16);
    for (int f = 0; f < faces.faceCount(); f++) {
      if (mesh.materialOf(f) < 0) {
        none.add(f);
      }
    }
    new MeshReport(shown, found)
        .elements(
            "no-material",
            Severity.LOOK,
            none,
            1,
            Marks.Kind.FACES,
            "face",
            "Faces without a material: they land in the destination's default look.",
            Offer.step("Give a plain material", "material", Map.of("name", "plain")));
    return found;
  }
}
