package ferry.stone.core.format.files;

import ferry.stone.core.scene.Scene;
import java.util.List;
import org.joml.Matrix4d;

/**
 * The hierarchy of a file as any other reader lists it: nothing merged, nothing expanded.
 *
 * @param paths of all nodes, parents before children
 * @param seen whether each node is seen, with what the nodes above it say
 * @param origins where each node's own origin stands in metres, Y up: {@code double[3*n]}
 */
public record FileTree(List<String> paths, boolean[] seen, double[] origins) {
  public FileTree {
    paths = List.copyOf(paths);
  }

  /** Of a scene whose nodes are those of the file, in metres with Y up. */
  public static FileTree of(Scene scene) {
    Matrix4d[] world = scene.worldMatrices();
    double[] origins = new double[3 * world.length];
    for (int i = 0; i < world.length; i++) {
      origins[3 * i] = world[i].m30();
      origins[3 * i + 1] = world[i].m31();
      origins[3 * i + 2] = world[i].m32();
    }
    return new FileTree(scene.paths(), scene.seen(), origins);
  }

  public int count() {
    return paths.size();
  }
}
