package ferry.stone.core.handling.step.look;

import ferry.stone.core.geometry.look.LookBinding;
import java.util.List;

/**
 * Faces of one part and the material that they get.
 *
 * @param nodeId of the part
 * @param path of the part
 * @param key what the faces are called where they are bound by hand, see {@link LookBinding}
 * @param faces rising
 * @param materialId −1 where they keep what they have
 * @param material its name, empty where they keep what they have
 * @param confidence of what was found, 0 to 1
 * @param reasons what it rests on
 * @param how where the material comes from
 */
public record LookRow(
    int nodeId,
    String path,
    String key,
    int[] faces,
    int materialId,
    String material,
    double confidence,
    List<String> reasons,
    How how) {

  /** Name of their set, empty for faces that are in none. */
  public String set() {
    return LookBinding.set(key);
  }

  /** Where a binding comes from. */
  public enum How {
    /** Found, and sure enough. */
    FOUND("as found"),
    /** Said by the user. */
    BY_HAND("by hand"),
    /** Nothing fits, or what fits is not sure enough. */
    UNBOUND("not bound"),
    /** The user names a material that the look does not have; what was found stands in for it. */
    UNKNOWN("not as said");

    private final String words;

    How(String words) {
      this.words = words;
    }

    public String words() {
      return words;
    }
  }
}
