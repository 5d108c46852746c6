package ferry.stone.core.format.fbx.read;

import ferry.stone.core.format.fbx.raw.FbxChannels;
import ferry.stone.core.format.fbx.raw.FbxDocument;
import ferry.stone.core.format.fbx.raw.FbxProperties;
import ferry.stone.core.format.fbx.read.FbxClipReader.Value;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.texture.ColourSpace;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.DoubleUnaryOperator;
import org.joml.Vector3d;

/** Lists the values besides transforms that takes may move, and what each moves in the scene. */
final class FbxMovingValues {
  private static final double PERCENT = 0.01;

  private final FbxDocument document;
  private final List<Value> values = new ArrayList<>();

  FbxMovingValues(FbxDocument document) {
    this.document = document;
  }

  private void number(
      long object, String name, int target, String track, double factor, double rest) {
    values.add(new Value(object, name, List.of(target), track, factor, new double[] {rest}, null));
  }

  void morphs(PolygonMesh mesh, List<FbxDocument.Item> channels, List<Integer> showing) {
    List<String> keys = MorphTarget.keys(mesh.morphs());
    for (int m = 0; m < keys.size(); m++) {
      double[] rest = {mesh.morphs().get(m).weight() / PERCENT};
      values.add(
          new Value(
              channels.get(m).id(),
              "DeformPercent",
              showing,
              Clip.MORPH + keys.get(m),
              PERCENT,
              rest,
              null));
    }
  }

  /** Visibility and custom numbers. */
  void node(FbxDocument.Item item, int id) {
    number(item.id(), "Visibility", id, Clip.VISIBLE, 1, item.properties().number("Visibility", 1));
    item.properties()
        .custom()
        .forEach(
            (name, value) -> {
              if (value instanceof Number n) {
                number(item.id(), name, id, Clip.CUSTOM + name, 1, n.doubleValue());
              }
            });
  }

  void lens(FbxDocument.Item item, int id, Frame frame) {
    FbxProperties p = item.properties();
    if (item.type().equals("Camera")) {
      if ((int) p.number("CameraProjectionType", 0) == 1) {
        double aspect = p.number("AspectWidth", 1) / p.number("AspectHeight", 1);
        double factor = FbxLensReader.zoomOneWidth(frame) / (aspect > 0 ? aspect : 1);
        number(item.id(), "OrthoZoom", id, Clip.CAMERA_HEIGHT, factor, p.number("OrthoZoom", 1));
      } else {
        String name = FbxLensReader.movingProperty(p);
        DoubleUnaryOperator angle = v -> FbxLensReader.angle(p, name, v);
        double[] rest = {
          p.number(
              name,
              name.equals("FocalLength") ? FbxLensReader.USUAL_FOCAL : FbxLensReader.USUAL_FIELD)
        };
        values.add(new Value(item.id(), name, List.of(id), Clip.CAMERA_ANGLE, 1, rest, angle));
      }
      return;
    }
    double half = Math.PI / 360;
    number(item.id(), "Intensity", id, Clip.LIGHT_INTENSITY, PERCENT, p.number("Intensity", 100));
    number(item.id(), "InnerAngle", id, Clip.LIGHT_INNER_ANGLE, half, p.number("InnerAngle", 0));
    number(item.id(), "OuterAngle", id, Clip.LIGHT_OUTER_ANGLE, half, p.number("OuterAngle", 45));
    number(
        item.id(), "FarAttenuationEnd", id, Clip.LIGHT_RANGE, 1, p.number("FarAttenuationEnd", 0));
    Vector3d rgb = p.vector("Color", 1);
    values.add(
        new Value(
            item.id(),
            "Color",
            List.of(id),
            Clip.LIGHT_COLOUR,
            1,
            new double[] {rgb.x, rgb.y, rgb.z},
            ColourSpace::toLinear));
  }

  /** A physically based value goes before the classic one beside it. */
  void material(FbxDocument.Item item, int id) {
    Set<Channel> physical = new HashSet<>();
    FbxProperties p = item.properties();
    for (String name : p.own().keySet()) {
      Channel channel = name.contains("|") ? FbxChannels.physical(name) : null;
      if (channel != null && physical.add(channel)) {
        material(item, id, name, channel);
      }
    }
    for (String name : p.own().keySet()) {
      Channel channel = FbxChannels.classic(name);
      channel = name.equals("Opacity") ? Channel.OPACITY : channel;
      boolean clear = channel == Channel.OPACITY && !name.equals("Opacity");
      if (channel != null && !clear && !physical.contains(channel)) {
        material(item, id, name, channel);
      }
    }
  }

  private void material(FbxDocument.Item item, int id, String name, Channel channel) {
    FbxProperties p = item.properties();
    double[] rgb = channel.isColour() ? p.colour(name) : null;
    double[] rest = rgb != null ? rgb : new double[] {p.number(name, 0)};
    values.add(
        new Value(item.id(), name, List.of(id), Clip.MATERIAL + channel.name(), 1, rest, null));
  }

  /** Those that some take moves. */
  List<Value> of(List<FbxMotion> motions) {
    Set<Long> moving = new HashSet<>();
    document
        .all("AnimationCurveNode")
        .forEach(n -> document.destinations(n).forEach(l -> moving.add(l.item().id())));
    return motions.isEmpty()
        ? List.of()
        : values.stream().filter(v -> moving.contains(v.object())).toList();
  }
}
