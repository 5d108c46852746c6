package ferry.stone.core.format.obj.read;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.math.DoubleList;
import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Joins the data of a file's blocks, in order; what a block left open takes the state before it.
 */
final class ObjJoin {
  private static final int COMMENTS_KEPT = 40;
  private static final int MOST = Integer.MAX_VALUE - 8;

  private final List<ObjData> parts;
  private final String resource;
  private final ObjData all;
  private final Map<List<String>, Integer> groupIds = new LinkedHashMap<>();
  private final Map<String, Integer> materialIds = new LinkedHashMap<>();

  private ObjJoin(List<ObjData> parts, String resource, ObjData all) {
    this.parts = parts;
    this.resource = resource;
    this.all = all;
  }

  /** Takes the big arrays out of the parts as it goes on, so that nothing is held twice. */
  static ObjData join(List<ObjData> parts, String resource) throws FormatException {
    boolean wide = !parts.isEmpty() && parts.get(0).doubles != null;
    ObjJoin join = new ObjJoin(parts, resource, new ObjData(resource, wide));
    join.states();
    join.arrays();
    return join.all;
  }

  private void states() throws FormatException {
    all.object = -1;
    all.group = -1;
    all.material = -1;
    all.smoothing = 0;
    long vertices = 0;
    long corners = 0;
    int faces = 0;
    int lines = 0;
    int points = 0;
    for (ObjData part : parts) {
      runs(part, new int[] {faces, lines, points}, (int) vertices);
      part.libraries.forEach((name, line) -> all.libraries.putIfAbsent(name, all.lines + line));
      int comments = Math.min(COMMENTS_KEPT - all.comments.size(), part.comments.size());
      all.comments.addAll(part.comments.subList(0, comments));
      all.names.add(part.names, all.lines);
      all.report.add(part.report, all.lines);
      all.named.add(part.named, all.lines);
      all.smoothingSaid |= part.smoothingSaid;
      all.largest = Math.max(all.largest, part.largest);
      all.lines += part.lines;
      shift(part.faceStart, (int) corners);
      vertices += part.vertexCount();
      corners += part.cornerVertex.size();
      faces += part.faceStart.size();
      lines += part.lineStart.size();
      points += part.points.size();
      refuseAbove(3 * vertices, "vertices");
      refuseAbove(corners, "face corners");
    }
    int lineVertices = 0;
    for (ObjData part : parts) {
      shift(part.lineStart, lineVertices);
      lineVertices += part.lineVertex.size();
    }
  }

  private void runs(ObjData part, int[] base, int vertices) {
    int objects = all.objects.size();
    all.objects.addAll(part.objects);
    int[] groups =
        part.groups.stream()
            .mapToInt(g -> groupIds.computeIfAbsent(g, k -> added(all.groups, g)))
            .toArray();
    int[] materials =
        part.materials.stream()
            .mapToInt(m -> materialIds.computeIfAbsent(m, k -> added(all.materials, m)))
            .toArray();
    for (ObjData.Owner owner : part.owners) {
      all.owners.add(
          new ObjData.Owner(
              vertices + owner.firstVertex(),
              object(owner.object(), objects),
              place(owner.group(), groups, all.group)));
    }
    for (ObjData.Run run : part.runs) {
      ObjData.Run joined =
          new ObjData.Run(
              object(run.object(), objects),
              place(run.group(), groups, all.group),
              place(run.material(), materials, all.material),
              run.smoothing() == ObjData.INHERITED ? all.smoothing : run.smoothing(),
              base[0] + run.firstFace(),
              base[1] + run.firstLine(),
              base[2] + run.firstPoint());
      if (all.runs.isEmpty() || !sameState(all.runs.get(all.runs.size() - 1), joined)) {
        all.runs.add(joined);
      }
    }
    all.object = object(part.object, objects);
    all.group = place(part.group, groups, all.group);
    all.material = place(part.material, materials, all.material);
    all.smoothing = part.smoothing == ObjData.INHERITED ? all.smoothing : part.smoothing;
  }

  private static <T> int added(List<T> list, T value) {
    list.add(value);
    return list.size() - 1;
  }

  private int object(int local, int objectsBefore) {
    return local == ObjData.INHERITED ? all.object : objectsBefore + local;
  }

  private static int place(int local, int[] places, int inherited) {
    return local == ObjData.INHERITED ? inherited : places[local];
  }

  private static boolean sameState(ObjData.Run a, ObjData.Run b) {
    return a.object() == b.object()
        && a.group() == b.group()
        && a.material() == b.material()
        && a.smoothing() == b.smoothing();
  }

  private static void shift(IntList list, int by) {
    if (by != 0) {
      for (int i = 0; i < list.size(); i++) {
        list.set(i, list.get(i) + by);
      }
    }
  }

  private void refuseAbove(long count, String what) throws FormatException {
    if (count > MOST) {
      throw new FormatException(
          Kind.TOO_LARGE,
          resource,
          "line " + all.lines,
          "the file holds more " + what + " than one mesh can. Split it into several files.");
    }
  }

  private void arrays() {
    colours();
    all.cornerUv = CornerPlaces.join(parts, p -> p.cornerUv);
    all.cornerNormal = CornerPlaces.join(parts, p -> p.cornerNormal);
    if (all.doubles != null) {
      all.doubles = DoubleList.join(parts.stream().map(p -> p.doubles).toList());
      parts.forEach(p -> p.doubles = null);
    } else {
      all.floats = FloatList.join(parts.stream().map(p -> p.floats).toList());
      parts.forEach(p -> p.floats = null);
    }
    all.uvs = FloatList.join(parts.stream().map(p -> p.uvs).toList());
    parts.forEach(p -> p.uvs = null);
    all.normals = FloatList.join(parts.stream().map(p -> p.normals).toList());
    parts.forEach(p -> p.normals = null);
    all.faceStart = ints(p -> p.faceStart, p -> p.faceStart = null);
    all.cornerVertex = ints(p -> p.cornerVertex, p -> p.cornerVertex = null);
    all.lineStart = ints(p -> p.lineStart, p -> p.lineStart = null);
    all.lineVertex = ints(p -> p.lineVertex, p -> p.lineVertex = null);
    all.points = ints(p -> p.points, p -> p.points = null);
  }

  /** {@code null} where no part has such a list. */
  private IntList ints(Function<ObjData, IntList> of, Consumer<ObjData> release) {
    List<IntList> lists = parts.stream().map(of).collect(Collectors.toList());
    parts.forEach(release);
    return lists.stream().anyMatch(l -> l == null) ? null : IntList.join(lists);
  }

  /** No numbers for the vertices of parts without colours, when another part has some. */
  private void colours() {
    if (parts.stream().anyMatch(p -> p.colours != null)) {
      Stream<FloatList> colours =
          parts.stream()
              .map(
                  p -> {
                    FloatList list = p.colours == null ? new FloatList(0) : p.colours;
                    list.fill(Float.NaN, 3 * p.vertexCount() - list.size());
                    return list;
                  });
      all.colours = FloatList.join(colours.toList());
      parts.forEach(p -> p.colours = null);
    }
  }
}
