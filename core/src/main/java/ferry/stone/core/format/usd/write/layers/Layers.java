package ferry.stone.core.format.usd.write.layers;

import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.UsdArc;
import ferry.stone.core.format.usd.layer.UsdLayer;
import ferry.stone.core.format.usd.write.UsdOptions;
import java.util.ArrayList;
import java.util.List;

/** Divides a layer among files as it was asked for. */
public final class Layers {
  private final UsdOptions options;
  private final String stem;
  private final String ending;

  /**
   * @param ending of all files
   */
  public Layers(UsdOptions options, String stem, String ending) {
    this.options = options;
    this.stem = stem;
    this.ending = ending;
  }

  /** The main file first. */
  public List<LayerFile> of(UsdLayer layer) {
    boolean one = options.layers() == UsdOptions.Layers.ONE;
    if (one && options.parts() == UsdOptions.Parts.INSIDE) {
      return List.of(new LayerFile(stem + "." + ending, layer));
    }
    LayerSplit split = new LayerSplit(layer.root());
    List<LayerFile> files = new ArrayList<>();
    List<UsdArc> shared = new ArrayList<>();
    if (options.parts() != UsdOptions.Parts.INSIDE) {
      PartFiles parts = new PartFiles(split.geometry, options.parts(), stem, ending);
      files.addAll(parts.take());
      if (parts.shares()) {
        shared.add(Specs.arc("./" + parts.sharedName(), ""));
      }
    }
    PrimSpec main = new PrimSpec("");
    main.fields().putAll(layer.root().fields());
    if (one) {
      Specs.lay(main, split.geometry);
      Specs.lay(main, split.look);
      Specs.lay(main, split.motion);
      files.add(0, new LayerFile(stem + "." + ending, new UsdLayer("", main, shared)));
      return files;
    }
    List<LayerFile> stack = new ArrayList<>();
    stack.add(new LayerFile(name("motion"), new UsdLayer("", split.motion, List.of())));
    stack.add(new LayerFile(name("look"), new UsdLayer("", split.look, List.of())));
    stack.add(new LayerFile(name("geometry"), new UsdLayer("", split.geometry, shared)));
    stack.removeIf(f -> f.layer().root().children().isEmpty());
    List<UsdArc> arcs = stack.stream().map(f -> Specs.arc("./" + f.name(), "")).toList();
    files.addAll(0, stack);
    files.add(0, new LayerFile(stem + "." + ending, new UsdLayer("", main, arcs)));
    return files;
  }

  private String name(String what) {
    return stem + "_" + what + "." + ending;
  }

  /**
   * A clip of its own: what its stage says otherwise than the one of the main file at rest, above
   * the same shapes and looks.
   *
   * @param main of the main file, {@code clip} the whole of the other
   * @param name for its file
   * @param files of the main file
   */
  public LayerFile clip(UsdLayer main, UsdLayer clip, String name, List<LayerFile> files) {
    LayerSplit rest = new LayerSplit(main.root());
    PrimSpec still = new PrimSpec("");
    Specs.lay(still, rest.geometry);
    Specs.lay(still, rest.look);
    PrimSpec over = new PrimSpec("");
    over.fields().putAll(clip.root().fields());
    LayerDiff.over(still, clip.root(), over);
    List<UsdArc> below =
        files.stream()
            .map(LayerFile::name)
            .filter(n -> n.equals(name("look")) || n.equals(name("geometry")))
            .map(n -> Specs.arc("./" + n, ""))
            .toList();
    return new LayerFile(name("clip_" + name), new UsdLayer("", over, below));
  }
}
