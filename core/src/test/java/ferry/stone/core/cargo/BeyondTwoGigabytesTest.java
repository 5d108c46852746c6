package ferry.stone.core.cargo;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.fbx.read.FbxReader;
import ferry.stone.core.format.fbx.write.FbxOptions;
import ferry.stone.core.format.fbx.write.FbxWriter;
import ferry.stone.core.format.gltf.read.GltfReader;
import ferry.stone.core.geometry.Solids;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.io.RandomAccessFile;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Files with holes, as large as they say and light on disk: only what is needed is read. */
class BeyondTwoGigabytesTest {
  private static final long HOLE = 2_600_000_000L;

  @TempDir Path folder;

  @Test
  void aGlbWhoseDataLiesBehindTwoGigabytes() throws Exception {
    float[] xyz = {0, 0, 0, 1, 0, 0, 0, 1, 0};
    String json =
        """
        {"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],"nodes":[{"mesh":0}],
        "meshes":[{"primitives":[{"attributes":{"POSITION":0}}]}],
        "buffers":[{"byteLength":%d}],
        "bufferViews":[{"buffer":0,"byteOffset":%d,"byteLength":36}],
        "accessors":[{"bufferView":0,"componentType":5126,"count":3,"type":"VEC3"}]}"""
            .formatted(HOLE + 36, HOLE);
    byte[] text = (json + " ".repeat((4 - json.length() % 4) % 4)).getBytes(StandardCharsets.UTF_8);
    Path glb = folder.resolve("large.glb");
    try (RandomAccessFile file = new RandomAccessFile(glb.toFile(), "rw")) {
      long length = 12 + 8 + text.length + 8 + HOLE + 36;
      ByteBuffer head = ByteBuffer.allocate(20 + text.length + 8).order(ByteOrder.LITTLE_ENDIAN);
      head.putInt(0x46546C67).putInt(2).putInt((int) length);
      head.putInt(text.length).putInt(0x4E4F534A).put(text);
      head.putInt((int) (HOLE + 36)).putInt(0x004E4942);
      file.write(head.array());
      file.setLength(length);
      file.seek(length - 36);
      ByteBuffer data = ByteBuffer.allocate(36).order(ByteOrder.LITTLE_ENDIAN);
      data.asFloatBuffer().put(xyz);
      file.write(data.array());
    }
    Scene scene =
        GltfReader.read("large.glb", ReadContext.of(new CargoFolder(Map.of("large.glb", glb))));
    PolygonMesh mesh = scene.meshes().get(0);
    assertEquals(3, mesh.points().count());
    assertEquals(1, mesh.points().y(2));
  }

  @Test
  void anFbxWithMoreThanTwoGigabytesBetweenItsRecords() throws Exception {
    SceneBuilder builder = new SceneBuilder("crate");
    builder.nextId(10);
    builder.add(Solids.box(1, 1, 1).toBuilder().id(1).name("crate").build());
    builder.add(Node.of(2, "crate", -1, Node.Content.MeshContent.of(1)));
    TestFiles small = new TestFiles();
    FbxWriter.write(
        builder.build(),
        new FbxOptions(FbxOptions.Form.BINARY, 7500, true, false, FbxOptions.TOLERANCE),
        "a",
        new TestFiles(),
        small,
        new Findings(),
        Progress.NONE);
    byte[] fbx = small.bytes("a.fbx");
    // A record that is closed at once, and claims all up to its end: heads of 64 bits.
    byte[] name = "Padding".getBytes(StandardCharsets.US_ASCII);
    Path large = folder.resolve("large.fbx");
    try (RandomAccessFile file = new RandomAccessFile(large.toFile(), "rw")) {
      file.write(fbx, 0, 27);
      ByteBuffer head = ByteBuffer.allocate(25 + name.length).order(ByteOrder.LITTLE_ENDIAN);
      head.putLong(27 + HOLE).putLong(0).putLong(0).put((byte) name.length).put(name);
      file.write(head.array());
      file.seek(27 + HOLE);
      shifted(fbx, HOLE);
      file.write(fbx, 27, fbx.length - 27);
    }
    assertTrue(large.toFile().length() > Integer.MAX_VALUE);
    Scene scene =
        FbxReader.read("large.fbx", ReadContext.of(new CargoFolder(Map.of("large.fbx", large))));
    assertEquals(6, scene.meshes().get(0).faces().faceCount());
  }

  /** Moves the ends that records claim: they count from the beginning of the file. */
  private static void shifted(byte[] fbx, long by) {
    shifted(ByteBuffer.wrap(fbx).order(ByteOrder.LITTLE_ENDIAN), 27, fbx.length, by);
  }

  private static void shifted(ByteBuffer in, int from, int to, long by) {
    int at = from;
    while (at + 25 <= to) {
      long end = in.getLong(at);
      if (end == 0) {
        return;
      }
      long values = in.getLong(at + 16);
      in.putLong(at, end + by);
      int inside = at + 25 + (in.get(at + 24) & 0xff) + (int) values;
      shifted(in, inside, (int) end, by);
      at = (int) end;
    }
  }
}
