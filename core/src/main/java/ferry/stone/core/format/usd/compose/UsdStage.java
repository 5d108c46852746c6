package ferry.stone.core.format.usd.compose;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.ReferenceFinder;
import ferry.stone.core.format.usd.layer.ListOp;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.UsdFiles;
import ferry.stone.core.format.usd.layer.UsdLayer;
import ferry.stone.core.format.usd.layer.UsdValue;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;

/** A scene of layers put together, prim by prim as they are asked for. */
public final class UsdStage {
  private final Composer composer;
  private final LayerStack root;
  private final List<UsdProblem> problems = new ArrayList<>();

  private UsdStage(AssetFinder finder, String path, Choices choices)
      throws IOException, FormatException {
    composer = new Composer(finder, choices, problems);
    root = composer.stack(path);
  }

  /**
   * What is chosen from outside.
   *
   * @param variants by path of the prim and set, stronger than all layers
   * @param payloads whether those of a prim are read, by its path
   */
  public record Choices(Map<String, Map<String, String>> variants, Predicate<String> payloads) {}

  /**
   * @param path of the root layer
   * @param selected variants by path of the prim and set, stronger than all layers
   * @param payloads whether they are read
   */
  public static UsdStage open(
      UsdFiles files, String path, Map<String, Map<String, String>> selected, boolean payloads)
      throws IOException, FormatException {
    return open(files, path, new Choices(selected, prim -> payloads), null);
  }

  /**
   * @param finder looks for files that are not where layers say; {@code null} for nothing but paths
   */
  public static UsdStage open(UsdFiles files, String path, Choices choices, ReferenceFinder finder)
      throws IOException, FormatException {
    return new UsdStage(new AssetFinder(files, finder), path, choices);
  }

  /** The root layer, which says unit, axes and time of the whole. */
  public UsdLayer layer() {
    return root.root();
  }

  /** Time codes a second of the whole. */
  public double timeCodesPerSecond() {
    return Composer.rate(layer());
  }

  /** The first and last time code of the whole; 0 and 0 where it says none. */
  double[] range() {
    return new double[] {code("startTimeCode"), code("endTimeCode")};
  }

  private double code(String field) {
    return layer().root().fields().get(field) instanceof UsdValue value && value.length() > 0
        ? value.number(0)
        : 0;
  }

  /** A prim by its path; {@code null} where nothing is said of it, or of one above it. */
  public UsdPrim prim(String path) throws IOException, FormatException {
    SitePath wanted = SitePath.of(path);
    UsdPrim at = wanted == null ? null : root();
    for (String step : wanted == null ? List.<String>of() : wanted.plain().steps()) {
      at = at.hasChild(step) ? child(at, step) : null;
      if (at == null || !at.isThere()) {
        return null;
      }
    }
    return at;
  }

  /** Sublayers of the layer that is opened, each with the layer that names it. */
  public Map<String, String> sublayers() {
    Map<String, String> all = new LinkedHashMap<>();
    for (LayerStack.Member member : root.members()) {
      if (member.layer() != root.root()) {
        all.putIfAbsent(member.layer().resource(), root.identifier());
      }
    }
    return all;
  }

  /** Files that were found otherwise than by their paths: what is written, and what was found. */
  public Map<String, ReferenceFinder.Match> foundElsewhere() {
    return composer.finder().elsewhere();
  }

  /** The file that a path written in a layer means; empty where it is not in the cargo. */
  public Optional<String> find(String written, String layer) throws IOException, FormatException {
    return composer.finder().find(written, layer);
  }

  /** What could not be put together so far. */
  public List<UsdProblem> problems() {
    return List.copyOf(problems);
  }

  /** What holds the prims at the top. */
  public UsdPrim root() throws IOException, FormatException {
    return new UsdPrim(this, SitePath.ROOT, composer.index(root, SitePath.ROOT), false);
  }

  UsdPrim child(UsdPrim parent, String name) throws IOException, FormatException {
    SitePath path = parent.site().child(name);
    PrimNode index = composer.index(root, path);
    return new UsdPrim(this, path, index, parent.isInstance());
  }

  void forget(UsdPrim prim) {
    composer.forget(root, prim.site());
  }

  /**
   * Adds the names of prims to those of weaker places, in the order that is said.
   *
   * @param specs the strongest first
   */
  static void childNames(List<LayerStack.Spec> specs, Set<String> names) {
    for (int i = specs.size() - 1; i >= 0; i--) {
      PrimSpec prim = specs.get(i).prim();
      names.addAll(prim.children().keySet());
      if (!prim.childOrder().isEmpty()) {
        ListOp<String> edit =
            new ListOp<>(null, List.of(), List.of(), List.of(), List.of(), prim.childOrder());
        List<String> order = edit.over(new ArrayList<>(names));
        names.clear();
        names.addAll(order);
      }
    }
  }

  static boolean isFalse(Object field) {
    return field instanceof UsdValue value && value.length() > 0 && value.number(0) == 0;
  }
}
