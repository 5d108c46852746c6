package ferry.stone.core.proof;

import ferry.stone.core.format.gltf.GltfPacking;
import ferry.stone.core.geometry.MeshMeasure;
import ferry.stone.core.geometry.RenderPrimitive;
import ferry.stone.core.geometry.TriangleTree;
import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.scene.Attribute;
import ferry.stone.core.scene.Attribute.Semantic;
import ferry.stone.core.scene.PolygonMesh;
import ferry.stone.core.scene.Polygons;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.work.Progress;
import java.util.List;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/** Compares one part of the far side with the same part of the landed file. */
final class MeshProof {
  /** Most points from which the distance to the other surface is measured, each way. */
  private static final int SAMPLES = 20_000;

  private static final double QUANTIZED_TOLERANCE = 3e-5;
  private static final double AREA_TOLERANCE = 1e-5;
  private static final String ROUNDED = "rounded to 16 bits, as chosen";
  private static final double UV_TOLERANCE = 2e-6;
  private static final double NORMAL_TOLERANCE_DEGREES = 0.1;
  private static final double COLOUR_TOLERANCE = 0.003;

  private final Ledger ledger;
  private final Scene.ShownMesh far;
  private final Scene.ShownMesh landed;
  private final PolygonMesh near;
  private final double size;
  private final int nodeId;
  private final boolean flipped;
  private final boolean linear;
  private final GltfPacking packing;

  /**
   * @param scene the far scene, for what its UVs and colours mean
   * @param packing how it was written, for the order of what is compared
   */
  MeshProof(
      Ledger ledger,
      Scene scene,
      Scene.ShownMesh far,
      Scene.ShownMesh landed,
      PolygonMesh near,
      double size,
      GltfPacking packing) {
    this.packing = packing;
    flipped = scene.uvOrigin() == UvOrigin.BOTTOM_LEFT;
    linear = scene.linearColours();
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
      ledger.add(
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
    looseElements();
    if (mesh.faces().faceCount() == 0) {
      return;
    }
    area();
    double[] farTriangles = triangles(far);
    double[] landedTriangles = triangles(landed);
    surface(farTriangles, landedTriangles);
    progress.checkCancelled();
    corners(progress);
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
    long wanted = far.mesh().faces().triangleCount();
    long found = landed.mesh().faces().faceCount();
    boolean cut = !far.mesh().faces().allTriangles();
    ledger.add(
        "Faces",
        nodeId,
        faces(near),
        faces(far.mesh()),
        Figures.count(found, "triangle"),
        found == wanted ? "0" : String.format("%+d triangles", found - wanted),
        found != wanted ? Verdict.LOST : cut ? Verdict.CHANGED : Verdict.KEPT,
        found != wanted
            ? "triangles are missing"
            : cut ? "cut into triangles: glTF holds nothing else" : "");
  }

  private void looseElements() {
    var wanted = far.mesh().loose();
    var found = landed.mesh().loose();
    if (wanted == null) {
      return;
    }
    ledger.count(
        "Line segments",
        nodeId,
        wanted.segmentCount(),
        wanted.segmentCount(),
        found == null ? 0 : found.segmentCount(),
        "lines are missing");
    ledger.count(
        "Points",
        nodeId,
        wanted.points().length,
        wanted.points().length,
        found == null ? 0 : found.points().length,
        "points are missing");
  }

  private void area() {
    double wanted = areaInWorld(far);
    double found = areaInWorld(landed);
    double part = wanted == 0 ? 0 : Math.abs(found - wanted) / wanted;
    ledger.add(
        "Surface area",
        nodeId,
        Figures.plain(MeshMeasure.of(near).area()) + " square units",
        Figures.plain(wanted) + " m²",
        Figures.plain(found) + " m²",
        String.format(java.util.Locale.ROOT, "%.4f %%", 100 * part),
        part <= AREA_TOLERANCE ? Verdict.KEPT : Verdict.CHANGED,
        part <= AREA_TOLERANCE ? "" : "faces that are not flat measure differently once cut");
  }

  private static double areaInWorld(Scene.ShownMesh shown) {
    double scale = Math.cbrt(Math.abs(shown.world().determinant3x3()));
    return MeshMeasure.of(shown.mesh()).area() * scale * scale;
  }

  /** All triangles in world space, faces as fans from their cut. */
  private static double[] triangles(Scene.ShownMesh shown) {
    Polygons faces = shown.mesh().faces();
    int count = (int) Math.min(faces.triangleCount(), Integer.MAX_VALUE / 9);
    double[] out = new double[9 * count];
    int[] cut = new int[3 * largest(faces)];
    var triangulation = new ferry.stone.core.geometry.Triangulation(shown.mesh().points());
    Vector3d p = new Vector3d();
    int at = 0;
    for (int f = 0; f < faces.faceCount(); f++) {
      int to = triangulation.cut(faces, f, cut, 0);
      for (int i = 0; i < to; i++) {
        int v = faces.vertex(cut[i]);
        p.set(shown.mesh().points().x(v), shown.mesh().points().y(v), shown.mesh().points().z(v));
        shown.world().transformPosition(p);
        out[at++] = p.x;
        out[at++] = p.y;
        out[at++] = p.z;
      }
    }
    return out;
  }

  private static int largest(Polygons faces) {
    int most = 3;
    for (int f = 0; f < faces.faceCount(); f++) {
      most = Math.max(most, faces.size(f));
    }
    return most;
  }

  private void surface(double[] a, double[] b) {
    double off = Math.max(farthest(a, new TriangleTree(b)), farthest(b, new TriangleTree(a)));
    boolean kept = off <= Proof.POSITION_TOLERANCE * size;
    ledger.add(
        "Surface distance, largest",
        nodeId,
        "—",
        Figures.count(a.length / 9, "triangle"),
        Figures.count(b.length / 9, "triangle"),
        Double.isFinite(off) ? Proof.millimetres(off) : "not measurable",
        kept ? Verdict.KEPT : Verdict.CHANGED,
        kept
            ? ""
            : packing.quantized() && off <= QUANTIZED_TOLERANCE * size
                ? ROUNDED
                : "surfaces lie apart");
  }

  /** From corners and middles of evenly picked triangles. */
  private static double farthest(double[] from, TriangleTree to) {
    int triangles = from.length / 9;
    int stride = Math.max(1, triangles * 4 / SAMPLES);
    double most = 0;
    for (int t = 0; t < triangles; t += stride) {
      double[] mid = new double[3];
      boolean finite = true;
      for (int corner = 0; corner < 3; corner++) {
        int i = 9 * t + 3 * corner;
        finite &= Double.isFinite(from[i] + from[i + 1] + from[i + 2]);
        for (int k = 0; k < 3; k++) {
          mid[k] += from[i + k] / 3;
        }
      }
      if (!finite) {
        continue;
      }
      most = Math.max(most, to.distance(mid[0], mid[1], mid[2]));
      for (int i = 9 * t; i < 9 * t + 9; i += 3) {
        most = Math.max(most, to.distance(from[i], from[i + 1], from[i + 2]));
      }
    }
    return most;
  }

  /** Compares corner by corner, in the order that the landing promises. */
  private void corners(Progress progress) {
    List<RenderPrimitive> wanted = packing.primitives(far.mesh(), progress);
    long corners = wanted.stream().mapToLong(p -> p.indices().length).sum();
    PolygonMesh found = landed.mesh();
    boolean comparable = corners == found.faces().cornerCount();
    CornerDifference d = new CornerDifference();
    if (comparable) {
      int corner = 0;
      for (RenderPrimitive p : wanted) {
        for (int i = 0; i < p.indices().length; i++) {
          d.compare(p, p.indices()[i], found.faces().vertex(corner++));
        }
      }
      comparable = d.position <= tolerance() * size;
    }
    int vertices = wanted.stream().mapToInt(RenderPrimitive::vertexCount).sum();
    ledger.add(
        "Vertex order",
        nodeId,
        Figures.count(near.points().count()),
        Figures.count(far.mesh().points().count()),
        Figures.count(vertices) + (vertices > far.mesh().points().count() ? " with seams" : ""),
        comparable ? Proof.millimetres(d.position) : "order differs",
        comparable && !packing.drawOrder() ? Verdict.KEPT : Verdict.CHANGED,
        !comparable
            ? "corners could not be paired"
            : packing.drawOrder() ? "in the order that draws fastest, as chosen" : "");
    if (comparable) {
      layers(d, wanted);
    }
  }

  /** Rounded to 16 bits, vertices lie off by up to half a step of the mesh's own cube. */
  private double tolerance() {
    return packing.quantized() ? QUANTIZED_TOLERANCE : Proof.POSITION_TOLERANCE;
  }

  private void layers(CornerDifference d, List<RenderPrimitive> wanted) {
    int sets = far.mesh().all(Semantic.UV).size();
    int found = landed.mesh().all(Semantic.UV).size();
    if (sets > 0 || found > 0) {
      boolean kept = sets == found && d.uv <= UV_TOLERANCE;
      ledger.add(
          "UVs",
          nodeId,
          Figures.count(near.all(Semantic.UV).size(), "set"),
          Figures.count(sets, "set"),
          Figures.count(found, "set"),
          String.format(java.util.Locale.ROOT, "%.6f", d.uv),
          kept ? Verdict.KEPT : found < sets ? Verdict.LOST : Verdict.CHANGED,
          kept ? "" : packing.quantized() ? ROUNDED : "UVs differ");
    }
    boolean had = !wanted.isEmpty() && wanted.get(0).normals() != null;
    boolean has = landed.mesh().first(Semantic.NORMAL).isPresent();
    if (had || has) {
      boolean derived = far.mesh().first(Semantic.NORMAL).isEmpty();
      boolean kept = had == has && d.normalDegrees <= NORMAL_TOLERANCE_DEGREES;
      ledger.add(
          "Normals",
          nodeId,
          near.first(Semantic.NORMAL).isPresent() ? "yes" : "none",
          derived ? "from smoothing groups" : "yes",
          has ? "yes" : "—",
          String.format(java.util.Locale.ROOT, "%.3f°", d.normalDegrees),
          !kept ? (has ? Verdict.CHANGED : Verdict.LOST) : derived ? Verdict.CHANGED : Verdict.KEPT,
          derived ? "written out from the smoothing groups" : "");
    }
    if (far.mesh().first(Semantic.COLOUR).isPresent()) {
      boolean has2 = landed.mesh().first(Semantic.COLOUR).isPresent();
      boolean kept = has2 && d.colour <= COLOUR_TOLERANCE;
      ledger.add(
          "Vertex colours",
          nodeId,
          "yes",
          linear ? "yes, linear" : "yes, sRGB",
          has2 ? "yes, linear" : "—",
          String.format(java.util.Locale.ROOT, "%.4f", d.colour),
          kept ? Verdict.KEPT : has2 ? Verdict.CHANGED : Verdict.LOST,
          "");
    }
  }

  /** Largest differences over all corners. */
  private final class CornerDifference {
    private final Matrix4d farWorld = far.world();
    private final Matrix4d landedWorld = landed.world();
    private final List<Attribute> uvs = landed.mesh().all(Semantic.UV);
    private final Attribute normals = landed.mesh().first(Semantic.NORMAL).orElse(null);
    private final Attribute colours = landed.mesh().first(Semantic.COLOUR).orElse(null);
    private final Vector3d a = new Vector3d();
    private final Vector3d b = new Vector3d();
    private double position;
    private double uv;
    private double normalDegrees;
    private double colour;

    void compare(RenderPrimitive p, int i, int v) {
      a.set(p.positions()[3 * i], p.positions()[3 * i + 1], p.positions()[3 * i + 2]);
      b.set(landed.mesh().points().x(v), landed.mesh().points().y(v), landed.mesh().points().z(v));
      farWorld.transformPosition(a);
      landedWorld.transformPosition(b);
      position = Math.max(position, a.distance(b));
      for (int set = 0; set < Math.min(uvs.size(), p.uvs().size()); set++) {
        float[] wanted = p.uvs().get(set);
        float[] found = uvs.get(set).values();
        // The landed file counts V from the top.
        uv = Math.max(uv, Math.abs(wanted[2 * i] - found[2 * v]) / scaleOf(wanted[2 * i]));
        uv =
            Math.max(
                uv,
                Math.abs((flipped ? 1 - wanted[2 * i + 1] : wanted[2 * i + 1]) - found[2 * v + 1])
                    / scaleOf(wanted[2 * i + 1]));
      }
      if (normals != null && p.normals() != null) {
        a.set(p.normals()[3 * i], p.normals()[3 * i + 1], p.normals()[3 * i + 2]);
        b.set(normals.values()[3 * v], normals.values()[3 * v + 1], normals.values()[3 * v + 2]);
        farWorld.transformDirection(a);
        landedWorld.transformDirection(b);
        normalDegrees = Math.max(normalDegrees, Math.toDegrees(a.angle(b)));
      }
      if (colours != null && p.colours() != null) {
        for (int k = 0; k < 3; k++) {
          double landedColour = colours.values()[colours.components() * v + k];
          double found = linear ? landedColour : ColourSpace.toSrgb(landedColour);
          double wanted = Math.max(0, Math.min(1, p.colours()[p.colourComponents() * i + k]));
          colour = Math.max(colour, Math.abs(wanted - found));
        }
      }
    }

    private double scaleOf(double value) {
      return Math.max(1, Math.abs(value));
    }
  }
}
