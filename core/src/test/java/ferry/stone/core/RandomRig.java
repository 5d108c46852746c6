package ferry.stone.core;

import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.Lens;
import ferry.stone.core.scene.node.Light;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Interpolation;
import ferry.stone.core.scene.time.Clip.Track;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * Scenes with a random hierarchy, skinned and plain meshes, morph targets, cameras, lights and
 * clips of every interpolation, from a seed.
 */
public final class RandomRig {
  private final Random random;
  private final SceneBuilder scene;
  private final List<Node> nodes = new ArrayList<>();
  private final List<Integer> joints = new ArrayList<>();
  private final int mostInfluences;

  private RandomRig(Random random, int mostInfluences) {
    this.random = random;
    this.mostInfluences = mostInfluences;
    scene = RandomScene.of(random).toBuilder();
  }

  /**
   * @param mostInfluences joints that move a vertex at most
   */
  public static Scene of(Random random, int mostInfluences) {
    return new RandomRig(random, mostInfluences).build();
  }

  private Scene build() {
    Scene plain = scene.build();
    int count = 3 + random.nextInt(12);
    for (int i = 0; i < count; i++) {
      int id = scene.newId();
      boolean joint = i < 3 || random.nextBoolean();
      if (joint) {
        joints.add(id);
      }
      // Joints hang on the first node, so that each skin has one root.
      int parent = i == 0 ? -1 : joint ? random.nextInt(i) : random.nextInt(i + 1) - 1;
      add(id, "node_" + i, parent, joint ? new Node.Content.Joint(0) : Node.Content.GROUP);
    }
    for (Node shown : plain.nodes()) {
      Node.Content.MeshContent content = (Node.Content.MeshContent) shown.content();
      PolygonMesh mesh = withMorphs(plain.mesh(content.meshId()).orElseThrow());
      scene.add(mesh);
      if (random.nextBoolean()) {
        content = content.withSkin(skin(mesh));
      }
      if (random.nextBoolean() && !mesh.morphs().isEmpty()) {
        content = content.withMorphWeights(random.doubles(mesh.morphs().size(), 0, 1).toArray());
      }
      add(shown.id(), shown.name(), random.nextInt(nodes.size() + 1) - 1, content);
    }
    camerasAndLights();
    for (int c = 0; c < 1 + random.nextInt(2); c++) {
      scene.add(clip("clip_" + c));
    }
    Scene built = scene.nodes(nodes).build();
    // The plain scene's meshes stand first; only those with morphs are used.
    List<PolygonMesh> meshes = built.meshes().subList(plain.meshes().size(), built.meshes().size());
    return built.toBuilder().meshes(meshes).build();
  }

  private void add(int id, String name, int parent, Node.Content content) {
    nodes.add(Node.of(id, name, parent, content).withTransform(transform()));
  }

  private LocalTransform transform() {
    double s = 0.5 + random.nextDouble();
    boolean uneven = random.nextInt(4) == 0;
    return LocalTransform.Trs.of(
        vector(2), rotation(), uneven ? new Vector3d(s, -s, 2 * s) : new Vector3d(s));
  }

  private Vector3d vector(double size) {
    return new Vector3d(
            random.nextDouble() - 0.5, random.nextDouble() - 0.5, random.nextDouble() - 0.5)
        .mul(size);
  }

  private Quaterniond rotation() {
    Vector3d v = vector(1);
    return new Quaterniond(v.x, v.y, v.z, random.nextDouble() - 0.5).normalize();
  }

  private PolygonMesh withMorphs(PolygonMesh mesh) {
    List<MorphTarget> morphs = new ArrayList<>();
    int vertices = mesh.points().count();
    for (int m = 0; m < random.nextInt(4); m++) {
      IntList touched = new IntList(16);
      for (int v = 0; v < vertices; v++) {
        if (random.nextInt(3) > 0) {
          touched.add(v);
        }
      }
      float[] deltas = new float[3 * touched.size()];
      for (int i = 0; i < deltas.length; i++) {
        deltas[i] = random.nextFloat() - 0.5f;
      }
      morphs.add(
          new MorphTarget(
              "shape " + m,
              random.nextInt(3) / 2.0,
              List.of(
                  new MorphTarget.Shape(
                      1, touched.toArray(), deltas, random.nextBoolean() ? deltas : null))));
    }
    return mesh.toBuilder().morphs(morphs).build();
  }

  private int skin(PolygonMesh mesh) {
    int vertices = mesh.points().count();
    int[] offsets = new int[vertices + 1];
    IntList of = new IntList(16);
    ferry.stone.core.math.FloatList weights = new ferry.stone.core.math.FloatList(16);
    for (int v = 0; v < vertices; v++) {
      int count = 1 + random.nextInt(Math.min(mostInfluences, joints.size()));
      double[] some = random.doubles(count, 0.1, 1).toArray();
      double sum = java.util.Arrays.stream(some).sum();
      int first = random.nextInt(joints.size());
      for (int i = 0; i < count; i++) {
        of.add((first + i) % joints.size());
        weights.add((float) (some[i] / sum));
      }
      offsets[v + 1] = of.size();
    }
    double[] inverseBind = new double[16 * joints.size()];
    for (int j = 0; j < joints.size(); j++) {
      new Matrix4d()
          .translationRotateScale(vector(2), rotation(), new Vector3d(0.5 + random.nextDouble()))
          .get(inverseBind, 16 * j);
    }
    int id = scene.newId();
    scene.add(
        new Skin(
            id,
            "skin",
            mesh.id(),
            joints.stream().mapToInt(Integer::intValue).toArray(),
            inverseBind,
            offsets,
            of.toArray(),
            weights.toArray(),
            "linear"));
    return id;
  }

  private void camerasAndLights() {
    int camera = scene.newId();
    scene.add(
        new Camera(camera, "eye", 0.8, 0, 1.5, 0.1, 100, new Lens(36, 24, 1, -1, 5, 4), Map.of()));
    add(scene.newId(), "eye", random.nextInt(nodes.size()), new Node.Content.CameraContent(camera));
    int light = scene.newId();
    scene.add(
        new Light(
            light,
            "lamp",
            Light.Kind.SPOT,
            new float[] {1, 0.5f, 0.25f},
            30,
            12,
            0.2,
            0.6,
            Map.of()));
    add(scene.newId(), "lamp", random.nextInt(nodes.size()), new Node.Content.LightContent(light));
  }

  private Clip clip(String name) {
    List<Track> tracks = new ArrayList<>();
    for (Node node : nodes) {
      if (random.nextInt(3) == 0) {
        tracks.add(track(node.id(), Clip.TRANSLATION, 3));
      }
      if (random.nextInt(3) == 0) {
        tracks.add(track(node.id(), Clip.ROTATION, 4));
      }
      if (random.nextInt(5) == 0) {
        tracks.add(track(node.id(), Clip.SCALE, 3));
      }
      if (node.content() instanceof Node.Content.MeshContent content) {
        morphTracks(node, content, tracks);
      }
    }
    tracks.add(track(nodes.get(0).id(), Clip.TRANSLATION, 3));
    List<Track> single = new ArrayList<>();
    java.util.Set<String> seen = new java.util.HashSet<>();
    for (Track track : tracks) {
      if (seen.add(track.targetId() + track.property())) {
        single.add(track);
      }
    }
    return new Clip(scene.newId(), name, 0, 2.5, single);
  }

  private void morphTracks(Node node, Node.Content.MeshContent content, List<Track> tracks) {
    Scene now = scene.build();
    PolygonMesh mesh =
        now.meshes().stream()
            .filter(m -> m.id() == content.meshId())
            .reduce((a, b) -> b)
            .orElseThrow();
    for (String key : MorphTarget.keys(mesh.morphs())) {
      if (random.nextBoolean()) {
        tracks.add(track(node.id(), Clip.MORPH + key, 1));
      }
    }
  }

  private Track track(int target, String property, int components) {
    Interpolation[] kinds = Interpolation.values();
    Interpolation interpolation = kinds[random.nextInt(kinds.length)];
    int keys = 2 + random.nextInt(4);
    double[] times = new double[keys];
    for (int k = 0; k < keys; k++) {
      // Quarters of a second are exact as floats.
      times[k] = 0.25 * (k + (k == 0 ? 0 : random.nextInt(2)) + (k > 0 ? k : 0));
    }
    java.util.Arrays.sort(times);
    boolean cubic = interpolation == Interpolation.CUBIC;
    double[] values = new double[components * keys];
    for (int k = 0; k < keys; k++) {
      if (property.equals(Clip.ROTATION)) {
        Quaterniond q = rotation();
        values[4 * k] = q.x;
        values[4 * k + 1] = q.y;
        values[4 * k + 2] = q.z;
        values[4 * k + 3] = q.w;
      } else {
        for (int c = 0; c < components; c++) {
          values[components * k + c] = 0.25 + random.nextDouble();
        }
      }
    }
    return new Track(
        target,
        property,
        interpolation,
        components,
        times,
        values,
        cubic ? random.doubles(values.length, -0.3, 0.3).toArray() : null,
        cubic ? random.doubles(values.length, -0.3, 0.3).toArray() : null);
  }
}
