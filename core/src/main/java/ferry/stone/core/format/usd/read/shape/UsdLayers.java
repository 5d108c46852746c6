package ferry.stone.core.format.usd.read.shape;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.mesh.FileLayers;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.compose.UsdProperty;
import ferry.stone.core.format.usd.layer.UsdType;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.read.stage.Primvars;
import ferry.stone.core.format.usd.read.stage.Said;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.Table;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Values over a shape as layers: primvars with and without indices, normals, velocities, widths.
 *
 * @param over the shape that they lie over
 * @param varying what carries values that vary along a shape
 * @param code time code at which values that change are read, no number for those at rest
 */
record UsdLayers(FileLayers over, Domain varying, double code) {
  private static final String COLOUR = "displayColor";
  private static final String OPACITY = "displayOpacity";

  /** What the scene has a place of its own for. */
  private static boolean isElsewhere(String primvar) {
    return primvar.startsWith("skel:");
  }

  /** All layers of a prim; the UVs that most others read first. */
  List<Attribute> all(UsdPrim prim, Primvars primvars) throws IOException, FormatException {
    List<Attribute> layers = new ArrayList<>();
    if (!primvars.all().containsKey("normals")) {
      add(layers, plain(prim, "normals", Semantic.NORMAL));
    }
    Attribute colour = null;
    Attribute opacity = null;
    for (Primvars.Primvar primvar : primvars.sorted()) {
      if (!isElsewhere(primvar.name())) {
        Attribute layer = layer(primvar);
        colour = primvar.name().equals(COLOUR) ? layer : colour;
        opacity = primvar.name().equals(OPACITY) ? layer : opacity;
        add(layers, layer);
      }
    }
    for (String name : List.of("velocities", "accelerations", "widths", "ids")) {
      if (!primvars.all().containsKey(name)) {
        add(layers, plain(prim, name, Semantic.OTHER));
      }
    }
    Attribute both = together(colour, opacity);
    if (both != null) {
      layers.set(layers.indexOf(colour), both);
      layers.remove(opacity);
    }
    return layers;
  }

  private static void add(List<Attribute> layers, Attribute layer) {
    if (layer != null) {
      layers.add(layer);
    }
  }

  /** Colour with opacity as its fourth number; {@code null} where they are not of one kind. */
  private static Attribute together(Attribute colour, Attribute opacity) {
    boolean fits =
        colour != null
            && opacity != null
            && colour.semantic() == Semantic.COLOUR
            && colour.components() == 3
            && opacity.table() instanceof Table.Floats clear
            && clear.components() == 1
            && opacity.domain() == colour.domain()
            && opacity.valueCount() == colour.valueCount()
            && Arrays.equals(opacity.indices(), colour.indices());
    if (!fits) {
      return null;
    }
    float[] rgb = colour.values();
    float[] alpha = ((Table.Floats) opacity.table()).numbers();
    float[] all = new float[4 * alpha.length];
    for (int i = 0; i < alpha.length; i++) {
      System.arraycopy(rgb, 3 * i, all, 4 * i, 3);
      all[4 * i + 3] = alpha[i];
    }
    return new Attribute(colour.name(), Semantic.COLOUR, colour.domain(), 4, all, colour.indices());
  }

  /** An attribute of the schema itself, which has no indices. */
  private Attribute plain(UsdPrim prim, String name, Semantic semantic)
      throws IOException, FormatException {
    UsdProperty property = prim.property(name);
    if (property == null || property.value() == null && property.samples() == null) {
      return null;
    }
    String interpolation = Said.field(property, "interpolation", "vertex");
    return layer(name, property, null, interpolation, 1, semantic);
  }

  private Attribute layer(Primvars.Primvar primvar) throws IOException, FormatException {
    UsdProperty values = primvar.values();
    return layer(
        primvar.shown(),
        values,
        primvar.indices(),
        primvar.interpolation(),
        primvar.elementSize(),
        Primvars.meaning(primvar.name(), values.typeName()));
  }

  private Attribute layer(
      String name,
      UsdProperty values,
      UsdProperty indexed,
      String interpolation,
      int elementSize,
      Semantic semantic)
      throws IOException, FormatException {
    boolean moves = Said.moves(values) || Said.moves(indexed);
    if (moves && !name.equals("velocities")) {
      over.tellMotion(name, semantic);
    }
    UsdValue found = Said.at(values, code);
    if (found == null || found.length() == 0) {
      return null;
    }
    UsdValue places = Said.at(indexed, code);
    int[] indices = places == null ? null : places.ints();
    over.report()
        .claim(
            12L * found.length() + (indices == null ? 0 : 4L * indices.length),
            over.path(),
            "\"" + name + "\"");
    Table table = table(found, semantic, elementSize);
    return over.layer(name, semantic, table, domain(interpolation), indices);
  }

  private Domain domain(String interpolation) {
    return switch (interpolation) {
      case "constant" -> Domain.CONSTANT;
      case "uniform" -> Domain.FACE;
      case "varying" -> varying;
      case "vertex" -> Domain.VERTEX;
      case "faceVarying" ->
          over.corners().length > 0 || over.vertices() == 0 ? Domain.CORNER : varying;
      default -> null;
    };
  }

  private static Table table(UsdValue value, Semantic semantic, int elementSize) {
    UsdType type = value.type();
    int width = type.components() * elementSize;
    if (width < 1 || width > Attribute.MOST || value.length() % width != 0) {
      return null;
    }
    if (type.kind().isText()) {
      return semantic == Semantic.OTHER && width == 1 ? new Table.Texts(value.texts()) : null;
    }
    if (semantic != Semantic.OTHER) {
      boolean half = type.kind() == UsdType.Kind.HALF;
      return semantic.holds(width) ? new Table.Floats(value.floats(), width, half) : null;
    }
    return switch (type.kind()) {
      case HALF, FLOAT -> new Table.Floats(value.floats(), width, type.kind() == UsdType.Kind.HALF);
      case BOOL, UCHAR, INT -> new Table.Wholes(value.ints(), width);
      default -> new Table.Doubles(value.doubles(), width);
    };
  }
}
