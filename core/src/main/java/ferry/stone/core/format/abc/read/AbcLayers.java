package ferry.stone.core.format.abc.read;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.abc.raw.AbcCompound;
import ferry.stone.core.format.abc.raw.AbcProperty;
import ferry.stone.core.format.abc.raw.Pod;
import ferry.stone.core.format.mesh.FileLayers;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.Table;
import java.io.IOException;
import java.util.Map;

/**
 * Values over a mesh: its normals and UVs, and its arbitrary parameters, with and without indices.
 *
 * @param over the mesh that they lie over
 */
record AbcLayers(FileLayers over) {
  private static final String VALUES = ".vals";
  private static final String INDICES = ".indices";
  private static final int BYTE = 255;

  /** Parts of a parameter; its indices may be missing. */
  private record Parameter(Map<String, String> metaData, AbcProperty values, AbcProperty indices) {}

  private static Parameter parameter(AbcCompound holder, String name)
      throws IOException, FormatException {
    AbcCompound compound = holder.compound(name).orElse(null);
    AbcProperty values =
        compound == null ? holder.value(name).orElse(null) : compound.value(VALUES).orElse(null);
    AbcProperty indices = compound == null ? null : compound.value(INDICES).orElse(null);
    return values == null ? null : new Parameter(holder.metaData(name), values, indices);
  }

  /**
   * A parameter as a layer.
   *
   * @param semantic what it is, {@code null} where its own words have to tell
   * @return {@code null} where it is not there, or told and left out
   */
  Attribute layer(AbcCompound holder, String property, Semantic semantic, int sample)
      throws IOException, FormatException {
    Parameter found = parameter(holder, property);
    if (found == null) {
      return null;
    }
    String name = found.metaData.getOrDefault("sourceName", property);
    boolean moves =
        !found.values.isConstant() || found.indices != null && !found.indices.isConstant();
    if (moves) {
      over.tellMotion(name, semantic);
    }
    AbcProperty.Place place = found.values.place(sample);
    if (place.rows() == 0) {
      // Programs write parameters that hold nothing.
      return null;
    }
    over.report()
        .claim(2 * place.bytes() + 8 * place.rows(), over.path(), "the layer \"" + name + "\"");
    Semantic meant = semantic != null ? semantic : meaning(found);
    Table table = table(found, meant, sample);
    int[] indices = found.indices == null ? null : found.indices.ints(sample);
    int elements = indices != null ? indices.length : table == null ? 0 : table.count();
    Domain domain = domain(found.metaData.getOrDefault("geoScope", ""), elements);
    return over.layer(name, meant, table, domain, indices);
  }

  /** What carries the values; where the file does not say it, their number does. */
  private Domain domain(String scope, int elements) {
    return switch (scope) {
      case "con" -> Domain.CONSTANT;
      case "uni" -> Domain.FACE;
      case "var", "vtx" -> Domain.VERTEX;
      case "fvr" -> Domain.CORNER;
      default ->
          elements == 1
              ? Domain.CONSTANT
              : elements == over.corners().length && elements > 0
                  ? Domain.CORNER
                  : elements == over.vertices()
                      ? Domain.VERTEX
                      : elements == over.faces() ? Domain.FACE : null;
    };
  }

  private static Semantic meaning(Parameter parameter) {
    String words = parameter.metaData.getOrDefault("interpretation", "");
    AbcProperty.Type type = parameter.values.type();
    boolean real = type.pod() == Pod.FLOAT32 || type.pod() == Pod.FLOAT16;
    boolean colour = words.equals("rgb") || words.equals("rgba");
    if (colour && (real || type.pod() == Pod.UINT8) && Semantic.COLOUR.holds(type.extent())) {
      return Semantic.COLOUR;
    }
    return real && type.extent() == 2 ? Semantic.UV : Semantic.OTHER;
  }

  private static Table table(Parameter parameter, Semantic semantic, int sample)
      throws IOException, FormatException {
    AbcProperty values = parameter.values;
    int width = values.type().extent() * repeated(parameter.metaData);
    if (width < 1 || width > Attribute.MOST) {
      return null;
    }
    Pod pod = values.type().pod();
    if (pod.isText()) {
      return semantic == Semantic.OTHER && width == 1
          ? new Table.Texts(values.texts(sample).toArray(String[]::new))
          : null;
    }
    boolean wide = pod == Pod.FLOAT64 || pod == Pod.INT64 || pod == Pod.UINT64 || pod == Pod.UINT32;
    boolean real = pod == Pod.FLOAT32 || pod == Pod.FLOAT16;
    if (values.place(sample).rows() * values.type().extent() % width != 0) {
      return null;
    }
    if (semantic != Semantic.OTHER) {
      float[] numbers = values.floats(sample);
      for (int i = 0; pod == Pod.UINT8 && i < numbers.length; i++) {
        numbers[i] /= BYTE;
      }
      return semantic.holds(width) ? new Table.Floats(numbers, width, pod == Pod.FLOAT16) : null;
    }
    if (real) {
      return new Table.Floats(values.floats(sample), width, pod == Pod.FLOAT16);
    }
    return wide
        ? new Table.Doubles(values.doubles(sample), width)
        : new Table.Wholes(values.ints(sample), width);
  }

  /** Rows that make one value together. */
  private static int repeated(Map<String, String> metaData) {
    String text = metaData.getOrDefault("arrayExtent", "1");
    return text.matches("\\d{1,3}") ? Math.max(1, Integer.parseInt(text)) : 0;
  }
}
