package ferry.stone.core.format.fbx.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.fbx.raw.FbxBuild;
import ferry.stone.core.format.fbx.raw.FbxChannels;
import ferry.stone.core.format.fbx.raw.FbxCurve;
import ferry.stone.core.format.fbx.raw.FbxName;
import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.format.fbx.read.FbxLensReader;
import ferry.stone.core.math.Figures;
import ferry.stone.core.motion.TrackValues;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.node.LocalTransform.EulerOrder;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Track;
import ferry.stone.core.scene.time.KeyCurve;
import ferry.stone.core.texture.ColourSpace;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.joml.Quaterniond;

/**
 * Writes clips as takes of one layer. Where a node kept the source's own transform, the source's
 * keys are written as they were; elsewhere keys are made from the tracks.
 */
final class FbxTakeWriter {
  private static final double PERCENT = 100;
  private static final String[] PARTS = {"d|X", "d|Y", "d|Z"};

  private final Scene scene;
  private final FbxObjects objects;
  private final FbxOptions options;
  private final Findings findings;
  private final Map<Integer, FbxModelWriter.Written> models = new HashMap<>();
  private final Map<Integer, Map<String, Long>> morphs;
  private final Map<Integer, Long> lenses;
  private final Map<Integer, Long> materials;
  private final Map<String, Integer> lost = new LinkedHashMap<>();

  /**
   * @param morphs channel of each target's key, by the node that shows the mesh
   * @param lenses records of cameras and lights by the scene's ids
   * @param materials records of materials by the scene's ids
   */
  FbxTakeWriter(
      Scene scene,
      FbxObjects objects,
      FbxOptions options,
      Findings findings,
      List<FbxModelWriter.Written> written,
      Map<Integer, Map<String, Long>> morphs,
      Map<Integer, Long> lenses,
      Map<Integer, Long> materials) {
    this.scene = scene;
    this.objects = objects;
    this.options = options;
    this.findings = findings;
    this.morphs = morphs;
    this.lenses = lenses;
    this.materials = materials;
    for (int i = 0; i < written.size(); i++) {
      models.put(scene.nodes().get(i).id(), written.get(i));
    }
  }

  void write() {
    scene.clips().forEach(this::take);
    lost.forEach(
        (property, count) ->
            findings.add(
                Finding.of(
                        "motion-not-carried",
                        Severity.FIX,
                        property,
                        "FBX has no such value that moves: this motion is left out.")
                    .measured(Figures.count(count, "track"))));
  }

  private void take(Clip clip) {
    long stack =
        objects.add(
            "AnimationStack",
            new FbxName(clip.name(), "AnimStack"),
            "",
            List.of(
                FbxBuild.properties(
                    List.of(
                        FbxBuild.time("LocalStart", clip.startSeconds()),
                        FbxBuild.time("LocalStop", clip.endSeconds()),
                        FbxBuild.time("ReferenceStart", clip.startSeconds()),
                        FbxBuild.time("ReferenceStop", clip.endSeconds())))));
    // A stack hangs on nothing: readers take a connection to the scene's root for a fault.
    // A record with children, since some readers take one without for a value.
    List<FbxRecord> weight = List.of(FbxBuild.properties(List.of(FbxBuild.moving("Weight", 100))));
    long layer = objects.add("AnimationLayer", new FbxName(clip.name(), "AnimLayer"), "", weight);
    objects.connect(layer, stack);
    Map<String, KeyCurve[]> keyed = new HashMap<>();
    for (Clip.Keys k : clip.keys()) {
      keyed
              .computeIfAbsent(k.targetId() + "/" + k.property(), x -> new KeyCurve[3])[
              Math.min(2, k.component())] =
          k.curve();
    }
    Map<Long, Boolean> done = new HashMap<>();
    for (Track track : clip.tracks()) {
      KeyCurve[] keys = keyed.get(track.targetId() + "/" + track.property());
      if (track.isTransform()) {
        transform(layer, track, keys);
      } else if (track.isMorph()) {
        Long channel =
            morphs
                .getOrDefault(track.targetId(), Map.of())
                .get(track.property().substring(Clip.MORPH.length()));
        if (channel == null) {
          lost.merge(track.property(), 1, Integer::sum);
        } else if (done.put(channel, true) == null) {
          one(layer, channel, "DeformPercent", keys, track, PERCENT);
        }
      } else {
        other(layer, track, keys);
      }
    }
  }

  private void transform(long layer, Track track, KeyCurve[] keys) {
    FbxModelWriter.Written model = models.get(track.targetId());
    if (model == null) {
      return;
    }
    boolean own = model.kept();
    if (own && keys == null) {
      // The source moved other parts of this node, or parts above it; this part stands still.
      return;
    }
    boolean turns = track.property().equals(Clip.ROTATION);
    KeyCurve[] curves;
    if (own) {
      curves = keys;
    } else if (turns) {
      curves =
          FbxEulerFit.fit(
              track,
              EulerOrder.XYZ,
              new Quaterniond(),
              new Quaterniond(),
              options.toleranceRadians());
    } else {
      curves = FbxTrackCurves.of(track, 1);
    }
    String property =
        turns
            ? "Lcl Rotation"
            : track.property().equals(Clip.SCALE) ? "Lcl Scaling" : "Lcl Translation";
    var rest =
        turns
            ? model.own().rotation()
            : track.property().equals(Clip.SCALE)
                ? model.own().scaling()
                : model.own().translation();
    String name = turns ? "R" : track.property().equals(Clip.SCALE) ? "S" : "T";
    double[] still = {rest.x(), rest.y(), rest.z()};
    curves(layer, model.model(), property, name, curves, still);
  }

  private void other(long layer, Track track, KeyCurve[] keys) {
    int target = track.targetId();
    FbxModelWriter.Written model = models.get(target);
    Long lens = lenses.get(target);
    switch (track.property()) {
      case Clip.VISIBLE -> {
        if (model != null) {
          one(layer, model.model(), "Visibility", keys, track, 1);
        }
      }
      case Clip.CAMERA_ANGLE -> one(layer, lens, "FieldOfView", keys, track, Math.toDegrees(1));
      case Clip.CAMERA_HEIGHT -> {
        double aspect =
            scene.camera(target).map(c -> c.aspect() > 0 ? c.aspect() : 16 / 9.0).orElse(1.0);
        double factor = aspect / FbxLensReader.zoomOneWidth(scene.frame());
        one(layer, lens, "OrthoZoom", keys, track, factor);
      }
      case Clip.LIGHT_INTENSITY -> one(layer, lens, "Intensity", keys, track, PERCENT);
      case Clip.LIGHT_RANGE -> one(layer, lens, "FarAttenuationEnd", keys, track, 1);
      case Clip.LIGHT_INNER_ANGLE -> one(layer, lens, "InnerAngle", keys, track, Math.toDegrees(2));
      case Clip.LIGHT_OUTER_ANGLE -> one(layer, lens, "OuterAngle", keys, track, Math.toDegrees(2));
      case Clip.LIGHT_COLOUR -> {
        if (lens != null) {
          KeyCurve[] curves = FbxTrackCurves.of(TrackValues.through(track, ColourSpace::toSrgb), 1);
          curves(layer, lens, "Color", "Color", curves, new double[3]);
        }
      }
      default -> {
        if (model != null && track.property().startsWith(Clip.CUSTOM) && track.components() == 1) {
          String name = track.property().substring(Clip.CUSTOM.length());
          one(layer, model.model(), name, keys, track, 1);
        } else {
          material(layer, track, keys);
        }
      }
    }
  }

  private void material(long layer, Track track, KeyCurve[] keys) {
    Long id = materials.get(track.targetId());
    if (!track.property().startsWith(Clip.MATERIAL) || id == null) {
      lost.merge(track.property(), 1, Integer::sum);
      return;
    }
    Channel channel = Channel.valueOf(track.property().substring(Clip.MATERIAL.length()));
    Material material = scene.material(track.targetId()).orElseThrow();
    boolean coded = channel.isColour() && scene.linearColours() && track.components() >= 3;
    KeyCurve[] curves =
        coded
            ? FbxTrackCurves.of(TrackValues.through(track, ColourSpace::toSrgb), 1)
            : keys != null
                ? java.util.Arrays.copyOf(keys, track.components())
                : FbxTrackCurves.of(track, 1);
    if (curves.length > 3) {
      curves = java.util.Arrays.copyOf(curves, 3);
    }
    String classic =
        switch (channel) {
          case BASE_COLOUR -> "DiffuseColor";
          case EMISSIVE -> "EmissiveColor";
          case AMBIENT -> "AmbientColor";
          case SPECULAR -> "SpecularColor";
          case SHININESS -> "ShininessExponent";
          case OPACITY -> "Opacity";
          default -> null;
        };
    String name = FbxChannels.name(channel);
    if (classic != null) {
      curves(layer, id, classic, classic, curves, new double[curves.length]);
    }
    if (material.shading() != Material.Shading.PHONG) {
      curves(layer, id, FbxChannels.SET + name, name, curves, new double[curves.length]);
    }
  }

  /** Moves a value of one number. */
  private void one(
      long layer, Long target, String property, KeyCurve[] keys, Track track, double factor) {
    if (target == null) {
      return;
    }
    KeyCurve curve =
        keys != null && keys[0] != null
            ? keys[0].mapped(factor, 0)
            : FbxTrackCurves.of(track, factor)[0];
    single(layer, target, property, property, curve);
  }

  private void single(long layer, long target, String property, String name, KeyCurve curve) {
    long node =
        objects.add(
            "AnimationCurveNode",
            new FbxName(name, "AnimCurveNode"),
            "",
            List.of(
                FbxBuild.properties(
                    List.of(FbxBuild.p("d|" + name, "Number", "", "A", curve.values()[0])))));
    objects.connect(node, layer);
    objects.connect(node, target, property);
    curve(node, "d|" + name, curve);
  }

  private void curves(
      long layer, long target, String property, String name, KeyCurve[] curves, double[] still) {
    if (curves.length == 1) {
      single(layer, target, property, name, curves[0]);
      return;
    }
    List<FbxRecord> p = new ArrayList<>();
    for (int c = 0; c < 3; c++) {
      double value = curves[c] == null ? still[c] : curves[c].values()[0];
      p.add(FbxBuild.p(PARTS[c], "Number", "", "A", value + 0.0));
    }
    long node =
        objects.add(
            "AnimationCurveNode",
            new FbxName(name, "AnimCurveNode"),
            "",
            List.of(FbxBuild.properties(p)));
    objects.connect(node, layer);
    objects.connect(node, target, property);
    for (int c = 0; c < 3; c++) {
      if (curves[c] != null) {
        curve(node, PARTS[c], curves[c]);
      }
    }
  }

  private void curve(long node, String part, KeyCurve curve) {
    long id =
        objects.add("AnimationCurve", new FbxName("", "AnimCurve"), "", FbxCurve.write(curve));
    objects.connect(id, node, part);
  }
}
