package ferry.stone.core.proof.corner;

import java.util.Arrays;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/** Gathers the largest differences of corners of two parts, compared in world space. */
public final class CornerDifference {
  private final Matrix4d farWorld;
  private final Matrix4d landedWorld;
  private final Vector3d a = new Vector3d();
  private final Vector3d b = new Vector3d();
  private final boolean sameWorld;
  private double position;
  private double uv;
  private double normalDegrees;

  /** Of the widest angle so far, squared. */
  private double normalSine;

  private double tangentSine;
  private double[] colour = new double[1];
  private int colourSet;
  private double tangentDegrees;
  private int[] otherLayerValues = new int[0];

  CornerDifference(Matrix4d farWorld, Matrix4d landedWorld) {
    this.farWorld = farWorld;
    this.landedWorld = landedWorld;
    sameWorld = farWorld.equals(landedWorld);
  }

  /** Whether both parts stand in the same place. */
  boolean isSameWorld() {
    return sameWorld;
  }

  void positions(double x, double y, double z, double toX, double toY, double toZ) {
    if (sameWorld && x == toX && y == toY && z == toZ) {
      return;
    }
    farWorld.transformPosition(a.set(x, y, z));
    landedWorld.transformPosition(b.set(toX, toY, toZ));
    // What is nowhere on both sides is the same.
    if (a.isFinite() || b.isFinite()) {
      position = Math.max(position, a.distance(b));
    }
  }

  void normals(double x, double y, double z, double toX, double toY, double toZ) {
    if (sameWorld && x == toX && y == toY && z == toZ) {
      return;
    }
    farWorld.transformDirection(a.set(x, y, z));
    landedWorld.transformDirection(b.set(toX, toY, toZ));
    if (isWider(normalSine)) {
      normalDegrees = Math.max(normalDegrees, Math.toDegrees(a.angle(b)));
      normalSine = sine(normalDegrees);
    }
  }

  /**
   * Whether both directions lie farther apart than an angle: its arc is only worked out for those
   * that do.
   *
   * @param sine the angle's, squared; infinite from a right angle on
   */
  private boolean isWider(double sine) {
    double dot = a.dot(b);
    double cx = a.y * b.z - a.z * b.y;
    double cy = a.z * b.x - a.x * b.z;
    double cz = a.x * b.y - a.y * b.x;
    // Not a number where a direction is none: then the arc decides.
    return !(dot > 0
        && cx * cx + cy * cy + cz * cz <= sine * a.lengthSquared() * b.lengthSquared());
  }

  private static double sine(double degrees) {
    double sine = Math.sin(Math.toRadians(degrees));
    return degrees < 90 ? sine * sine : degrees >= 90 ? Double.POSITIVE_INFINITY : 0;
  }

  /** Tangents with their side in the fourth number, if there is one. */
  void tangents(float[] own, int i, float[] there, int j) {
    if (sameWorld
        && own[i] == there[j]
        && own[i + 1] == there[j + 1]
        && own[i + 2] == there[j + 2]) {
      return;
    }
    farWorld.transformDirection(a.set(own[i], own[i + 1], own[i + 2]));
    landedWorld.transformDirection(b.set(there[j], there[j + 1], there[j + 2]));
    if (isWider(tangentSine)) {
      double angle = Math.toDegrees(a.angle(b));
      tangentDegrees = Math.max(tangentDegrees, Double.isNaN(angle) ? 0 : angle);
      tangentSine = sine(tangentDegrees);
    }
  }

  /** The sides of the bitangents differ. */
  void otherSide() {
    tangentDegrees = 180;
    tangentSine = Double.POSITIVE_INFINITY;
  }

  public double tangentDegrees() {
    return tangentDegrees;
  }

  /** Numbers of UVs that mean the same. */
  void uvs(double wanted, double found) {
    if (wanted == found) {
      return;
    }
    uv = Math.max(uv, Math.abs(wanted - found) / Math.max(1, Math.abs(wanted)));
  }

  /** From here on the colours are those of a set, from 0. */
  void colourSet(int set) {
    colourSet = set;
    colour = Arrays.copyOf(colour, Math.max(colour.length, set + 1));
  }

  /** sRGB values. */
  void colours(double wanted, double found) {
    colour[colourSet] = Math.max(colour[colourSet], Math.abs(wanted - found));
  }

  /** Marks a value that is there on one side only. */
  void uvMissing() {
    uv = Double.POSITIVE_INFINITY;
  }

  /**
   * A value of a custom layer.
   *
   * @param place of the layer among those that are held
   */
  void layer(int place, boolean same) {
    if (!same) {
      otherLayerValues =
          Arrays.copyOf(otherLayerValues, Math.max(otherLayerValues.length, place + 1));
      otherLayerValues[place]++;
    }
  }

  /** Corners at which a custom layer has another value. */
  public int otherLayerValues(int place) {
    return place < otherLayerValues.length ? otherLayerValues[place] : 0;
  }

  /** Distance in metres. */
  public double position() {
    return position;
  }

  /** Of UVs, as a part of their size. */
  public double uv() {
    return uv;
  }

  public double normalDegrees() {
    return normalDegrees;
  }

  /** Of a set of vertex colours, sRGB from 0 to 1. */
  public double colour(int set) {
    return set < colour.length ? colour[set] : 0;
  }
}
