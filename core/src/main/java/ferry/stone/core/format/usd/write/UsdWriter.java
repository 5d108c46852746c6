package ferry.stone.core.format.usd.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.SceneWriter.Target;
import ferry.stone.core.format.files.FreeNames;
import ferry.stone.core.format.files.Output;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.files.SeekableOutput;
import ferry.stone.core.format.usd.ValidNames;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.UsdLayer;
import ferry.stone.core.format.usd.out.CrateWriter;
import ferry.stone.core.format.usd.out.UsdaWriter;
import ferry.stone.core.format.usd.out.UsdzWriter;
import ferry.stone.core.format.usd.write.layers.LayerFile;
import ferry.stone.core.format.usd.write.layers.Layers;
import ferry.stone.core.format.usd.write.layers.VariantSets;
import ferry.stone.core.format.usd.write.look.ImagesOut;
import ferry.stone.core.format.usd.write.spec.Spec;
import ferry.stone.core.format.usd.write.spec.TimeCodes;
import ferry.stone.core.format.usd.write.spec.ValuesOut;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.Composition;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Samples;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/** Writes a scene as a layer, its images beside it or in a package with it. */
public final class UsdWriter {
  private static final Set<String> LAYER_FIELDS = Set.of("documentation", "comment", "owner");

  private UsdWriter() {}

  /** The main file. */
  public static String write(Scene arrived, UsdOptions options, Target target)
      throws IOException, FormatException {
    UsdPlan plan = new UsdPlan(arrived, options);
    Scene held = plan.held(target.stem());
    boolean inPackage = options.container() == UsdOptions.Container.PACKAGE;
    ImagesOut images = new ImagesOut(arrived, target.resources(), target.findings(), inPackage);
    String ending = options.container() == UsdOptions.Container.TEXT ? "usda" : "usdc";
    List<LayerFile> layers;
    try {
      UsdLayer layer = layer(held, plan, images);
      if (UsdPlan.keepsVariants(arrived, options) && target.variants() != null) {
        variants(layer, arrived, options, target, images);
      }
      Layers among = new Layers(options, target.stem(), ending);
      layers = new ArrayList<>(among.of(layer));
      if (options.layers() == UsdOptions.Layers.CLIPS) {
        FreeNames names = new FreeNames();
        for (Clip clip : plan.otherClips()) {
          UsdPlan other = new UsdPlan(arrived, options.with(clip.name()));
          UsdLayer moving = layer(other.held(clip.name()), other, images);
          String name = names.take(ValidNames.of(clip.name()));
          layers.add(among.clip(layer, moving, name, layers));
        }
      }
    } catch (UncheckedIOException e) {
      throw e.getCause();
    }
    target.findings().addAll(plan.said());
    target.progress().checkCancelled();
    if (inPackage) {
      String main = target.stem() + ".usdz";
      Map<String, UsdLayer> all = new LinkedHashMap<>();
      layers.forEach(f -> all.put(f.name(), f.layer()));
      try (OutputStream out = target.output().create(main)) {
        UsdzWriter.write(all, images.files(), out);
      }
      return main;
    }
    for (LayerFile file : layers) {
      target.progress().checkCancelled();
      file(file, options, target.output());
    }
    for (Map.Entry<String, byte[]> image : images.files().entrySet()) {
      try (OutputStream out = target.output().create(image.getKey())) {
        out.write(image.getValue());
      }
    }
    return layers.get(0).name();
  }

  /** Adds the variants that are not chosen, set by set. */
  private static void variants(
      UsdLayer layer, Scene arrived, UsdOptions options, Target target, ImagesOut images)
      throws IOException, FormatException {
    VariantSets sets = new VariantSets(layer.root());
    for (Composition.Choice choice : arrived.composition().choices()) {
      String problem = null;
      Map<String, PrimSpec> others = new LinkedHashMap<>();
      for (String name : choice.names()) {
        if (!name.equals(choice.chosen())) {
          target.progress().checkCancelled();
          try {
            Scene other = target.variants().with(choice, name);
            UsdPlan plan = new UsdPlan(other, options);
            others.put(name, layer(plan.held(target.stem()), plan, images.of(other)).root());
          } catch (FormatException e) {
            problem = choice.text(name) + " cannot be read: " + e.getMessage();
          }
        }
      }
      if (problem == null && !sets.add(choice.set(), choice.chosen(), others)) {
        problem =
            "What its variants change is in no one prim, or is a prim that another set changes too:"
                + " the chosen one lands.";
      }
      if (problem != null) {
        String where = choice.prim() + "{" + choice.set() + "}";
        target.findings().add(Finding.of("variants-not-kept", Severity.FIX, where, problem));
      }
    }
  }

  private static void file(LayerFile file, UsdOptions options, Output output)
      throws IOException, FormatException {
    if (options.container() == UsdOptions.Container.TEXT) {
      try (OutputStream out = output.create(file.name())) {
        UsdaWriter.write(file.layer(), out);
      }
      return;
    }
    try (SeekableOutput out = output.seekable(file.name())) {
      CrateWriter.write(file.layer(), out);
      out.complete();
    }
  }

  /** Images that become another kind of file, of those that the file holds. */
  public static List<String> converted(Scene held, UsdOptions options, Resources cargo) {
    ImagesOut images =
        new ImagesOut(
            held, cargo, new Findings(), options.container() == UsdOptions.Container.PACKAGE);
    Set<Integer> used = new LinkedHashSet<>();
    for (Material material : held.materials()) {
      for (Material.Value value : material.channels().values()) {
        if (value.texture() != null) {
          used.add(value.texture().textureId());
        }
      }
    }
    List<String> converted = new ArrayList<>();
    for (int id : used) {
      held.texture(id).filter(images::converts).ifPresent(t -> converted.add(t.name()));
    }
    return converted;
  }

  private static UsdLayer layer(Scene held, UsdPlan plan, ImagesOut images) throws IOException {
    PrimSpec root = new PrimSpec("");
    Clip clip = held.clips().isEmpty() ? null : held.clips().get(0);
    TimeCodes times = new TimeCodes(plan.rate(), clip);
    new NodesOut(held, plan, times, images, root).write();
    fields(held, times, clip, root);
    return new UsdLayer("", root, List.of());
  }

  private static void fields(Scene held, TimeCodes times, Clip clip, PrimSpec root) {
    Map<String, Object> fields = new TreeMap<>();
    Map<String, Object> custom = new LinkedHashMap<>();
    held.properties()
        .forEach(
            (name, value) -> {
              if (value instanceof String text && LAYER_FIELDS.contains(name)) {
                fields.put(name, Spec.text("string", text));
              } else {
                custom.put(name, value);
              }
            });
    if (!custom.isEmpty()) {
      fields.put("customLayerData", ValuesOut.dictionary(custom));
    }
    if (!root.children().isEmpty()) {
      fields.put("defaultPrim", Spec.text("token", root.children().keySet().iterator().next()));
    }
    fields.put("metersPerUnit", Spec.number("double", held.frame().metresPerUnit()));
    boolean z = held.frame().up() == SignedAxis.PLUS_Z;
    fields.put("upAxis", Spec.text("token", z ? "Z" : "Y"));
    fields.put("timeCodesPerSecond", Spec.number("double", times.rate()));
    fields.put("framesPerSecond", Spec.number("double", times.rate()));
    double[] range = range(held, clip);
    if (range != null) {
      fields.put("startTimeCode", Spec.number("double", times.code(range[0])));
      fields.put("endTimeCode", Spec.number("double", times.code(range[1])));
    }
    fields.forEach((name, value) -> root.fields().put(name, value));
  }

  /** First and last second of what moves; {@code null} where nothing does. */
  private static double[] range(Scene held, Clip clip) {
    if (clip != null) {
      return new double[] {clip.startSeconds(), clip.endSeconds()};
    }
    List<Samples> samples = new ArrayList<>(held.caches());
    samples.addAll(held.sequences());
    if (samples.isEmpty()) {
      return null;
    }
    double start = Double.POSITIVE_INFINITY;
    double end = Double.NEGATIVE_INFINITY;
    for (Samples each : samples) {
      start = Math.min(start, each.startSeconds());
      end = Math.max(end, each.endSeconds());
    }
    return new double[] {start, end};
  }
}
