package ferry.stone.core.format.usd.compose;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.layer.ListOp;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.UsdFiles;
import ferry.stone.core.format.usd.layer.UsdLayer;
import ferry.stone.core.format.usd.layer.UsdValue;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** A scene of layers put together, prim by prim as they are asked for. */
public final class UsdStage {
  private final Composer composer;
  private final LayerStack root;
  private final List<UsdProblem> problems = new ArrayList<>();

  private UsdStage(
      UsdFiles files, String path, Map<String, Map<String, String>> selected, boolean payloads)
      throws IOException, FormatException {
    composer = new Composer(files, selected, payloads, problems);
    root = composer.stack(path);
  }

  /**
   * @param path of the root layer
   * @param selected variants by path of the prim and set, stronger than all layers
   * @param payloads whether they are read
   */
  public static UsdStage open(
      UsdFiles files, String path, Map<String, Map<String, String>> selected, boolean payloads)
      throws IOException, FormatException {
    return new UsdStage(files, path, selected, payloads);
  }

  /** The root layer, which says unit, axes and time of the whole. */
  public UsdLayer layer() {
    return root.root();
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

  /** Names of the prims below one, in their order. */
  static List<String> childNames(List<LayerStack.Spec> specs) {
    Set<String> names = new LinkedHashSet<>();
    List<String> order = new ArrayList<>();
    for (int i = specs.size() - 1; i >= 0; i--) {
      PrimSpec prim = specs.get(i).prim();
      names.addAll(prim.children().keySet());
      order = new ArrayList<>(names);
      if (!prim.childOrder().isEmpty()) {
        ListOp<String> edit =
            new ListOp<>(null, List.of(), List.of(), List.of(), List.of(), prim.childOrder());
        order = new ArrayList<>(edit.over(order));
        names = new LinkedHashSet<>(order);
      }
    }
    return order;
  }

  static boolean isFalse(Object field) {
    return field instanceof UsdValue value && value.length() > 0 && value.number(0) == 0;
  }
}
