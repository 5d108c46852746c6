package ferry.stone.core.proof;

import ferry.stone.core.format.flat.Contents;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.geometry.mesh.MeshMeasure;
import ferry.stone.core.geometry.triangle.PlacedTriangles;
import ferry.stone.core.geometry.triangle.TriangleTree;
import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.corner.ColourSetPairs;
import ferry.stone.core.proof.corner.CornerPairs;
import ferry.stone.core.proof.corner.PolygonCorners;
import ferry.stone.core.proof.corner.TriangleCorners;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.work.Beside;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.Locale;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import org.joml.Matrix4d;

/** Compares one part of the far side with the same part of the landed file. */
final class MeshProof {
  private static final double QUANTIZED_TOLERANCE = 3e-5;

  /** Faces from which it pays to use another core. */
  private static final int MANY = 20_000;

  private static final double AREA_TOLERANCE = 1e-5;
  private static final String ROUNDED = "rounded to 16 bits, as chosen";
  private static final double UV_TOLERANCE = 2e-6;
  private static final double NORMAL_TOLERANCE_DEGREES = 0.1;
  private static final double TANGENT_TOLERANCE_DEGREES = 0.5;
  private static final double COLOUR_TOLERANCE = 0.003;

  private final Ledger ledger;
  private final Scene.ShownMesh far;
  private final Scene.ShownMesh landed;
  private final PolygonMesh near;
  private final double size;
  private final int nodeId;
  private final Scene farScene;
  private final Scene readScene;
  private final Landed landing;

  /**
   * @param farScene the far scene, for what its UVs and colours mean
   * @param readScene the landed scene
   * @param landing how it was written, for the order of what is compared
   */
  MeshProof(
      Ledger ledger,
      Scene farScene,
      Scene readScene,
      Scene.ShownMesh far,
      Scene.ShownMesh landed,
      PolygonMesh near,
      double size,
      Landed landing) {
    this.landing = landing;
    this.farScene = farScene;
    this.readScene = readScene;
    this.ledger = ledger;
    this.far = far;
    this.landed = landed;
    this.near = near == null ? far.mesh() : near;
    this.size = Math.max(size, 1e-9);
    nodeId = far.node().id();
  }

  void run(Progress progress) {
    PolygonMesh mesh = far.mesh();
    if (landed == null) {
      boolean empty = mesh.faces().faceCount() == 0 && mesh.loose() == null;
      ledger
          .about(empty ? Capability.EMPTY_MESHES : null)
          .add(
              "Mesh",
              nodeId,
              faces(near),
              faces(mesh),
              "—",
              "",
              Verdict.LOST,
              empty ? "it has no faces, so there is nothing to show" : "the part did not land");
      return;
    }
    triangles();
    new LooseProof(
            ledger,
            nodeId,
            far,
            landed,
            farScene.linearColours(),
            readScene.linearColours(),
            landing,
            tolerance() * size)
        .compare();
    if (mesh.faces().faceCount() == 0) {
      return;
    }
    double exact = tolerance() * size;
    Double apart = landing.tolerances().apart();
    double most = apart == null ? exact : Math.max(exact, apart / 1000);
    if (mesh.faces().faceCount() < MANY) {
      surfaces(work -> work);
      corners(pairs(most, progress), exact);
      return;
    }
    try (Beside beside = new Beside()) {
      Supplier<CornerPairs> pairs = beside.give(() -> pairs(most, progress));
      surfaces(beside::give);
      progress.checkCancelled();
      corners(pairs.get(), exact);
    }
  }

  /**
   * @param give to another core, if one is free
   */
  private void surfaces(UnaryOperator<Supplier<Double>> give) {
    PlacedTriangles there = PlacedTriangles.of(far.mesh(), far.world());
    boolean alike =
        far.world().equals(landed.world())
            && far.mesh().points().isSame(landed.mesh().points())
            && far.mesh().faces().isSame(landed.mesh().faces());
    PlacedTriangles here = alike ? there : PlacedTriangles.of(landed.mesh(), landed.world());
    boolean same = alike ? there.isFinite() : there.isSame(here);
    Supplier<Double> wanted = give.apply(there::area);
    Supplier<Double> halfEdges = give.apply(same ? () -> 0.0 : there::halfEdges);
    double found = same ? 0 : here.area();
    double own = wanted.get();
    area(own, same ? own : found, halfEdges.get(), same);
    surface(there, here, same);
  }

  private static String faces(PolygonMesh mesh) {
    Polygons f = mesh.faces();
    if (f.faceCount() == 0) {
      return "no faces";
    }
    if (f.allTriangles()) {
      return Figures.count(f.faceCount(), "triangle");
    }
    if (f.countOfSize(4) == f.faceCount()) {
      return Figures.count(f.faceCount(), "quad");
    }
    return Figures.count(f.faceCount(), "face");
  }

  private void triangles() {
    Polygons wanted = far.mesh().faces();
    Polygons found = landed.mesh().faces();
    boolean cut = landing.holding().isTriangulated() && !near.faces().allTriangles();
    long wantedCount =
        landing.holding().isTriangulated() ? wanted.triangleCount() : wanted.faceCount();
    boolean same =
        found.faceCount() == wantedCount && found.triangleCount() == wanted.triangleCount();
    long off = found.triangleCount() - wanted.triangleCount();
    ledger
        .about(hasNowhere() ? Capability.NOT_NUMBERS : cut ? Capability.POLYGONS : null)
        .measure(Measure.count(near.faces().faceCount(), wantedCount, found.faceCount()))
        .add(
            "Faces",
            nodeId,
            faces(near),
            faces(far.mesh()),
            landing.holding().isByPrimitives()
                ? Figures.count(found.faceCount(), "triangle")
                : faces(landed.mesh()),
            same ? "0" : String.format("%+d triangles", off),
            !same ? Verdict.LOST : cut ? Verdict.CHANGED : Verdict.KEPT,
            !same
                ? off == 0
                    ? "as many triangles in other faces"
                    : off < 0 ? "triangles are missing" : "there are more triangles"
                : !cut
                    ? ""
                    : landing.table().of(Capability.POLYGONS).written() != Capability.Fate.KEPT
                        ? "cut into triangles: "
                            + landing.holding().format()
                            + " holds nothing else"
                        : "cut into triangles, as chosen");
  }

  /**
   * In world space, so that uneven scales above the part count.
   *
   * @param halfEdges how much the area changes at most for each unit that corners move
   */
  private void area(double wanted, double found, double halfEdges, boolean same) {
    double part = wanted == 0 ? 0 : Math.abs(found - wanted) / wanted;
    ledger
        .about(shape() != null ? shape() : Capability.POLYGONS)
        .measure(new Measure("m2", null, wanted, found, Math.abs(found - wanted)))
        .amountsTo(same ? 0 : Math.abs(found - wanted) / Math.max(halfEdges, 1e-12))
        .add(
            "Surface area",
            nodeId,
            Figures.plain(untouched() ? wanted : MeshMeasure.area(near)) + " square units",
            Figures.plain(wanted) + " m²",
            Figures.plain(found) + " m²",
            String.format(Locale.ROOT, "%.4f %%", 100 * part),
            part <= AREA_TOLERANCE ? Verdict.KEPT : Verdict.CHANGED,
            part <= AREA_TOLERANCE ? "" : "faces that are not flat measure differently once cut");
  }

  /** Whether the far side's triangles are those of the near side, number for number. */
  private boolean untouched() {
    return near.points() == far.mesh().points()
        && near.faces() == far.mesh().faces()
        && near.faces().allTriangles()
        && far.world().equals(new Matrix4d());
  }

  private void surface(PlacedTriangles a, PlacedTriangles b, boolean same) {
    double off = same ? 0 : a.apart(b);
    String how = "surfaces lie apart";
    if (!(off <= Proof.POSITION_TOLERANCE * size)) {
      double[] first = a.apart();
      double[] second = b.apart();
      SurfaceDistance there = SurfaceDistance.of(first, new TriangleTree(second));
      SurfaceDistance back = SurfaceDistance.of(second, new TriangleTree(first));
      off = Math.max(there.most(), back.most());
      how = "one way " + there.words() + "; the other way " + back.words();
    }
    boolean kept = off <= Proof.POSITION_TOLERANCE * size;
    ledger
        .about(shape())
        .off(off)
        .add(
            "Surface distance, largest",
            nodeId,
            "—",
            Figures.count(a.count(), "triangle"),
            Figures.count(b.count(), "triangle"),
            Double.isFinite(off) ? Proof.millimetres(off) : "not measurable",
            kept ? Verdict.KEPT : Verdict.CHANGED,
            kept ? "" : quantized() && off <= QUANTIZED_TOLERANCE * size ? ROUNDED : how);
  }

  /** Compares corner by corner, in the order that the landing promises. */
  private CornerPairs pairs(double most, Progress progress) {
    return landing.holding().isByPrimitives()
        ? new TriangleCorners(farScene, far, landed, landing.holding(), most, progress)
        : new PolygonCorners(farScene, readScene, far, landed, landing.holding(), most);
  }

  /**
   * @param exact how far apart corners lie that are in the same place
   */
  private void corners(CornerPairs pairs, double exact) {
    boolean reordered = landing.holding().isReordered();
    int vertices = pairs.landedVertices();
    ledger
        .about(reordered || shape() == null ? Capability.PACKING : shape())
        .measure(pairs.paired() ? Measure.off(Measure.METRES, pairs.difference().position()) : null)
        .add(
            "Vertex order",
            nodeId,
            Figures.count(near.points().count()),
            Figures.count(far.mesh().points().count()),
            Figures.count(vertices) + (vertices > far.mesh().points().count() ? " with seams" : ""),
            pairs.paired() ? Proof.millimetres(pairs.difference().position()) : "order differs",
            pairs.paired() && !reordered && pairs.difference().position() <= exact
                ? Verdict.KEPT
                : Verdict.CHANGED,
            !pairs.paired()
                ? "corners could not be paired"
                : reordered
                    ? "in the order that draws fastest, as chosen"
                    : pairs.difference().position() <= exact
                        ? ""
                        : "as it was; vertices lie apart");
    if (pairs.paired()) {
      layers(pairs);
      custom(pairs);
    }
    if (!landing.holding().isByPrimitives()) {
      boolean sets = landing.fate(Capability.FACE_SETS) == Capability.Fate.KEPT;
      boolean edges = landing.fate(Capability.EDGE_SETS) == Capability.Fate.KEPT;
      new PolygonFacts(ledger, nodeId, near, far.mesh(), landed.mesh(), sets, edges).run();
    }
  }

  /** Why the surface may lie elsewhere, or {@code null}. */
  private Capability shape() {
    return hasNowhere()
        ? Capability.NOT_NUMBERS
        : quantized() ? Capability.PACKING : landing.poses();
  }

  private boolean hasNowhere() {
    return Contents.hasNowhere(far.mesh());
  }

  private boolean quantized() {
    return landing.holding().isRounded();
  }

  /** Rounded to 16 bits, vertices lie off by up to half a step of the mesh's own cube. */
  private double tolerance() {
    return quantized() ? QUANTIZED_TOLERANCE : Proof.POSITION_TOLERANCE;
  }

  private void normals(CornerPairs d) {
    boolean has = landed.mesh().first(Semantic.NORMAL).isPresent();
    if (d.farNormals() || has) {
      boolean flat =
          far.mesh().first(Semantic.NORMAL).isEmpty()
              && far.mesh().smoothing() == null
              && far.mesh().hardEdges() == null;
      boolean derived = !flat && far.mesh().first(Semantic.NORMAL).isEmpty();
      boolean kept =
          d.farNormals() == has && d.difference().normalDegrees() <= NORMAL_TOLERANCE_DEGREES;
      ledger
          .about(
              !derived
                  ? quantized() ? Capability.PACKING : null
                  : far.mesh().smoothing() == null ? Capability.SHARP_EDGES : Capability.SMOOTHING)
          .measure(Measure.off(Measure.DEGREES, d.difference().normalDegrees()))
          .add(
              "Normals",
              nodeId,
              near.first(Semantic.NORMAL).isPresent() ? "yes" : "none",
              derived ? "from smoothing groups" : flat ? "none: flat" : "yes",
              has ? "yes" : "—",
              String.format(Locale.ROOT, "%.3f°", d.difference().normalDegrees()),
              !kept
                  ? (has ? Verdict.CHANGED : Verdict.LOST)
                  : derived ? Verdict.CHANGED : Verdict.KEPT,
              derived
                  ? "written out from the smoothing groups"
                  : flat ? "flat ones written out for the normal map" : "");
    }
  }

  private void tangents(CornerPairs d) {
    boolean own = far.mesh().first(Semantic.TANGENT).isPresent();
    boolean there = landed.mesh().first(Semantic.TANGENT).isPresent();
    if (!own && !there) {
      return;
    }
    double off = d.difference().tangentDegrees();
    boolean kept = there == d.farTangents() && off <= TANGENT_TOLERANCE_DEGREES;
    boolean computed = !own && there;
    ledger
        .about(computed || !d.farTangents() ? Capability.TANGENTS : null)
        .measure(Measure.off(Measure.DEGREES, off))
        .add(
            "Tangents",
            nodeId,
            near.first(Semantic.TANGENT).isPresent() ? "yes" : "none",
            own ? "yes" : "none",
            there ? "yes" : "—",
            String.format(Locale.ROOT, "%.3f°", off),
            own && !there ? Verdict.LOST : kept && !computed ? Verdict.KEPT : Verdict.CHANGED,
            computed ? "computed for the normal map" : "");
  }

  /** Custom layers by their names. */
  private void custom(CornerPairs d) {
    if (landing.fate(Capability.CUSTOM_LAYERS) != Capability.Fate.LOST) {
      new LayerProof(ledger, nodeId, far.mesh(), landed.mesh(), landing.holding())
          .list(d.difference()::otherLayerValues, "corner");
    }
  }

  private void layers(CornerPairs d) {
    int sets = far.mesh().all(Semantic.UV).size();
    int found = landed.mesh().all(Semantic.UV).size();
    if (sets > 0 || found > 0) {
      boolean kept = sets == found && d.difference().uv() <= UV_TOLERANCE;
      ledger
          .about(quantized() ? Capability.PACKING : null)
          .measure(Measure.off(Measure.UV, d.difference().uv()))
          .add(
              "UVs",
              nodeId,
              Figures.count(near.all(Semantic.UV).size(), "set"),
              Figures.count(sets, "set"),
              Figures.count(found, "set"),
              String.format(Locale.ROOT, "%.6f", d.difference().uv()),
              kept ? Verdict.KEPT : found < sets ? Verdict.LOST : Verdict.CHANGED,
              kept ? "" : quantized() ? ROUNDED : "UVs differ");
    }
    normals(d);
    tangents(d);
    colours(d);
  }

  /** The first set, and the others by their names where the format holds several. */
  private void colours(CornerPairs d) {
    List<Attribute> sets = far.mesh().all(Semantic.COLOUR);
    Attribute[] found = ColourSetPairs.of(far.mesh(), landed.mesh());
    boolean several = landing.fate(Capability.FURTHER_SETS) == Capability.Fate.KEPT;
    for (int set = 0; set < (several ? found.length : Math.min(1, found.length)); set++) {
      boolean there = found[set] != null;
      double off = d.difference().colour(set);
      boolean kept = there && off <= COLOUR_TOLERANCE;
      String name = set == 0 ? "yes" : sets.get(set).name();
      String landedName = set == 0 || !there ? "yes" : found[set].name();
      ledger
          .about(quantized() ? Capability.PACKING : set == 0 ? null : Capability.FURTHER_SETS)
          .measure(Measure.off(Measure.PART, off))
          .add(
              set == 0 ? "Vertex colours" : "Vertex colours " + (set + 1),
              nodeId,
              name,
              name + (farScene.linearColours() ? ", linear" : ", sRGB"),
              there ? landedName + (readScene.linearColours() ? ", linear" : ", sRGB") : "—",
              String.format(Locale.ROOT, "%.4f", off),
              kept ? Verdict.KEPT : there ? Verdict.CHANGED : Verdict.LOST,
              "");
    }
  }
}
