package ferry.stone.core.proof.corner;

import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.geometry.triangle.RenderPrimitive;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.work.Progress;
import java.util.List;

/** Corner by corner in the order that a landing by primitives promises: triangles by material. */
public final class TriangleCorners implements CornerPairs {
  private final List<RenderPrimitive> wanted;
  private final PolygonMesh found;
  private final CornerDifference difference;
  private final boolean flipped;
  private final boolean linear;
  private final boolean paired;
  private final List<Attribute> held;
  private final List<Attribute> ownColours;
  private final Attribute[] foundColours;
  private final List<String> names;

  public TriangleCorners(
      Scene scene,
      Scene.ShownMesh far,
      Scene.ShownMesh landed,
      Holding holding,
      double tolerance,
      Progress progress) {
    flipped = scene.uvOrigin() == UvOrigin.BOTTOM_LEFT;
    linear = scene.linearColours();
    wanted = holding.primitives(scene, far.mesh(), progress);
    held = holding.layers(far.mesh());
    names = holding.layerNames(far.mesh());
    found = landed.mesh();
    ownColours = far.mesh().all(Semantic.COLOUR);
    foundColours = ColourSetPairs.of(far.mesh(), found);
    difference = new CornerDifference(far.world(), landed.world());
    long corners = wanted.stream().mapToLong(p -> p.indices().length).sum();
    boolean same = corners == found.faces().cornerCount();
    if (same) {
      compare();
    }
    paired = same && difference.position() <= tolerance;
  }

  private void compare() {
    List<Attribute> uvs = found.all(Semantic.UV);
    Attribute normals = found.first(Semantic.NORMAL).orElse(null);
    Attribute tangents =
        found.first(Semantic.TANGENT).filter(t -> t.components() == 4).orElse(null);
    Attribute[] layersThere = LayerValues.found(names, found);
    int corner = 0;
    for (RenderPrimitive p : wanted) {
      int[] indices = p.indices();
      int shift = indices.length == 0 ? 0 : found.faces().vertex(corner) - indices[0];
      // Each vertex once, however many corners it has; custom values are counted by corners.
      if (held.isEmpty() && isRun(p, corner, shift)) {
        for (int i = 0; i < p.vertexCount(); i++) {
          vertex(p, i, i + shift, uvs, normals, tangents, layersThere);
        }
      } else {
        for (int k = 0; k < indices.length; k++) {
          int v = found.faces().vertex(corner + k);
          vertex(p, indices[k], v, uvs, normals, tangents, layersThere);
        }
      }
      corner += indices.length;
    }
  }

  /** Whether the triangles of a primitive landed with the same vertices, one after another. */
  private boolean isRun(RenderPrimitive p, int corner, int shift) {
    int[] indices = p.indices();
    int count = p.vertexCount();
    boolean[] used = new boolean[count];
    int left = count;
    for (int k = 0; k < indices.length; k++) {
      int i = indices[k];
      if (found.faces().vertex(corner + k) != i + shift) {
        return false;
      }
      left -= used[i] ? 0 : 1;
      used[i] = true;
    }
    return left == 0;
  }

  /** One vertex of a primitive, and the landed one. */
  private void vertex(
      RenderPrimitive p,
      int i,
      int v,
      List<Attribute> uvs,
      Attribute normals,
      Attribute tangents,
      Attribute[] layersThere) {
    Coordinates points = found.points();
    float[] at = p.positions();
    difference.positions(
        at[3 * i], at[3 * i + 1], at[3 * i + 2], points.x(v), points.y(v), points.z(v));
    for (int set = 0; set < Math.min(uvs.size(), p.uvs().size()); set++) {
      float[] own = p.uvs().get(set);
      float[] there = uvs.get(set).values();
      difference.uvs(own[2 * i], there[2 * v]);
      // The landed file counts V from the top.
      difference.uvs(flipped ? 1 - own[2 * i + 1] : own[2 * i + 1], there[2 * v + 1]);
    }
    if (normals != null && p.normals() != null) {
      float[] own = p.normals();
      float[] there = normals.values();
      difference.normals(
          own[3 * i],
          own[3 * i + 1],
          own[3 * i + 2],
          there[3 * v],
          there[3 * v + 1],
          there[3 * v + 2]);
    }
    if (tangents != null && p.tangents() != null) {
      float[] own = p.tangents();
      float[] there = tangents.values();
      difference.tangents(own, 4 * i, there, 4 * v);
      if (own[4 * i + 3] * there[4 * v + 3] < 0) {
        difference.otherSide();
      }
    }
    for (int l = 0; l < layersThere.length; l++) {
      Attribute there = layersThere[l];
      if (there != null) {
        int row = there.valueOf(-1, v, -1);
        difference.layer(l, LayerValues.same(held.get(l), p.layerRows().get(l)[i], there, row));
      }
    }
    for (int set = 0; set < foundColours.length; set++) {
      // Sets after the first stand behind the custom layers.
      int row = set == 0 ? i : p.layerRows().get(held.size() + set - 1)[i];
      if (foundColours[set] != null && row >= 0 && p.colours() != null) {
        difference.colourSet(set);
        float[] own = set == 0 ? p.colours() : ownColours.get(set).values();
        int start = row * (set == 0 ? p.colourComponents() : ownColours.get(set).components());
        colours(own, start, foundColours[set], v);
      }
    }
  }

  private void colours(float[] values, int at, Attribute colours, int v) {
    for (int k = 0; k < 3; k++) {
      double landedColour = colours.values()[colours.components() * v + k];
      double there = linear ? landedColour : ColourSpace.toSrgb(landedColour);
      double own = Math.max(0, Math.min(1, values[at + k]));
      difference.colours(own, there);
    }
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
    return wanted.stream().anyMatch(p -> p.tangents() != null);
  }

  @Override
  public boolean farNormals() {
    return !wanted.isEmpty() && wanted.get(0).normals() != null;
  }
}
