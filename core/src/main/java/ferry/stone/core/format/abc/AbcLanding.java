package ferry.stone.core.format.abc;

import ferry.stone.core.field.Field;
import ferry.stone.core.field.Values;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.abc.write.AbcOptions;
import ferry.stone.core.format.abc.write.AbcPlan;
import ferry.stone.core.format.abc.write.AbcWriter;
import ferry.stone.core.format.abc.write.MaterialSets;
import ferry.stone.core.format.flat.FlatFields;
import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.sheet.LookSheet;
import ferry.stone.core.sheet.Sheet;
import ferry.stone.core.shore.Shore;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/** Landing as Alembic. */
final class AbcLanding implements SceneWriter {
  private static final double FASTEST = 1000;
  private static final double LONGEST = 1_000_000;
  private static final String SAMPLES = "Samples";
  private static final String HELD = "What the meshes hold";

  private static final List<Field> MOTION =
      List.of(
          Field.number(
                  "rate",
                  "Samples a second",
                  "",
                  0,
                  FASTEST,
                  0,
                  "0 for those of the source: the samples of a cache, the frames of a clip.")
              .proposing("0", "As the source", "24", "24", "25", "25", "30", "30", "60", "60")
              .under(SAMPLES),
          Field.number(
                  "fromSeconds",
                  "From",
                  "s",
                  -LONGEST,
                  LONGEST,
                  0,
                  "First moment that is written. 0 for the start of what moves.")
              .under(SAMPLES),
          Field.number(
                  "toSeconds",
                  "To",
                  "s",
                  0,
                  LONGEST,
                  0,
                  "Last moment that is written. 0 for the end of what moves.")
              .under(SAMPLES),
          Field.text(
                  "clip",
                  "Clip that is written",
                  "",
                  "An archive has one time line: name of the clip on it. Empty: the first.")
              .under(SAMPLES));

  private static final String LOOK_TABLE = "lookTable";

  private static final List<Field> MESHES =
      List.of(
          Field.choice(
                  "space",
                  "Places of parts",
                  "Kept: each part has its place, which may move. In the points: each mesh stands at"
                      + " the top, with all that places and moves it in its points.",
                  "own",
                  "Kept",
                  "world",
                  "In the points")
              .under(HELD),
          Field.flag("normals", "Normals", true, "Also of meshes that move.").under(HELD),
          Field.flag("uvs", "UVs", true, "All sets.").under(HELD),
          Field.flag(
                  "velocities",
                  "Velocities",
                  false,
                  "How fast the points of caches move, for motion blur.")
              .under(HELD),
          Field.flag(
                  "sets",
                  "A set of faces for each material",
                  true,
                  "The format says in no other way which faces have which material.")
              .under(HELD),
          Field.choice(
                  LOOK_TABLE,
                  "Table of looks",
                  "Which set of faces has which material, colour and images, beside the archive: for"
                      + " whoever assigns them by hand.",
                  "none",
                  "None",
                  "csv",
                  "CSV",
                  "html",
                  "HTML page")
              .under(HELD));

  @Override
  public List<Field> fields() {
    return Stream.of(MOTION, MESHES, FlatFields.frame("cm", "y")).flatMap(List::stream).toList();
  }

  static AbcOptions typed(Values options) {
    return new AbcOptions(
        options.number("rate"),
        options.number("fromSeconds"),
        options.number("toSeconds"),
        options.text("clip"),
        options.text("space").equals("world"),
        options.flag("normals"),
        options.flag("uvs"),
        options.flag("velocities"),
        options.flag("sets"));
  }

  @Override
  public Map<String, Object> wanted(Shore shore) {
    return FlatFields.wanted(shore);
  }

  @Override
  public void check(Values options) {
    frame(options);
    AbcOptions typed = typed(options);
    if (typed.to() > 0 && typed.from() > typed.to()) {
      throw new IllegalArgumentException(
          "the motion cannot begin at " + typed.from() + " s and end at " + typed.to() + " s");
    }
  }

  @Override
  public Frame frame(Values options) {
    return FlatFields.frame(options);
  }

  @Override
  public Holding holding(Values options) {
    return new AbcHolding(typed(options), frame(options));
  }

  @Override
  public boolean carries(Scene far, Clip.Track track) {
    return AbcPlan.carries(track);
  }

  @Override
  public void foretell(Outlook outlook) {
    AbcPlan plan = new AbcPlan(outlook.arrived(), typed(outlook.options()));
    Told told = outlook.told();
    try {
      told.said(AbcWriter.arranged(plan.held("")));
      told.said(plan.said());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  @Override
  public boolean isSeveralFiles(Values options) {
    return !options.text(LOOK_TABLE).equals("none");
  }

  @Override
  public String write(Scene arrived, Values options, Target target)
      throws IOException, FormatException {
    try {
      String main = AbcWriter.write(arrived, typed(options), target);
      if (isSeveralFiles(options)) {
        writeLooks(arrived, options, target);
      }
      return main;
    } catch (UncheckedIOException e) {
      throw e.getCause();
    }
  }

  private static void writeLooks(Scene arrived, Values options, Target target) throws IOException {
    Scene written =
        options.flag("sets")
            ? arrived.toBuilder()
                .meshes(arrived.meshes().stream().map(m -> MaterialSets.added(arrived, m)).toList())
                .build()
            : arrived;
    Sheet sheet = LookSheet.of(target.stem(), written);
    String kind = options.text(LOOK_TABLE);
    try (OutputStream out = target.output().create(target.stem() + ".looks." + kind)) {
      String text = kind.equals("csv") ? sheet.csv() : sheet.html();
      out.write(text.getBytes(StandardCharsets.UTF_8));
    }
  }
}
