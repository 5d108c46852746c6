package ferry.stone.core.format.usd.write.shape;

import ferry.stone.core.format.files.FreeNames;
import ferry.stone.core.format.usd.ValidNames;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.write.spec.Spec;
import ferry.stone.core.format.usd.write.spec.TimeCodes;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.List;

/** Morph targets as blend shapes below their mesh. */
public final class BlendsOut {
  private final TimeCodes times;

  public BlendsOut(TimeCodes times) {
    this.times = times;
  }

  /**
   * @param path of the mesh's prim
   * @param weights takes those of the shapes
   */
  public void write(
      PrimSpec prim,
      String path,
      Node node,
      PolygonMesh mesh,
      FreeNames taken,
      WeightsOut weights) {
    double[] own =
        node.content() instanceof Content.MeshContent content ? content.morphWeights() : null;
    List<String> keys = MorphTarget.keys(mesh.morphs());
    List<String> tokens = new ArrayList<>();
    List<String> targets = new ArrayList<>();
    for (int m = 0; m < mesh.morphs().size(); m++) {
      MorphTarget morph = mesh.morphs().get(m);
      double weight = own != null && m < own.length ? own[m] : morph.weight();
      Clip.Track track = times.track(node.id(), Clip.MORPH + keys.get(m));
      tokens.add(weights.add(morph.name(), weight, track));
      String name = taken.take(ValidNames.of(morph.name()));
      PrimSpec shape = Spec.def(prim, "BlendShape", name);
      if (!name.equals(morph.name()) || !tokens.get(m).equals(morph.name())) {
        shape.fields().put("displayName", Spec.text("string", morph.name()));
      }
      targets.add(path + "/" + name);
      shape(shape, morph);
    }
    Spec.api(prim, "SkelBindingAPI");
    Spec.uniform(prim, "skel:blendShapes", Spec.tokens(tokens));
    Spec.target(prim, "skel:blendShapeTargets", targets.toArray(String[]::new));
  }

  private static void shape(PrimSpec prim, MorphTarget morph) {
    MorphTarget.Shape full = morph.full();
    offsets(prim, "offsets", full.deltas());
    float[] normals = full.normalDeltas() == null ? new float[0] : full.normalDeltas();
    offsets(prim, "normalOffsets", normals);
    if (full.vertices() != null) {
      Spec.uniform(prim, "pointIndices", Spec.value("int", true, full.vertices()));
    }
    for (int s = 0; s + 1 < morph.shapes().size(); s++) {
      MorphTarget.Shape between = morph.shapes().get(s);
      String name = "inbetweens:at_" + (s + 1);
      PropertySpec offsets = offsets(prim, name, spread(between.deltas(), between, full));
      Spec.field(offsets, "weight", Spec.number("float", between.fullWeight() / full.fullWeight()));
      if (between.normalDeltas() != null) {
        offsets(prim, name + ":normalOffsets", spread(between.normalDeltas(), between, full));
      }
    }
  }

  private static PropertySpec offsets(PrimSpec prim, String name, float[] values) {
    return Spec.uniform(prim, name, Spec.value("vector3f", true, values));
  }

  /** In-betweens touch the points of the full shape, in their order. */
  private static float[] spread(float[] deltas, MorphTarget.Shape between, MorphTarget.Shape full) {
    if (java.util.Arrays.equals(between.vertices(), full.vertices())) {
      return deltas;
    }
    int[] points = full.vertices();
    int most = 0;
    for (int v : between.vertices() == null ? new int[0] : between.vertices()) {
      most = Math.max(most, v + 1);
    }
    int count = points == null ? full.deltas().length / 3 : points.length;
    for (int v : points == null ? new int[0] : points) {
      most = Math.max(most, v + 1);
    }
    most = Math.max(most, between.vertices() == null ? deltas.length / 3 : 0);
    float[] all = new float[3 * Math.max(most, points == null ? count : 0)];
    for (int i = 0; i < deltas.length / 3; i++) {
      int vertex = between.vertices() == null ? i : between.vertices()[i];
      System.arraycopy(deltas, 3 * i, all, 3 * vertex, 3);
    }
    if (points == null) {
      return all;
    }
    float[] picked = new float[3 * count];
    for (int i = 0; i < count; i++) {
      System.arraycopy(all, 3 * points[i], picked, 3 * i, 3);
    }
    return picked;
  }
}
