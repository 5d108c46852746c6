package ferry.stone.demo;

import ferry.stone.core.format.fbx.write.FbxOptions;
import ferry.stone.core.format.files.Output;
import ferry.stone.core.format.gltf.write.GltfOptions;
import ferry.stone.core.geometry.mesh.Normals;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.Light;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Interpolation;
import ferry.stone.core.scene.time.Clip.Track;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * The heron automaton: a walking bird of tin with a skeleton, three morph targets and the clips
 * "wade" and "strike". Faults: wings in an A-pose, six joints move a vertex where engines take
 * four, and the morph target "puff" moves the whole body up.
 */
final class Heron {
  private final SceneBuilder scene = new SceneBuilder("heron automaton");
  private final List<HeronBones.Bone> bones = HeronBones.all();
  private final int[] ids = new int[bones.size()];

  private Heron() {}

  static void write(Output output) throws IOException {
    SceneCargo.write(
        built(),
        new GltfOptions(GltfOptions.Container.GLB, true, true, 0),
        "heron_automaton",
        textures(),
        output);
  }

  static void writeFbx(Output output) throws IOException {
    SceneCargo.writeFbx(built(), FbxOptions.USUAL, "heron_automaton", textures(), output);
  }

  static Scene built() {
    Heron heron = new Heron();
    heron.scene.framesPerSecond(30);
    heron.skeleton();
    int body = heron.body();
    heron.eyeAndLamp();
    heron.wade();
    heron.strike(body);
    return heron.scene.build();
  }

  static Map<String, byte[]> textures() {
    return Map.of("tin_plates.png", Paint.stone(9_113, 256, 0x8fa3ad, 0x5c6f7a, 0.4));
  }

  private void skeleton() {
    for (int b = 0; b < ids.length; b++) {
      HeronBones.Bone bone = bones.get(b);
      Vector3d at = new Vector3d(bone.from());
      if (bone.parent() >= 0) {
        at.sub(new Vector3d(bones.get(bone.parent()).from()));
      }
      ids[b] = scene.newId();
      scene.add(
          Node.of(ids[b], bone.name(), bone.parent(), new Node.Content.Joint(bone.fromRadius()))
              .withTransform(LocalTransform.Trs.of(at, new Quaterniond(), new Vector3d(1))));
    }
  }

  private int body() {
    Parts parts = new Parts(scene);
    int tin =
        parts.pbr(
            "river_tin",
            new double[] {1, 1, 1},
            0.85,
            0.42,
            parts.found("tin_plates.png"),
            null,
            null);
    HeronBody body = new HeronBody(bones);
    PolygonMesh mesh = body.mesh(scene.newId(), tin);
    mesh = mesh.withFirst(Semantic.NORMAL, Normals.byAngle(mesh, 50, Progress.NONE));
    scene.add(mesh);
    double[] inverseBind = new double[16 * ids.length];
    for (int b = 0; b < ids.length; b++) {
      new Matrix4d()
          .translation(new Vector3d(bones.get(b).from()).negate())
          .get(inverseBind, 16 * b);
    }
    int skin = scene.newId();
    scene.add(body.skin(skin, mesh, ids, inverseBind));
    int id = scene.newId();
    scene.add(Node.of(id, "heron", -1, Node.Content.MeshContent.of(mesh.id()).withSkin(skin)));
    return id;
  }

  private void eyeAndLamp() {
    int camera = scene.newId();
    scene.add(new Camera(camera, "visitor", Math.toRadians(40), 0, 1.6, 10, 5000, Map.of()));
    // The generator builds with Z up; cameras look along their own −Z.
    Quaterniond look = new Quaterniond().rotateX(Math.PI / 2);
    scene.add(
        Node.of(scene.newId(), "visitor", -1, new Node.Content.CameraContent(camera))
            .withTransform(
                LocalTransform.Trs.of(new Vector3d(0, -340, 120), look, new Vector3d(1))));
    int lamp = scene.newId();
    scene.add(
        new Light(
            lamp,
            "weir_lamp",
            Light.Kind.SPOT,
            new float[] {1, 0.86f, 0.66f},
            180,
            Double.POSITIVE_INFINITY,
            0.3,
            0.7,
            Map.of()));
    scene.add(
        Node.of(scene.newId(), "weir_lamp", -1, new Node.Content.LightContent(lamp))
            .withTransform(
                LocalTransform.Trs.of(
                    new Vector3d(120, -160, 300),
                    new Quaterniond().rotateZ(0.6).rotateX(0.6),
                    new Vector3d(1))));
  }

  private int id(String name) {
    for (int b = 0; b < ids.length; b++) {
      if (bones.get(b).name().equals(name)) {
        return ids[b];
      }
    }
    throw new IllegalArgumentException(name);
  }

  private interface Angle {
    double at(double turn);
  }

  /** Turns a bone about the line from side to side, evenly keyed over a clip. */
  private Track swing(String bone, double seconds, int keys, Interpolation how, Angle angle) {
    double[] times = new double[keys];
    double[] values = new double[4 * keys];
    boolean cubic = how == Interpolation.CUBIC;
    double[] slopes = new double[cubic ? 4 * keys : 0];
    for (int k = 0; k < keys; k++) {
      times[k] = seconds * k / (keys - 1);
      double half = angle.at((double) k / (keys - 1)) / 2;
      values[4 * k] = Math.sin(half);
      values[4 * k + 3] = Math.cos(half);
    }
    for (int k = 1; cubic && k + 1 < keys; k++) {
      for (int c = 0; c < 4; c++) {
        slopes[4 * k + c] =
            (values[4 * k + 4 + c] - values[4 * k - 4 + c]) / (times[k + 1] - times[k - 1]);
      }
    }
    return new Track(
        id(bone),
        Clip.ROTATION,
        how,
        4,
        times,
        values,
        cubic ? slopes : null,
        cubic ? slopes.clone() : null);
  }

  private void wade() {
    double length = 2.4;
    List<Track> tracks = new ArrayList<>();
    for (int side = 0; side < 2; side++) {
      String s = side == 0 ? "_l" : "_r";
      double phase = side * Math.PI;
      tracks.add(line("thigh" + s, length, t -> 0.5 * Math.sin(2 * Math.PI * t + phase)));
      tracks.add(
          line("shin" + s, length, t -> 0.55 * Math.max(0, Math.cos(2 * Math.PI * t + phase))));
      tracks.add(
          line("shank" + s, length, t -> -0.6 * Math.max(0, Math.cos(2 * Math.PI * t + phase))));
    }
    tracks.add(line("neck_2", length, t -> 0.12 * Math.sin(4 * Math.PI * t)));
    tracks.add(line("tail", length, t -> 0.1 * Math.sin(2 * Math.PI * t)));
    double[] times = new double[9];
    double[] bob = new double[27];
    for (int k = 0; k < times.length; k++) {
      times[k] = length * k / 8;
      bob[3 * k + 1] = 8;
      bob[3 * k + 2] = 92 - 2.5 * Math.abs(Math.sin(2 * Math.PI * k / 8.0));
    }
    tracks.add(
        new Track(id("hips"), Clip.TRANSLATION, Interpolation.LINEAR, 3, times, bob, null, null));
    scene.add(new Clip(scene.newId(), "wade", 0, length, tracks));
  }

  private Track line(String bone, double seconds, Angle angle) {
    return swing(bone, seconds, 17, Interpolation.LINEAR, angle);
  }

  private void strike(int body) {
    double length = 1.2;
    List<Track> tracks = new ArrayList<>();
    Angle dart =
        t ->
            t < 0.4
                ? -0.35 * t / 0.4
                : t < 0.6 ? -0.35 + 1.3 * (t - 0.4) / 0.2 : 0.95 * (1 - t) / 0.4;
    for (String bone : new String[] {"chest", "neck_1", "neck_2"}) {
      tracks.add(swing(bone, length, 11, Interpolation.CUBIC, t -> 0.8 * dart.at(t)));
    }
    tracks.add(swing("head", length, 11, Interpolation.CUBIC, t -> -0.9 * dart.at(t)));
    tracks.add(
        new Track(
            body,
            Clip.MORPH + "beak_open",
            Interpolation.LINEAR,
            1,
            new double[] {0, 0.48, 0.72, 0.8, 1.2},
            new double[] {0, 0, 1, 0, 0},
            null,
            null));
    tracks.add(
        new Track(
            body,
            Clip.MORPH + "blink",
            Interpolation.STEP,
            1,
            new double[] {0, 0.6, 0.8},
            new double[] {0, 1, 0},
            null,
            null));
    scene.add(new Clip(scene.newId(), "strike", 0, length, tracks));
  }
}
