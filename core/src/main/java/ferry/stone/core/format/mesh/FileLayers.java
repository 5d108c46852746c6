package ferry.stone.core.format.mesh;

import ferry.stone.core.format.files.ReadReport;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.Table;
import java.util.Arrays;

/**
 * Puts the values that a file has over a shape where they belong, and tells of those that do not
 * fit.
 *
 * @param path of the shape, for what is told
 * @param vertices how many vertices the shape has
 * @param faces how many faces, or curves
 * @param corners for each corner in the scene's order the one that the file has there
 * @param pointsMove whether its points change over time while it stays one mesh
 */
public record FileLayers(
    ReadReport report, String path, int vertices, int faces, int[] corners, boolean pointsMove) {
  /** How many values a layer has at least. */
  public int count(Domain domain) {
    return switch (domain) {
      case VERTEX -> vertices;
      case CORNER -> corners.length;
      case FACE -> faces;
      case CONSTANT -> 1;
    };
  }

  /** Tells that a layer changes over time, of which one moment is read. */
  public void tellMotion(String name, Semantic semantic) {
    if (semantic == Semantic.NORMAL && pointsMove) {
      report.note(
          "normals-follow-points",
          path,
          "Its normals change as its points do: those at first are read, and turn with the"
              + " surface.");
    } else if (!report.everySample()) {
      report.lost(
          "layer-motion-not-read",
          path,
          "The layer \"" + name + "\" changes over time: its first value is read.");
    }
  }

  /**
   * A layer, {@code null} where its values do not fit, which is told.
   *
   * @param table {@code null} where the values are of no kind that is known
   * @param domain what carries the values, {@code null} where nothing does
   * @param indices of the values, in the order of the file, {@code null} for one after another
   */
  public Attribute layer(
      String name, Semantic semantic, Table table, Domain domain, int[] indices) {
    if (table == null) {
      return left("layer-not-read", "The layer \"" + name + "\" has values of an unknown form.");
    }
    int elements = indices != null ? indices.length : table.count();
    if (domain == null || elements < count(domain)) {
      return left(
          "layer-too-short",
          "The layer \"" + name + "\" has " + elements + " values, which fit no part of the mesh.");
    }
    int[] placed = placed(domain, indices, elements);
    for (int i = 0; placed != null && i < placed.length; i++) {
      if (placed[i] < 0 || placed[i] >= table.count()) {
        return left(
            "layer-index-out-of-range",
            "The layer \"" + name + "\" names a value that is not there: it is left out.");
      }
    }
    return new Attribute(name, semantic, domain, table, placed);
  }

  private Attribute left(String code, String message) {
    report.lost(code, path, message);
    return null;
  }

  private int[] placed(Domain domain, int[] indices, int elements) {
    int count = count(domain);
    if (domain != Domain.CORNER) {
      return indices == null || elements == count ? indices : Arrays.copyOf(indices, count);
    }
    boolean turned = false;
    for (int c = 0; c < count && !turned; c++) {
      turned = corners[c] != c;
    }
    if (indices == null && !turned) {
      return null;
    }
    int[] placed = new int[count];
    for (int c = 0; c < count; c++) {
      placed[c] = indices == null ? corners[c] : indices[corners[c]];
    }
    return placed;
  }
}
