package ferry.stone.core.handling.step.place;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;

/**
 * Elements that were picked in the view, as steps store them: {@code node:index,index …}.
 *
 * @param place of the node that shows the mesh
 * @param indices of the elements
 */
public record Picked(int place, int[] indices) {

  /**
   * @throws IllegalArgumentException with a sentence for the user when nothing fits
   */
  public static Picked of(String text, Scene scene) {
    String[] halves = text.split(":");
    if (text.isBlank() || halves.length != 2) {
      throw new IllegalArgumentException("Nothing is picked yet: pick it in the view");
    }
    try {
      int id = Integer.parseInt(halves[0].strip());
      String[] numbers = halves[1].split(",");
      int[] indices = new int[numbers.length];
      for (int i = 0; i < indices.length; i++) {
        indices[i] = Integer.parseInt(numbers[i].strip());
      }
      Integer place = scene.nodePlaces().get(id);
      if (place == null
          || !(scene.nodes().get(place).content() instanceof Node.Content.MeshContent)) {
        throw new IllegalArgumentException(
            "The part that was picked is not there any more at this step: pick again");
      }
      return new Picked(place, indices);
    } catch (NumberFormatException e) {
      throw new IllegalArgumentException(
          "What was picked must read node:number, not \"" + text + "\"", e);
    }
  }

  int one(String what, int count) {
    check(what, count);
    return indices[0];
  }

  public void check(String what, int count) {
    for (int index : indices) {
      if (index < 0 || index >= count) {
        throw new IllegalArgumentException(
            "The part has "
                + count
                + " of what was picked, so there is no "
                + what
                + " "
                + index
                + ": an earlier step changed it. Pick again");
      }
    }
  }
}
