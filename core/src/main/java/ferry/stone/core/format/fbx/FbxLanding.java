package ferry.stone.core.format.fbx;

import ferry.stone.core.field.Field;
import ferry.stone.core.field.Values;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.fbx.write.FbxOptions;
import ferry.stone.core.format.fbx.write.FbxWriter;
import ferry.stone.core.format.files.MissingTextures;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.geometry.triangle.Triangulate;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.Handedness;
import ferry.stone.core.math.LengthUnit;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.shore.Shore;
import java.io.IOException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;

/** Landing as FBX. */
final class FbxLanding implements SceneWriter {
  private static final int NARROW = 7400;
  private static final int WIDE = 7500;

  @Override
  public List<Field> fields() {
    return FbxFields.ALL;
  }

  @Override
  public Map<String, Object> wanted(Shore shore) {
    Frame frame = shore.frame();
    Map<String, Object> wanted = new HashMap<>();
    wanted.put("embedTextures", shore.wishes().embedTextures());
    wanted.put("triangulate", shore.wishes().triangulate());
    wanted.put("unit", LengthUnit.textOf(frame.metresPerUnit()));
    wanted.put("up", frame.up().text());
    boolean usual = Frame.Y_UP_METRE.withUp(frame.up()).front() == frame.front();
    wanted.put("front", usual ? FbxFields.USUAL_FRONT : frame.front().text());
    wanted.put("hand", frame.handedness() == Handedness.LEFT ? "left" : "right");
    return wanted;
  }

  @Override
  public void check(Values options) {
    frame(options);
  }

  @Override
  public Frame frame(Values options) {
    double metres = LengthUnit.metresOf(options.text("unit"));
    SignedAxis up = SignedAxis.parse(options.text("up")).orElseThrow();
    SignedAxis front =
        options.text("front").equals(FbxFields.USUAL_FRONT)
            ? Frame.Y_UP_METRE.withUp(up).front()
            : SignedAxis.parse(options.text("front")).orElseThrow();
    if (front.index() == up.index()) {
      throw new IllegalArgumentException("the front cannot look along the up axis");
    }
    return new Frame(
        metres,
        up,
        front,
        options.text("hand").equals("left") ? Handedness.LEFT : Handedness.RIGHT);
  }

  private static FbxOptions typed(Values options) {
    double tolerance = options.number("bakeTolerance");
    return new FbxOptions(
        options.text("form").equals("text") ? FbxOptions.Form.TEXT : FbxOptions.Form.BINARY,
        options.text("form").equals("binary64") ? WIDE : NARROW,
        options.flag("embedTextures"),
        options.flag("bake"),
        tolerance == 0 ? FbxOptions.TOLERANCE : tolerance);
  }

  @Override
  public boolean isSeveralFiles(Values options) {
    return !options.flag("embedTextures");
  }

  @Override
  public Holding holding(Values options) {
    return new FbxHolding(options.flag("triangulate"), options.flag("bake"));
  }

  @Override
  public Scene prepared(Scene far, Values options) {
    return options.flag("triangulate") ? Triangulate.all(far) : far;
  }

  @Override
  public boolean carries(Scene far, Clip.Track track) {
    return FbxCapabilities.carries(far, track);
  }

  @Override
  public void foretell(Outlook outlook) {
    Told told = outlook.told();
    Scene far = outlook.far();
    told.said(FbxCapabilities.arrangement(outlook.arrived(), typed(outlook.options())));
    each(
        outlook,
        Capability.MATERIAL_CHANNELS,
        "channel",
        m -> FbxCapabilities.lostChannels(m).stream().map(Channel::label).toList());
    each(outlook, Capability.OWN_VALUES, "value", FbxCapabilities::ownValues);
    each(
        outlook,
        Capability.PACKED_CHANNELS,
        "channel",
        m -> FbxCapabilities.splitChannels(m).stream().map(Channel::label).toList());
    each(
        outlook,
        Capability.TINTED_TEXTURES,
        "channel",
        m -> FbxCapabilities.tinted(far, m).stream().map(Channel::label).toList());
    List<String> bare = FbxCapabilities.bareFaces(far);
    told.count(Capability.BARE_FACES, bare.size(), "part", bare.isEmpty() ? "" : bare.get(0));
    MissingTextures missing = MissingTextures.of(far);
    told.count(Capability.MISSING_TEXTURES, missing.count(), "texture", missing.first());
  }

  private static void each(
      Outlook outlook, Capability capability, String noun, Function<Material, List<String>> found) {
    int count = 0;
    String first = "";
    for (Material material : outlook.far().materials()) {
      for (String value : found.apply(material)) {
        first = count++ == 0 ? material.name() + ", " + value : first;
      }
    }
    outlook.told().count(capability, count, noun, first);
  }

  @Override
  public String write(Scene arrived, Values options, Target target)
      throws IOException, FormatException {
    return FbxWriter.write(
        arrived,
        typed(options),
        target.stem(),
        target.resources(),
        target.output(),
        target.findings(),
        target.progress());
  }
}
