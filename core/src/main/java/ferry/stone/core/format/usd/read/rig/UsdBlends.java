package ferry.stone.core.format.usd.read.rig;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.read.stage.Said;
import ferry.stone.core.format.usd.read.stage.UsdReading;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** Blend shapes as morph targets: sparse points, in-betweens by their weights, normals. */
public final class UsdBlends {
  static final String NAMES = "skel:blendShapes";
  private static final String TARGETS = "skel:blendShapeTargets";
  private static final String BETWEEN = "inbetweens:";
  private static final String NORMALS = ":normalOffsets";

  private final UsdReading reading;

  public UsdBlends(UsdReading reading) {
    this.reading = reading;
  }

  /** The mesh with the targets that its prim names. */
  public PolygonMesh on(PolygonMesh mesh, UsdPrim prim) throws IOException, FormatException {
    String[] names = Said.texts(prim, NAMES);
    List<String> targets = Said.targets(prim, TARGETS);
    if (names.length == 0) {
      return mesh;
    }
    if (names.length != targets.size()) {
      reading
          .report()
          .lost(
              "reference-broken",
              prim.path(),
              "It names " + names.length + " blend shapes and leads to " + targets.size() + ".");
    }
    List<MorphTarget> morphs = new ArrayList<>();
    for (int i = 0; i < Math.min(names.length, targets.size()); i++) {
      UsdPrim shape = reading.stage().prim(targets.get(i));
      if (shape == null || !shape.typeName().equals("BlendShape")) {
        reading
            .report()
            .lost(
                "reference-broken",
                prim.path(),
                "Its blend shape \"" + names[i] + "\" is not there: left out.");
      } else {
        MorphTarget morph = morph(name(names[i], shape), shape, mesh.points().count());
        if (morph != null) {
          morphs.add(morph);
        }
      }
    }
    return mesh.toBuilder().morphs(morphs).build();
  }

  /** A name that was taken by another shape stands as the display name. */
  private static String name(String token, UsdPrim shape) {
    return shape.field("displayName") instanceof UsdValue value
            && value.text() != null
            && (token.equals(value.text()) || token.startsWith(value.text() + "_"))
        ? value.text()
        : token;
  }

  private MorphTarget morph(String name, UsdPrim shape, int vertices)
      throws IOException, FormatException {
    UsdValue said = Said.value(shape, "pointIndices");
    boolean empty = said != null && Said.floats(shape, "offsets").length == 0;
    int[] indices = said == null || said.length() == 0 && !empty ? null : said.ints();
    List<MorphTarget.Shape> shapes = new ArrayList<>();
    MorphTarget.Shape full = shape(shape, 1, indices, "offsets", "normalOffsets", vertices);
    if (full == null) {
      return null;
    }
    shapes.add(full);
    for (String property : shape.propertyNames()) {
      boolean between = property.startsWith(BETWEEN) && !property.endsWith(NORMALS);
      if (!between) {
        continue;
      }
      double weight =
          shape.property(property).field("weight") instanceof UsdValue value
              ? value.number(0)
              : Double.NaN;
      if (!(weight > 0) || weight == 1) {
        reading
            .report()
            .lost(
                "shape-out-of-range",
                shape.path(),
                "The shape \""
                    + property.substring(BETWEEN.length())
                    + "\" has the weight "
                    + weight
                    + ", which is none between off and beyond fully on: it is left out.");
        continue;
      }
      MorphTarget.Shape own = shape(shape, weight, indices, property, property + NORMALS, vertices);
      if (own != null) {
        shapes.add(own);
      }
    }
    shapes.sort(Comparator.comparingDouble(MorphTarget.Shape::fullWeight));
    if (shapes.get(shapes.size() - 1).fullWeight() > 1) {
      reading
          .report()
          .lost(
              "shape-out-of-range",
              shape.path(),
              "It has a shape beyond fully on, which is left out.");
      shapes.removeIf(s -> s.fullWeight() > 1);
    }
    return new MorphTarget(name, 0, shapes);
  }

  /** {@code null} and told where it fits no vertices. */
  private MorphTarget.Shape shape(
      UsdPrim shape, double weight, int[] indices, String offsets, String normals, int vertices)
      throws IOException, FormatException {
    float[] deltas = Said.floats(shape, offsets);
    float[] turned = Said.floats(shape, normals);
    int count = indices == null ? vertices : indices.length;
    boolean fits = deltas.length == 3 * count;
    for (int i = 0; indices != null && i < indices.length; i++) {
      fits &= indices[i] >= 0 && indices[i] < vertices;
    }
    if (!fits) {
      reading
          .report()
          .lost(
              "shape-out-of-range",
              shape.path(),
              "\""
                  + offsets
                  + "\" has "
                  + deltas.length / 3
                  + " offsets for "
                  + count
                  + " points, or names points that are not there: left out.");
      return null;
    }
    reading.report().claim(8L * deltas.length, shape.path(), "its offsets");
    return new MorphTarget.Shape(
        weight, indices, deltas, turned.length == deltas.length ? turned : null);
  }
}
