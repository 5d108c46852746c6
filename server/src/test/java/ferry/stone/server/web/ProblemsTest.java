package ferry.stone.server.web;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import ferry.stone.core.format.FormatException;
import ferry.stone.server.store.BlobStore;
import ferry.stone.server.store.DiskSpace;
import java.io.IOException;
import java.util.concurrent.ExecutionException;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.http.ProblemDetail;

/** Every fault becomes a problem document (RFC 9457) with a sentence, and gives nothing away. */
class ProblemsTest {
  private final DiskSpace disk = mock(DiskSpace.class);
  private final Problems problems = new Problems(disk);

  @BeforeEach
  void full() {
    when(disk.sentence()).thenReturn("The disk is full: 3 MB are left.");
  }

  private static void says(ProblemDetail problem, int status, String... words) {
    assertThat(problem.getStatus()).isEqualTo(status);
    assertThat(problem.getTitle()).isNotBlank();
    assertThat(problem.getDetail()).contains(words).endsWith(".");
  }

  @Test
  void aFileThatCannotBeUsedIsNamedWithItsPlace() {
    ProblemDetail problem =
        problems.format(
            new FormatException(
                FormatException.Kind.CORRUPT,
                "hull.fbx",
                "line 7",
                "it is damaged. Copy it again."));
    says(problem, 422, "hull.fbx", "line 7", "damaged");
    assertThat(problem.getProperties())
        .containsEntry("resource", "hull.fbx")
        .containsEntry("place", "line 7")
        .containsEntry("kind", FormatException.Kind.CORRUPT);
  }

  @Test
  void whatIsNotThereIsSaid() {
    says(problems.notFound(new NotFoundException("There is no such crossing.")), 404, "crossing");
    says(problems.conflict(new ConflictException("It is being read.")), 409, "being read");
  }

  @Test
  void aFileThatIsTooLargeSaysTheLimit() {
    says(problems.tooLarge(new BlobStore.TooLargeException(5_000_000)), 413, "5", "MB");
  }

  @Test
  void aFullDiskIsNoFaultOfOurs() {
    for (Exception e :
        new Exception[] {
          new IOException("No space left on device"),
          new IllegalStateException(new IOException("Disk quota exceeded")),
          new IllegalStateException("[SQLITE_FULL] database or disk is full")
        }) {
      says(problems.unexpected(e), 507, "disk is full", "3 MB");
    }
  }

  @Test
  void tooLittleMemorySaysWhatToDo() {
    says(
        problems.unexpected(new ExecutionException(new OutOfMemoryError("Java heap space"))),
        503,
        "memory",
        "FERRY_MEMORY");
  }

  @Test
  void anUnexpectedFaultGivesNothingAway() {
    ProblemDetail problem =
        problems.unexpected(new IllegalStateException("/home/someone/secret: jdbc:sqlite"));
    says(problem, 500, "inside");
    assertThat(problem.getDetail()).doesNotContain("secret").doesNotContain("jdbc");
  }
}
