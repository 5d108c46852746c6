package ferry.stone.core.scene.node;

import ferry.stone.core.scene.Scene;
import java.util.Arrays;
import java.util.Map;
import java.util.stream.IntStream;

/**
 * A node of the hierarchy. Nodes stand in {@link Scene#nodes()} with parents before children.
 *
 * @param id stable through steps, unique in the scene
 * @param parent index of the parent in the list, −1 for a root
 * @param transform where it stands in its parent
 * @param geometric applied to what the node shows but not to its children
 * @param content what it shows
 * @param visibility whether it is meant to be seen
 * @param purpose what it is for
 * @param properties custom values
 */
public record Node(
    int id,
    String name,
    int parent,
    LocalTransform transform,
    LocalTransform geometric,
    Content content,
    Visibility visibility,
    Purpose purpose,
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
        Visibility.INHERITED,
        Purpose.DEFAULT,
        Map.of());
  }

  public Node withTransform(LocalTransform newTransform) {
    return new Node(
        id, name, parent, newTransform, geometric, content, visibility, purpose, properties);
  }

  public Node withGeometric(LocalTransform newGeometric) {
    return new Node(
        id, name, parent, transform, newGeometric, content, visibility, purpose, properties);
  }

  public Node withName(String newName) {
    return new Node(
        id, newName, parent, transform, geometric, content, visibility, purpose, properties);
  }

  public Node withParent(int newParent) {
    return new Node(
        id, name, newParent, transform, geometric, content, visibility, purpose, properties);
  }

  /** Whether the node itself is not hidden; a node above may hide it. */
  public boolean visible() {
    return visibility != Visibility.HIDDEN;
  }

  /** Hidden, or seen as its parent is. */
  public Node withVisible(boolean newVisible) {
    return withVisibility(newVisible ? Visibility.INHERITED : Visibility.HIDDEN);
  }

  public Node withVisibility(Visibility newVisibility) {
    return new Node(
        id, name, parent, transform, geometric, content, newVisibility, purpose, properties);
  }

  public Node withPurpose(Purpose newPurpose) {
    return new Node(
        id, name, parent, transform, geometric, content, visibility, newPurpose, properties);
  }

  public Node withId(int newId) {
    return new Node(
        newId, name, parent, transform, geometric, content, visibility, purpose, properties);
  }

  public Node withProperties(Map<String, Object> newProperties) {
    return new Node(
        id, name, parent, transform, geometric, content, visibility, purpose, newProperties);
  }

  /** Materials that the part has chosen itself, −1 for none among them. */
  public IntStream ownMaterials() {
    if (content instanceof Content.MeshContent mesh && mesh.slotMaterials() != null) {
      return Arrays.stream(mesh.slotMaterials());
    }
    return content instanceof Content.KeptShape kept
        ? Arrays.stream(kept.materialIds())
        : IntStream.empty();
  }

  public Node withContent(Content newContent) {
    return new Node(
        id, name, parent, transform, geometric, newContent, visibility, purpose, properties);
  }

  /** What a node shows; ids point into the scene's lists. */
  public sealed interface Content {
    /** A plain group. */
    Content GROUP = new Group();

    /** The word for this kind of node in lists. */
    String kind();

    /**
     * Whether what is shown has numbers or axes of its own that no step changes: the node's
     * geometric transform places it then.
     */
    default boolean isPlacedInside() {
      return false;
    }

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
     * @param morphWeights weight of each morph target here, or {@code null} for the mesh's own
     */
    record MeshContent(int meshId, int skinId, int[] slotMaterials, double[] morphWeights)
        implements Content {
      public static MeshContent of(int meshId) {
        return new MeshContent(meshId, -1, null, null);
      }

      public MeshContent withSkin(int newSkinId) {
        return new MeshContent(meshId, newSkinId, slotMaterials, morphWeights);
      }

      public MeshContent withMorphWeights(double[] weights) {
        return new MeshContent(meshId, skinId, slotMaterials, weights);
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

      @Override
      public boolean isPlacedInside() {
        return true;
      }
    }

    /** A light. */
    record LightContent(int lightId) implements Content {
      @Override
      public String kind() {
        return "light";
      }

      @Override
      public boolean isPlacedInside() {
        return true;
      }
    }

    /**
     * A shape that no place here is for: its values stand among those of the node, in the numbers
     * of its source.
     *
     * @param schema what it is in the format that it comes from
     * @param materialIds of its material: with no look chosen, then in each look, −1 for none
     */
    record KeptShape(String schema, int[] materialIds) implements Content {
      @Override
      public String kind() {
        return "kept shape";
      }

      @Override
      public boolean isPlacedInside() {
        return true;
      }
    }

    /**
     * Detail levels: the children in order, the finest first.
     *
     * @param thresholds where each level ends, one for each; the last is 0 or infinite when it
     *     never does
     * @param measure what the thresholds are
     */
    record DetailGroup(double[] thresholds, Measure measure) implements Content {
      /** What a level's threshold is. */
      public enum Measure {
        /** Distance from the viewer in scene units, rising. */
        DISTANCE,
        /** Part of the picture's height that is covered, 1 to 0, falling. */
        SCREEN
      }

      /**
       * Levels that end at each half of the size on the screen: common practice, no source.
       *
       * @param count of levels
       */
      public static DetailGroup bySize(int count) {
        double[] thresholds = new double[count];
        for (int i = 0; i + 1 < count; i++) {
          thresholds[i] = Math.pow(0.5, i + 1);
        }
        return new DetailGroup(thresholds, Measure.SCREEN);
      }

      @Override
      public String kind() {
        return "detail levels";
      }
    }
  }
}
