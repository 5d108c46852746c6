package ferry.stone.core.format.usd.read.shape;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.ReadReport;
import ferry.stone.core.format.mesh.FileLayers;
import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.compose.UsdProperty;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.read.look.Bindings;
import ferry.stone.core.format.usd.read.look.LookSets;
import ferry.stone.core.format.usd.read.look.UsdLooks;
import ferry.stone.core.format.usd.read.rig.UsdBlends;
import ferry.stone.core.format.usd.read.stage.Above;
import ferry.stone.core.format.usd.read.stage.Primvars;
import ferry.stone.core.format.usd.read.stage.Said;
import ferry.stone.core.format.usd.read.stage.UsdReading;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Supplier;

/**
 * The meshes of a stage, each once however often instances show it, with the materials that they
 * are bound to and what they are over time.
 */
public final class UsdMeshes {
  private static final Set<String> SHAPES = Set.of("Mesh", "Points", "BasisCurves", "NurbsCurves");

  private final UsdReading reading;
  private final Dressing dressing;
  private final UsdBlends blends;
  private final Supplier<ReadReport> later;
  private final Map<String, PolygonMesh> known = new HashMap<>();

  /**
   * @param later where reading of samples tells what it meets
   */
  public UsdMeshes(
      UsdReading reading,
      Bindings bindings,
      UsdLooks looks,
      LookSets sets,
      UsdBlends blends,
      Supplier<ReadReport> later) {
    this.reading = reading;
    dressing = new Dressing(reading, bindings, looks, sets);
    this.blends = blends;
    this.later = later;
  }

  public static boolean isShape(String type) {
    return SHAPES.contains(type) || Solids.TYPES.contains(type);
  }

  /**
   * The mesh of a prim, which is read where it is new.
   *
   * @param subsets the prims below that say parts of it
   * @param first paths as the first of all instances has them
   */
  public PolygonMesh mesh(
      UsdPrim prim, Above above, Primvars primvars, List<UsdSubset> subsets, Instances first)
      throws IOException, FormatException {
    Dressing.Bound bound = dressing.bound(prim, above, subsets);
    String key =
        prim.shape()
            + "|"
            + Said.targets(prim, "skel:blendShapeTargets").stream().map(first::path).toList()
            + "|"
            + Said.flag(prim, "doubleSided", false)
            + primvars.inheritedKey()
            + "|"
            + bound.key(first);
    PolygonMesh there = known.get(key);
    if (there != null) {
      return there;
    }
    int id = reading.scene().newId();
    boolean solid = Solids.TYPES.contains(prim.typeName());
    double[] clock = solid ? new double[0] : clock(prim);
    ReadReport report = clock.length > 0 ? reading.report().ofEverySample() : reading.report();
    double start = clock.length > 0 ? clock[0] : Double.NaN;
    PolygonMesh bare = read(report, prim, primvars, subsets, id, start);
    boolean both = Said.flag(prim, "doubleSided", false);
    Dressing.Dress dress = dressing.dress(subsets, bound, both, primvars.uvs(), first);
    PolygonMesh mesh = dress.on(bare, subsets);
    mesh = blends.on(mesh, prim);
    reading.scene().add(mesh);
    known.put(key, mesh);
    if (solid) {
      reading
          .report()
          .note(
              "solid-read-as-mesh",
              prim.path(),
              "It is said by its measures (" + prim.typeName() + "): it is read as a mesh.");
      reading.still(prim, UsdNames.SOLIDS.toArray(String[]::new));
    } else if (clock.length > 0) {
      reading
          .sequences()
          .add(
              new UsdMotion.Changing(
                  reading.scene().newId(),
                  prim.name(),
                  id,
                  clock,
                  reading.rate(),
                  code -> dress.on(read(later.get(), prim, primvars, subsets, id, code), subsets)));
    } else {
      moving(prim, mesh);
    }
    return mesh;
  }

  private static PolygonMesh read(
      ReadReport report,
      UsdPrim prim,
      Primvars primvars,
      List<UsdSubset> subsets,
      int id,
      double code)
      throws IOException, FormatException {
    if (Solids.TYPES.contains(prim.typeName())) {
      PolygonMesh solid = Solids.read(prim, id);
      UsdLayers layers =
          new UsdLayers(
              new FileLayers(
                  report,
                  prim.path(),
                  solid.points().count(),
                  solid.faces().faceCount(),
                  new int[0],
                  false),
              Attribute.Domain.VERTEX,
              code);
      List<Attribute> all = new ArrayList<>(solid.attributes());
      all.addAll(layers.all(prim, primvars.constant()));
      return solid.withAttributes(all);
    }
    UsdShape shape = new UsdShape(report, prim, primvars, subsets, code);
    PolygonMesh mesh =
        prim.typeName().equals("Mesh") ? shape.read(id) : new UsdLoose(shape).read(id);
    for (UsdSubset subset : subsets) {
      mesh = subset.on(mesh, report, code);
    }
    return mesh;
  }

  /** Time codes of a mesh that is another one over time; none for one that stays. */
  private double[] clock(UsdPrim prim) throws IOException, FormatException {
    TreeSet<Double> codes = new TreeSet<>();
    boolean changes = false;
    for (String name : UsdShape.TOPOLOGY) {
      UsdProperty property = prim.property(name);
      if (Said.moves(property)) {
        changes |= !isOne(property.samples());
        add(codes, property);
      }
    }
    UsdProperty points = prim.property(UsdShape.POINTS);
    if (Said.moves(points)) {
      UsdSamples samples = points.samples();
      for (int s = 1; s < samples.codes().length; s++) {
        changes |= samples.length(s) != samples.length(0);
      }
      add(codes, points);
    }
    return changes ? codes.stream().mapToDouble(Double::doubleValue).toArray() : new double[0];
  }

  private static void add(Set<Double> codes, UsdProperty property) {
    for (double code : property.samples().codes()) {
      codes.add(code);
    }
  }

  /** Whether all samples are the same. */
  private static boolean isOne(UsdSamples samples) throws IOException, FormatException {
    Object first = samples.value(0);
    for (int s = 1; s < samples.codes().length; s++) {
      if (!first.equals(samples.value(s))) {
        return false;
      }
    }
    return true;
  }

  /** Vertices that move. */
  private void moving(UsdPrim prim, PolygonMesh mesh) throws IOException, FormatException {
    UsdProperty points = prim.property(UsdShape.POINTS);
    if (!Said.moves(points)) {
      return;
    }
    UsdSamples samples = points.samples();
    if (samples.length(0) != 3 * mesh.points().count()) {
      reading
          .report()
          .lost(
              "cache-without-mesh",
              prim.path(),
              "Its points over time are "
                  + samples.length(0) / 3
                  + ", those at rest "
                  + mesh.points().count()
                  + ": the motion is left out.");
      return;
    }
    reading
        .caches()
        .add(
            new UsdMotion.Moving(
                reading.scene().newId(),
                prim.name(),
                mesh.id(),
                samples,
                samples.codes(),
                reading.rate(),
                mesh.points().count()));
  }

  /**
   * Materials of a shape that is kept as it is: with no look chosen, then in each look known so
   * far; −1 for none.
   */
  public int[] materials(UsdPrim prim, Above above, Instances first)
      throws IOException, FormatException {
    return dressing.whole(prim, above, first);
  }

  /** Tells the scene which looks there are, once all meshes are read. */
  public void tellLooks() {
    dressing.tell();
  }
}
