package ferry.stone.core.format.usd.read.rig;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.read.stage.Above;
import ferry.stone.core.format.usd.read.stage.Primvars;
import ferry.stone.core.format.usd.read.stage.Said;
import ferry.stone.core.format.usd.read.stage.UsdReading;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.scene.node.Skin;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;

/**
 * Skeletons, what moves them, and the meshes that they move. A mesh may stand before its skeleton:
 * it is bound when all prims are known.
 */
public final class Skins {
  static final String SKELETON = "skel:skeleton";
  private static final String ANIMATION = "skel:animationSource";
  private static final String BIND = "primvars:skel:geomBindTransform";
  private static final int OF_MATRIX = 16;

  /** More than this a translation, rotation and scale may not be off. */
  private static final double SHEARED = 1e-9;

  private final UsdReading reading;
  private final List<Node> nodes;
  private final Map<String, Placed> skeletons = new HashMap<>();
  private final List<Waiting> waiting = new ArrayList<>();

  /**
   * A skeleton that stands in the scene.
   *
   * @param animation {@code null} for none
   */
  private record Placed(Skeleton skeleton, int[] nodeIds, SkelAnimation animation) {}

  /**
   * A mesh whose skeleton is looked up later; the properties are those of the prims that say them.
   */
  private record Waiting(UsdPrim prim, Above above, int place, PolygonMesh mesh, String skeleton) {}

  /**
   * @param nodes of the scene so far, which are changed where they are bound
   */
  public Skins(UsdReading reading, List<Node> nodes) {
    this.reading = reading;
    this.nodes = nodes;
  }

  /** Adds the joints of a skeleton below its node. */
  public void skeleton(UsdPrim prim, Above above, int place) throws IOException, FormatException {
    Skeleton skeleton = Skeleton.of(reading, prim);
    UsdPrim saying = new Above(above, prim, -1, Primvars.NONE).saying(ANIMATION);
    List<String> targets = saying == null ? List.of() : Said.targets(saying, ANIMATION);
    SkelAnimation animation = null;
    if (!targets.isEmpty()) {
      UsdPrim source = reading.stage().prim(targets.get(0));
      if (source == null || !source.typeName().equals("SkelAnimation")) {
        reading
            .report()
            .lost(
                "reference-broken",
                prim.path(),
                "Its animation \"" + targets.get(0) + "\" is not there: it stands at rest.");
      } else {
        animation = SkelAnimation.of(reading, source);
      }
    }
    int count = skeleton.joints().length;
    int[] ids = new int[count];
    int[] places = new int[count];
    Trs[] rest = new Trs[count];
    for (int j = 0; j < count; j++) {
      ids[j] = reading.scene().newId();
      places[j] = nodes.size();
      Trs still = animation == null ? null : animation.still(skeleton, j);
      rest[j] = still == null ? Trs.nearest(skeleton.rest()[j]) : still;
      int parent = skeleton.parents()[j] < 0 ? place : places[skeleton.parents()[j]];
      nodes.add(
          Node.of(ids[j], skeleton.name(j), parent, new Content.Joint(0)).withTransform(rest[j]));
    }
    if (animation != null) {
      animation.joints(skeleton, ids, j -> rest[j]);
    }
    skeletons.put(prim.path(), new Placed(skeleton, ids, animation));
  }

  /** Takes a mesh that something may bind, with the place of its node. */
  public void mesh(UsdPrim prim, Above above, int place, PolygonMesh mesh)
      throws IOException, FormatException {
    Above here = new Above(above, prim, -1, Primvars.NONE);
    UsdPrim saying = here.saying(SKELETON);
    List<String> targets = saying == null ? List.of() : Said.targets(saying, SKELETON);
    boolean bound = here.saying(Influences.INDICES) != null || !mesh.morphs().isEmpty();
    if (targets.isEmpty() || !bound) {
      return;
    }
    boolean inRoot = false;
    for (Above at = above; at != null; at = at.parent()) {
      inRoot |= at.prim().typeName().equals("SkelRoot");
    }
    if (inRoot) {
      waiting.add(new Waiting(prim, here, place, mesh, targets.get(0)));
    } else {
      reading
          .report()
          .note(
              "skin-outside-root",
              prim.path(),
              "A skeleton is bound to it, but it stands below no SkelRoot: by the standard nothing"
                  + " moves it.");
    }
  }

  /** Binds what waits. */
  public void bind() throws IOException, FormatException {
    for (Waiting each : waiting) {
      Placed placed = skeletons.get(each.skeleton);
      if (placed == null) {
        reading
            .report()
            .lost(
                "joint-missing",
                each.prim.path(),
                "Its skeleton \"" + each.skeleton + "\" is not there: nothing moves it.");
      } else {
        bind(each, placed);
      }
    }
  }

  private void bind(Waiting each, Placed placed) throws IOException, FormatException {
    Node node = nodes.get(each.place);
    Content.MeshContent content = (Content.MeshContent) node.content();
    if (placed.animation != null && !each.mesh.morphs().isEmpty()) {
      List<String> names = List.of(Said.texts(each.prim, UsdBlends.NAMES));
      if (names.size() != each.mesh.morphs().size()) {
        names = each.mesh.morphs().stream().map(MorphTarget::name).toList();
      }
      double[] weights =
          placed.animation.weights(node.id(), names, MorphTarget.keys(each.mesh.morphs()));
      content = weights == null ? content : content.withMorphWeights(weights);
    }
    if (each.above.saying(Influences.INDICES) != null) {
      Skin skin = skin(each, placed);
      if (skin != null) {
        reading.scene().add(skin);
        content = content.withSkin(skin.id());
      }
    }
    nodes.set(each.place, node.withContent(content));
  }

  private Skin skin(Waiting each, Placed placed) throws IOException, FormatException {
    UsdPrim naming = each.above.saying("skel:joints");
    String[] joints = naming == null ? placed.skeleton.joints() : Said.texts(naming, "skel:joints");
    Influences influences =
        Influences.of(
            reading, each.above, each.mesh.points().count(), placed.skeleton.places(joints));
    return influences == null
        ? null
        : new Skin(
            reading.scene().newId(),
            each.prim.name(),
            each.mesh.id(),
            placed.nodeIds,
            inverseBind(each, placed.skeleton),
            influences.offsets(),
            influences.joints(),
            influences.weights(),
            method(each.prim));
  }

  private static String method(UsdPrim prim) throws IOException, FormatException {
    String said = Said.text(prim, "skel:skinningMethod", "classicLinear");
    String method = Said.text(prim, "primvars:skel:skinningMethod", said);
    return method.equals("dualQuaternion") ? "dualQuaternion" : "linear";
  }

  /** Points of the mesh at bind to those of each joint. */
  private double[] inverseBind(Waiting each, Skeleton skeleton)
      throws IOException, FormatException {
    UsdPrim binding = each.above.saying(BIND);
    double[] numbers = binding == null ? new double[0] : Said.doubles(binding, BIND);
    Matrix4d bind = numbers.length < OF_MATRIX ? new Matrix4d() : new Matrix4d().set(numbers, 0);
    double[] inverse = new double[OF_MATRIX * skeleton.joints().length];
    for (int j = 0; j < skeleton.joints().length; j++) {
      Matrix4d own = new Matrix4d(skeleton.bind()[j]).invert();
      if (!own.isFinite()) {
        throw reading
            .report()
            .broken(
                each.skeleton,
                "the bind transform of \"" + skeleton.joints()[j] + "\" has no inverse.");
      }
      own.mul(bind).get(inverse, OF_MATRIX * j);
    }
    return inverse;
  }
}
