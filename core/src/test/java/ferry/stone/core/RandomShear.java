package ferry.stone.core;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Interpolation;
import ferry.stone.core.scene.time.Clip.Track;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/** Trees of parts with sheared and mirrored matrices, turned contents, shared meshes, motion. */
public final class RandomShear {
  private final Random random;
  private final SceneBuilder scene = new SceneBuilder("weir");

  private RandomShear(Random random) {
    this.random = random;
  }

  public static Scene of(Random random) {
    return new RandomShear(random).build();
  }

  private Scene build() {
    scene.framesPerSecond(30);
    int[] meshes = {mesh("plank"), mesh("post"), mesh("beam")};
    int count = 3 + random.nextInt(7);
    List<Integer> moving = new ArrayList<>();
    for (int i = 0; i < count; i++) {
      int id = scene.newId();
      boolean group = i == 0 || random.nextInt(3) == 0;
      Node.Content content =
          group
              ? Node.Content.GROUP
              : Node.Content.MeshContent.of(meshes[random.nextInt(meshes.length)]);
      int parent = i == 0 ? -1 : random.nextInt(i + 1) - 1;
      LocalTransform inside =
          !group && random.nextInt(2) == 0 ? trs(true) : LocalTransform.IDENTITY;
      scene.add(
          Node.of(id, "part_" + i, parent, content).withTransform(own()).withGeometric(inside));
      if (random.nextInt(4) == 0) {
        moving.add(id);
      }
    }
    List<Track> tracks = new ArrayList<>();
    for (int id : moving) {
      tracks.add(turning(id));
    }
    if (!tracks.isEmpty()) {
      scene.add(new Clip(scene.newId(), "drift", 0, 1, tracks));
    }
    return scene.build();
  }

  private LocalTransform own() {
    return switch (random.nextInt(4)) {
      case 0 -> trs(true);
      case 1 -> new LocalTransform.MatrixTransform(trs(true).toMatrix());
      default ->
          // Turned under an uneven scale.
          new LocalTransform.MatrixTransform(trs(true).toMatrix().mul(trs(true).toMatrix()));
    };
  }

  private LocalTransform trs(boolean uneven) {
    double x = scale();
    return LocalTransform.Trs.of(
        new Vector3d(random.nextGaussian(), random.nextGaussian(), random.nextGaussian()),
        new Quaterniond(
                random.nextGaussian(),
                random.nextGaussian(),
                random.nextGaussian(),
                random.nextGaussian())
            .normalize(),
        uneven ? new Vector3d(random.nextInt(6) == 0 ? -x : x, scale(), scale()) : new Vector3d(x));
  }

  private double scale() {
    return 0.5 + random.nextDouble();
  }

  private Track turning(int id) {
    double[] values = new double[12];
    for (int k = 0; k < 3; k++) {
      Quaterniond q = new Quaterniond().rotationXYZ(0.5 * k, 0.3 * k, 0);
      values[4 * k] = q.x;
      values[4 * k + 1] = q.y;
      values[4 * k + 2] = q.z;
      values[4 * k + 3] = q.w;
    }
    return new Track(
        id, Clip.ROTATION, Interpolation.LINEAR, 4, new double[] {0, 0.5, 1}, values, null, null);
  }

  private int mesh(String name) {
    int id = scene.newId();
    float[] p = new float[15];
    for (int i = 0; i < p.length; i++) {
      p[i] = (float) random.nextGaussian();
    }
    float[] n = new float[15];
    for (int i = 1; i < n.length; i += 3) {
      n[i] = 1;
    }
    scene.add(
        PolygonMesh.of(
                id,
                name,
                Coordinates.of(p),
                Polygons.triangles(new int[] {0, 1, 2, 0, 2, 3, 1, 4, 2}))
            .withAttributes(
                List.of(
                    new Attribute(
                        "normal",
                        Attribute.Semantic.NORMAL,
                        Attribute.Domain.VERTEX,
                        3,
                        n,
                        null))));
    return id;
  }

  /** A matrix that no translation, rotation and scale says. */
  public static Matrix4d sheared() {
    return new Matrix4d().rotateZ(0.6).scale(2, 1, 1).rotateZ(-0.6);
  }
}
