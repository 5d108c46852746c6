package ferry.stone.core.proof.corner;

import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.texture.ColourSpace;
import java.util.Arrays;
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

  /** Whether corners name the same vertices: then what lies on them is compared once each. */
  private final boolean sameVertices;

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
    boolean same = wanted.faces().hasSameSizes(found.faces());
    sameVertices =
        wanted.points().count() == found.points().count() && wanted.faces().isSame(found.faces());
    boolean sameNumbers =
        sameVertices && difference.isSameWorld() && wanted.points().isSame(found.points());
    if (sameVertices && !sameNumbers) {
      boolean[] used = used(Attribute.Domain.VERTEX);
      for (int v = 0; v < used.length; v++) {
        if (used[v]) {
          position(v, v);
        }
      }
    } else if (same && !sameVertices) {
      for (int c = 0; c < wanted.faces().cornerCount(); c++) {
        position(wanted.faces().vertex(c), found.faces().vertex(c));
      }
    }
    if (same) {
      layers();
    }
    paired = same && difference.position() <= tolerance;
  }

  /** Which elements have a corner of a face. */
  private boolean[] used(Attribute.Domain domain) {
    Polygons faces = wanted.faces();
    boolean[] used =
        new boolean
            [switch (domain) {
              case VERTEX -> wanted.points().count();
              case CORNER -> faces.cornerCount();
              case FACE -> faces.faceCount();
              case CONSTANT -> 1;
            }];
    switch (domain) {
      case VERTEX -> {
        for (int c = 0; c < faces.cornerCount(); c++) {
          used[faces.vertex(c)] = true;
        }
      }
      case FACE -> {
        for (int f = 0; f < used.length; f++) {
          used[f] = faces.size(f) > 0;
        }
      }
      default -> Arrays.fill(used, faces.cornerCount() > 0);
    }
    return used;
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
    Attribute[] colours = ColourSetPairs.of(wanted, found);
    for (int set = 0; set < colours.length; set++) {
      if (colours[set] != null) {
        difference.colourSet(set);
        compare(wanted.all(Semantic.COLOUR).get(set), colours[set], Semantic.COLOUR);
      }
    }
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
    boolean[] used = ofSameElements(a, b) ? used(a.domain()) : null;
    if (used != null) {
      for (int e = 0; e < used.length; e++) {
        if (used[e]) {
          compare(
              a,
              a.indices() == null ? e : a.indices()[e],
              b,
              b.indices() == null ? e : b.indices()[e],
              semantic);
        }
      }
      return;
    }
    Polygons faces = wanted.faces();
    for (int f = 0; f < faces.faceCount(); f++) {
      for (int c = faces.start(f); c < faces.end(f); c++) {
        int i = a.valueOf(c, faces.vertex(c), f);
        int j = b.valueOf(c, found.faces().vertex(c), f);
        compare(a, i, b, j, semantic);
      }
    }
  }

  private boolean ofSameElements(Attribute a, Attribute b) {
    return a.domain() == b.domain() && (a.domain() != Attribute.Domain.VERTEX || sameVertices);
  }

  /**
   * @param row of a value in a, −1 for none
   */
  private void compare(Attribute a, int row, Attribute b, int other, Semantic semantic) {
    if (row < 0 || other < 0) {
      if (row >= 0 != other >= 0 && semantic == Semantic.UV) {
        difference.uvMissing();
      }
      return;
    }
    float[] own = a.values();
    float[] there = b.values();
    int i = row * a.components();
    int j = other * b.components();
    switch (semantic) {
      case UV -> {
        difference.uvs(own[i], there[j]);
        difference.uvs(flipped ? 1 - own[i + 1] : own[i + 1], there[j + 1]);
      }
      case NORMAL ->
          difference.normals(own[i], own[i + 1], own[i + 2], there[j], there[j + 1], there[j + 2]);
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
