package ferry.stone.core.format.usd.read;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.MemoryFiles;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/**
 * Scenes are held against what the standard's own library says of the same files: boxes of the
 * world at four time codes and the materials that are bound, in {@code scene/*.json} (usd-core
 * 26.11, see {@code make-scenes.py}).
 */
class UsdSceneTest {
  /** The library's own numbers are floats. */
  private static final double NEAR = 2e-4;

  /** Between samples it has scales of joints in 16 bits. */
  private static final double NEAR_OF_SCALES = 1e-3;

  private final Findings findings = new Findings();

  private static byte[] resource(String name) throws IOException {
    try (InputStream in = UsdSceneTest.class.getResourceAsStream("/usd/" + name)) {
      return in.readAllBytes();
    }
  }

  private Scene read(Map<String, byte[]> files, String main) throws Exception {
    return UsdReader.read(
        main, new ReadContext(new MemoryFiles(files), Map.of(), findings, Progress.NONE));
  }

  private Scene fixture(String name) throws Exception {
    Map<String, byte[]> files = new HashMap<>();
    files.put(name + ".usda", resource("scene/" + name + ".usda"));
    files.put("oak.png", new byte[1]);
    files.put("grain_normal.png", new byte[1]);
    return read(files, name + ".usda");
  }

  private Scene text(String body) throws Exception {
    return read(Map.of("a.usda", ("#usda 1.0\n" + body).getBytes()), "a.usda");
  }

  private List<String> codes() {
    return findings.list().stream().map(Finding::code).distinct().toList();
  }

  private static Clip clip(Scene scene) {
    return scene.clips().isEmpty() ? null : scene.clips().get(0);
  }

  /** The box of a part and all below it at a moment, as the library has it. */
  private static double[] box(Scene scene, Pose pose, String path, double seconds)
      throws IOException {
    double[] box = new double[6];
    Arrays.fill(box, 0, 3, Double.POSITIVE_INFINITY);
    Arrays.fill(box, 3, 6, Double.NEGATIVE_INFINITY);
    List<String> paths = scene.paths();
    boolean[] seen = scene.seen();
    for (int i = 0; i < paths.size(); i++) {
      boolean own = paths.get(i).equals(path);
      if (own || paths.get(i).startsWith(path + "/") && seen[i]) {
        double[] points = Deform.world(scene, pose, i);
        if (scene.nodes().get(i).content() instanceof Node.Content.MeshContent content) {
          for (MeshSequence sequence : scene.sequences()) {
            if (sequence.meshId() == content.meshId()) {
              PolygonMesh mesh = sequence.mesh(sequence.sampleAt(seconds + 1e-9));
              Scene at = scene.toBuilder().meshes(List.of(mesh)).build();
              points = Deform.world(at, pose, i);
            }
          }
        }
        for (int k = 0; k < points.length; k++) {
          box[k % 3] = Math.min(box[k % 3], points[k]);
          box[3 + k % 3] = Math.max(box[3 + k % 3], points[k]);
        }
      }
    }
    return box;
  }

  private void holds(String name, double near) throws Exception {
    Scene scene = fixture(name);
    JsonNode told = new ObjectMapper().readTree(resource("scene/" + name + ".json"));
    assertThat(told.path("boxes").size()).isGreaterThan(2);
    List<String> unlike = new ArrayList<>();
    for (Iterator<String> paths = told.path("boxes").fieldNames(); paths.hasNext(); ) {
      String wantedPath = paths.next();
      // What leaves a parent that shears it stands at the top.
      String path = wantedPath.replace("Yard/mast/kite", "kite");
      JsonNode times = told.path("boxes").path(wantedPath);
      for (Iterator<String> codes = times.fieldNames(); codes.hasNext(); ) {
        String code = codes.next();
        double seconds = Double.parseDouble(code) / 24;
        Pose pose = Pose.at(scene, clip(scene), seconds);
        double[] box = box(scene, pose, path, seconds);
        for (int i = 0; i < 6; i++) {
          double wanted = times.path(code).get(i).asDouble();
          if (!(Math.abs(box[i] - wanted) < near)) {
            unlike.add(path + " at " + code + ": " + Arrays.toString(box) + " " + times.path(code));
            break;
          }
        }
      }
    }
    assertThat(unlike).isEmpty();
    JsonNode materials = told.path("materials");
    for (Iterator<String> paths = materials.fieldNames(); paths.hasNext(); ) {
      String path = paths.next();
      int place = scene.paths().indexOf(path.replace("Yard/mast/kite", "kite"));
      int meshId = ((Node.Content.MeshContent) scene.nodes().get(place).content()).meshId();
      PolygonMesh mesh = scene.mesh(meshId).orElseThrow();
      int material = mesh.materialOf(0);
      assertThat(scene.material(material).orElseThrow().name())
          .as(path)
          .isEqualTo(materials.path(path).asText());
    }
  }

  @Test
  void partsStandAndMoveWhereTheLibraryHasThem() throws Exception {
    holds("yard", NEAR);
  }

  @Test
  void skinsAndBlendShapesMoveAsTheLibraryMovesThem() throws Exception {
    holds("heron", NEAR_OF_SCALES);
  }
}
