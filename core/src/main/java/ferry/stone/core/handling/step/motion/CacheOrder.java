package ferry.stone.core.handling.step.motion;

import ferry.stone.core.field.Field;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.geometry.cache.MovedCache;
import ferry.stone.core.geometry.cache.PickedCache;
import ferry.stone.core.geometry.cache.PointOrder;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;

/** Brings the points of caches into the order of their mesh's vertices, by where they lie. */
public final class CacheOrder extends BasicStep<CacheOrder.Params> {
  /**
   * @param sample number from 1 of the sample that lies on the mesh
   */
  public record Params(double sample) {
    public Params {
      Field.within("sample", sample, 1, 1e9);
    }
  }

  public CacheOrder() {
    super(
        Group.MOTION,
        "cacheOrder",
        "Bring a cache into its mesh's order",
        "Gives each vertex the point that lies on it in one sample, in whatever unit and axes.",
        Params.class,
        true,
        Field.number(
            "sample", "Sample", "", 1, 1e9, 1, "The one in which the points lie on the mesh."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    List<Finding> findings = new ArrayList<>();
    int[] changed = new int[1];
    Scene result =
        ChosenCaches.each(
            scene,
            selection,
            cache -> {
              PolygonMesh mesh = meshes.get(cache.meshId());
              float[] points = new float[3 * cache.pointCount()];
              int sample = (int) Math.min(params.sample(), cache.sampleCount()) - 1;
              cache.read(sample, 0, cache.pointCount(), points);
              PointOrder order = mesh == null ? null : PointOrder.of(points, mesh.points());
              if (order == null) {
                findings.add(
                    Finding.of(
                        "cache-order-unknown",
                        Severity.LOOK,
                        cache.name(),
                        "The points of this sample do not lie on the mesh, in no unit and axes: the"
                            + " order stays. Choose a sample in which they do."));
                return cache;
              }
              changed[0]++;
              PickedCache picked = new PickedCache(cache, order.source());
              return order.frame().equals(new Matrix4d(), 1e-12)
                  ? picked
                  : new MovedCache(picked, order.frame());
            });
    return new StepResult(result, findings, Figures.count(changed[0], "cache"));
  }
}
