package ferry.stone.core.geometry.mesh;

import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.MorphTarget.Shape;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;

/**
 * Morph targets of merged meshes: those of one key are one target, which moves the vertices of
 * every part that had it. In-betweens that only some parts have are filled in on the straight line
 * between their own shapes, which is where those parts stand at that weight.
 */
final class MorphMerge {
  private final List<MeshMerge.Source> sources;
  private final int[] firstVertex;

  MorphMerge(List<MeshMerge.Source> sources, int[] firstVertex) {
    this.sources = sources;
    this.firstVertex = firstVertex;
  }

  List<MorphTarget> merged() {
    Map<String, MorphTarget[]> byKey = new LinkedHashMap<>();
    for (int s = 0; s < sources.size(); s++) {
      List<MorphTarget> own = sources.get(s).mesh().morphs();
      List<String> keys = MorphTarget.keys(own);
      for (int m = 0; m < own.size(); m++) {
        byKey.computeIfAbsent(keys.get(m), k -> new MorphTarget[sources.size()])[s] = own.get(m);
      }
    }
    return byKey.values().stream().map(this::target).toList();
  }

  private MorphTarget target(MorphTarget[] parts) {
    TreeSet<Double> weights = new TreeSet<>();
    MorphTarget sample = null;
    boolean normals = true;
    for (MorphTarget part : parts) {
      if (part != null) {
        sample = sample == null ? part : sample;
        for (Shape shape : part.shapes()) {
          weights.add(shape.fullWeight());
          normals &= shape.normalDeltas() != null;
        }
      }
    }
    List<Shape> shapes = new ArrayList<>();
    for (double weight : weights) {
      shapes.add(shape(parts, weight, normals));
    }
    return new MorphTarget(sample.name(), sample.weight(), shapes);
  }

  private Shape shape(MorphTarget[] parts, double weight, boolean normals) {
    IntList vertices = new IntList(64);
    FloatList deltas = new FloatList(192);
    FloatList turned = new FloatList(normals ? 192 : 0);
    for (int s = 0; s < parts.length; s++) {
      if (parts[s] == null) {
        continue;
      }
      Shape at = at(parts[s], weight, sources.get(s).mesh().points().count());
      for (int i = 0; i < at.deltas().length / 3; i++) {
        vertices.add(firstVertex[s] + (at.vertices() == null ? i : at.vertices()[i]));
        for (int k = 0; k < 3; k++) {
          deltas.add(at.deltas()[3 * i + k]);
          if (normals) {
            turned.add(at.normalDeltas()[3 * i + k]);
          }
        }
      }
    }
    return new Shape(
        weight, vertices.toArray(), deltas.toArray(), normals ? turned.toArray() : null);
  }

  /** Where a target's vertices stand at a weight: a shape of its own, or between two. */
  private static Shape at(MorphTarget morph, double weight, int vertexCount) {
    Shape below = null;
    Shape above = null;
    for (Shape shape : morph.shapes()) {
      if (shape.fullWeight() == weight) {
        return shape;
      }
      if (shape.fullWeight() < weight) {
        below = shape;
      } else if (above == null) {
        above = shape;
      }
    }
    if (above == null) {
      // Beyond the last shape a target goes on along its own line.
      Shape last = morph.full();
      return scaled(last, weight, weight / last.fullWeight());
    }
    if (below == null) {
      return scaled(above, weight, weight / above.fullWeight());
    }
    double part = (weight - below.fullWeight()) / (above.fullWeight() - below.fullWeight());
    float[] deltas = new float[3 * vertexCount];
    boolean normals = below.normalDeltas() != null && above.normalDeltas() != null;
    float[] turned = normals ? new float[deltas.length] : null;
    add(below, below.deltas(), 1 - part, deltas);
    add(above, above.deltas(), part, deltas);
    if (normals) {
      add(below, below.normalDeltas(), 1 - part, turned);
      add(above, above.normalDeltas(), part, turned);
    }
    return new Shape(weight, null, deltas, turned);
  }

  private static void add(Shape shape, float[] values, double factor, float[] sum) {
    for (int i = 0; i < values.length; i++) {
      int v = shape.vertices() == null ? i / 3 : shape.vertices()[i / 3];
      sum[3 * v + i % 3] += (float) (factor * values[i]);
    }
  }

  private static Shape scaled(Shape shape, double weight, double factor) {
    return new Shape(
        weight,
        shape.vertices(),
        scaled(shape.deltas(), factor),
        shape.normalDeltas() == null ? null : scaled(shape.normalDeltas(), factor));
  }

  private static float[] scaled(float[] values, double factor) {
    float[] result = new float[values.length];
    for (int i = 0; i < result.length; i++) {
      result[i] = (float) (factor * values[i]);
    }
    return result;
  }
}
