package ferry.stone.core.handling.step.look;

import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.util.List;

/** Where the faces of a material lie on its images, and where that is in an atlas. */
final class AtlasUvs {
  private static final double SLACK = 1e-4;

  private final UvOrigin origin;
  private final TextureUse use;
  private double lowU = Double.MAX_VALUE;
  private double lowV = Double.MAX_VALUE;
  private double highU = -Double.MAX_VALUE;
  private double highV = -Double.MAX_VALUE;
  private boolean eachFits = true;
  private PolygonMesh lastMesh;
  private Attribute lastSet;
  private final double[] shown = {1, 1, 0, 0};

  /**
   * @param use how all images of the material lie, or {@code null} where it has none
   */
  AtlasUvs(UvOrigin origin, TextureUse use) {
    this.origin = origin;
    this.use = use;
  }

  /** Takes a face in. */
  void add(PolygonMesh mesh, int face) {
    Attribute uv = of(mesh);
    double[] box = box(mesh, uv, face);
    lowU = Math.min(lowU, box[0]);
    lowV = Math.min(lowV, box[1]);
    highU = Math.max(highU, box[2]);
    highV = Math.max(highV, box[3]);
    double startU = Math.floor(box[0] + SLACK);
    double startV = Math.floor(box[1] + SLACK);
    shown[0] = Math.min(shown[0], box[0] - startU);
    shown[1] = Math.min(shown[1], box[1] - startV);
    shown[2] = Math.max(shown[2], box[2] - startU);
    shown[3] = Math.max(shown[3], box[3] - startV);
    eachFits &=
        box[2] - Math.floor(box[0] + SLACK) <= 1 + SLACK
            && box[3] - Math.floor(box[1] + SLACK) <= 1 + SLACK;
  }

  /** The part of one image that the faces show: left, top, right, bottom, 0 to 1. */
  double[] shown() {
    return shown;
  }

  /** Whether each face lies on one image, so that none has to repeat. */
  boolean isPlain() {
    return eachFits;
  }

  /** How many images side by side the faces cover together. */
  int acrossU() {
    return eachFits ? 1 : (int) Math.max(1, Math.ceil(highU - SLACK) - Math.floor(lowU + SLACK));
  }

  int acrossV() {
    return eachFits ? 1 : (int) Math.max(1, Math.ceil(highV - SLACK) - Math.floor(lowV + SLACK));
  }

  private double[] box(PolygonMesh mesh, Attribute uv, int face) {
    double[] box = {Double.MAX_VALUE, Double.MAX_VALUE, -Double.MAX_VALUE, -Double.MAX_VALUE};
    for (int k = 0; k < mesh.faces().size(face); k++) {
      double u = u(mesh, uv, face, k);
      double v = v(mesh, uv, face, k);
      box[0] = Math.min(box[0], u);
      box[1] = Math.min(box[1], v);
      box[2] = Math.max(box[2], u);
      box[3] = Math.max(box[3], v);
    }
    return box;
  }

  /**
   * Writes where the corners of a face lie in the atlas.
   *
   * @param tile left, top, width and height of the tile, as parts of the atlas
   * @param into {@code float[2*corners]} of the mesh
   */
  void put(PolygonMesh mesh, int face, double[] tile, float[] into) {
    Attribute uv = of(mesh);
    double fromU = Math.floor(lowU + SLACK);
    double fromV = Math.floor(lowV + SLACK);
    if (eachFits && use != null) {
      double[] box = box(mesh, uv, face);
      fromU = Math.floor(box[0] + SLACK);
      fromV = Math.floor(box[1] + SLACK);
    }
    int first = mesh.faces().start(face);
    for (int k = 0; k < mesh.faces().size(face); k++) {
      double u = use == null ? 0.5 : (u(mesh, uv, face, k) - fromU) / acrossU();
      double v = use == null ? 0.5 : (v(mesh, uv, face, k) - fromV) / acrossV();
      double x = tile[0] + tile[2] * Math.max(0, Math.min(1, u));
      double y = tile[1] + tile[3] * Math.max(0, Math.min(1, v));
      into[2 * (first + k)] = (float) x;
      into[2 * (first + k) + 1] = (float) (origin == UvOrigin.TOP_LEFT ? y : 1 - y);
    }
  }

  private double u(PolygonMesh mesh, Attribute uv, int face, int k) {
    if (use == null) {
      return 0;
    }
    double u = use.scaleU() * number(mesh, uv, face, k, 0);
    double v = use.scaleV() * number(mesh, uv, face, k, 1);
    return Math.cos(use.rotationRadians()) * u + turn() * v + use.offsetU();
  }

  /** KHR_texture_transform turns with V down; from the other end the turn is the other way. */
  private double turn() {
    double sine = Math.sin(use.rotationRadians());
    return origin == UvOrigin.TOP_LEFT ? sine : -sine;
  }

  /** Counted down from the top of the image. */
  private double v(PolygonMesh mesh, Attribute uv, int face, int k) {
    if (use == null) {
      return 0;
    }
    double across = use.scaleU() * number(mesh, uv, face, k, 0);
    double down = use.scaleV() * number(mesh, uv, face, k, 1);
    double v = Math.cos(use.rotationRadians()) * down - turn() * across + use.offsetV();
    return origin == UvOrigin.TOP_LEFT ? v : 1 - v;
  }

  private static double number(PolygonMesh mesh, Attribute uv, int face, int k, int part) {
    int corner = mesh.faces().start(face) + k;
    int value = uv == null ? -1 : uv.valueOf(corner, mesh.faces().vertex(corner), face);
    return value < 0 ? 0 : uv.values()[uv.components() * value + part];
  }

  /** The UVs of a mesh that the images lie by; {@code null} where it has not that set. */
  Attribute of(PolygonMesh mesh) {
    // Faces of one mesh are asked for one after another.
    if (mesh != lastMesh) {
      lastMesh = mesh;
      lastSet = set(mesh, use == null ? 0 : use.uvSet());
    }
    return lastSet;
  }

  static Attribute set(PolygonMesh mesh, int set) {
    List<Attribute> sets = mesh.all(Semantic.UV);
    return set < sets.size() ? sets.get(set) : null;
  }

  /** Writes the UVs of a face that stays where it is. */
  static void keep(PolygonMesh mesh, Attribute uv, int face, float[] values) {
    for (int c = mesh.faces().start(face); uv != null && c < mesh.faces().end(face); c++) {
      int value = uv.valueOf(c, mesh.faces().vertex(c), face);
      if (value >= 0) {
        values[2 * c] = uv.values()[uv.components() * value];
        values[2 * c + 1] = uv.values()[uv.components() * value + 1];
      }
    }
  }
}
