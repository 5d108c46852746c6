package ferry.stone.core.format.fbx.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.fbx.raw.FbxBuild;
import ferry.stone.core.format.fbx.raw.FbxCustom;
import ferry.stone.core.format.fbx.raw.FbxName;
import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.format.fbx.raw.FbxTransforms;
import ferry.stone.core.format.flat.ArrangedParts;
import ferry.stone.core.geometry.frame.ShearSplit;
import ferry.stone.core.geometry.triangle.GeometricFold;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Light;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.EulerOrder;
import ferry.stone.core.scene.node.LocalTransform.InheritedTransform;
import ferry.stone.core.scene.node.LocalTransform.PivotTransform;
import ferry.stone.core.scene.node.LocalTransform.ScaleInheritance;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Visibility;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.joml.Vector3dc;

/**
 * Writes the hierarchy. A node keeps pivots, pre-rotations and its way of inheriting scale where it
 * came with them and stands where they put it; others get plain translation, rotation and scale.
 */
public final class FbxModelWriter {
  private static final double SAME = 1e-9;
  private static final double SHEAR = 1e-6;
  private static final int VERSION = 232;

  /** What the scene's cameras and lights need, to look along the axes that the format's have. */
  private static final Matrix4d CAMERA = new Matrix4d().rotationY(Math.PI / 2);

  private static final Matrix4d LIGHT = new Matrix4d().rotationX(Math.PI / 2);

  /**
   * A node as it is written.
   *
   * @param model id of its record
   * @param shown id of the record that shows its content: its own, or that of a child
   * @param kept whether it has the source's own transform, so that the source's keys fit
   */
  record Written(long model, long shown, PivotTransform own, boolean kept) {}

  private final Scene scene;
  private final FbxObjects objects;
  private final boolean bake;

  /** Meshes that are written as lines. */
  private final Map<Integer, String> types = new HashMap<>();

  private final Findings findings;
  private final Set<Integer> parents = new HashSet<>();
  private final Map<Integer, Boolean> moving = new HashMap<>();
  private final Set<Integer> scaled = new HashSet<>();
  private final List<String> sheared = new ArrayList<>();
  private int children;
  private final List<Written> written = new ArrayList<>();

  public FbxModelWriter(Scene scene, FbxObjects objects, FbxOptions options, Findings findings) {
    this.scene = scene;
    this.objects = objects;
    this.findings = findings;
    bake = options.bakeTransforms();
    for (PolygonMesh mesh : scene.meshes()) {
      types.put(mesh.id(), FbxLineWriter.type(mesh));
    }
    Set<Integer> inherits = new HashSet<>();
    for (Node node : scene.nodes()) {
      parents.add(node.parent());
      PivotTransform own = own(node);
      if (own != null && own.inheritance() != ScaleInheritance.NORMAL) {
        inherits.add(node.id());
      }
    }
    for (Clip clip : scene.clips()) {
      Set<Integer> keyed = new HashSet<>();
      for (Clip.Keys k : clip.keys()) {
        keyed.add(k.targetId());
      }
      for (Clip.Track t : clip.tracks()) {
        if (t.isTransform()) {
          // Whether every clip that moves the node knows the source's keys, its own or, where
          // scale comes down by a rule, those of the parts above it.
          boolean known =
              keyed.contains(t.targetId()) || !keyed.isEmpty() && inherits.contains(t.targetId());
          moving.merge(t.targetId(), known, Boolean::logicalAnd);
        }
        if (t.property().equals(Clip.SCALE)) {
          scaled.add(t.targetId());
        }
      }
    }
  }

  /**
   * The scene without transforms that the format cannot say. Those of its own form are left to the
   * writer, which keeps them where they fit.
   */
  public static Scene unsheared(Scene scene, FbxOptions options, Findings findings) {
    ShearSplit split = ShearSplit.of(scene, n -> options.bakeTransforms() || own(n) == null);
    if (!split.nodeIds().isEmpty()) {
      int first = scene.nodePlaces().get(split.nodeIds().get(0));
      findings.add(ArrangedParts.unsheared(split.nodeIds(), scene.nodes().get(first).name()));
    }
    return withoutDomes(split.scene());
  }

  /** The format has no dome lights: what holds one stays as a part. */
  private static Scene withoutDomes(Scene scene) {
    boolean any = false;
    List<Node> nodes = new ArrayList<>();
    for (Node node : scene.nodes()) {
      boolean dome =
          node.content() instanceof Node.Content.LightContent light
              && scene.light(light.lightId()).orElseThrow().kind() == Light.Kind.DOME;
      any |= dome;
      nodes.add(dome ? node.withContent(Node.Content.GROUP) : node);
    }
    return any ? scene.toBuilder().nodes(nodes).build() : scene;
  }

  /** Writes all nodes; what each became, by its place. */
  public List<Written> write() {
    FbxTransforms.World[] worlds = new FbxTransforms.World[scene.nodes().size()];
    Matrix4d[] wanted = scene.worldMatrices();
    for (int i = 0; i < worlds.length; i++) {
      Node node = scene.nodes().get(i);
      FbxTransforms.World parent = node.parent() < 0 ? null : worlds[node.parent()];
      PivotTransform kept = bake ? null : kept(node, parent, wanted[i]);
      PivotTransform own = kept != null ? kept : plain(node);
      Matrix4d residual = residual(node);
      boolean inChild = residual != null && !residual.equals(new Matrix4d(), SAME);
      if (inChild && canTurn(node, i, own)) {
        own = turned(own, residual.getNormalizedRotation(new Quaterniond()));
        inChild = false;
      }
      worlds[i] = FbxTransforms.world(parent, own);
      write(node, own, kept != null, inChild ? residual : null);
    }
    if (children > 0) {
      findings.add(
          ArrangedParts.helpers(children, "a camera or light there turns otherwise than its part"));
    }
    if (!sheared.isEmpty()) {
      findings.add(
          Finding.of(
                  ArrangedParts.SHEARED,
                  Severity.FIX,
                  String.join(", ", sheared.stream().limit(5).toList()),
                  "These parts are sheared, which FBX cannot hold: they come close, not exactly."
                      + " Reset their transforms into the data before landing.")
              .measured(Figures.count(sheared.size(), "part")));
    }
    return written;
  }

  private static PivotTransform own(Node node) {
    return node.transform() instanceof PivotTransform p
        ? p
        : node.transform() instanceof InheritedTransform inherited ? inherited.own() : null;
  }

  /** The source's own transform where it puts the node where it stands, else {@code null}. */
  private PivotTransform kept(Node node, FbxTransforms.World parent, Matrix4d wanted) {
    PivotTransform own = own(node);
    if (own == null || !moving.getOrDefault(node.id(), true)) {
      return null;
    }
    if (own.inheritance() != ScaleInheritance.NORMAL && node.parent() >= 0) {
      boolean scales = scaled.contains(scene.nodes().get(node.parent()).id());
      if (scales && !written.get(node.parent()).kept()) {
        return null;
      }
    }
    Matrix4d there = FbxTransforms.world(parent, own).matrix();
    double size = Math.max(1e-3, Math.abs(wanted.determinant3x3()));
    double far = Math.max(1, wanted.getTranslation(new Vector3d()).length());
    return there.equals(wanted, SAME * Math.max(Math.cbrt(size), 1) * far) ? own : null;
  }

  private PivotTransform plain(Node node) {
    Matrix4d local = node.transform().toMatrix();
    Trs trs = node.transform() instanceof Trs exact ? exact : Trs.nearest(local);
    double size = Math.max(1e-12, Math.abs(local.getScale(new Vector3d()).length()));
    Matrix4d back = trs.toMatrix().setTranslation(0, 0, 0);
    if (!back.equals(new Matrix4d(local).setTranslation(0, 0, 0), SHEAR * size)) {
      sheared.add(node.name());
    }
    return PivotTransform.clean(
        trs.translation(),
        EulerOrder.XYZ.degrees(new Quaterniond(trs.rotation()).normalize()),
        EulerOrder.XYZ,
        trs.scale());
  }

  /** What must turn inside a node so that its lens looks the same way, or {@code null}. */
  private static Matrix4d residual(Node node) {
    if (node.content() instanceof Node.Content.CameraContent) {
      return node.geometric().toMatrix().mul(CAMERA);
    }
    return node.content() instanceof Node.Content.LightContent
        ? node.geometric().toMatrix().mul(LIGHT)
        : null;
  }

  private boolean canTurn(Node node, int place, PivotTransform own) {
    Vector3dc s = own.scaling();
    boolean even = s.x() == s.y() && s.y() == s.z() && s.x() > 0;
    Matrix4d residual = residual(node);
    boolean pivots =
        own.rotationPivot().lengthSquared()
                + own.scalingOffset().lengthSquared()
                + own.scalingPivot().lengthSquared()
            > 0;
    boolean turns =
        !pivots
            && residual.getTranslation(new Vector3d()).length() < SAME
            && residual.getScale(new Vector3d()).sub(1, 1, 1).length() < SAME
            && residual.determinant3x3() > 0;
    return turns && even && !scaled.contains(node.id()) && !parents.contains(place);
  }

  /** A turn before all else goes where the format keeps such turns, so that angles stay. */
  private static PivotTransform turned(PivotTransform own, Quaterniond turn) {
    return new PivotTransform(
        own.translation(),
        own.rotationOffset(),
        own.rotationPivot(),
        own.preRotation(),
        own.rotation(),
        EulerOrder.XYZ.degrees(
            EulerOrder.XYZ
                .quaternion(own.postRotation())
                .invert()
                .mul(turn)
                .normalize()
                .conjugate()),
        own.scalingOffset(),
        own.scalingPivot(),
        own.scaling(),
        own.order(),
        own.inheritance());
  }

  private void write(Node node, PivotTransform own, boolean kept, Matrix4d child) {
    long id = objects.newId();
    boolean group = child != null;
    List<FbxRecord> p = transform(own);
    boolean lens = residual(node) != null;
    if (!lens && node.geometric() != LocalTransform.IDENTITY) {
      p.addAll(geometric(node));
    }
    p.add(FbxBuild.p("Visibility", "Visibility", "", "A", node.visible() ? 1.0 : 0.0));
    if (node.visibility() == Visibility.SHOWN) {
      p.add(FbxBuild.p("Visibility Inheritance", "Visibility Inheritance", "", "", 0));
    }
    p.add(FbxBuild.flag("Show", true));
    p.addAll(FbxCustom.records(node.properties(), p));
    model(id, node.name(), group ? "Null" : type(node), p, parent(node));
    long shown = id;
    if (group) {
      children++;
      shown = objects.newId();
      PivotTransform inside = plain(node.withTransform(new LocalTransform.MatrixTransform(child)));
      model(shown, node.name() + GeometricFold.SHAPE, type(node), transform(inside), id);
      attribute(id, "Null", node.name());
    }
    if (node.content() instanceof Node.Content.Group) {
      attribute(id, "Null", node.name());
    } else if (node.content() instanceof Node.Content.Joint joint) {
      joint(id, node.name(), joint.radius());
    }
    written.add(new Written(id, shown, own, kept));
  }

  private long parent(Node node) {
    return node.parent() < 0 ? 0 : written.get(node.parent()).model();
  }

  private void model(long id, String name, String type, List<FbxRecord> p, long parent) {
    objects.add(
        id,
        "Model",
        new FbxName(name, "Model"),
        type,
        List.of(
            FbxBuild.record("Version", VERSION),
            FbxBuild.properties(p),
            FbxBuild.record("Shading", true),
            FbxBuild.record("Culling", "CullingOff")));
    objects.connect(id, parent);
  }

  private void attribute(long model, String type, String name) {
    long id =
        objects.add(
            "NodeAttribute",
            new FbxName(name, "NodeAttribute"),
            type,
            List.of(FbxBuild.record("TypeFlags", type)));
    objects.connect(id, model);
  }

  private void joint(long model, String name, double radius) {
    long id =
        objects.add(
            "NodeAttribute",
            new FbxName(name, "NodeAttribute"),
            "LimbNode",
            List.of(
                FbxBuild.properties(List.of(FbxBuild.number("Size", radius))),
                FbxBuild.record("TypeFlags", "Skeleton")));
    objects.connect(id, model);
  }

  private String type(Node node) {
    Node.Content content = node.content();
    if (content instanceof Node.Content.MeshContent shown) {
      return types.getOrDefault(shown.meshId(), "Mesh");
    }
    if (content instanceof Node.Content.Joint) {
      return "LimbNode";
    }
    if (content instanceof Node.Content.CameraContent) {
      return "Camera";
    }
    if (content instanceof Node.Content.LightContent) {
      return "Light";
    }
    return content instanceof Node.Content.DetailGroup ? "LodGroup" : "Null";
  }

  private static List<FbxRecord> transform(PivotTransform own) {
    List<FbxRecord> p = new ArrayList<>();
    boolean turned = own.preRotation().lengthSquared() + own.postRotation().lengthSquared() > 0;
    if (turned || own.order() != EulerOrder.XYZ) {
      p.add(FbxBuild.flag("RotationActive", true));
      p.add(FbxBuild.choice("RotationOrder", FbxTransforms.orderNumber(own.order())));
      vector(p, "PreRotation", own.preRotation());
      vector(p, "PostRotation", own.postRotation());
    }
    vector(p, "RotationOffset", own.rotationOffset());
    vector(p, "RotationPivot", own.rotationPivot());
    vector(p, "ScalingOffset", own.scalingOffset());
    vector(p, "ScalingPivot", own.scalingPivot());
    p.add(FbxBuild.choice("InheritType", FbxTransforms.inheritNumber(own.inheritance())));
    moving(p, "Lcl Translation", own.translation());
    moving(p, "Lcl Rotation", own.rotation());
    moving(p, "Lcl Scaling", own.scaling());
    return p;
  }

  private static void vector(List<FbxRecord> p, String name, Vector3dc v) {
    if (v.lengthSquared() > 0) {
      p.add(FbxBuild.vector(name, v.x(), v.y(), v.z()));
    }
  }

  private static void moving(List<FbxRecord> p, String name, Vector3dc v) {
    p.add(FbxBuild.p(name, name, "", "A", v.x() + 0.0, v.y() + 0.0, v.z() + 0.0));
  }

  private List<FbxRecord> geometric(Node node) {
    PivotTransform g = plain(node.withTransform(node.geometric()));
    List<FbxRecord> p = new ArrayList<>();
    Vector3dc t = g.translation();
    Vector3dc r = g.rotation();
    Vector3dc s = g.scaling();
    p.add(FbxBuild.vector("GeometricTranslation", t.x(), t.y(), t.z()));
    p.add(FbxBuild.vector("GeometricRotation", r.x(), r.y(), r.z()));
    p.add(FbxBuild.vector("GeometricScaling", s.x(), s.y(), s.z()));
    return p;
  }
}
