package ferry.stone.core.format.obj.read;

import ferry.stone.core.math.IntList;
import java.util.List;
import java.util.function.Function;

/**
 * What face corners name among UVs or normals: nothing, the place that they name among the points,
 * which most files write and which is then held once, or places of their own.
 */
final class CornerPlaces {
  private static final int ROOM = 1 << 12;

  private boolean asPoints;
  private IntList own;

  /**
   * A corner more.
   *
   * @param place −1 for none
   * @param point place that it names among the points
   * @param points those of all corners, this one's the last
   */
  void add(int place, int point, IntList points) {
    if (own != null) {
      own.add(place);
      return;
    }
    int before = points.size() - 1;
    if (place == point && (asPoints || before == 0)) {
      asPoints = true;
    } else if (asPoints || place >= 0) {
      own = asPoints ? copy(points, before) : absent(before);
      own.add(place);
      asPoints = false;
    }
  }

  private static IntList copy(IntList points, int count) {
    IntList list = new IntList(Math.max(ROOM, 2 * count));
    for (int c = 0; c < count; c++) {
      list.add(points.get(c));
    }
    return list;
  }

  private static IntList absent(int count) {
    IntList list = new IntList(Math.max(ROOM, 2 * count));
    list.fill(-1, count);
    return list;
  }

  /** Whether no corner names anything. */
  boolean isNone() {
    return own == null && !asPoints;
  }

  /** Whether each corner names the place that it names among the points. */
  boolean isAsPoints() {
    return asPoints;
  }

  /** Places of their own; {@code null} where there are none. */
  IntList own() {
    return own;
  }

  /** Takes places that are not there from the corners that name them; how many corners. */
  int drop(int count, IntList points) {
    if (asPoints) {
      own = copy(points, points.size());
      asPoints = false;
    }
    int bad = 0;
    for (int c = 0; own != null && c < own.size(); c++) {
      if (own.get(c) >= count) {
        own.set(c, -1);
        bad++;
      }
    }
    return bad;
  }

  /** Those of a file from those of its blocks, in order; these are let go. */
  static CornerPlaces join(List<ObjData> parts, Function<ObjData, CornerPlaces> of) {
    CornerPlaces all = new CornerPlaces();
    boolean none = true;
    boolean same = true;
    for (ObjData part : parts) {
      if (part.cornerVertex.size() > 0) {
        none &= of.apply(part).isNone();
        same &= of.apply(part).asPoints;
      }
    }
    all.asPoints = same && !none;
    if (!none && !same) {
      all.own =
          IntList.join(
              parts.stream().map(part -> of.apply(part).whole(part.cornerVertex)).toList());
    }
    parts.forEach(part -> of.apply(part).own = null);
    return all;
  }

  private IntList whole(IntList points) {
    return own != null ? own : asPoints ? points : absent(points.size());
  }
}
