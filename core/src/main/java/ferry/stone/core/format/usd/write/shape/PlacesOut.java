package ferry.stone.core.format.usd.write.shape;

import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.write.spec.Spec;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import java.util.List;
import org.joml.Quaterniondc;
import org.joml.Vector3dc;

/**
 * One shape at many places as a point instancer: arrays of positions, turns and sizes. Turns stand
 * twice, since older readers know those of 16 bits alone.
 */
public final class PlacesOut {
  private final float[] positions;
  private final float[] turns;
  private final float[] scales;
  private final float[] extent = {0, 0, 0, 0, 0, 0};

  /**
   * @param box of the shape
   */
  private PlacesOut(List<Node> places, Bounds box) {
    int count = places.size();
    positions = new float[3 * count];
    turns = new float[4 * count];
    scales = new float[3 * count];
    Bounds all = Bounds.EMPTY;
    for (int i = 0; i < count; i++) {
      Trs trs = Trs.nearest(places.get(i).transform().toMatrix());
      if (places.get(i).transform() instanceof Trs own) {
        trs = own;
      }
      three(positions, i, trs.translation());
      three(scales, i, trs.scale());
      Quaterniondc q = trs.rotation();
      turns[4 * i] = (float) q.w();
      turns[4 * i + 1] = (float) q.x();
      turns[4 * i + 2] = (float) q.y();
      turns[4 * i + 3] = (float) q.z();
      all = all.union(box.isEmpty() ? box : box.transform(trs.toMatrix()));
    }
    if (!all.isEmpty() && Double.isFinite(all.diagonal())) {
      extent[0] = (float) all.minX();
      extent[1] = (float) all.minY();
      extent[2] = (float) all.minZ();
      extent[3] = (float) all.maxX();
      extent[4] = (float) all.maxY();
      extent[5] = (float) all.maxZ();
    }
  }

  /**
   * @param prim that lists the places
   * @param prototype path of the prim that is shown at each
   */
  public static void write(PrimSpec prim, String prototype, List<Node> places, Bounds box) {
    PlacesOut out = new PlacesOut(places, box);
    prim.typeName("PointInstancer");
    Spec.set(prim, "protoIndices", Spec.value("int", true, new int[places.size()]));
    Spec.set(prim, "positions", Spec.value("point3f", true, out.positions));
    Spec.set(prim, "orientations", Spec.value("quath", true, out.turns));
    Spec.set(prim, "orientationsf", Spec.value("quatf", true, out.turns));
    Spec.set(prim, "scales", Spec.value("float3", true, out.scales));
    Spec.set(prim, "extent", Spec.value("float3", true, out.extent));
    Spec.target(prim, "prototypes", prototype).uniform(false);
  }

  private static void three(float[] all, int i, Vector3dc v) {
    all[3 * i] = (float) v.x();
    all[3 * i + 1] = (float) v.y();
    all[3 * i + 2] = (float) v.z();
  }
}
