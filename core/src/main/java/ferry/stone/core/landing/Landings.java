package ferry.stone.core.landing;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.Output;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.files.SeekableOutput;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Supplier;

/**
 * All files of a landing: one of everything, or one for each part or clip, and the proof of them
 * all.
 *
 * @param each what was written, in the order of the parts
 */
public record Landings(List<Each> each) {

  /**
   * One written scene.
   *
   * @param folder where its files are, with {@code /} at its end; empty when nothing else is there
   * @param part place of the part in the far side, −1 for everything
   */
  public record Each(String folder, int part, Scene far, Landing landing) {}

  /**
   * @param asset name of the crossing
   */
  public static Landings write(
      Scene far,
      LandingOptions options,
      String asset,
      Resources resources,
      Output output,
      Progress progress)
      throws IOException, FormatException {
    return write(far, options, asset, resources, output, null, progress);
  }

  /**
   * @param asset name of the crossing
   * @param alternates far sides of the variants that are not chosen; {@code null} for none
   */
  public static Landings write(
      Scene far,
      LandingOptions options,
      String asset,
      Resources resources,
      Output output,
      Alternates alternates,
      Progress progress)
      throws IOException, FormatException {
    try {
      return written(far, options, asset, resources, output, alternates, progress);
    } catch (UncheckedIOException e) {
      // A point cache that could not be read where it lies.
      throw e.getCause();
    }
  }

  private static Landings written(
      Scene far,
      LandingOptions options,
      String asset,
      Resources resources,
      Output output,
      Alternates alternates,
      Progress progress)
      throws IOException, FormatException {
    String stem = options.stem(asset);
    if (!options.parts().isSeveral()) {
      Landing landing = Landing.write(far, options, stem, resources, output, alternates, progress);
      return new Landings(List.of(new Each("", -1, options.contents().of(far), landing)));
    }
    Scene chosen = options.contents().of(far);
    List<Wanted> wanted =
        options.parts().clips() ? clips(chosen, options, stem) : parts(chosen, options, stem);
    List<Each> each = new ArrayList<>();
    for (int i = 0; i < wanted.size(); i++) {
      Wanted one = wanted.get(i);
      progress.checkCancelled();
      Scene own = one.scene.get();
      // Files beside a part's file have names that others use too.
      String folder = options.isSeveralFiles() ? one.stem + "/" : "";
      Landing landing =
          Landing.write(
              own,
              options,
              one.stem,
              resources,
              new Below(output, folder),
              progress.part((double) i / wanted.size(), (i + 1.0) / wanted.size()));
      each.add(new Each(folder, one.part, own, withoutVariants(far, options, landing)));
    }
    return new Landings(each);
  }

  /**
   * A file that is to be written.
   *
   * @param part place of the part, −1 for everything
   */
  private record Wanted(String stem, int part, Supplier<Scene> scene) {}

  private static List<Wanted> parts(Scene chosen, LandingOptions options, String stem)
      throws FormatException {
    return options.parts().of(chosen, stem).stream()
        .map(
            named ->
                new Wanted(
                    named.stem(),
                    named.node(),
                    () -> PartScene.of(chosen, named.node(), options.parts().origin())))
        .toList();
  }

  private static List<Wanted> clips(Scene chosen, LandingOptions options, String stem)
      throws FormatException {
    List<String> stems = options.parts().ofClips(chosen, stem);
    boolean first = options.parts().rest() == PartFiles.Rest.FRAME;
    List<Wanted> wanted = new ArrayList<>();
    int file = 0;
    if (options.parts().rest() == PartFiles.Rest.FILE) {
      wanted.add(new Wanted(stems.get(file++), -1, () -> ClipScene.atRest(chosen)));
    }
    for (Clip clip : chosen.clips()) {
      wanted.add(new Wanted(stems.get(file++), -1, () -> ClipScene.of(chosen, clip, first)));
    }
    return wanted;
  }

  /** Says that the variants of a stage are not written with its parts. */
  private static Landing withoutVariants(Scene far, LandingOptions options, Landing landing) {
    boolean kept =
        options.writer().holding(options.values()).fate(Capability.UNCHOSEN)
            == Capability.Fate.KEPT;
    if (!kept || far.composition().choices().isEmpty()) {
      return landing;
    }
    List<Finding> findings = new ArrayList<>(landing.findings());
    findings.add(
        Finding.of(
            "variants-not-kept",
            Severity.FIX,
            "",
            "A file for each part or clip holds the variants that are chosen alone."));
    return new Landing(landing.mainFile(), findings);
  }

  /** The files to open, in the order of the parts. */
  public List<String> mainFiles() {
    return each.stream().map(e -> e.folder() + e.landing().mainFile()).toList();
  }

  /** Files in a folder of an output. */
  private record Below(Output output, String folder) implements Output {
    @Override
    public OutputStream create(String path) throws IOException {
      return output.create(folder + path);
    }

    @Override
    public SeekableOutput seekable(String path) throws IOException {
      return output.seekable(folder + path);
    }
  }

  /** The file to open, or the first of several. */
  public String mainFile() {
    return each.get(0).folder() + each.get(0).landing().mainFile();
  }

  /**
   * Reads every file back and compares it with its part.
   *
   * @param far the far side that was landed
   * @param written all files of the landing
   */
  public Proof proof(
      Scene near,
      Scene far,
      LandingOptions options,
      Resources written,
      Resources cargo,
      Progress progress)
      throws IOException, FormatException {
    try {
      return proved(near, far, options, written, cargo, progress);
    } catch (UncheckedIOException e) {
      throw e.getCause();
    }
  }

  private Proof proved(
      Scene near,
      Scene far,
      LandingOptions options,
      Resources written,
      Resources cargo,
      Progress progress)
      throws IOException, FormatException {
    Scene chosen = options.contents().of(far);
    List<Proof> proofs = new ArrayList<>();
    List<String> names = new ArrayList<>();
    for (int i = 0; i < each.size(); i++) {
      Each one = each.get(i);
      Resources own = options.parts().isSeveral() ? new OneLanding(written, one) : written;
      proofs.add(
          Proof.of(
              nearOf(near, chosen, one, options),
              one.far(),
              one.landing().landed(options, own),
              cargo,
              progress.part((double) i / each.size(), (i + 1.0) / each.size())));
      names.add(one.folder() + one.landing().mainFile());
    }
    return each.size() == 1 ? proofs.get(0) : Proof.joined(proofs, names);
  }

  /** The same part of the near side; all of it when steps made the part. */
  private static Scene nearOf(Scene near, Scene far, Each one, LandingOptions options) {
    if (options.parts().clips()) {
      Set<String> names = new HashSet<>();
      one.far().clips().forEach(c -> names.add(c.name()));
      return near.toBuilder()
          .clips(near.clips().stream().filter(c -> names.contains(c.name())).toList())
          .build();
    }
    Integer place = one.part() < 0 ? null : near.nodePlaces().get(far.nodes().get(one.part()).id());
    return place == null ? near : PartScene.of(near, place, options.parts().origin());
  }

  /** The files of one landing among others. */
  private record OneLanding(Resources all, Each one) implements Resources {
    @Override
    public List<String> paths() {
      String folder = one.folder();
      return folder.isEmpty()
          ? List.of(one.landing().mainFile())
          : all.paths().stream()
              .filter(p -> p.startsWith(folder))
              .map(p -> p.substring(folder.length()))
              .toList();
    }

    @Override
    public boolean contains(String path) {
      return all.contains(one.folder() + path);
    }

    @Override
    public long size(String path) {
      return all.size(one.folder() + path);
    }

    @Override
    public ferry.stone.core.format.files.RandomBytes random(String path) throws IOException {
      return all.random(one.folder() + path);
    }

    @Override
    public java.io.InputStream open(String path) throws IOException {
      return all.open(one.folder() + path);
    }
  }
}
