package ferry.stone.core.format;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.RandomScene;
import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.CancelledException;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.InputStream;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** What every format must do; a format's test says how it is read and written. */
public abstract class FormatConformanceTest {

  /** Name of the main file that {@link #write} makes. */
  protected abstract String file();

  protected abstract void write(Scene scene, TestFiles out) throws Exception;

  protected abstract Scene read(String file, ReadContext context)
      throws IOException, FormatException;

  /** What ought to come back of a scene. */
  protected Scene expected(Scene scene) {
    return scene;
  }

  private TestFiles written(long seed) throws Exception {
    TestFiles files = new TestFiles();
    write(RandomScene.of(new Random(seed)), files);
    return files;
  }

  /** The smallest of some files, since it is read once for each of its bytes. */
  private TestFiles smallest() throws Exception {
    TestFiles smallest = written(20);
    for (long seed = 21; seed < 32; seed++) {
      TestFiles next = written(seed);
      smallest = next.size(file()) < smallest.size(file()) ? next : smallest;
    }
    return smallest;
  }

  private Scene readBack(TestFiles files) throws Exception {
    return read(file(), ReadContext.of(files));
  }

  @Test
  void anEmptyFileIsRefusedByName() {
    FormatException e =
        assertThrows(
            FormatException.class, () -> readBack(new TestFiles().with(file(), new byte[0])));
    assertEquals(FormatException.Kind.TRUNCATED, e.kind());
    assertEquals(file(), e.resource());
    assertTrue(e.getMessage().contains("empty"), e.getMessage());
  }

  @Test
  void partsNamesAndSizesComeBack() throws Exception {
    for (long seed = 20; seed < 32; seed++) {
      Scene scene = expected(RandomScene.of(new Random(seed)));
      Scene read = readBack(written(seed));
      assertEquals(scene.paths(), read.paths(), "seed " + seed);
      assertEquals(scene.materials().size(), read.materials().size(), "seed " + seed);
      assertEquals(scene.bounds().diagonal(), read.bounds().diagonal(), 1e-5, "seed " + seed);
      long triangles = scene.meshes().stream().mapToLong(m -> m.faces().triangleCount()).sum();
      assertEquals(
          triangles,
          read.meshes().stream().mapToLong(m -> m.faces().triangleCount()).sum(),
          "seed " + seed);
    }
  }

  @Test
  void theSameSceneGivesTheSameBytes() throws Exception {
    assertArrayEquals(written(3).bytes(file()), written(3).bytes(file()));
  }

  @Test
  void aFileCutAtAnyByteEndsInASceneOrASentence() throws Exception {
    byte[] whole = smallest().bytes(file());
    for (int length = 1; length < whole.length; length++) {
      byte[] cut = Arrays.copyOf(whole, length);
      try {
        readBack(new TestFiles().with(file(), cut));
      } catch (FormatException e) {
        assertTrue(e.getMessage().startsWith(file()), e.getMessage());
      }
    }
  }

  @Test
  void flippedBitsEndInASceneOrASentence() throws Exception {
    byte[] whole = written(6).bytes(file());
    Random random = new Random(99);
    for (int i = 0; i < 2000; i++) {
      byte[] bad = whole.clone();
      bad[random.nextInt(bad.length)] ^= (byte) (1 << random.nextInt(8));
      try {
        readBack(new TestFiles().with(file(), bad));
      } catch (FormatException e) {
        assertFalse(e.getMessage().contains("Exception"), e.getMessage());
      }
    }
  }

  @Test
  void aDiskFaultIsNoFormatFault() throws Exception {
    TestFiles files = written(7);
    Resources failing = new FailingResources(files, files.bytes(file()).length / 2);
    assertThrows(IOException.class, () -> read(file(), ReadContext.of(failing)));
  }

  @Test
  void readingCanBeCancelled() throws Exception {
    Progress cancelled =
        new Progress() {
          @Override
          public void report(String what, double fraction) {
            checkCancelled();
          }

          @Override
          public boolean isCancelled() {
            return true;
          }
        };
    TestFiles files = written(8);
    ReadContext context = new ReadContext(files, Map.of(), new Findings(), cancelled);
    assertThrows(CancelledException.class, () -> read(file(), context));
  }

  /** Gives the first bytes of every file, then a fault. */
  private record FailingResources(TestFiles files, int good) implements Resources {
    @Override
    public List<String> paths() {
      return files.paths();
    }

    @Override
    public boolean contains(String path) {
      return files.contains(path);
    }

    @Override
    public long size(String path) {
      return files.size(path);
    }

    @Override
    public InputStream open(String path) {
      byte[] bytes = files.bytes(path);
      return new InputStream() {
        private int at;

        @Override
        public int read() throws IOException {
          if (at >= good) {
            throw new IOException("the disk failed");
          }
          return at < bytes.length ? bytes[at++] & 0xff : -1;
        }

        @Override
        public int read(byte[] into, int from, int count) throws IOException {
          int value = read();
          if (value < 0) {
            return -1;
          }
          into[from] = (byte) value;
          return 1;
        }
      };
    }
  }
}
