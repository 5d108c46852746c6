package ferry.stone.core.format.files;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ferry.stone.core.TestFiles;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What stands can be written over; the target gets all or nothing. */
class SeekableOutputTest {
  private final TestFiles files = new TestFiles();

  @ParameterizedTest
  @ValueSource(ints = {0, 1, 2, 3, 4, 5, 6, 7})
  void randomWritesAndPatchesAreThoseOfAnArray(int seed) throws Exception {
    Random random = new Random(seed);
    byte[] mirror = new byte[1 << 20];
    int size = 0;
    try (SeekableOutput out = files.seekable("a")) {
      for (int i = 0; i < 60; i++) {
        byte[] bytes = new byte[random.nextInt(i % 7 == 0 ? 90_000 : 300)];
        random.nextBytes(bytes);
        if (size + bytes.length > mirror.length) {
          break;
        }
        out.write(bytes);
        System.arraycopy(bytes, 0, mirror, size, bytes.length);
        size += bytes.length;
        assertThat(out.position()).isEqualTo(size);
        byte[] over = new byte[Math.min(size, 1 + random.nextInt(40))];
        random.nextBytes(over);
        // Near the front, near the end, and across the border of what is on the disk already.
        int at = random.nextBoolean() ? random.nextInt(size - over.length + 1) : size - over.length;
        out.patch(at, over);
        System.arraycopy(over, 0, mirror, at, over.length);
      }
      out.complete();
    }
    assertThat(files.bytes("a")).isEqualTo(Arrays.copyOf(mirror, size));
  }

  @Test
  void whatIsNotWrittenYetCannotBePatched() throws Exception {
    try (SeekableOutput out = files.seekable("a")) {
      out.write(new byte[10]);
      out.patch(6, new byte[4]);
      assertThatThrownBy(() -> out.patch(7, new byte[4]))
          .isInstanceOf(IllegalArgumentException.class)
          .hasMessageContaining("7 to 11");
      assertThatThrownBy(() -> out.patch(-1, new byte[1]))
          .isInstanceOf(IllegalArgumentException.class);
    }
  }

  @Test
  void anUnfinishedFileLeavesItsTargetEmpty() throws Exception {
    assertThatThrownBy(
            () -> {
              try (SeekableOutput out = files.seekable("a")) {
                out.write(new byte[100_000]);
                throw new IOException("the disk is full");
              }
            })
        .hasMessage("the disk is full");
    assertThat(files.bytes("a")).isEmpty();
  }

  @Test
  void nothingStaysBehind() throws Exception {
    Path folder = Path.of(System.getProperty("java.io.tmpdir"));
    long before = parts(folder);
    for (int i = 0; i < 3; i++) {
      try (SeekableOutput out = files.seekable("a" + i)) {
        out.write(new byte[200_000]);
        out.complete();
      }
    }
    assertThat(parts(folder)).isLessThanOrEqualTo(before);
  }

  private static long parts(Path folder) throws IOException {
    try (Stream<Path> all = Files.list(folder)) {
      return all.filter(p -> p.getFileName().toString().matches("ferry-.*\\.part")).count();
    }
  }

  @Test
  void aTargetThatFailsSaysSo() {
    Output broken =
        path ->
            new OutputStream() {
              @Override
              public void write(int b) throws IOException {
                throw new IOException("no room for " + path);
              }
            };
    assertThatThrownBy(
            () -> {
              try (SeekableOutput out = broken.seekable("hull.fbx")) {
                out.write(new byte[10]);
                out.complete();
              }
            })
        .hasMessageContaining("no room for hull.fbx");
  }
}
