package ferry.stone.core.format.collada;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.MorphTarget.Shape;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;

/** Skins and morphs, which stand between a node and its geometry. */
final class DaeControllers {
  private final DaeDocument document;

  DaeControllers(DaeDocument document) {
    this.document = document;
  }

  /**
   * What an instance of a controller shows.
   *
   * @param geometry the mesh at the end of the chain
   * @param skin {@code skin} element, or {@code null}
   * @param morph {@code morph} element, or {@code null}
   */
  record Chain(DaeElement geometry, DaeElement skin, DaeElement morph) {}

  /** {@code null} when it leads to no geometry. */
  Chain chain(DaeElement controller) {
    DaeElement skin = null;
    DaeElement morph = null;
    DaeElement at = controller;
    for (int depth = 0; depth < 4 && at != null && at.name.equals("controller"); depth++) {
      DaeElement inner = at.child("skin") != null ? at.child("skin") : at.child("morph");
      if (inner == null) {
        return null;
      }
      skin = inner.name.equals("skin") ? inner : skin;
      morph = inner.name.equals("morph") ? inner : morph;
      at = document.named(inner, "source", "");
    }
    return at != null && at.name.equals("geometry") ? new Chain(at, skin, morph) : null;
  }

  /** Sources of the inputs of a {@code joints} or {@code targets}, by their semantic. */
  private Map<String, DaeSource> inputs(DaeElement holder) throws FormatException {
    Map<String, DaeSource> inputs = new HashMap<>();
    for (DaeElement input : holder == null ? List.<DaeElement>of() : holder.all("input")) {
      DaeElement source = document.named(input, "source", "source");
      if (source != null) {
        inputs.put(input.attribute("semantic"), DaeSource.of(document, source));
      }
    }
    return inputs;
  }

  /**
   * A skin before its joints are found.
   *
   * @param joints names by which the joints are found: sid or id
   * @param inverseBind {@code double[16*j]}, column by column: mesh space at bind to joint space
   * @param bindShape {@code double[16]}, column by column
   */
  record Bound(
      List<String> joints,
      double[] inverseBind,
      double[] bindShape,
      int[] offsets,
      int[] jointOf,
      float[] weights) {}

  /**
   * @param vertices of the mesh
   */
  Bound skin(DaeElement skin, int vertices) throws FormatException {
    Map<String, DaeSource> inputs = inputs(skin.child("joints"));
    DaeSource names = inputs.get("JOINT");
    DaeSource inverse = inputs.get("INV_BIND_MATRIX");
    if (names == null || names.words() == null || names.count() == 0) {
      throw document.broken(skin, "the skin names no joints. Export the file again.");
    }
    Matrix4d shape = new Matrix4d();
    if (skin.child("bind_shape_matrix") != null) {
      double[] n = skin.child("bind_shape_matrix").numbers();
      shape = n.length < 16 ? shape : new DaeTransform.Op("matrix", "", n).matrix(n);
    }
    List<String> joints = new ArrayList<>();
    double[] matrices = new double[16 * names.count()];
    double[] n = new double[16];
    for (int j = 0; j < names.count(); j++) {
      joints.add(names.word(j));
      boolean there = inverse != null && inverse.components() == 16 && j < inverse.count();
      for (int k = 0; k < 16; k++) {
        n[k] = there ? inverse.at(j, k) : k % 5 == 0 ? 1 : 0;
      }
      new DaeTransform.Op("matrix", "", n).matrix(n).mul(shape).get(matrices, 16 * j);
    }
    IntList jointOf = new IntList(4 * vertices);
    FloatList weights = new FloatList(4 * vertices);
    int[] offsets = weights(skin, names.count(), vertices, jointOf, weights);
    return new Bound(
        joints, matrices, shape.get(new double[16]), offsets, jointOf.toArray(), weights.toArray());
  }

  private int[] weights(
      DaeElement skin, int jointCount, int vertices, IntList jointOf, FloatList weights)
      throws FormatException {
    DaeElement list = skin.child("vertex_weights");
    int[] offsets = new int[vertices + 1];
    if (list == null || list.child("vcount") == null || list.child("v") == null) {
      return offsets;
    }
    int jointAt = 0;
    int weightAt = 0;
    int stride = 1;
    for (DaeElement input : list.all("input")) {
      int offset = Math.max(0, input.number("offset", 0));
      stride = Math.max(stride, offset + 1);
      jointAt = input.attribute("semantic").equals("JOINT") ? offset : jointAt;
      weightAt = input.attribute("semantic").equals("WEIGHT") ? offset : weightAt;
    }
    DaeSource amounts = inputs(list).get("WEIGHT");
    int[] counts = list.child("vcount").wholes;
    int[] v = list.child("v").wholes;
    int at = 0;
    for (int vertex = 0; vertex < vertices; vertex++) {
      int count = vertex < counts.length ? counts[vertex] : 0;
      if (count < 0 || (long) (at + (long) count) * stride > v.length) {
        throw document.broken(
            list, "vertices have more weights than its list holds. Export the file again.");
      }
      for (int i = at; i < at + count; i++) {
        int joint = v[stride * i + jointAt];
        int weight = v[stride * i + weightAt];
        boolean known =
            amounts != null
                && amounts.numbers() != null
                && joint >= 0
                && joint < jointCount
                && weight >= 0
                && weight < amounts.count();
        if (known && amounts.at(weight, 0) != 0) {
          jointOf.add(joint);
          weights.add((float) amounts.at(weight, 0));
        } else if (!known) {
          document.say(
              "weights-out-of-range", list, "Weights of joints or amounts that are not there go.");
        }
      }
      at += count;
      offsets[vertex + 1] = jointOf.size();
    }
    return offsets;
  }

  /**
   * The targets of a morph.
   *
   * @param meshes reads a geometry; {@code null} for one that is no mesh
   */
  List<MorphTarget> morph(DaeElement morph, PolygonMesh base, Meshes meshes)
      throws FormatException {
    Map<String, DaeSource> inputs = inputs(morph.child("targets"));
    DaeSource names = inputs.get("MORPH_TARGET");
    DaeSource weights = inputs.get("MORPH_WEIGHT");
    List<MorphTarget> targets = new ArrayList<>();
    boolean relative = morph.attribute("method").equals("RELATIVE");
    for (int t = 0; names != null && names.words() != null && t < names.count(); t++) {
      DaeElement geometry = document.byId(names.word(t));
      PolygonMesh mesh =
          geometry != null && geometry.name.equals("geometry") ? meshes.of(geometry) : null;
      if (mesh == null || mesh.points().count() != base.points().count()) {
        document.say(
            "shape-out-of-range",
            morph,
            "The target \"" + names.word(t) + "\" has not the vertices of its mesh: left out.");
        continue;
      }
      double weight =
          weights != null && weights.numbers() != null && t < weights.count()
              ? weights.at(t, 0)
              : 0;
      targets.add(
          new MorphTarget(
              mesh.name(),
              Double.isFinite(weight) ? weight : 0,
              List.of(shape(base.points(), mesh.points(), relative))));
    }
    return targets;
  }

  /** Reads a geometry. */
  interface Meshes {
    PolygonMesh of(DaeElement geometry) throws FormatException;
  }

  /** What a target adds to its base: all of it when it is relative. */
  private static Shape shape(Coordinates base, Coordinates target, boolean relative) {
    IntList vertices = new IntList(64);
    FloatList deltas = new FloatList(192);
    for (int v = 0; v < base.count(); v++) {
      double x = target.x(v) - (relative ? 0 : base.x(v));
      double y = target.y(v) - (relative ? 0 : base.y(v));
      double z = target.z(v) - (relative ? 0 : base.z(v));
      if (x != 0 || y != 0 || z != 0) {
        vertices.add(v);
        deltas.add((float) x);
        deltas.add((float) y);
        deltas.add((float) z);
      }
    }
    return new Shape(1, vertices.toArray(), deltas.toArray(), null);
  }
}
