package ferry.stone.core;

import ferry.stone.core.scene.Copies;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content.MeshContent;
import java.util.List;
import java.util.Random;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/** Random meshes, each shown at a list of places and in two branches, from a seed. */
public final class CopiedScene {
  private CopiedScene() {}

  public static Scene of(Random random) {
    Scene plain = RandomScene.of(random);
    SceneBuilder scene = plain.toBuilder().nodes(List.of());
    for (Node shown : plain.nodes()) {
      MeshContent content = (MeshContent) shown.content();
      places(scene, "row_of_" + shown.name(), content, random);
      branches(scene, shown.name(), content, random);
    }
    return scene.build();
  }

  private static void places(SceneBuilder scene, String name, MeshContent content, Random random) {
    int id = scene.newId();
    int holder = scene.add(Node.of(id, name, -1, Node.Content.GROUP).withTransform(place(random)));
    int[] copies = new int[2 + random.nextInt(4)];
    for (int i = 0; i < copies.length; i++) {
      copies[i] = scene.newId();
      scene.add(
          Node.of(copies[i], Copies.name(name, i), holder, content).withTransform(place(random)));
    }
    scene.add(new CopySet(CopySet.Kind.PLACES, id, copies));
  }

  private static void branches(
      SceneBuilder scene, String name, MeshContent content, Random random) {
    LocalTransform inside = place(random);
    int[] tops = new int[2];
    for (int i = 0; i < tops.length; i++) {
      tops[i] = scene.newId();
      int top =
          scene.add(
              Node.of(tops[i], name + "_stand", -1, Node.Content.GROUP)
                  .withTransform(place(random)));
      int arm = scene.add(Node.of(scene.newId(), "arm", top, Node.Content.GROUP));
      scene.add(Node.of(scene.newId(), name, arm, content).withTransform(inside));
    }
    scene.add(new CopySet(CopySet.Kind.BRANCHES, -1, tops));
  }

  private static LocalTransform place(Random random) {
    return Trs.of(
        new Vector3d(random.nextGaussian(), random.nextGaussian(), random.nextGaussian()),
        new Quaterniond().rotateXYZ(random.nextDouble(), random.nextDouble(), random.nextDouble()),
        new Vector3d(0.5 + random.nextDouble()));
  }
}
