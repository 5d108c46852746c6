package ferry.stone.core.format.files;

import ferry.stone.core.scene.Scene;
import java.util.List;
import java.util.Set;
import java.util.stream.IntStream;
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

  /** The same without some nodes, by their ids: what the file says in another way. */
  public static FileTree of(Scene scene, Set<Integer> without) {
    FileTree all = of(scene);
    if (without.isEmpty()) {
      return all;
    }
    int[] kept =
        IntStream.range(0, all.count())
            .filter(i -> !without.contains(scene.nodes().get(i).id()))
            .toArray();
    boolean[] seen = new boolean[kept.length];
    double[] origins = new double[3 * kept.length];
    for (int i = 0; i < kept.length; i++) {
      seen[i] = all.seen[kept[i]];
      System.arraycopy(all.origins, 3 * kept[i], origins, 3 * i, 3);
    }
    return new FileTree(IntStream.of(kept).mapToObj(all.paths::get).toList(), seen, origins);
  }

  public int count() {
    return paths.size();
  }
}
