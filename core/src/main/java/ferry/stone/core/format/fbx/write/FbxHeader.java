package ferry.stone.core.format.fbx.write;

import ferry.stone.core.format.fbx.raw.FbxBinaryWriter;
import ferry.stone.core.format.fbx.raw.FbxBuild;
import ferry.stone.core.format.fbx.raw.FbxCustom;
import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.format.fbx.raw.FbxSettings;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.Handedness;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.List;
import org.joml.Vector3d;

/** The records before and after the objects: what the file is, and what its numbers mean. */
final class FbxHeader {
  private static final String CREATOR = "Stone Ferry";
  private static final int CUSTOM_RATE = 14;
  private static final double SAME_RATE = 1e-6;

  private FbxHeader() {}

  static List<FbxRecord> before(FbxOptions options) {
    List<FbxRecord> all = new ArrayList<>();
    all.add(
        FbxBuild.list(
            "FBXHeaderExtension",
            FbxBuild.record("FBXHeaderVersion", 1003),
            FbxBuild.record("FBXVersion", options.version()),
            FbxBuild.record("Creator", CREATOR)));
    if (options.form() == FbxOptions.Form.BINARY) {
      all.add(FbxBuild.record("FileId", (Object) FbxBinaryWriter.FILE_ID));
      all.add(FbxBuild.record("CreationTime", FbxBinaryWriter.MOMENT));
      all.add(FbxBuild.record("Creator", CREATOR));
    }
    return all;
  }

  static FbxRecord settings(Scene scene) {
    Frame frame = scene.frame();
    List<FbxRecord> p = new ArrayList<>();
    axis(p, "Up", frame.up());
    axis(p, "Front", frame.front());
    axis(p, "Coord", side(frame));
    p.add(FbxBuild.whole("OriginalUpAxis", frame.up().index()));
    p.add(FbxBuild.whole("OriginalUpAxisSign", frame.up().sign()));
    // The format counts in centimetres.
    double unit = 100 * frame.metresPerUnit();
    p.add(FbxBuild.number("UnitScaleFactor", unit));
    p.add(FbxBuild.number("OriginalUnitScaleFactor", unit));
    double start = scene.clips().stream().mapToDouble(Clip::startSeconds).min().orElse(0);
    double end = scene.clips().stream().mapToDouble(Clip::endSeconds).max().orElse(1);
    int mode = FbxSettings.mode(scene.framesPerSecond(), SAME_RATE);
    p.add(FbxBuild.choice("TimeMode", mode < 0 ? CUSTOM_RATE : mode));
    p.add(FbxBuild.time("TimeSpanStart", start));
    p.add(FbxBuild.time("TimeSpanStop", end));
    p.add(FbxBuild.number("CustomFrameRate", mode < 0 ? scene.framesPerSecond() : -1));
    p.addAll(FbxCustom.records(scene.properties(), p));
    return FbxBuild.list(
        "GlobalSettings", FbxBuild.record("Version", 1000), FbxBuild.properties(p));
  }

  private static void axis(List<FbxRecord> p, String name, SignedAxis axis) {
    p.add(FbxBuild.whole(name + "Axis", axis.index()));
    p.add(FbxBuild.whole(name + "AxisSign", axis.sign()));
  }

  /** The third axis: up × front in a right-handed frame, its opposite in a left-handed one. */
  private static SignedAxis side(Frame frame) {
    Vector3d side = frame.up().vector().cross(frame.front().vector());
    int index = 3 - frame.up().index() - frame.front().index();
    double sign = side.get(index) * (frame.handedness() == Handedness.RIGHT ? 1 : -1);
    return SignedAxis.of(index, sign < 0 ? -1 : 1);
  }

  static List<FbxRecord> documents(String name) {
    return List.of(
        FbxBuild.list(
            "Documents",
            FbxBuild.record("Count", 1),
            FbxBuild.list(
                "Document",
                List.of(1L, name, "Scene"),
                List.of(
                    FbxBuild.properties(List.of(FbxBuild.text("ActiveAnimStackName", ""))),
                    FbxBuild.record("RootNode", 0L)))),
        FbxBuild.list("References"));
  }

  /** The list of takes that older readers look at. */
  static FbxRecord takes(List<Clip> clips) {
    List<FbxRecord> all = new ArrayList<>();
    all.add(FbxBuild.record("Current", clips.isEmpty() ? "" : clips.get(0).name()));
    for (Clip clip : clips) {
      long start = FbxSettings.ticks(clip.startSeconds());
      long end = FbxSettings.ticks(clip.endSeconds());
      all.add(
          FbxBuild.list(
              "Take",
              List.of(clip.name()),
              List.of(
                  FbxBuild.record("FileName", clip.name() + ".tak"),
                  FbxBuild.record("LocalTime", start, end),
                  FbxBuild.record("ReferenceTime", start, end))));
    }
    return FbxBuild.list("Takes", List.of(), all);
  }
}
