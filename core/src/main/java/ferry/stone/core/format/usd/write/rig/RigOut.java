package ferry.stone.core.format.usd.write.rig;

import ferry.stone.core.format.files.FreeNames;
import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.ValidNames;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.write.shape.Keys;
import ferry.stone.core.format.usd.write.shape.ShapeOut;
import ferry.stone.core.format.usd.write.shape.WeightsOut;
import ferry.stone.core.format.usd.write.spec.Spec;
import ferry.stone.core.format.usd.write.spec.TimeCodes;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import org.joml.Matrix4d;

/**
 * Skeletons below what held their joints, with what moves them, and the meshes bound to them. Skins
 * that were bound to the same joints elsewhere differ in where their mesh stood; where no such
 * place makes them one, they get a skeleton of their own.
 */
public final class RigOut {
  private static final int OF_MATRIX = 16;
  private static final double SAME = 1e-5;

  private final Scene scene;
  private final Rig rig;
  private final TimeCodes times;
  private final Map<Integer, Integer> placeOf;
  private final Map<Integer, List<Skeleton>> skeletons = new HashMap<>();

  public RigOut(Scene scene, Rig rig, TimeCodes times) {
    this.scene = scene;
    this.rig = rig;
    this.times = times;
    placeOf = scene.nodePlaces();
  }

  /** A skeleton that is written, with the matrices of its joints when it was bound. */
  public static final class Skeleton {
    final PrimSpec prim;
    final String path;
    final List<Integer> joints;
    final Matrix4d[] bind;
    public final WeightsOut weights;

    Skeleton(PrimSpec prim, String path, List<Integer> joints, Matrix4d[] bind) {
      this.prim = prim;
      this.path = path;
      this.joints = joints;
      this.bind = bind;
      weights = new WeightsOut();
    }
  }

  /** Where a skeleton is put. */
  public interface Holders {
    /** The prim of a node, or the layer itself for −1. */
    PrimSpec prim(int place);

    String path(int place);

    FreeNames names(int place);
  }

  /** Writes all skeletons, each as often as its skins need it. */
  public void skeletons(Holders holders) {
    for (int key : rig.skeletons().keySet()) {
      List<Skin> skins = scene.skins().stream().filter(s -> rig.ofSkin(s.id()) == key).toList();
      List<Skeleton> made = new ArrayList<>();
      skeletons.put(key, made);
      if (skins.isEmpty()) {
        made.add(skeleton(key, null, holders));
      }
      for (Skin skin : skins) {
        if (made.stream().noneMatch(s -> placed(s, skin) != null)) {
          made.add(skeleton(key, skin, holders));
        }
      }
    }
  }

  private Skeleton skeleton(int key, Skin skin, Holders holders) {
    int holder = rig.holder(key);
    String name = holders.names(holder).take("skeleton");
    PrimSpec prim = Spec.def(holders.prim(holder), "Skeleton", name);
    Spec.custom(prim, UsdNames.HELPER, Spec.number("bool", 1));
    Spec.api(prim, "SkelBindingAPI");
    List<Integer> joints = new ArrayList<>(rig.skeletons().get(key));
    Map<Integer, Integer> index = new HashMap<>();
    List<String> tokens = new ArrayList<>();
    Map<Integer, FreeNames> free = new HashMap<>();
    Matrix4d[] rest = new Matrix4d[joints.size()];
    Matrix4d[] bind = new Matrix4d[joints.size()];
    for (int j = 0; j < rest.length; j++) {
      Node node = scene.nodes().get(joints.get(j));
      index.put(joints.get(j), j);
      int parent = index.getOrDefault(node.parent(), -1);
      String own =
          free.computeIfAbsent(parent, k -> new FreeNames()).take(ValidNames.of(node.name()));
      tokens.add(parent < 0 ? own : tokens.get(parent) + "/" + own);
      rest[j] = node.transform().toMatrix();
      bind[j] = parent < 0 ? new Matrix4d(rest[j]) : new Matrix4d(bind[parent]).mul(rest[j]);
    }
    bound(skin, index, bind);
    Spec.uniform(prim, "joints", Spec.tokens(tokens));
    names(prim, joints, tokens);
    Spec.uniform(prim, "bindTransforms", matrices(bind));
    Spec.uniform(prim, "restTransforms", matrices(rest));
    Skeleton skeleton = new Skeleton(prim, holders.path(holder) + "/" + name, joints, bind);
    motion(skeleton, tokens);
    return skeleton;
  }

  /** Where the joints of a skin stood when it was bound; others as they stand at rest. */
  private void bound(Skin skin, Map<Integer, Integer> index, Matrix4d[] bind) {
    if (skin == null) {
      return;
    }
    for (int j = 0; j < skin.jointNodeIds().length; j++) {
      Integer at = index.get(placeOf.get(skin.jointNodeIds()[j]));
      Matrix4d own = new Matrix4d().set(skin.inverseBind(), OF_MATRIX * j).invert();
      if (at != null && own.isFinite()) {
        bind[at] = own;
      }
    }
  }

  /** Names that joints cannot have in their paths, where they are unlike each other. */
  private void names(PrimSpec prim, List<Integer> joints, List<String> tokens) {
    List<String> names = joints.stream().map(j -> scene.nodes().get(j).name()).toList();
    boolean same = true;
    for (int j = 0; j < names.size(); j++) {
      same &= tokens.get(j).substring(tokens.get(j).lastIndexOf('/') + 1).equals(names.get(j));
    }
    if (!same && new HashSet<>(names).size() == names.size()) {
      Spec.uniform(prim, "jointNames", Spec.tokens(names));
    }
  }

  private static UsdValue matrices(Matrix4d[] all) {
    double[] numbers = new double[OF_MATRIX * all.length];
    for (int i = 0; i < all.length; i++) {
      all[i].get(numbers, OF_MATRIX * i);
    }
    return Spec.value("matrix4d", true, numbers);
  }

  /** What moves the joints: each of the three parts at the keys of all joints that it moves. */
  private void motion(Skeleton skeleton, List<String> tokens) {
    List<Integer> moved = new ArrayList<>();
    for (int j = 0; j < skeleton.joints.size(); j++) {
      Node node = scene.nodes().get(skeleton.joints.get(j));
      if (times.tracks(node.id()).values().stream().anyMatch(Clip.Track::isTransform)) {
        moved.add(j);
      }
    }
    if (moved.isEmpty()) {
      return;
    }
    PrimSpec animation = animation(skeleton);
    Spec.uniform(animation, "joints", Spec.tokens(moved.stream().map(tokens::get).toList()));
    part(animation, skeleton, moved, Clip.TRANSLATION, "translations", "float3");
    part(animation, skeleton, moved, Clip.ROTATION, "rotations", "quatf");
    part(animation, skeleton, moved, Clip.SCALE, "scales", "half3");
  }

  /** The animation of a skeleton, which is there from now on. */
  private static PrimSpec animation(Skeleton skeleton) {
    PrimSpec there = skeleton.prim.children().get("motion");
    if (there == null) {
      there = Spec.def(skeleton.prim, "SkelAnimation", "motion");
      Spec.target(skeleton.prim, "skel:animationSource", skeleton.path + "/motion");
    }
    return there;
  }

  private void part(
      PrimSpec animation,
      Skeleton skeleton,
      List<Integer> moved,
      String property,
      String name,
      String type) {
    int width = type.equals("quatf") ? 4 : 3;
    List<Clip.Track> tracks = new ArrayList<>();
    List<double[]> rest = new ArrayList<>();
    for (int j : moved) {
      Node node = scene.nodes().get(skeleton.joints.get(j));
      tracks.add(times.track(node.id(), property));
      rest.add(rest(node, property));
    }
    Keys keys = Keys.of(tracks);
    PropertySpec values = Spec.attribute(animation, type, true, name);
    values.value(value(type, width, rest));
    if (keys.seconds().length > 0) {
      double[] codes = times.codes(keys.seconds());
      values.samples(
          ShapeOut.sampled(
              codes,
              s -> {
                List<double[]> at = new ArrayList<>();
                for (int i = 0; i < tracks.size(); i++) {
                  at.add(keys.at(tracks.get(i), s, rest.get(i)));
                }
                return value(type, width, at);
              }));
    }
  }

  private static double[] rest(Node node, String property) {
    Trs trs = Trs.nearest(node.transform().toMatrix());
    return switch (property) {
      case Clip.TRANSLATION ->
          new double[] {trs.translation().x(), trs.translation().y(), trs.translation().z()};
      case Clip.ROTATION ->
          new double[] {
            trs.rotation().x(), trs.rotation().y(), trs.rotation().z(), trs.rotation().w()
          };
      default -> new double[] {trs.scale().x(), trs.scale().y(), trs.scale().z()};
    };
  }

  private static UsdValue value(String type, int width, List<double[]> rows) {
    float[] all = new float[width * rows.size()];
    for (int r = 0; r < rows.size(); r++) {
      double[] row = rows.get(r);
      for (int k = 0; k < width; k++) {
        // The real part stands first.
        all[width * r + k] = (float) row[width == 4 ? (k + 3) % 4 : k];
      }
    }
    return Spec.value(type, true, all);
  }

  /** The skeleton of a skin, with where its mesh stood when it was bound. */
  private record Bound(Skeleton skeleton, Matrix4d mesh) {}

  /** Where a mesh stood when it was bound to a skeleton; {@code null} where no place does it. */
  private Matrix4d placed(Skeleton skeleton, Skin skin) {
    Map<Integer, Integer> index = new HashMap<>();
    for (int j = 0; j < skeleton.joints.size(); j++) {
      index.put(skeleton.joints.get(j), j);
    }
    Matrix4d found = null;
    for (int j = 0; j < skin.jointNodeIds().length; j++) {
      Integer at = index.get(placeOf.get(skin.jointNodeIds()[j]));
      if (at == null) {
        continue;
      }
      Matrix4d inverse = new Matrix4d().set(skin.inverseBind(), OF_MATRIX * j);
      Matrix4d own = new Matrix4d(skeleton.bind[at]).mul(inverse);
      if (found == null) {
        found = own;
      } else if (!own.equals(found, SAME * Math.max(1, size(found)))) {
        return null;
      }
    }
    return found == null ? new Matrix4d() : found;
  }

  private static double size(Matrix4d m) {
    return Math.abs(m.m30()) + Math.abs(m.m31()) + Math.abs(m.m32());
  }

  private Bound bound(Skin skin) {
    for (Skeleton skeleton : skeletons.getOrDefault(rig.ofSkin(skin.id()), List.of())) {
      Matrix4d mesh = placed(skeleton, skin);
      if (mesh != null) {
        return new Bound(skeleton, mesh);
      }
    }
    return null;
  }

  /** Binds a mesh to its joints; the skeleton that moves it, {@code null} for none. */
  public Skeleton bind(PrimSpec prim, Skin skin) {
    Bound bound = bound(skin);
    if (bound == null) {
      return null;
    }
    Map<Integer, Integer> index = new HashMap<>();
    for (int j = 0; j < bound.skeleton.joints.size(); j++) {
      index.put(bound.skeleton.joints.get(j), j);
    }
    int[] ofSkin = new int[skin.jointNodeIds().length];
    Arrays.setAll(ofSkin, j -> index.getOrDefault(placeOf.get(skin.jointNodeIds()[j]), 0));
    int vertices = skin.offsets().length - 1;
    int width = Math.max(1, skin.mostInfluences());
    int[] joints = new int[width * vertices];
    float[] weights = new float[width * vertices];
    for (int v = 0; v < vertices; v++) {
      int from = skin.offsets()[v];
      int count = skin.offsets()[v + 1] - from;
      for (int i = 0; i < count; i++) {
        joints[width * v + i] = ofSkin[skin.joints()[from + i]];
        weights[width * v + i] = skin.weights()[from + i];
      }
      if (count == 0) {
        // What no joint moves would stand at the origin.
        weights[width * v] = 1;
      }
    }
    Spec.api(prim, "SkelBindingAPI");
    Spec.target(prim, "skel:skeleton", bound.skeleton.path);
    primvar(prim, "jointIndices", Spec.value("int", true, joints), width);
    primvar(prim, "jointWeights", Spec.value("float", true, weights), width);
    double[] place = bound.mesh.get(new double[OF_MATRIX]);
    Spec.set(prim, "primvars:skel:geomBindTransform", Spec.value("matrix4d", false, place));
    if (skin.method().equals("dualQuaternion")) {
      Spec.token(prim, "primvars:skel:skinningMethod", "dualQuaternion");
    }
    return bound.skeleton;
  }

  private static void primvar(PrimSpec prim, String name, UsdValue value, int width) {
    PropertySpec property = Spec.set(prim, "primvars:skel:" + name, value);
    Spec.interpolation(property, "vertex");
    Spec.field(property, "elementSize", Spec.number("int", width));
  }

  /** A skeleton without joints, for a mesh that has shapes alone. */
  public Skeleton forShapes(PrimSpec parent, String path, FreeNames names, PrimSpec mesh) {
    String name = names.take(mesh.name() + "_shapes");
    PrimSpec prim = Spec.def(parent, "Skeleton", name);
    Spec.custom(prim, UsdNames.HELPER, Spec.number("bool", 1));
    Spec.api(prim, "SkelBindingAPI");
    Spec.uniform(prim, "joints", Spec.tokens(List.of()));
    Spec.uniform(prim, "bindTransforms", matrices(new Matrix4d[0]));
    Spec.uniform(prim, "restTransforms", matrices(new Matrix4d[0]));
    Skeleton skeleton = new Skeleton(prim, path + "/" + name, List.of(), new Matrix4d[0]);
    Spec.api(mesh, "SkelBindingAPI");
    Spec.target(mesh, "skel:skeleton", skeleton.path);
    return skeleton;
  }

  /** Writes what the weights of shapes are over time, once all meshes are known. */
  public void weights(Skeleton skeleton) {
    if (!skeleton.weights.isEmpty()) {
      skeleton.weights.write(animation(skeleton), times);
    }
  }

  /** All skeletons that move meshes. */
  public List<Skeleton> all() {
    List<Skeleton> all = new ArrayList<>();
    new TreeSet<>(skeletons.keySet()).forEach(key -> all.addAll(skeletons.get(key)));
    return all;
  }
}
