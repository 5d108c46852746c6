package ferry.stone.core.format.fbx.write;

import ferry.stone.core.format.fbx.raw.FbxBuild;
import ferry.stone.core.format.fbx.raw.FbxCustom;
import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.format.fbx.read.FbxLensReader;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.Lens;
import ferry.stone.core.scene.node.Light;
import ferry.stone.core.texture.ColourSpace;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Writes cameras and lights, as {@link FbxLensReader} reads them. */
final class FbxLensWriter {
  private static final double USUAL_HEIGHT_INCHES = 0.945;
  private static final double FARTHEST = 1e6;

  private FbxLensWriter() {}

  static List<FbxRecord> camera(Camera camera, Frame frame) {
    List<FbxRecord> p = new ArrayList<>();
    Map<String, Object> custom = new HashMap<>(camera.properties());
    double aspect = camera.aspect() > 0 ? camera.aspect() : 16 / 9.0;
    if (camera.aspect() <= 0) {
      custom.put(FbxLensReader.OPEN_ASPECT, true);
    }
    if (Double.isInfinite(camera.far())) {
      custom.put(FbxLensReader.OPEN_FAR, true);
    }
    boolean flat = camera.verticalAngleRadians() <= 0;
    p.add(FbxBuild.number("AspectWidth", aspect));
    p.add(FbxBuild.number("AspectHeight", 1));
    p.add(FbxBuild.choice("CameraProjectionType", flat ? 1 : 0));
    p.add(FbxBuild.number("NearPlane", camera.near()));
    p.add(FbxBuild.number("FarPlane", Double.isInfinite(camera.far()) ? FARTHEST : camera.far()));
    if (flat) {
      double wide = camera.height() * aspect;
      p.add(FbxBuild.moving("OrthoZoom", wide / FbxLensReader.zoomOneWidth(frame)));
    } else {
      Lens lens = camera.lens();
      double inches =
          lens == null
              ? USUAL_HEIGHT_INCHES
              : lens.gateHeight() / FbxLensReader.MILLIMETRES_PER_INCH;
      double wide =
          lens == null ? inches * aspect : lens.gateWidth() / FbxLensReader.MILLIMETRES_PER_INCH;
      p.add(FbxBuild.number("FilmHeight", inches));
      p.add(FbxBuild.number("FilmWidth", wide));
      p.add(FbxBuild.number("FilmAspectRatio", wide / inches));
      if (lens != null) {
        p.add(FbxBuild.number("FilmOffsetX", lens.shiftX() / FbxLensReader.MILLIMETRES_PER_INCH));
        p.add(FbxBuild.number("FilmOffsetY", lens.shiftY() / FbxLensReader.MILLIMETRES_PER_INCH));
        p.add(FbxBuild.number("FocusDistance", lens.focusDistance()));
        if (lens.fStop() != 0) {
          custom.put(Lens.F_STOP, lens.fStop());
        }
      }
      double focal =
          inches
              * FbxLensReader.MILLIMETRES_PER_INCH
              / 2
              / Math.tan(camera.verticalAngleRadians() / 2);
      p.add(FbxBuild.choice("ApertureMode", FbxLensReader.BY_VERTICAL_ANGLE));
      p.add(FbxBuild.moving("FieldOfView", Math.toDegrees(camera.verticalAngleRadians())));
      p.add(FbxBuild.moving("FocalLength", focal));
    }
    p.addAll(FbxCustom.records(custom, p));
    return List.of(FbxBuild.properties(p), FbxBuild.record("TypeFlags", "Camera"));
  }

  static List<FbxRecord> light(Light light) {
    List<FbxRecord> p = new ArrayList<>();
    int type =
        switch (light.kind()) {
          case POINT -> 0;
          case DIRECTIONAL -> 1;
          case SPOT -> 2;
          case AREA -> 3;
          case DOME -> throw new IllegalStateException("no dome lights in FBX");
        };
    p.add(FbxBuild.choice("LightType", type));
    float[] c = light.linearColour();
    p.add(
        FbxBuild.colour(
            "Color",
            new double[] {
              ColourSpace.toSrgb(c[0]), ColourSpace.toSrgb(c[1]), ColourSpace.toSrgb(c[2])
            }));
    p.add(FbxBuild.moving("Intensity", FbxLensReader.PERCENT * light.intensity()));
    p.add(FbxBuild.moving("InnerAngle", Math.toDegrees(2 * light.innerAngleRadians())));
    p.add(FbxBuild.moving("OuterAngle", Math.toDegrees(2 * light.outerAngleRadians())));
    boolean fades = light.kind() != Light.Kind.DIRECTIONAL;
    p.add(FbxBuild.choice("DecayType", fades ? 2 : 0));
    p.add(FbxBuild.flag("CastLight", true));
    if (Double.isFinite(light.range())) {
      p.add(FbxBuild.flag("EnableFarAttenuation", true));
      p.add(FbxBuild.moving("FarAttenuationEnd", light.range()));
    }
    p.addAll(FbxCustom.records(light.properties(), p));
    return List.of(FbxBuild.properties(p), FbxBuild.record("TypeFlags", "Light"));
  }
}
