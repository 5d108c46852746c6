package ferry.stone.core.scene;

import java.util.Map;

/**
 * A node of the hierarchy. Nodes stand in {@link Scene#nodes()} with parents before children.
 *
 * @param id stable through steps, unique in the scene
 * @param parent index of the parent in the list, −1 for a root
 * @param transform where it stands in its parent
 * @param geometric applied to what the node shows but not to its children
 * @param content what it shows
 * @param visible whether it is meant to be seen
 * @param properties custom values
 */
public record Node(
    int id,
    String name,
    int parent,
    LocalTransform transform,
    LocalTransform geometric,
    Content content,
    boolean visible,
    Map<String, Object> properties) {

  public Node {
    properties = Map.copyOf(properties);
  }

  public static Node of(int id, String name, int parent, Content content) {
    return new Node(
        id,
        name,
        parent,
        LocalTransform.IDENTITY,
        LocalTransform.IDENTITY,
        content,
        true,
        Map.of());
  }

  public Node withTransform(LocalTransform newTransform) {
    return new Node(id, name, parent, newTransform, geometric, content, visible, properties);
  }

  public Node withGeometric(LocalTransform newGeometric) {
    return new Node(id, name, parent, transform, newGeometric, content, visible, properties);
  }

  public Node withParent(int newParent) {
    return new Node(id, name, newParent, transform, geometric, content, visible, properties);
  }

  public Node withContent(Content newContent) {
    return new Node(id, name, parent, transform, geometric, newContent, visible, properties);
  }

  /** What a node shows; ids point into the scene's lists. */
  public sealed interface Content {
    /** A plain group. */
    Content GROUP = new Group();

    /** The word for this kind of node in lists. */
    String kind();

    /** Holds children only. */
    record Group() implements Content {
      @Override
      public String kind() {
        return "group";
      }
    }

    /**
     * A mesh.
     *
     * @param skinId skin that moves it, −1 for none
     * @param slotMaterials materials instead of the mesh's own, or {@code null}
     */
    record MeshContent(int meshId, int skinId, int[] slotMaterials) implements Content {
      public static MeshContent of(int meshId) {
        return new MeshContent(meshId, -1, null);
      }

      @Override
      public String kind() {
        return "mesh";
      }
    }

    /** A joint of a skeleton. */
    record Joint(double radius) implements Content {
      @Override
      public String kind() {
        return "joint";
      }
    }

    /** A camera. */
    record CameraContent(int cameraId) implements Content {
      @Override
      public String kind() {
        return "camera";
      }
    }

    /** A light. */
    record LightContent(int lightId) implements Content {
      @Override
      public String kind() {
        return "light";
      }
    }

    /** Detail levels: the children in order, each shown up to its distance in scene units. */
    record DetailGroup(double[] thresholds) implements Content {
      @Override
      public String kind() {
        return "detail levels";
      }
    }
  }
}
