package ferry.stone.server.store;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.server.FerrySettings;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The reserve on the disk, and telling that a disk is full. */
class DiskSpaceTest {
  @TempDir Path folder;

  private DiskSpace disk() throws IOException {
    return new DiskSpace(new FerrySettings(folder.resolve("data"), false, "", 1, 1, 0));
  }

  @Test
  void aReserveIsKeptGivenUpOnceAndTakenBack() throws IOException {
    DiskSpace disk = disk();
    Path reserve = folder.resolve("data/reserve");
    assertThat(Files.size(reserve)).isEqualTo(8 << 20);
    assertThat(disk.giveUp()).isTrue();
    assertThat(reserve).doesNotExist();
    assertThat(disk.giveUp()).as("it is given up once").isFalse();
    disk.restore();
    assertThat(reserve).exists();
    long before = Files.getLastModifiedTime(reserve).toMillis();
    disk.restore();
    assertThat(Files.getLastModifiedTime(reserve).toMillis()).isEqualTo(before);
  }

  @Test
  void theReserveIsNoHoleInTheFile() throws IOException {
    disk();
    byte[] bytes = Files.readAllBytes(folder.resolve("data/reserve"));
    int zeros = 0;
    for (int i = 0; i < 4096; i++) {
      zeros += bytes[i] == 0 ? 1 : 0;
    }
    assertThat(zeros).isLessThan(200);
  }

  @Test
  void theSentenceSaysHowMuchIsLeftAndWhatToDo() throws IOException {
    assertThat(disk().sentence()).contains("Delete crossings or landings").endsWith("again.");
    assertThat(disk().free()).isPositive();
  }

  @ParameterizedTest
  @CsvSource({
    "No space left on device, true",
    "write failed: no space left on device (28), true",
    "Disk quota exceeded, true",
    "[SQLITE_FULL]  Insertion failed because database is full, true",
    "Permission denied, false",
    "The file is full of errors, false"
  })
  void aFullDiskIsToldFromOtherFaults(String message, boolean full) {
    assertThat(DiskSpace.isFull(new IOException(message))).isEqualTo(full);
    assertThat(DiskSpace.isFull(new RuntimeException(new IOException(message)))).isEqualTo(full);
  }

  @Test
  void aFaultWithoutWordsIsNone() {
    assertThat(DiskSpace.isFull(new IOException((String) null))).isFalse();
    assertThat(DiskSpace.isFull(null)).isFalse();
  }
}
