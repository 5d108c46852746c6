package ferry.stone.server.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ferry.stone.server.FerrySettings;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class BlobStoreTest {
  @TempDir Path data;
  private BlobStore store;

  @BeforeEach
  void open() throws IOException {
    store = new BlobStore(new FerrySettings(data, false, "", 1, 1, 0));
  }

  private static ByteArrayInputStream text(String text) {
    return new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8));
  }

  @Test
  void sameContentIsKeptOnce() throws IOException {
    BlobStore.Blob first = store.put(text("abc"), 10);
    BlobStore.Blob second = store.put(text("abc"), 10);
    assertThat(second).isEqualTo(first);
    // The example of FIPS 180-2, appendix B.1.
    assertThat(first.hash())
        .isEqualTo("ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
    assertThat(Files.readString(store.path(first.hash()))).isEqualTo("abc");
    assertThat(incoming()).isZero();
  }

  @Test
  void tooMuchLeavesNothingBehind() throws IOException {
    assertThatThrownBy(() -> store.put(text("abcdef"), 5))
        .isInstanceOf(BlobStore.TooLargeException.class);
    assertThat(incoming()).isZero();
  }

  @Test
  void leftoversOfACrashAreSweptOnStart() throws IOException {
    Files.writeString(data.resolve("incoming/in-1.part"), "half");
    open();
    assertThat(incoming()).isZero();
  }

  @Test
  void onlyHashesAreNames() {
    assertThatThrownBy(() -> store.path("../../etc/passwd"))
        .isInstanceOf(IllegalArgumentException.class);
  }

  private long incoming() throws IOException {
    try (var files = Files.list(data.resolve("incoming"))) {
      return files.count();
    }
  }
}
