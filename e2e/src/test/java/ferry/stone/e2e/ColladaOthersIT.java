package ferry.stone.e2e;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.collada.DaeText;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Frame;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.Coordinates;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** three's ColladaLoader finds what is found here: places, sizes, materials, a skin in motion. */
class ColladaOthersIT {
  private static final double SAME = 1e-6;

  @TempDir static Path folder;

  @Test
  void threeReadsTheSame() throws Exception {
    Path file = folder.resolve("deck.dae");
    Files.writeString(file, DaeText.plain());
    Scene read = CargoReader.read("deck", ReadContext.of(CargoFolder.of(folder)));
    Scene scene = Rebase.intoData(read, Frame.Y_UP_METRE);
    JsonNode theirs = Node.run("read-dae.mjs", file, "0,0.5,1.5");
    same(Pose.rest(scene), scene, theirs);
    double[] seconds = {0, 0.5, 1.5};
    for (int i = 0; i < seconds.length; i++) {
      Pose pose = Pose.at(scene, scene.clips().get(0), seconds[i]);
      same(pose, scene, theirs.path("moments").path(i));
    }
    long triangles =
        scene.shownMeshes().stream().mapToLong(s -> s.mesh().faces().triangleCount()).sum();
    assertEquals(triangles, theirs.path("triangles").asLong());
    for (String name : List.of("oak", "iron")) {
      assertTrue(scene.materials().stream().map(Material::name).toList().contains(name));
      assertTrue(theirs.path("materials").toString().contains("\"" + name + "\""));
    }
    assertEquals("[\"root\",\"tip\"]", theirs.path("joints").toString());
  }

  private static void same(Pose pose, Scene scene, JsonNode theirs) {
    Bounds box = Bounds.EMPTY;
    for (int i = 0; i < scene.nodes().size(); i++) {
      double[] points = Deform.world(scene, pose, i);
      box = points.length == 0 ? box : box.union(Coordinates.of(points).bounds());
    }
    for (int k = 0; k < 3; k++) {
      assertEquals(theirs.at("/min/" + k).asDouble(), box.min(k), SAME);
      assertEquals(theirs.at("/max/" + k).asDouble(), box.max(k), SAME);
    }
  }
}
