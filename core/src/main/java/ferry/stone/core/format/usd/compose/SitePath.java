package ferry.stone.core.format.usd.compose;

import ferry.stone.core.format.usd.layer.PrimSpec;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/**
 * A place in a layer: names from the top down, and variants in between.
 *
 * @param steps names; a variant as {@code {set=name}}
 */
record SitePath(List<String> steps) {
  static final SitePath ROOT = new SitePath(List.of());

  SitePath {
    steps = List.copyOf(steps);
  }

  /** Of a path as files have it; {@code null} for what is none of a prim. */
  static SitePath of(String path) {
    if (!path.startsWith("/") || path.indexOf('.') >= 0) {
      return null;
    }
    List<String> steps = new ArrayList<>();
    int from = 1;
    while (from < path.length()) {
      boolean variant = path.charAt(from) == '{';
      int end = from;
      while (end < path.length()
          && (variant ? path.charAt(end) != '}' : "/{".indexOf(path.charAt(end)) < 0)) {
        end++;
      }
      end += variant ? 1 : 0;
      if (end > path.length() || end == from) {
        return null;
      }
      String step = path.substring(from, end);
      if (variant && step.indexOf('=') < 0) {
        return null;
      }
      steps.add(step);
      from = end < path.length() && path.charAt(end) == '/' ? end + 1 : end;
    }
    return new SitePath(steps);
  }

  /** The last name, empty for the root. */
  String name() {
    return steps.isEmpty() ? "" : steps.get(steps.size() - 1);
  }

  boolean isChildOf(SitePath other) {
    return steps.size() == other.steps.size() + 1 && startsWith(other);
  }

  boolean isRoot() {
    return steps.isEmpty();
  }

  SitePath child(String name) {
    List<String> more = new ArrayList<>(steps);
    more.add(name);
    return new SitePath(more);
  }

  SitePath variant(String set, String name) {
    return child("{" + set + "=" + name + "}");
  }

  /** The place below another one of the same names that follow. */
  SitePath and(List<String> suffix) {
    List<String> more = new ArrayList<>(steps);
    more.addAll(suffix);
    return new SitePath(more);
  }

  /** Prims of damaged files may have any name. */
  private static boolean isVariant(String step) {
    return step.startsWith("{") && step.endsWith("}") && step.indexOf('=') > 0;
  }

  /** Without variants: what the whole calls it. */
  SitePath plain() {
    return new SitePath(steps.stream().filter(s -> !isVariant(s)).toList());
  }

  boolean startsWith(SitePath other) {
    return steps.size() >= other.steps.size()
        && steps.subList(0, other.steps.size()).equals(other.steps);
  }

  SitePath prefix(int length) {
    return new SitePath(steps.subList(0, length));
  }

  List<String> from(int length) {
    return steps.subList(length, steps.size());
  }

  /** How many names it has, variants not counted. */
  int depth() {
    return (int) steps.stream().filter(s -> !isVariant(s)).count();
  }

  /** The spec at this place, {@code null} where a layer says nothing. */
  PrimSpec in(PrimSpec root) {
    PrimSpec at = root;
    for (String step : steps) {
      if (isVariant(step)) {
        int equals = step.indexOf('=');
        Map<String, PrimSpec> set = at.variantSets().get(step.substring(1, equals));
        at = set == null ? null : set.get(step.substring(equals + 1, step.length() - 1));
      } else {
        at = at.children().get(step);
      }
      if (at == null) {
        return null;
      }
    }
    return at;
  }

  @Override
  public String toString() {
    StringBuilder out = new StringBuilder();
    for (String step : steps) {
      boolean bare = isVariant(step) || out.length() > 0 && out.charAt(out.length() - 1) == '}';
      out.append(bare ? "" : "/").append(step);
    }
    return out.length() == 0 ? "/" : out.toString();
  }
}
