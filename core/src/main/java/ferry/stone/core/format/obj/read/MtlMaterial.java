package ferry.stone.core.format.obj.read;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** One {@code newmtl} block as written. */
final class MtlMaterial {
  final String name;
  final String file;
  final int line;

  /** Numbers by lower-case key: {@code kd} → r g b. */
  final Map<String, double[]> values = new LinkedHashMap<>();

  /** Maps by lower-case key: {@code map_kd}. */
  final Map<String, MapStatement> maps = new LinkedHashMap<>();

  final List<String> unread = new ArrayList<>();

  MtlMaterial(String name, String file, int line) {
    this.name = name;
    this.file = file;
    this.line = line;
  }

  /** A texture statement: file, place on the surface, and what else was said. */
  record MapStatement(
      String path,
      double[] offset,
      double[] scale,
      boolean clamp,
      char component,
      double amount,
      String options) {}
}
