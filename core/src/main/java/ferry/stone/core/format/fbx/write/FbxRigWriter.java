package ferry.stone.core.format.fbx.write;

import ferry.stone.core.format.fbx.raw.FbxBuild;
import ferry.stone.core.format.fbx.raw.FbxName;
import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.MorphTarget.Shape;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Skin;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.joml.Matrix4d;

/** Writes what deforms a geometry: skins with their bind pose, and blend shapes. */
final class FbxRigWriter {
  private static final double PERCENT = 100;

  private final Scene scene;
  private final FbxObjects objects;
  private final Map<Integer, Integer> places;
  private final List<FbxModelWriter.Written> models;
  private final Matrix4d[] rest;

  /** Where models stood when they were bound, by their ids. */
  private final Map<Long, Matrix4d> bound = new TreeMap<>();

  FbxRigWriter(Scene scene, FbxObjects objects, List<FbxModelWriter.Written> models) {
    this.scene = scene;
    this.objects = objects;
    this.models = models;
    places = scene.nodePlaces();
    rest = scene.worldMatrices();
  }

  /**
   * @param geometry id of its record
   * @param nodePlace a node that shows it
   */
  void skin(Skin skin, long geometry, int nodePlace) {
    long id =
        objects.add(
            "Deformer",
            new FbxName(skin.name(), "Deformer"),
            "Skin",
            List.of(
                FbxBuild.record("Version", 101),
                FbxBuild.record("Link_DeformAcuracy", 50.0),
                FbxBuild.record(
                    "SkinningType",
                    skin.method().equals("dualQuaternion") ? "DualQuaternion" : "Linear")));
    objects.connect(id, geometry);
    Matrix4d geometric = scene.nodes().get(nodePlace).geometric().toMatrix();
    // Where the points stood at bind: as the source said, else where the mesh stands at rest.
    Matrix4d mesh =
        skin.bindMatrix() != null
            ? new Matrix4d().set(skin.bindMatrix())
            : new Matrix4d(rest[nodePlace]).mul(geometric);
    Matrix4d toModel = geometric.invert(new Matrix4d());
    Matrix4d model = mesh.mul(toModel, new Matrix4d());
    bound.putIfAbsent(models.get(nodePlace).shown(), model);
    int[] counts = new int[skin.jointNodeIds().length];
    for (int joint : skin.joints()) {
      counts[joint]++;
    }
    int[][] vertices = new int[counts.length][];
    double[][] weights = new double[counts.length][];
    for (int j = 0; j < counts.length; j++) {
      vertices[j] = new int[counts[j]];
      weights[j] = new double[counts[j]];
      counts[j] = 0;
    }
    for (int v = 0; v + 1 < skin.offsets().length; v++) {
      for (int i = skin.offsets()[v]; i < skin.offsets()[v + 1]; i++) {
        int j = skin.joints()[i];
        vertices[j][counts[j]] = v;
        weights[j][counts[j]++] = skin.weights()[i];
      }
    }
    for (int j = 0; j < counts.length; j++) {
      Matrix4d toJoint = new Matrix4d().set(skin.inverseBind(), 16 * j).mul(toModel);
      // The joint's place at bind is where its inverse bind matrix brings the mesh's.
      Matrix4d link = toJoint.invert(new Matrix4d());
      model.mul(link, link);
      cluster(skin, id, j, vertices[j], weights[j], toJoint, link);
    }
  }

  private void cluster(
      Skin skin,
      long deformer,
      int joint,
      int[] vertices,
      double[] weights,
      Matrix4d toJoint,
      Matrix4d link) {
    int place = places.get(skin.jointNodeIds()[joint]);
    long model = models.get(place).model();
    bound.putIfAbsent(model, link);
    List<FbxRecord> inside = new ArrayList<>();
    inside.add(FbxBuild.record("Version", 100));
    inside.add(FbxBuild.record("UserData", "", ""));
    if (vertices.length > 0) {
      inside.add(FbxBuild.record("Indexes", (Object) vertices));
      inside.add(FbxBuild.record("Weights", (Object) weights));
    }
    inside.add(FbxBuild.record("Transform", (Object) toJoint.get(new double[16])));
    inside.add(FbxBuild.record("TransformLink", (Object) link.get(new double[16])));
    long id =
        objects.add(
            "Deformer",
            new FbxName(scene.nodes().get(place).name(), "SubDeformer"),
            "Cluster",
            inside);
    objects.connect(id, deformer);
    objects.connect(model, id);
  }

  /** One pose with everything that was bound, in the order of the models. */
  void bindPose() {
    if (bound.isEmpty()) {
      return;
    }
    List<FbxRecord> inside = new ArrayList<>();
    inside.add(FbxBuild.record("Type", "BindPose"));
    inside.add(FbxBuild.record("Version", 100));
    inside.add(FbxBuild.record("NbPoseNodes", bound.size()));
    bound.forEach(
        (model, matrix) ->
            inside.add(
                FbxBuild.list(
                    "PoseNode",
                    FbxBuild.record("Node", model),
                    FbxBuild.record("Matrix", (Object) matrix.get(new double[16])))));
    objects.add("Pose", new FbxName("bind pose", "Pose"), "BindPose", inside);
  }

  /**
   * @param weights of the targets, or {@code null} for the mesh's own
   * @return id of the channel of each target, in order
   */
  List<Long> morphs(PolygonMesh mesh, long geometry, double[] weights) {
    List<Long> channels = new ArrayList<>();
    if (mesh.morphs().isEmpty()) {
      return channels;
    }
    long blend =
        objects.add(
            "Deformer",
            new FbxName(mesh.name(), "Deformer"),
            "BlendShape",
            List.of(FbxBuild.record("Version", 100)));
    objects.connect(blend, geometry);
    for (int m = 0; m < mesh.morphs().size(); m++) {
      MorphTarget morph = mesh.morphs().get(m);
      double weight = weights != null && m < weights.length ? weights[m] : morph.weight();
      double[] full = morph.shapes().stream().mapToDouble(s -> PERCENT * s.fullWeight()).toArray();
      long channel =
          objects.add(
              "Deformer",
              new FbxName(morph.name(), "SubDeformer"),
              "BlendShapeChannel",
              List.of(
                  FbxBuild.record("Version", 100),
                  FbxBuild.record("DeformPercent", PERCENT * weight),
                  FbxBuild.record("FullWeights", (Object) full),
                  FbxBuild.properties(
                      List.of(FbxBuild.moving("DeformPercent", PERCENT * weight)))));
      objects.connect(channel, blend);
      channels.add(channel);
      for (int s = 0; s < full.length; s++) {
        boolean last = s == full.length - 1;
        String name = last ? morph.name() : morph.name() + "_" + Math.round(full[s]);
        objects.connect(shape(name, morph.shapes().get(s)), channel);
      }
    }
    return channels;
  }

  private long shape(String name, Shape shape) {
    int count = shape.deltas().length / 3;
    int[] vertices = shape.vertices();
    if (vertices == null) {
      vertices = java.util.stream.IntStream.range(0, count).toArray();
    }
    List<FbxRecord> inside = new ArrayList<>();
    inside.add(FbxBuild.record("Version", 100));
    inside.add(FbxBuild.record("Indexes", (Object) vertices));
    inside.add(FbxBuild.record("Vertices", (Object) doubles(shape.deltas())));
    if (shape.normalDeltas() != null) {
      inside.add(FbxBuild.record("Normals", (Object) doubles(shape.normalDeltas())));
    }
    return objects.add("Geometry", new FbxName(name, "Geometry"), "Shape", inside);
  }

  private static double[] doubles(float[] values) {
    double[] result = new double[values.length];
    for (int i = 0; i < result.length; i++) {
      result[i] = values[i];
    }
    return result;
  }
}
