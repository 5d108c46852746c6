package ferry.stone.core.format.abc;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.abc.read.AbcRules;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.FaultScene;
import ferry.stone.core.proof.FaultScene.Fault;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What AbcGeom's schemas demand, broken number by number in an archive that keeps it. */
class AbcRulesTest {
  private final Scene scene = FaultScene.with(Fault.NONE);
  private final PolygonMesh mesh = scene.meshes().get(1);
  private final TestFiles files = new TestFiles();
  private ByteBuffer bytes;

  @BeforeEach
  void land() throws Exception {
    LandingOptions options = LandingOptions.of("abc").with("unit", "m");
    Landing.write(scene, options, "a", new TestFiles(), files, Progress.NONE);
    bytes = ByteBuffer.wrap(files.bytes("a.abc").clone()).order(ByteOrder.LITTLE_ENDIAN);
  }

  private List<String> told() throws Exception {
    files.with("a.abc", bytes.array());
    Findings findings = new Findings();
    AbcRules.check("a.abc", files, findings);
    return findings.list().stream().map(Finding::message).toList();
  }

  /** Where numbers stand in the archive: only one list begins with them. */
  private int at(ByteBuffer wanted) {
    byte[] pattern = wanted.array();
    for (int i = 0; i + pattern.length <= bytes.capacity(); i++) {
      int k = 0;
      while (k < pattern.length && bytes.get(i + k) == pattern[k]) {
        k++;
      }
      if (k == pattern.length) {
        return i;
      }
    }
    throw new AssertionError("not in the archive");
  }

  private int ints(int... numbers) {
    ByteBuffer wanted = ByteBuffer.allocate(4 * numbers.length).order(ByteOrder.LITTLE_ENDIAN);
    for (int number : numbers) {
      wanted.putInt(number);
    }
    return at(wanted);
  }

  private int corners() {
    // The faces of an archive run clockwise from the same first corner.
    return ints(
        mesh.faces().vertex(0),
        mesh.faces().vertex(3),
        mesh.faces().vertex(2),
        mesh.faces().vertex(1));
  }

  private int doubles(double... numbers) {
    ByteBuffer wanted = ByteBuffer.allocate(8 * numbers.length).order(ByteOrder.LITTLE_ENDIAN);
    for (double number : numbers) {
      wanted.putDouble(number);
    }
    return at(wanted);
  }

  @Test
  void whatWeWriteKeepsThemAll() throws Exception {
    assertThat(told()).isEmpty();
  }

  @Test
  void cornersNamePoints() throws Exception {
    bytes.putInt(corners() + 4, 9999);
    // The archive holds equal lists once: those of the UVs' indices are the corners'.
    assertThat(told())
        .containsExactlyInAnyOrder(
            "A corner names a point that is not there.",
            "An index names a value that is not there.");
  }

  @Test
  void facesHaveTheirCorners() throws Exception {
    int counts = ints(4, 4, 4, 4, 4);
    bytes.putInt(counts, 2);
    assertThat(told())
        .contains(
            "Faces have more or fewer corners than are named.",
            "A face has fewer than three corners.");
  }

  @Test
  void boxesHoldTheirPoints() throws Exception {
    var box = mesh.points().bounds();
    bytes.putDouble(doubles(box.minX(), box.minY(), box.minZ(), box.maxX()) + 24, 1e-3);
    assertThat(told()).contains("A shape reaches out of the box that it says.");
  }
}
