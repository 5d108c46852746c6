package ferry.stone.core.fuzz;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.ZipUnpacker;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.work.Progress;
import java.io.ByteArrayOutputStream;
import java.lang.management.ManagementFactory;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/** Damaged cargos of every format go the whole way or end in a sentence: no fault, no hang. */
class MutationRunTest {
  private static final int ROUNDS = Integer.getInteger("ferry.fuzz.rounds", 24);
  private static final long SEED = Long.getLong("ferry.fuzz.seed", 12);
  private static final double LONGEST_SECONDS = 10;
  private static final long MOST_BYTES = 1L << 30;

  private static TestFiles damaged(TestFiles cargo, String file, Random random) {
    TestFiles copy = new TestFiles();
    cargo.paths().forEach(p -> copy.with(p, cargo.bytes(p)));
    return copy.with(file, Mutations.of(cargo.bytes(file), random));
  }

  private static long allocated() {
    var threads = (com.sun.management.ThreadMXBean) ManagementFactory.getThreadMXBean();
    return threads.getCurrentThreadAllocatedBytes();
  }

  @Test
  @Timeout(value = 10, unit = TimeUnit.MINUTES)
  void damagedCargosGoTheWholeWayOrEndInASentence() throws Exception {
    Map<WholeWay.End, Integer> ends = new EnumMap<>(WholeWay.End.class);
    List<String> faults = new ArrayList<>();
    for (Map.Entry<String, TestFiles> entry : Cargos.all().entrySet()) {
      TestFiles cargo = entry.getValue();
      for (int round = 0; round < ROUNDS; round++) {
        Random random = new Random(SEED + 1_000_003L * round + entry.getKey().hashCode());
        List<String> all = cargo.paths();
        // Now and then one of the files around the scene: a material file, an image.
        boolean beside = round % 8 == 7;
        String file = beside ? all.get(random.nextInt(all.size())) : Cargos.scene(cargo);
        TestFiles bad = damaged(cargo, file, random);
        long before = allocated();
        try {
          ends.merge(WholeWay.run(bad, LONGEST_SECONDS), 1, Integer::sum);
        } catch (RuntimeException | StackOverflowError | OutOfMemoryError e) {
          faults.add(entry.getKey() + ", " + file + ", round " + round + ": " + where(e));
        }
        if (allocated() - before > MOST_BYTES) {
          faults.add(
              entry.getKey() + ", round " + round + ": took " + (allocated() - before) + " bytes");
        }
      }
    }
    assertEquals(List.of(), faults);
    // The run has a point only where damage is found as well as where it is survived.
    assertTrue(ends.getOrDefault(WholeWay.End.REFUSED, 0) > 100, ends.toString());
    assertTrue(ends.getOrDefault(WholeWay.End.PROVED, 0) > 100, ends.toString());
  }

  @Test
  void damagedZipsAreUnpackedOrEndInASentence(@TempDir Path folder) throws Exception {
    TestFiles cargo = Cargos.all().get("a.obj");
    ByteArrayOutputStream packed = new ByteArrayOutputStream();
    try (ZipOutputStream zip = new ZipOutputStream(packed)) {
      for (String path : cargo.paths()) {
        zip.putNextEntry(new ZipEntry("deep/" + path));
        zip.write(cargo.bytes(path));
      }
    }
    Path file = folder.resolve("a.zip");
    int refused = 0;
    for (int round = 0; round < 30 * ROUNDS; round++) {
      Files.write(file, Mutations.of(packed.toByteArray(), new Random(SEED + round)));
      try {
        ZipUnpacker.unpack(file, "a.zip", ZipUnpacker.Limits.USUAL, new TestFiles(), Progress.NONE);
      } catch (FormatException e) {
        refused++;
        assertTrue(e.getMessage().startsWith("a.zip"), e.getMessage());
      }
    }
    assertTrue(refused > 100, refused + " refused");
  }

  @Test
  void wholeCargosAreProved() throws Exception {
    for (Map.Entry<String, TestFiles> entry : Cargos.all().entrySet()) {
      assertEquals(
          WholeWay.End.PROVED, WholeWay.run(entry.getValue(), LONGEST_SECONDS), entry.getKey());
    }
  }

  private static String where(Throwable e) {
    StackTraceElement[] trace = e.getStackTrace();
    StringBuilder text = new StringBuilder(e.toString());
    for (int i = 0; i < Math.min(6, trace.length); i++) {
      text.append("\n    ").append(trace[i]);
    }
    return text.append('\n').toString();
  }
}
