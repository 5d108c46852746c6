package ferry.stone.core.format;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.RandomScene;
import ferry.stone.core.TestFiles;
import ferry.stone.core.field.Values;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.CancelledException;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.InputStream;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * What every format must do that is written and read, each form of it: nothing that is listed in
 * {@link Formats#ALL} can be left out.
 */
class FormatConformanceTest {
  private static final int MOST_CUTS = 2_500;

  /** A format in one of its forms. */
  private record Form(String name, LandingOptions options) {
    String ending() {
      Format format = Formats.find(options.format()).orElseThrow();
      return "." + format.extensions().iterator().next();
    }

    /** The main file among those written. */
    String file(TestFiles files) {
      return files.paths().stream().filter(p -> p.endsWith(ending())).findFirst().orElseThrow();
    }

    TestFiles written(Scene scene) throws IOException, FormatException {
      TestFiles out = new TestFiles();
      Landing landing = Landing.write(scene, options, "a", new TestFiles(), out, Progress.NONE);
      assertEquals(file(out), landing.mainFile());
      return out;
    }

    TestFiles written(long seed) throws IOException, FormatException {
      return written(RandomScene.of(new Random(seed)));
    }

    /** The smallest of some files, since it is read once for each of its bytes. */
    TestFiles smallest() throws IOException, FormatException {
      TestFiles smallest = written(20);
      for (long seed = 21; seed < 32; seed++) {
        TestFiles next = written(seed);
        boolean less = next.size(file(next)) < smallest.size(file(smallest));
        smallest = less ? next : smallest;
      }
      return smallest;
    }

    Scene read(String file, ReadContext context) throws IOException, FormatException {
      return Formats.find(options.format())
          .flatMap(Format::reader)
          .orElseThrow()
          .read(file, context);
    }

    Scene read(String file, TestFiles files) throws IOException, FormatException {
      return read(file, ReadContext.of(files));
    }

    /** What ought to come back of a scene, in metres with Y up. */
    Scene expected(Scene scene, String file) {
      SceneWriter writer = Formats.writer(options.format());
      Values values = Values.of(writer.fields(), options.options());
      Holding holding = writer.holding(values);
      Scene prepared = writer.prepared(scene, values);
      Scene held = holding.isFlat() ? holding.held(prepared, file) : holding.expected(prepared);
      return Rebase.intoData(held, Frame.Y_UP_METRE);
    }

    /** What came back, the numbers taken for what was chosen. */
    Scene landed(TestFiles files) throws IOException, FormatException {
      SceneWriter writer = Formats.writer(options.format());
      Values values = Values.of(writer.fields(), options.options());
      return Rebase.intoData(
          writer.holding(values).read(file(files), ReadContext.of(files)), Frame.Y_UP_METRE);
    }
  }

  static Stream<Form> forms() {
    return Variants.encodings().entrySet().stream().map(e -> new Form(e.getKey(), e.getValue()));
  }

  @Test
  void everyFormatThatIsWrittenIsReadToo() {
    assertTrue(Formats.written().stream().allMatch(f -> f.reader().isPresent()));
  }

  @ParameterizedTest
  @MethodSource("forms")
  void anEmptyFileIsRefusedByName(Form form) {
    String file = "a" + form.ending();
    TestFiles empty = new TestFiles().with(file, new byte[0]);
    FormatException e = assertThrows(FormatException.class, () -> form.read(file, empty));
    assertEquals(FormatException.Kind.TRUNCATED, e.kind());
    assertEquals(file, e.resource());
    assertTrue(e.getMessage().contains("empty"), e.getMessage());
  }

  @ParameterizedTest
  @MethodSource("forms")
  void partsNamesAndSizesComeBack(Form form) throws Exception {
    for (long seed = 20; seed < 32; seed++) {
      TestFiles files = form.written(seed);
      Scene scene = form.expected(RandomScene.of(new Random(seed)), form.file(files));
      Scene read = form.landed(files);
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

  @ParameterizedTest
  @MethodSource("forms")
  void theSameSceneGivesTheSameBytes(Form form) throws Exception {
    TestFiles once = form.written(3);
    TestFiles again = form.written(3);
    assertEquals(once.paths(), again.paths());
    for (String path : once.paths()) {
      assertArrayEquals(once.bytes(path), again.bytes(path), path);
    }
  }

  @ParameterizedTest
  @MethodSource("forms")
  void aFileCutAtAnyByteEndsInASceneOrASentence(Form form) throws Exception {
    TestFiles files = form.smallest();
    String file = form.file(files);
    byte[] whole = files.bytes(file);
    int step = 1 + whole.length / MOST_CUTS;
    for (int length = 1; length < whole.length; length += step) {
      try {
        form.read(file, files.with(file, Arrays.copyOf(whole, length)));
      } catch (FormatException e) {
        assertTrue(e.getMessage().startsWith(file), e.getMessage());
      }
    }
  }

  @ParameterizedTest
  @MethodSource("forms")
  void flippedBitsEndInASceneOrASentence(Form form) throws Exception {
    TestFiles files = form.written(6);
    String file = form.file(files);
    byte[] whole = files.bytes(file);
    Random random = new Random(99);
    for (int i = 0; i < 500; i++) {
      byte[] bad = whole.clone();
      bad[random.nextInt(bad.length)] ^= (byte) (1 << random.nextInt(8));
      try {
        form.read(file, files.with(file, bad));
      } catch (FormatException e) {
        assertFalse(e.getMessage().contains("Exception"), e.getMessage());
      }
    }
  }

  @ParameterizedTest
  @MethodSource("forms")
  void aDiskFaultIsNoFormatFault(Form form) throws Exception {
    TestFiles files = form.written(7);
    String file = form.file(files);
    Resources failing = new FailingResources(files, files.bytes(file).length / 2);
    assertThrows(IOException.class, () -> whole(form.read(file, ReadContext.of(failing))));
  }

  /** What is only read when it is asked for is asked for. */
  private static void whole(Scene scene) throws IOException {
    for (PointCache cache : scene.caches()) {
      for (int s = 0; s < cache.sampleCount(); s++) {
        cache.read(s, 0, cache.pointCount(), new float[3 * cache.pointCount()]);
      }
    }
  }

  @ParameterizedTest
  @MethodSource("forms")
  void readingCanBeCancelled(Form form) throws Exception {
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
    TestFiles files = form.written(8);
    ReadContext context = new ReadContext(files, Map.of(), new Findings(), cancelled);
    assertThrows(CancelledException.class, () -> form.read(form.file(files), context));
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
