package ferry.stone.core.survey;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Marks;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.geometry.DuplicateFaces;
import ferry.stone.core.geometry.EdgeTable;
import ferry.stone.core.geometry.FaceTurns;
import ferry.stone.core.geometry.MeshClean;
import ferry.stone.core.geometry.Pieces;
import ferry.stone.core.geometry.Triangulation;
import ferry.stone.core.geometry.UvOverlap;
import ferry.stone.core.geometry.Weld;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.Attribute;
import ferry.stone.core.scene.Attribute.Semantic;
import ferry.stone.core.scene.Coordinates;
import ferry.stone.core.scene.PolygonMesh;
import ferry.stone.core.scene.Polygons;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.Skin;
import ferry.stone.core.scene.UvOrigin;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.joml.Vector3d;

/** Surface checks of one shown mesh, all in about linear time. */
final class MeshChecks {
  private static final double NORMAL_ANGLE = 40;

  /** Coincident means closer than about this part of the mesh's size. */
  private static final double WELD_PART = 1e-5;

  private static final double NORMAL_LENGTH = 0.05;
  private static final double AGAINST_PART = 0.01;

  private final Scene.ShownMesh shown;
  private final PolygonMesh mesh;
  private final Polygons faces;
  private final Coordinates points;
  private final Findings findings;

  private final double metresPerUnit;
  private final boolean splitsAtSeams;
  private final Skin skin;
  private EdgeTable edgeTable;

  private MeshChecks(Scene scene, Scene.ShownMesh shown, Skin skin) {
    this.shown = shown;
    this.skin = skin;
    findings = new Findings();
    // Formats with one index a vertex have to repeat vertices wherever UVs or normals differ.
    splitsAtSeams = scene.uvOrigin() == UvOrigin.TOP_LEFT;
    double scale = Math.cbrt(Math.abs(shown.world().determinant3x3()));
    metresPerUnit = scene.frame().metresPerUnit() * (scale > 0 ? scale : 1);
    mesh = shown.mesh();
    faces = mesh.faces();
    points = mesh.points();
  }

  /** What is wrong with a mesh where a node shows it. */
  static List<Finding> of(Scene scene, Scene.ShownMesh shown, Skin skin) {
    MeshChecks checks = new MeshChecks(scene, shown, skin);
    checks.run();
    return checks.findings.list();
  }

  private void run() {
    notNumbers();
    edges();
    badFaces();
    unusedVertices();
    pieces();
    layers();
    materials();
  }

  private void notNumbers() {
    IntList bad = new IntList(16);
    for (int v = 0; v < points.count(); v++) {
      if (!Double.isFinite(points.x(v) + points.y(v) + points.z(v))) {
        bad.add(v);
      }
    }
    report(
        "not-a-number",
        Severity.FIX,
        bad,
        1,
        Marks.Kind.VERTICES,
        "vertex",
        "Positions that are not numbers: faces at them cannot be written.");
  }

  private void edges() {
    edgeTable = EdgeTable.of(faces, points.count());
    EdgeTable table = edgeTable;
    int[] place = Pieces.firstAtSamePlace(points);
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
    int seams = seamCount(open, place);
    reportOpen(open, seams);
    report(
        "non-manifold-edges",
        Severity.FIX,
        crowded,
        2,
        Marks.Kind.EDGES,
        "edge",
        "Edges shared by more than two faces: collisions, baking and printing stumble over them.");
    report(
        "opposed-faces",
        Severity.FIX,
        opposed,
        2,
        Marks.Kind.EDGES,
        "edge",
        "Neighbouring faces are wound against each other: one of the two shows its back.",
        Offer.step("Make faces agree", "unify", Map.of()));
    insideOut();
    coincident(seams);
  }

  /** Closed pieces whose volume is below 0. */
  private void insideOut() {
    FaceTurns turns = FaceTurns.of(mesh, edgeTable);
    if (turns.insideOut() > 0) {
      IntList faces = new IntList(64);
      for (int f = turns.turn().nextSetBit(0); f >= 0; f = turns.turn().nextSetBit(f + 1)) {
        faces.add(f);
      }
      findings.add(
          Finding.of(
                  "inside-out",
                  Severity.FIX,
                  shown.path(),
                  "Closed pieces are inside out: their backs are outside.")
              .measured(Figures.count(turns.insideOut(), "piece"))
              .at(node(), marks(faces, 1, Marks.Kind.FACES))
              .offer(Offer.step("Make faces agree", "unify", Map.of()).on(List.of(node()))));
    }
  }

  /** Vertices on top of each other along borders: unsewn panels, split pieces. */
  private void coincident(int seams) {
    if (seams == 0) {
      return;
    }
    double millimetres = WELD_PART * points.bounds().diagonal() * metresPerUnit * 1000;
    double rounded = millimetres > 0 ? Math.pow(10, Math.floor(Math.log10(millimetres))) : 0;
    double distance = Math.max(1e-6, Math.min(1, rounded));
    int joined =
        Weld.count(mesh, skin, new Weld.Options(distance / 1000 / metresPerUnit, true, true));
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
              .at(node())
              .offer(
                  Offer.step(
                          "Weld, keep seams",
                          "weld",
                          Map.of("distance", distance, "where", "borders"))
                      .on(List.of(node()))));
    }
  }

  private int node() {
    return shown.node().id();
  }

  private void reportOpen(IntList open, int seams) {
    if (open.size() == 0) {
      return;
    }
    int count = open.size() / 2;
    Finding finding =
        Finding.of(
                "open-edges",
                Severity.LOOK,
                shown.path(),
                seams == count
                    ? "Edges that only one face uses, all along seams whose vertices stand at the"
                        + " same place."
                    : "Edges that only one face uses: the surface has borders or holes.")
            .measured(Figures.count(count, "edge"))
            .at(shown.node().id(), marks(open, 2, Marks.Kind.EDGES));
    findings.add(
        seams > 0
            ? finding.evidence(Figures.count(seams) + " of them are unwelded seams")
            : finding);
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

  private void badFaces() {
    report(
        "degenerate-faces",
        Severity.LOOK,
        MeshClean.degenerate(mesh),
        1,
        Marks.Kind.FACES,
        "face",
        "Faces without area: they break normals and baking.",
        remove("degenerateFaces"));
    report(
        "duplicate-faces",
        Severity.FIX,
        DuplicateFaces.find(faces),
        1,
        Marks.Kind.FACES,
        "face",
        "Faces that lie on another face with the same vertices: they flicker.",
        remove("duplicateFaces"));
  }

  private void unusedVertices() {
    report(
        "unused-vertices",
        Severity.LOOK,
        MeshClean.unused(mesh),
        1,
        Marks.Kind.VERTICES,
        "vertex",
        "Vertices that no face uses: they stretch the box and do not land.",
        remove("unusedVertices"));
  }

  private void pieces() {
    int byVertex = Pieces.byVertex(faces, points.count()).count();
    if (byVertex < 2) {
      return;
    }
    int byPlace = Pieces.byPosition(faces, points).count();
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
                    .on(List.of(node()))));
  }

  private static Offer remove(String what) {
    return Offer.step("Remove them", "remove", Map.of("what", what));
  }

  private Offer computeNormals() {
    return Offer.step("Compute normals", "normals", Map.of("angle", NORMAL_ANGLE))
        .on(List.of(node()));
  }

  /** Normals of no length or that look away from their faces. */
  private void normals(Attribute layer) {
    int broken = 0;
    for (int i = 0; i + 2 < layer.values().length; i += layer.components()) {
      double x = layer.values()[i];
      double y = layer.values()[i + 1];
      double z = layer.values()[i + 2];
      double length = Math.sqrt(x * x + y * y + z * z);
      broken += Math.abs(length - 1) <= NORMAL_LENGTH ? 0 : 1;
    }
    if (broken > 0) {
      findings.add(
          Finding.of(
                  "normals-broken",
                  Severity.FIX,
                  shown.path(),
                  "Normals that have not the length 1, or are no numbers: shading is wrong there.")
              .measured(Figures.count(broken, "normal"))
              .at(node())
              .offer(computeNormals()));
    }
    IntList against = new IntList(16);
    Vector3d n = new Vector3d();
    for (int f = 0; f < faces.faceCount(); f++) {
      int start = faces.start(f);
      Triangulation.newell(points, faces, start, faces.size(f), n);
      int away = 0;
      for (int c = start; c < faces.end(f); c++) {
        int value = layer.valueOf(c, faces.vertex(c), f);
        if (value >= 0) {
          int at = layer.components() * value;
          double dot =
              n.x * layer.values()[at]
                  + n.y * layer.values()[at + 1]
                  + n.z * layer.values()[at + 2];
          away += dot < 0 ? 1 : 0;
        }
      }
      if (away > 0 && away == faces.size(f)) {
        against.add(f);
      }
    }
    if (against.size() > AGAINST_PART * faces.faceCount()) {
      report(
          "normals-against-faces",
          Severity.LOOK,
          against,
          1,
          Marks.Kind.FACES,
          "face",
          "Normals look away from their faces: these look lit from behind.",
          Offer.step("Compute normals", "normals", Map.of("angle", NORMAL_ANGLE)));
    }
  }

  private void layers() {
    if (faces.faceCount() == 0) {
      return;
    }
    if (mesh.first(Semantic.UV).isEmpty()) {
      findings.add(
          Finding.of(
                  "no-uvs",
                  Severity.NOTE,
                  shown.path(),
                  "The mesh has no UVs: textures cannot sit.")
              .at(shown.node().id()));
    } else {
      missingCorners(mesh.first(Semantic.UV).get(), "missing-uvs", "UV");
      outsideSquare(mesh.first(Semantic.UV).get());
      overlaps(mesh.first(Semantic.UV).get());
    }
    if (mesh.first(Semantic.NORMAL).isEmpty()
        && mesh.smoothing() == null
        && mesh.hardEdges() == null) {
      findings.add(
          Finding.of(
                  "no-normals",
                  Severity.LOOK,
                  shown.path(),
                  "The mesh has no normals: it will look faceted.")
              .at(node())
              .offer(computeNormals()));
    } else if (mesh.first(Semantic.NORMAL).isPresent()) {
      missingCorners(mesh.first(Semantic.NORMAL).get(), "missing-normals", "normal");
      normals(mesh.first(Semantic.NORMAL).get());
    }
  }

  private void missingCorners(Attribute layer, String code, String what) {
    if (layer.indices() == null) {
      return;
    }
    int missing = 0;
    for (int index : layer.indices()) {
      missing += index < 0 ? 1 : 0;
    }
    if (missing > 0) {
      Finding finding =
          Finding.of(code, Severity.FIX, shown.path(), "Some face corners have no " + what + ".")
              .measured(Figures.count(missing, "corner"))
              .at(shown.node().id());
      findings.add(what.equals("normal") ? finding.offer(computeNormals()) : finding);
    }
  }

  private void overlaps(Attribute uv) {
    UvOverlap overlap = UvOverlap.of(mesh, uv);
    if (overlap.part() > UvOverlap.WORTH_TELLING) {
      findings.add(
          Finding.of(
                  "uvs-overlap",
                  Severity.NOTE,
                  shown.path(),
                  "UVs lie over each other: fine for mirrored or tiled textures, a fault for baked"
                      + " ones.")
              .measured(Math.round(100 * overlap.part()) + " % of the used square")
              .at(node(), marks(overlap.faces(), 1, Marks.Kind.FACES)));
    }
  }

  private void outsideSquare(Attribute uv) {
    int outside = 0;
    int bad = 0;
    for (int i = 0; i + 1 < uv.values().length; i += 2) {
      float u = uv.values()[i];
      float v = uv.values()[i + 1];
      bad += Float.isFinite(u + v) ? 0 : 1;
      outside += u < -1e-4f || u > 1.0001f || v < -1e-4f || v > 1.0001f ? 1 : 0;
    }
    if (outside > 0) {
      findings.add(
          Finding.of(
                  "uvs-outside",
                  Severity.NOTE,
                  shown.path(),
                  "UVs lie outside the 0–1 square: fine for tiling, a fault for baked textures.")
              .measured(Figures.count(outside) + " of " + Figures.count(uv.valueCount()) + " UVs")
              .at(shown.node().id()));
    }
    if (bad > 0) {
      findings.add(
          Finding.of(
                  "uvs-not-numbers",
                  Severity.FIX,
                  shown.path(),
                  "UVs that are not numbers land as 0.")
              .measured(Figures.count(bad, "UV"))
              .at(shown.node().id()));
    }
  }

  private void materials() {
    IntList none = new IntList(16);
    for (int f = 0; f < faces.faceCount(); f++) {
      if (mesh.materialOf(f) < 0) {
        none.add(f);
      }
    }
    report(
        "no-material",
        Severity.LOOK,
        none,
        1,
        Marks.Kind.FACES,
        "face",
        "Faces without a material: they land in the destination's default look.");
  }

  private void report(
      String code,
      Severity severity,
      IntList elements,
      int perElement,
      Marks.Kind kind,
      String noun,
      String message,
      Offer... offers) {
    if (elements.size() > 0) {
      Finding finding =
          Finding.of(code, severity, shown.path(), message)
              .measured(Figures.count(elements.size() / perElement, noun))
              .at(shown.node().id(), marks(elements, perElement, kind));
      findings.add(offers.length == 0 ? finding : finding.offer(offers[0].on(List.of(node()))));
    }
  }

  private Marks marks(IntList elements, int perElement, Marks.Kind kind) {
    int most = Math.min(elements.size(), Marks.MAX * perElement);
    return new Marks(shown.node().id(), kind, Arrays.copyOf(elements.toArray(), most));
  }
}
