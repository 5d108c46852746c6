package ferry.stone.core.geometry.mesh;

import ferry.stone.core.math.DoubleList;
import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.CurveForm;
import ferry.stone.core.scene.mesh.EdgeSet;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.mesh.Subdivision;
import ferry.stone.core.scene.mesh.Table;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Puts several meshes into one. Vertices, faces and corners follow each other in the order of the
 * parts. Slots that look the same become one; every part stays a named set of faces. Layers are
 * matched by meaning and place among those of that meaning; where a part has no such layer its
 * corners have no value. Morph targets are matched by name ({@link MorphMerge}). O(n) for n
 * corners.
 */
public final class MeshMerge {
  private final List<Source> sources;
  private final int[] firstVertex;
  private final int[] firstFace;
  private final int[] firstCorner;

  /**
   * @param mesh in the space of the merged mesh
   * @param name of its set of faces
   * @param slotMaterials material of each slot where it is shown
   */
  public record Source(PolygonMesh mesh, String name, int[] slotMaterials) {}

  private MeshMerge(List<Source> sources) {
    this.sources = sources;
    int n = sources.size();
    firstVertex = new int[n + 1];
    firstFace = new int[n + 1];
    firstCorner = new int[n + 1];
    for (int i = 0; i < n; i++) {
      PolygonMesh mesh = sources.get(i).mesh();
      firstVertex[i + 1] = Math.addExact(firstVertex[i], mesh.points().count());
      firstFace[i + 1] = Math.addExact(firstFace[i], mesh.faces().faceCount());
      firstCorner[i + 1] = Math.addExact(firstCorner[i], mesh.faces().cornerCount());
    }
  }

  /**
   * The merged mesh, with the id, name and custom values of the first.
   *
   * @param variants how many looks the scene has
   */
  public static PolygonMesh of(List<Source> sources, int variants) {
    checkForms(sources);
    return new MeshMerge(sources).merged(variants);
  }

  /** One list of lines has one form. */
  private static void checkForms(List<Source> sources) {
    LooseElements first = null;
    for (Source source : sources) {
      LooseElements own = source.mesh().loose();
      if (own == null || own.lineCount() == 0) {
        continue;
      }
      first = first == null ? own : first;
      boolean like = first.form() == null ? own.form() == null : first.form().isLike(own.form());
      if (!like) {
        throw new IllegalArgumentException(
            "Curves of different kinds cannot be one part: merge those of one kind");
      }
    }
  }

  private PolygonMesh merged(int variants) {
    PolygonMesh first = sources.get(0).mesh();
    Slots slots = slots(variants);
    return first.toBuilder()
        .points(Coordinates.joined(sources.stream().map(s -> s.mesh().points()).toList()))
        .faces(faces())
        .attributes(attributes())
        .materials(slots.materials, slots.ofFace)
        .variantMaterials(slots.variants)
        .smoothing(smoothing())
        .hardEdges(hardEdges())
        .faceSets(sets())
        .edgeSets(edgeSets())
        .loose(loose())
        .morphs(new MorphMerge(sources, firstVertex).merged())
        .subdivision(subdivision())
        .build();
  }

  private Polygons faces() {
    int[] corners = new int[firstCorner[sources.size()]];
    int[] offsets = new int[firstFace[sources.size()] + 1];
    for (int s = 0; s < sources.size(); s++) {
      Polygons faces = sources.get(s).mesh().faces();
      for (int f = 0; f < faces.faceCount(); f++) {
        offsets[firstFace[s] + f + 1] = firstCorner[s] + faces.end(f);
      }
      for (int c = 0; c < faces.cornerCount(); c++) {
        corners[firstCorner[s] + c] = firstVertex[s] + faces.vertex(c);
      }
    }
    return Polygons.of(corners, offsets);
  }

  private record Slots(int[] materials, int[][] variants, int[] ofFace) {}

  /** Slots that look the same in every look are one. */
  private Slots slots(int variants) {
    Map<List<Integer>, Integer> known = new LinkedHashMap<>();
    int[] ofFace = new int[firstFace[sources.size()]];
    for (int s = 0; s < sources.size(); s++) {
      Source source = sources.get(s);
      int[] merged = new int[source.slotMaterials().length];
      for (int slot = 0; slot < merged.length; slot++) {
        List<Integer> look = new ArrayList<>(List.of(source.slotMaterials()[slot]));
        for (int v = 0; v < variants; v++) {
          int[][] own = source.mesh().variantMaterials();
          look.add(v < own.length ? own[v][slot] : -1);
        }
        merged[slot] = known.computeIfAbsent(look, k -> known.size());
      }
      for (int f = 0; f < source.mesh().faces().faceCount(); f++) {
        int slot = source.mesh().slot(f);
        ofFace[firstFace[s] + f] = slot < 0 ? -1 : merged[slot];
      }
    }
    int[] materials = new int[known.size()];
    boolean anyVariant = false;
    int[][] looks = new int[variants][known.size()];
    for (Map.Entry<List<Integer>, Integer> entry : known.entrySet()) {
      materials[entry.getValue()] = entry.getKey().get(0);
      for (int v = 0; v < variants; v++) {
        looks[v][entry.getValue()] = entry.getKey().get(v + 1);
        anyVariant |= entry.getKey().get(v + 1) >= 0;
      }
    }
    return new Slots(materials, anyVariant ? looks : new int[0][], ofFace);
  }

  private List<Attribute> attributes() {
    Map<String, Attribute[]> byKey = new LinkedHashMap<>();
    for (int s = 0; s < sources.size(); s++) {
      Map<String, Integer> seen = new LinkedHashMap<>();
      for (Attribute a : sources.get(s).mesh().attributes()) {
        String kind =
            a.semantic() == Semantic.OTHER
                ? "OTHER " + a.name() + " " + a.table().type() + " " + a.components()
                : a.semantic() + " " + (a.semantic() == Semantic.UV ? "" : a.components());
        String key = kind + " " + seen.merge(kind, 1, Integer::sum);
        byKey.computeIfAbsent(key, k -> new Attribute[sources.size()])[s] = a;
      }
    }
    return byKey.values().stream().map(this::attribute).toList();
  }

  private Attribute attribute(Attribute[] parts) {
    Attribute sample = Arrays.stream(parts).filter(a -> a != null).findFirst().orElseThrow();
    boolean onVertices =
        Arrays.stream(parts).allMatch(a -> a != null && a.domain() == Domain.VERTEX);
    int[] first = onVertices ? firstVertex : firstCorner;
    int[] indices = new int[first[sources.size()]];
    List<Table> tables = new ArrayList<>();
    int rows = 0;
    for (int s = 0; s < parts.length; s++) {
      Attribute a = parts[s];
      if (a == null) {
        Arrays.fill(indices, first[s], first[s + 1], -1);
        continue;
      }
      int base = rows;
      tables.add(a.table());
      rows += a.valueCount();
      Polygons faces = sources.get(s).mesh().faces();
      if (onVertices) {
        for (int v = 0; v < first[s + 1] - first[s]; v++) {
          indices[first[s] + v] = shifted(base, a.indices() == null ? v : a.indices()[v]);
        }
      } else {
        for (int f = 0; f < faces.faceCount(); f++) {
          for (int c = faces.start(f); c < faces.end(f); c++) {
            indices[first[s] + c] = shifted(base, a.valueOf(c, faces.vertex(c), f));
          }
        }
      }
    }
    return sample
        .withTable(sample.table().joined(tables))
        .on(onVertices ? Domain.VERTEX : Domain.CORNER, indices);
  }

  private static int shifted(int base, int index) {
    return index < 0 ? -1 : base + index;
  }

  private int[] smoothing() {
    if (sources.stream().allMatch(s -> s.mesh().smoothing() == null)) {
      return null;
    }
    int[] all = new int[firstFace[sources.size()]];
    for (int s = 0; s < sources.size(); s++) {
      int[] own = sources.get(s).mesh().smoothing();
      if (own != null) {
        System.arraycopy(own, 0, all, firstFace[s], own.length);
      }
    }
    return all;
  }

  private int[] hardEdges() {
    if (sources.stream().allMatch(s -> s.mesh().hardEdges() == null)) {
      return null;
    }
    return shifted(i -> sources.get(i).mesh().hardEdges(), firstVertex);
  }

  /** Sets of one name and family are one. */
  private List<EdgeSet> edgeSets() {
    Map<List<String>, EdgeSet> first = new LinkedHashMap<>();
    for (Source source : sources) {
      for (EdgeSet set : source.mesh().edgeSets()) {
        first.putIfAbsent(List.of(set.family(), set.name()), set);
      }
    }
    return first.values().stream()
        .map(set -> set.withPairs(shifted(i -> pairs(sources.get(i).mesh(), set), firstVertex)))
        .toList();
  }

  private static int[] pairs(PolygonMesh mesh, EdgeSet like) {
    IntList all = new IntList(like.pairs().length);
    for (EdgeSet set : mesh.edgeSets()) {
      if (set.name().equals(like.name()) && set.family().equals(like.family())) {
        for (int vertex : set.pairs()) {
          all.add(vertex);
        }
      }
    }
    return all.toArray();
  }

  private interface Numbers {
    int[] of(int source);
  }

  private int[] shifted(Numbers numbers, int[] first) {
    IntList all = new IntList(16);
    for (int s = 0; s < sources.size(); s++) {
      int[] own = numbers.of(s);
      for (int i = 0; own != null && i < own.length; i++) {
        all.add(first[s] + own[i]);
      }
    }
    return all.toArray();
  }

  /** Every part as a set, then the sets the parts had; sets of one name are one. */
  private List<FaceSet> sets() {
    Map<String, IntList> byName = new LinkedHashMap<>();
    for (int s = 0; s < sources.size(); s++) {
      IntList own = byName.computeIfAbsent(sources.get(s).name(), k -> new IntList(16));
      for (int f = firstFace[s]; f < firstFace[s + 1]; f++) {
        own.add(f);
      }
    }
    for (int s = 0; s < sources.size(); s++) {
      for (FaceSet set : sources.get(s).mesh().faceSets()) {
        if (!set.name().equals(sources.get(s).name())) {
          IntList all = byName.computeIfAbsent(set.name(), k -> new IntList(16));
          for (int f : set.faces()) {
            all.add(firstFace[s] + f);
          }
        }
      }
    }
    List<FaceSet> sets = new ArrayList<>();
    byName.forEach(
        (name, faces) ->
            sets.add(
                new FaceSet(name, Arrays.stream(faces.toArray()).sorted().distinct().toArray())));
    return sets;
  }

  private LooseElements loose() {
    IntList offsets = new IntList(4);
    IntList lines = new IntList(4);
    IntList points = new IntList(4);
    DoubleList knots = new DoubleList(4);
    DoubleList weights = new DoubleList(4);
    CurveForm form = null;
    boolean weighted = false;
    offsets.add(0);
    for (int s = 0; s < sources.size(); s++) {
      LooseElements l = sources.get(s).mesh().loose();
      if (l == null) {
        continue;
      }
      int base = lines.size();
      for (int i = 1; i < l.lineOffsets().length; i++) {
        offsets.add(base + l.lineOffsets()[i]);
      }
      for (int i = 0; i < l.lineVertices().length; i++) {
        lines.add(firstVertex[s] + l.lineVertices()[i]);
        boolean own = l.form() != null && l.form().weights() != null;
        weights.add(own ? l.form().weights()[i] : 1);
        weighted |= own;
      }
      for (int v : l.points()) {
        points.add(firstVertex[s] + v);
      }
      if (l.form() != null) {
        form = l.form();
        for (int k = 0; form.knots() != null && k < form.knots().length; k++) {
          knots.add(form.knots()[k]);
        }
      }
    }
    if (form != null) {
      form =
          new CurveForm(
              form.basis(),
              form.degree(),
              form.knots() == null ? null : knots.toArray(),
              weighted ? weights.toArray() : null);
    }
    return lines.size() + points.size() == 0
        ? null
        : new LooseElements(offsets.toArray(), lines.toArray(), points.toArray(), form);
  }

  private Subdivision subdivision() {
    Subdivision first = null;
    FloatList edgeSharpness = new FloatList(4);
    FloatList vertexSharpness = new FloatList(4);
    for (Source source : sources) {
      Subdivision s = source.mesh().subdivision();
      first = first == null ? s : first;
      for (int i = 0; s != null && i < s.creaseSharpness().length; i++) {
        edgeSharpness.add(s.creaseSharpness()[i]);
      }
      for (int i = 0; s != null && i < s.vertexSharpness().length; i++) {
        vertexSharpness.add(s.vertexSharpness()[i]);
      }
    }
    return first == null
        ? null
        : new Subdivision(
            first.scheme(),
            first.level(),
            shifted(i -> own(i) == null ? null : own(i).creaseEdges(), firstVertex),
            edgeSharpness.toArray(),
            shifted(i -> own(i) == null ? null : own(i).creaseVertices(), firstVertex),
            vertexSharpness.toArray(),
            shifted(i -> own(i) == null ? null : own(i).holes(), firstFace));
  }

  private Subdivision own(int source) {
    return sources.get(source).mesh().subdivision();
  }
}
