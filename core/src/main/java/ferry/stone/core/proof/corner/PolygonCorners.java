package ferry.stone.core.proof.corner;

import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.texture.ColourSpace;
import java.util.List;

/** Corner by corner for formats that hold polygons: the same faces in the same order. */
public final class PolygonCorners implements CornerPairs {
  private final PolygonMesh wanted;
  private final PolygonMesh found;
  private final CornerDifference difference;
  private final boolean flipped;
  private final boolean wantedLinear;
  private final boolean foundLinear;
  private final boolean paired;
  private final List<Attribute> held;
  private final List<String> names;

  public PolygonCorners(
      Scene farScene,
      Scene readScene,
      Scene.ShownMesh far,
      Scene.ShownMesh landed,
      Holding holding,
      double tolerance) {
    held = holding.layers(far.mesh());
    names = holding.layerNames(far.mesh());
    wanted = far.mesh();
    found = landed.mesh();
    flipped = farScene.uvOrigin() != readScene.uvOrigin();
    wantedLinear = farScene.linearColours();
    foundLinear = readScene.linearColours();
    difference = new CornerDifference(far.world(), landed.world());
    boolean same = sameFaces(wanted.faces(), found.faces());
    if (same) {
      for (int f = 0; f < wanted.faces().faceCount(); f++) {
        for (int c = wanted.faces().start(f); c < wanted.faces().end(f); c++) {
          position(wanted.faces().vertex(c), found.faces().vertex(c));
        }
      }
      layers();
    }
    paired = same && difference.position() <= tolerance;
  }

  private static boolean sameFaces(Polygons a, Polygons b) {
    if (a.faceCount() != b.faceCount() || a.cornerCount() != b.cornerCount()) {
      return false;
    }
    for (int f = 0; f < a.faceCount(); f++) {
      if (a.end(f) != b.end(f)) {
        return false;
      }
    }
    return true;
  }

  private void position(int v, int w) {
    difference.positions(
        wanted.points().x(v),
        wanted.points().y(v),
        wanted.points().z(v),
        found.points().x(w),
        found.points().y(w),
        found.points().z(w));
  }

  private void layers() {
    List<Attribute> uvs = wanted.all(Semantic.UV);
    List<Attribute> landedUvs = found.all(Semantic.UV);
    for (int set = 0; set < Math.min(uvs.size(), landedUvs.size()); set++) {
      compare(uvs.get(set), landedUvs.get(set), Semantic.UV);
    }
    Attribute[] there = LayerValues.found(names, found);
    for (int l = 0; l < there.length; l++) {
      if (there[l] != null) {
        custom(l, held.get(l), there[l]);
      }
    }
    wanted
        .first(Semantic.NORMAL)
        .ifPresent(
            a -> found.first(Semantic.NORMAL).ifPresent(b -> compare(a, b, Semantic.NORMAL)));
    wanted
        .first(Semantic.TANGENT)
        .ifPresent(
            a -> found.first(Semantic.TANGENT).ifPresent(b -> compare(a, b, Semantic.TANGENT)));
    wanted
        .first(Semantic.COLOUR)
        .ifPresent(
            a -> found.first(Semantic.COLOUR).ifPresent(b -> compare(a, b, Semantic.COLOUR)));
  }

  private void custom(int place, Attribute a, Attribute b) {
    Polygons faces = wanted.faces();
    for (int f = 0; f < faces.faceCount(); f++) {
      for (int c = faces.start(f); c < faces.end(f); c++) {
        int i = a.valueOf(c, faces.vertex(c), f);
        int j = b.valueOf(c, found.faces().vertex(c), f);
        difference.layer(place, LayerValues.same(a, i, b, j));
      }
    }
  }

  private void compare(Attribute a, Attribute b, Semantic semantic) {
    Polygons faces = wanted.faces();
    float[] own = a.values();
    float[] there = b.values();
    for (int f = 0; f < faces.faceCount(); f++) {
      for (int c = faces.start(f); c < faces.end(f); c++) {
        int i = a.valueOf(c, faces.vertex(c), f);
        int j = b.valueOf(c, found.faces().vertex(c), f);
        if (i < 0 || j < 0) {
          if (i >= 0 != j >= 0 && semantic == Semantic.UV) {
            difference.uvMissing();
          }
          continue;
        }
        i *= a.components();
        j *= b.components();
        switch (semantic) {
          case UV -> {
            difference.uvs(own[i], there[j]);
            difference.uvs(flipped ? 1 - own[i + 1] : own[i + 1], there[j + 1]);
          }
          case NORMAL ->
              difference.normals(
                  own[i], own[i + 1], own[i + 2], there[j], there[j + 1], there[j + 2]);
          case TANGENT -> {
            difference.tangents(own, i, there, j);
            if (a.components() == 4 && b.components() == 4 && own[i + 3] * there[j + 3] < 0) {
              difference.otherSide();
            }
          }
          default -> {
            for (int k = 0; k < 3; k++) {
              difference.colours(coded(own[i + k], wantedLinear), coded(there[j + k], foundLinear));
            }
          }
        }
      }
    }
  }

  private static double coded(double value, boolean linear) {
    double clamped = Math.max(0, Math.min(1, value));
    return linear ? ColourSpace.toSrgb(clamped) : clamped;
  }

  @Override
  public boolean paired() {
    return paired;
  }

  @Override
  public int landedVertices() {
    return found.points().count();
  }

  @Override
  public CornerDifference difference() {
    return difference;
  }

  @Override
  public boolean farTangents() {
    return wanted.first(Semantic.TANGENT).isPresent();
  }

  @Override
  public boolean farNormals() {
    return wanted.first(Semantic.NORMAL).isPresent();
  }
}
