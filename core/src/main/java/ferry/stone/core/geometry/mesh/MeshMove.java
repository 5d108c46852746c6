package ferry.stone.core.geometry.mesh;

import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.util.ArrayList;
import java.util.List;
import org.joml.Matrix3d;
import org.joml.Matrix4dc;
import org.joml.Vector3d;

/**
 * Bakes a matrix into a mesh: points by the matrix M, deltas of morph targets by its linear part A,
 * tangents by A, normals by the inverse transpose of A, both with their length kept. A mirror turns
 * faces round and the side of tangents, so that the surface keeps its outside.
 *
 * <p>Source of the inverse transpose: Turkowski 1990, "Properties of surface-normal
 * transformations", Graphics Gems (from memory).
 */
public final class MeshMove {
  private final Matrix4dc matrix;
  private final Matrix3d linear;
  private final Matrix3d normals;
  private final boolean mirrors;

  /** Whether the matrix is a uniform scale times a rotation or mirror. */
  private final boolean even;

  private static final double EVEN = 1e-12;

  private MeshMove(Matrix4dc matrix) {
    this.matrix = matrix;
    linear = matrix.get3x3(new Matrix3d());
    mirrors = linear.determinant() < 0;
    double size = Math.cbrt(Math.abs(linear.determinant()));
    Matrix3d turn = new Matrix3d(linear).scale(size > 0 ? 1 / size : 1);
    even = turn.transpose(new Matrix3d()).mul(turn).equals(new Matrix3d(), EVEN);
    // The cofactors are the inverse transpose times the determinant; they exist for flat scales
    // too.
    normals = even ? turn : linear.cofactor(new Matrix3d()).scale(mirrors ? -1 : 1);
  }

  /** The mesh with the matrix in its numbers; vertices and faces keep their order. */
  public static PolygonMesh by(PolygonMesh mesh, Matrix4dc matrix) {
    return new MeshMove(matrix).moved(mesh);
  }

  private PolygonMesh moved(PolygonMesh mesh) {
    List<Attribute> attributes = new ArrayList<>();
    for (Attribute a : mesh.attributes()) {
      Attribute turned =
          a.semantic() == Semantic.NORMAL
              ? a.withValues(directions(a.values(), a.components(), normals))
              : a.semantic() == Semantic.TANGENT ? tangents(a) : a;
      attributes.add(mirrors ? Winding.reversed(turned, mesh.faces()) : turned);
    }
    return mesh.toBuilder()
        .points(mesh.points().transform(matrix))
        .faces(mirrors ? Winding.reversed(mesh.faces()) : mesh.faces())
        .attributes(attributes)
        .morphs(mesh.morphs().stream().map(this::morph).toList())
        .build();
  }

  private Attribute tangents(Attribute a) {
    float[] values = directions(a.values(), a.components(), linear);
    if (mirrors && a.components() == 4) {
      for (int i = 3; i < values.length; i += 4) {
        values[i] = -values[i];
      }
    }
    return a.withValues(values);
  }

  private MorphTarget morph(MorphTarget morph) {
    List<MorphTarget.Shape> shapes = new ArrayList<>();
    // Deltas of normals turn like normals; their length follows a uniform scale out.
    Matrix3d turn = new Matrix3d(normals);
    double size = Math.cbrt(Math.abs(turn.determinant()));
    if (size > 0) {
      turn.scale(1 / size);
    }
    for (MorphTarget.Shape shape : morph.shapes()) {
      float[] n = shape.normalDeltas();
      shapes.add(
          new MorphTarget.Shape(
              shape.fullWeight(),
              shape.vertices(),
              vectors(shape.deltas(), 3, linear),
              n == null ? null : vectors(n, 3, turn)));
    }
    return new MorphTarget(morph.name(), morph.weight(), shapes);
  }

  /** The first three numbers of each value through a matrix. */
  static float[] vectors(float[] values, int components, Matrix3d m) {
    float[] result = values.clone();
    Vector3d v = new Vector3d();
    for (int i = 0; i + 2 < result.length; i += components) {
      m.transform(v.set(result[i], result[i + 1], result[i + 2]));
      result[i] = (float) v.x;
      result[i + 1] = (float) v.y;
      result[i + 2] = (float) v.z;
    }
    return result;
  }

  /** As {@link #vectors} with the length of each kept. */
  private float[] directions(float[] values, int components, Matrix3d m) {
    if (even) {
      return vectors(values, components, normals);
    }
    float[] result = values.clone();
    Vector3d v = new Vector3d();
    for (int i = 0; i + 2 < result.length; i += components) {
      v.set(result[i], result[i + 1], result[i + 2]);
      double length = v.length();
      double now = m.transform(v).length();
      if (now > 0) {
        v.mul(length / now);
        result[i] = (float) v.x;
        result[i + 1] = (float) v.y;
        result[i + 2] = (float) v.z;
      }
    }
    return result;
  }
}
