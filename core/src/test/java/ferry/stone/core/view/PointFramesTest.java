package ferry.stone.core.view;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.geometry.cache.PickedCache;
import ferry.stone.core.geometry.cache.WavingSheet;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.PointCache;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;
import java.util.List;
import java.util.zip.InflaterInputStream;
import org.joml.Matrix4d;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/** What the page draws of a cache is off by half a step of its box at most. */
class PointFramesTest {
  private static final int ACROSS = 12;
  private static final int SAMPLES = 60_000;

  /** Long enough that the page does not hold it whole. */
  private static Scene sheet() {
    SceneBuilder scene = new SceneBuilder("sheet").framesPerSecond(24);
    scene.nextId(20);
    int[] triangles = new int[3 * 60];
    for (int t = 0; t < 60; t++) {
      int corner = t % 11 + ACROSS * (t / 11);
      triangles[3 * t] = corner;
      triangles[3 * t + 1] = corner + 1;
      triangles[3 * t + 2] = corner + ACROSS;
    }
    scene.add(PolygonMesh.of(2, "sheet", WavingSheet.rest(), Polygons.triangles(triangles)));
    scene.add(Node.of(3, "sheet", -1, Node.Content.MeshContent.of(2)));
    return scene
        .caches(List.of(new WavingSheet(9, 2, SAMPLES, s -> new Matrix4d().scaling(100))))
        .build();
  }

  @Test
  void framesAreThoseOfTheCacheWithinHalfAStep() throws Exception {
    Scene scene = sheet();
    Clip clip = Caches.timeline(scene).get(0);
    PointShapes shapes = new PointShapes();
    int[] source = shapes.of(scene.meshes().get(0));
    for (int from : new int[] {0, 1234, 19_990}) {
      ByteBuffer block =
          ByteBuffer.wrap(PointFrames.of(scene, clip, from, 5, shapes))
              .order(ByteOrder.LITTLE_ENDIAN);
      int length = block.getInt();
      JsonNode head = new ObjectMapper().readTree(Arrays.copyOfRange(block.array(), 4, 4 + length));
      assertThat(head.path("from").asInt()).isEqualTo(from);
      assertThat(head.path("count").asInt()).isEqualTo(5);
      ByteArrayOutputStream all = new ByteArrayOutputStream();
      int place = 4 + length;
      for (JsonNode bytes : head.path("bytes")) {
        var frame = new ByteArrayInputStream(block.array(), place, bytes.asInt());
        all.writeBytes(new InflaterInputStream(frame).readAllBytes());
        place += bytes.asInt();
      }
      assertThat(place).isEqualTo(block.capacity());
      byte[] planes = all.toByteArray();
      JsonNode cache = head.at("/caches/0");
      int numbers = 3 * cache.path("count").asInt();
      assertThat(numbers).isEqualTo(3 * source.length);
      assertThat(planes).hasSize(5 * 2 * numbers);
      int[] steps = new int[numbers];
      for (int f = 0; f < 5; f++) {
        for (int i = 0; i < numbers; i++) {
          int at = 2 * numbers * f + i;
          int more = planes[at] & 0xff | (planes[at + numbers] & 0xff) << 8;
          steps[i] = f == 0 ? more : steps[i] + more & 0xffff;
          double step = cache.path("step").get(i % 3).asDouble();
          double drawn = cache.path("low").get(i % 3).asDouble() + step * steps[i];
          Vector3d wanted = WavingSheet.at(source[i / 3], from + f).mul(100);
          assertThat(Math.abs(drawn - wanted.get(i % 3))).isLessThan(0.5001 * step + 2e-5);
        }
      }
    }
  }

  @Test
  void whatIsTooLongToHoldIsAskedForInBlocks() throws Exception {
    int[] source = new int[400];
    Arrays.setAll(source, v -> v % 84);
    int[] all = new int[source.length];
    Arrays.setAll(all, v -> v);
    PolygonMesh cloud =
        PolygonMesh.of(
                2, "cloud", WavingSheet.rest().picked(source), Polygons.triangles(new int[0]))
            .toBuilder()
            .loose(new LooseElements(new int[] {0}, new int[0], all))
            .build();
    PointCache cache = new PickedCache(new WavingSheet(9, 2, SAMPLES, s -> new Matrix4d()), source);
    Scene scene = sheet().toBuilder().meshes(List.of(cloud)).caches(List.of(cache)).build();
    Clip clip = Caches.timeline(scene).get(0);
    MotionBlock block =
        new MotionBlock(PreviewMotion.of(scene, clip, new Matrix4d(), 0, new PointShapes()));
    assertThat(block.head.path("pointBlock").asInt()).isEqualTo(64);
    assertThat(block.bytes()).isZero();
    assertThat(block.head.at("/points/0/count").asInt()).isEqualTo(400);
  }

  @Test
  void theEndOfAClipEndsTheBlock() throws Exception {
    Scene scene = sheet();
    Clip clip = Caches.timeline(scene).get(0);
    int frames = PreviewMotion.frames(scene, clip);
    byte[] block = PointFrames.of(scene, clip, frames - 2, 50, new PointShapes());
    int length = ByteBuffer.wrap(block).order(ByteOrder.LITTLE_ENDIAN).getInt();
    JsonNode head = new ObjectMapper().readTree(Arrays.copyOfRange(block, 4, 4 + length));
    assertThat(head.path("count").asInt()).isEqualTo(2);
  }
}
