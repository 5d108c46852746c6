package ferry.stone.core.format.usd;

import ferry.stone.core.field.Field;
import ferry.stone.core.field.Values;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FrameFields;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.files.MissingTextures;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.format.usd.write.UsdOptions;
import ferry.stone.core.format.usd.write.UsdOptions.Container;
import ferry.stone.core.format.usd.write.UsdOptions.Layers;
import ferry.stone.core.format.usd.write.UsdOptions.Parts;
import ferry.stone.core.format.usd.write.UsdPlan;
import ferry.stone.core.format.usd.write.UsdWriter;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.LengthUnit;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.shore.Shore;
import java.io.IOException;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** Landing as USD. */
final class UsdLanding implements SceneWriter {
  private static final double FASTEST = 1000;
  private static final String NUMBERS = "What the numbers mean";
  private static final String TIME = "Time";
  private static final String FILES = "Files";

  private static final List<Field> FIELDS =
      List.of(
          FrameFields.unit(
                  "Unit of the numbers",
                  "m",
                  "A unit, or how many metres one is; the file says it.")
              .under(NUMBERS),
          Field.choice(
                  "up", "Up axis of the numbers", "The file says it.", "y", "Y up", "z", "Z up")
              .under(NUMBERS),
          Field.number(
                  "rate",
                  "Time codes a second",
                  "",
                  0,
                  FASTEST,
                  0,
                  "0 for the rate of the source, 24 where it has none.")
              .proposing("0", "As the source", "24", "24", "25", "25", "30", "30", "60", "60")
              .under(TIME),
          Field.text(
                  "clip",
                  "Clip that is written",
                  "",
                  "A stage has one time line: name of the clip on it. Empty: the first.")
              .under(TIME),
          Field.choice(
                  "layers",
                  "Layers",
                  "A layer can be exchanged without the others. With clips, each clip that is not"
                      + " on the stage gets a file of its own above the same shapes.",
                  "one",
                  "All layers in one file",
                  "apart",
                  "Geometry, look and motion apart",
                  "clips",
                  "The same, and every clip")
              .under(FILES),
          Field.choice(
                  "parts",
                  "Parts",
                  "Files of their own can be used by other stages; payloads are loaded on demand."
                      + " A part that speaks of another one stays in the main file.",
                  "inside",
                  "Parts in the main file",
                  "references",
                  "Parts as files that are referenced",
                  "payloads",
                  "Parts as files that are payloads")
              .under(FILES),
          Field.flag(
                  "keepVariants",
                  "Variants stay to choose from",
                  true,
                  "Those that are not chosen at the cargo are written too. Off: the chosen ones are"
                      + " what there is.")
              .under(FILES),
          Field.flag(
                  "copies",
                  "Copies stand once",
                  true,
                  "Instances, and meshes that several parts show. Off: each part has its own, for"
                      + " programs that do not put layers together; the file grows.")
              .under(FILES),
          Field.flag(
                  "oneRoot",
                  "Everything below one part",
                  false,
                  "Who refers to the file has the first part at the top alone: on, several stand"
                      + " below one.")
              .under("Parts at the top"));

  private final Container container;

  UsdLanding(Container container) {
    this.container = container;
  }

  @Override
  public List<Field> fields() {
    return FIELDS;
  }

  private UsdOptions typed(Values options) {
    return new UsdOptions(
        container,
        options.number("rate"),
        options.text("clip"),
        options.flag("oneRoot"),
        Layers.valueOf(options.text("layers").toUpperCase(Locale.ROOT)),
        Parts.valueOf(options.text("parts").toUpperCase(Locale.ROOT)),
        options.flag("copies"),
        options.flag("keepVariants"));
  }

  @Override
  public Map<String, Object> wanted(Shore shore) {
    Frame frame = shore.frame();
    boolean z = frame.up() == SignedAxis.PLUS_Z;
    return Map.of("unit", LengthUnit.textOf(frame.metresPerUnit()), "up", z ? "z" : "y");
  }

  @Override
  public Frame frame(Values options) {
    return Frame.Y_UP_METRE
        .withUp(SignedAxis.parse(options.text("up")).orElseThrow())
        .withMetresPerUnit(LengthUnit.metresOf(options.text("unit")));
  }

  @Override
  public void check(Values options) {
    frame(options);
  }

  @Override
  public boolean isSeveralFiles(Values options) {
    return container != Container.PACKAGE;
  }

  @Override
  public Holding holding(Values options) {
    return new UsdHolding(typed(options));
  }

  @Override
  public boolean carries(Scene far, Clip.Track track) {
    return UsdPlan.carries(track);
  }

  @Override
  public boolean leavesSkinnedPlaces() {
    return true;
  }

  @Override
  public void foretell(Outlook outlook) {
    UsdPlan plan = new UsdPlan(outlook.arrived(), typed(outlook.options()));
    Scene held = plan.held("");
    List<String> converted = UsdWriter.converted(held, typed(outlook.options()), outlook.cargo());
    outlook
        .told()
        .count(
            Capability.IMAGE_FORMATS,
            converted.size(),
            "image",
            converted.isEmpty() ? "" : converted.get(0));
    outlook.told().said(plan.said());
    MissingTextures missing = MissingTextures.of(outlook.far());
    outlook.told().count(Capability.MISSING_TEXTURES, missing.count(), "texture", missing.first());
  }

  @Override
  public String write(Scene arrived, Values options, Target target)
      throws IOException, FormatException {
    return UsdWriter.write(arrived, typed(options), target);
  }
}
