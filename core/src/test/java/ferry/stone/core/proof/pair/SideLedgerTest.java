package ferry.stone.core.proof.pair;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.RandomRig;
import ferry.stone.core.TestFiles;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.proof.LedgerExport;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Near and far side before the landing, and the step that changes how surfaces are shown. */
class SideLedgerTest {
  private static Scene after(Scene near, String kind, Map<String, Object> params) {
    List<Step> steps = List.of(new Step("1", kind, params, true, List.of()));
    return Handling.result(near, Handling.run(near, steps, Progress.NONE));
  }

  @Test
  void withoutStepsEverythingIsKept() {
    Scene near = RandomRig.of(new Random(4), 4);
    List<LedgerRow> rows = SideLedger.of(near, near);
    assertTrue(rows.size() > 12, rows.size() + " rows");
    assertTrue(rows.stream().allMatch(r -> r.verdict() == Verdict.KEPT));
    assertTrue(rows.stream().anyMatch(r -> r.fact().equals("Clips")));
  }

  @Test
  void whatStepsChangeIsSaid() {
    Scene near = RandomRig.of(new Random(4), 4);
    List<LedgerRow> rows = SideLedger.of(near, after(near, "scale", Map.of("factor", 2)));
    List<String> changed =
        rows.stream().filter(r -> r.verdict() == Verdict.CHANGED).map(LedgerRow::fact).toList();
    assertEquals(List.of("Height", "Width", "Depth"), changed);
    rows = SideLedger.of(near, after(near, "normals", Map.of("angle", 10)));
    assertTrue(
        rows.stream().anyMatch(r -> r.fact().equals("Normals") && r.verdict() == Verdict.CHANGED));
    assertTrue(LedgerExport.html("a", "b", rows).contains("normals"));
  }

  @Test
  void materialsTakeTheirFlags() throws Exception {
    TestFiles files =
        TestFiles.of("a.obj", "mtllib m.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl sail\nf 1 2 3\n")
            .with("m.mtl", "newmtl sail\nKd 1 1 1\nnewmtl rope\nKd 1 0 0\n".getBytes());
    Scene near =
        ferry.stone.core.format.obj.read.ObjReader.read(
            "a.obj", ferry.stone.core.format.ReadContext.of(files));
    Scene far =
        after(near, "materialFlags", Map.of("sides", "both", "opacity", "mask", "cutoff", 0.3));
    Material sail = far.materials().get(0);
    assertTrue(sail.doubleSided());
    assertEquals(Material.Alpha.MASK, sail.alpha());
    assertEquals(0.3, sail.alphaCutoff());
    // No face shows the rope: it stays.
    assertEquals(near.materials().get(1), far.materials().get(1));
    assertEquals(near.materials(), after(near, "materialFlags", Map.of("cutoff", 0.5)).materials());
  }
}
