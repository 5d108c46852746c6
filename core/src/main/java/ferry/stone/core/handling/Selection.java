package ferry.stone.core.handling;

import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * What a step works on. Picked parts are told by their ids, others by a pattern of their names or
 * by their kind; where several are given a part must fit all of them.
 *
 * @param nodeIds picked nodes; empty for no choice by hand
 * @param pattern name with {@code *} for any run and {@code ?} for any one character, whatever its
 *     case; several apart by commas; empty for any name
 * @param ofKind {@code mesh}, {@code group}, {@code joint}, {@code camera}, {@code light} …; empty
 *     for any
 */
public record Selection(List<Integer> nodeIds, String pattern, String ofKind) {
  public static final Selection ALL = new Selection(List.of());

  public Selection {
    nodeIds = nodeIds == null ? List.of() : List.copyOf(nodeIds);
    pattern = pattern == null ? "" : pattern.strip();
    ofKind = ofKind == null ? "" : ofKind.strip();
  }

  public Selection(List<Integer> nodeIds) {
    this(nodeIds, "", "");
  }

  /** Whether everything is meant. */
  public boolean isAll() {
    return nodeIds.isEmpty() && pattern.isEmpty() && ofKind.isEmpty();
  }

  /** Which nodes are meant themselves, by their place. */
  public boolean[] exact(Scene scene) {
    Set<Integer> ids = new HashSet<>(nodeIds);
    Pattern names = pattern.isEmpty() ? null : names(pattern);
    boolean[] chosen = new boolean[scene.nodes().size()];
    for (int i = 0; i < chosen.length; i++) {
      Node node = scene.nodes().get(i);
      chosen[i] =
          (ids.isEmpty() || ids.contains(node.id()))
              && (names == null || names.matcher(node.name()).matches())
              && (ofKind.isEmpty() || node.content().kind().equals(ofKind));
    }
    return chosen;
  }

  /** As {@link #exact}, with everything below what was picked or named. */
  public boolean[] withBelow(Scene scene) {
    boolean[] chosen = exact(scene);
    for (int i = 0; i < chosen.length; i++) {
      int parent = scene.nodes().get(i).parent();
      chosen[i] |= parent >= 0 && chosen[parent];
    }
    return chosen;
  }

  /** Places of the chosen nodes that have no chosen node above them, in order. */
  public int[] tops(Scene scene) {
    boolean[] chosen = exact(scene);
    boolean[] below = new boolean[chosen.length];
    IntList tops = new IntList(8);
    for (int i = 0; i < chosen.length; i++) {
      int parent = scene.nodes().get(i).parent();
      below[i] = parent >= 0 && (chosen[parent] || below[parent]);
      if (chosen[i] && !below[i]) {
        tops.add(i);
      }
    }
    return tops.toArray();
  }

  /** A pattern of names as steps and searches take it. */
  public static Pattern names(String pattern) {
    StringBuilder regex = new StringBuilder();
    for (String one : pattern.split(",")) {
      regex.append(regex.length() == 0 ? "" : "|");
      for (char c : one.strip().toCharArray()) {
        regex.append(c == '*' ? ".*" : c == '?' ? "." : Pattern.quote(String.valueOf(c)));
      }
    }
    return Pattern.compile(
        regex.toString(), Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE | Pattern.DOTALL);
  }
}
