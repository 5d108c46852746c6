package ferry.stone.core.format.cache;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.RandomRig;
import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.RandomBytes;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.landing.Forecast;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.math.Frame;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.Progress;
import java.io.EOFException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** MDD and PC2: bytes as the published layouts say, matched, moved, landed and proved. */
class PointCachesTest {
  private static final String TWO =
      """
      o sail
      v 0 0 0
      v 1 0 0
      v 0 1 0
      f 1 2 3
      o pennant
      v 5 0 0
      v 6 0 0
      v 5 1 0
      f 4 5 6
      """;

  /** Samples of three points that rise by the sample's number. */
  private static byte[] mdd(int samples, int points) {
    ByteBuffer file = ByteBuffer.allocate(8 + 4 * samples + 12 * samples * points);
    file.putInt(samples).putInt(points);
    for (int s = 0; s < samples; s++) {
      file.putFloat(s / 24f);
    }
    for (int i = 0; i < samples * points; i++) {
      file.putFloat(i % points).putFloat(i / points).putFloat(0);
    }
    return file.array();
  }

  private static Scene read(TestFiles files, Findings findings) throws Exception {
    return CargoReader.read("yard", new ReadContext(files, Map.of(), findings, Progress.NONE));
  }

  private static List<String> codes(Findings findings) {
    return findings.list().stream().map(Finding::code).toList();
  }

  @Test
  void aCacheIsPutOntoTheMeshOfItsNameAndNumber() throws Exception {
    Findings findings = new Findings();
    TestFiles files = new TestFiles().with("yard.obj", TWO).with("pennant_wind.mdd", mdd(3, 3));
    Scene scene = read(files, findings);
    PointCache cache = scene.caches().get(0);
    assertEquals("pennant", scene.mesh(cache.meshId()).orElseThrow().name());
    assertTrue(codes(findings).contains("cache-put-on"), codes(findings).toString());
    assertEquals(1 / 24.0, cache.timeSeconds(1), 1e-7);
    Clip span = Caches.timeline(scene).get(0);
    assertEquals(2 / 24.0, span.endSeconds(), 1e-7);
    // Half a sample on, half of the way up.
    double[] points = Deform.world(scene, Pose.at(scene, span, 1.5 / 24), 1);
    assertArrayEquals(new double[] {0, 1.5, 0, 1, 1.5, 0, 2, 1.5, 0}, points, 1e-5);
    assertArrayEquals(
        new double[] {5, 0, 0, 6, 0, 0, 5, 1, 0}, Deform.world(scene, Pose.rest(scene), 1));
  }

  @Test
  void amongSeveralTheFirstIsTakenAndSaid() throws Exception {
    Findings findings = new Findings();
    read(new TestFiles().with("yard.obj", TWO).with("wind.mdd", mdd(3, 3)), findings);
    assertTrue(codes(findings).contains("cache-put-on-one-of-several"));
  }

  @Test
  void aCacheOfAllPartsIsDivided() throws Exception {
    Findings findings = new Findings();
    Scene scene = read(new TestFiles().with("yard.obj", TWO).with("wind.mdd", mdd(2, 6)), findings);
    assertEquals(2, scene.caches().size());
    float[] points = new float[9];
    scene.caches().get(1).read(1, 0, 3, points);
    assertArrayEquals(new float[] {3, 1, 0, 4, 1, 0, 5, 1, 0}, points);
  }

  @Test
  void aCacheThatFitsNothingIsToldAndStaysWithTheScene() throws Exception {
    Findings findings = new Findings();
    Scene scene = read(new TestFiles().with("yard.obj", TWO).with("wind.mdd", mdd(2, 5)), findings);
    assertTrue(codes(findings).contains("cache-without-mesh"));
    assertTrue(scene.caches().isEmpty());
  }

  @Test
  void aSecondCacheOfAPartIsKeptForComparisonAndPutOn() throws Exception {
    Findings findings = new Findings();
    TestFiles files =
        new TestFiles()
            .with("yard.obj", TWO)
            .with("a.mdd", mdd(2, 3))
            .with("b.mdd", mdd(3, 3))
            .with("c.mdd", mdd(4, 3));
    Scene scene = read(files, findings);
    assertEquals(2, scene.caches().size());
    assertEquals(1, scene.secondMotions().size());
    Finding second =
        findings.list().stream()
            .filter(f -> f.code().equals("cache-is-second"))
            .findFirst()
            .orElseThrow();
    assertEquals("c.mdd", second.where());
    Offer offer = second.offers().get(0);
    Step step = new Step("s", offer.kind(), offer.params(), true, offer.nodeIds());
    // Steps on the mesh move both motions.
    Step larger = new Step("t", "scale", Map.of("factor", 2.0), true, List.of());
    Scene far = Handling.result(scene, Handling.run(scene, List.of(larger, step), Progress.NONE));
    assertEquals(1, far.secondMotions().size());
    assertEquals(2, far.secondMotions().get(0).sampleCount());
    assertEquals(4, far.caches().stream().mapToInt(PointCache::sampleCount).max().orElseThrow());
    Forecast forecast = Forecast.of(far, LandingOptions.of("abc"), files);
    assertTrue(
        forecast.items().stream()
            .anyMatch(i -> i.how().startsWith("A second motion is for comparison")));
    assertEquals(2, forecast.cost().caches());
    assertEquals(12L * 3 * (3 + 4), forecast.cost().bytes());
  }

  @Test
  void withoutAMeshThePointsAreShown() throws Exception {
    Scene scene = read(new TestFiles().with("wind.mdd", mdd(2, 5)), new Findings());
    assertEquals(5, scene.meshes().get(0).loose().points().length);
    assertEquals(1, scene.caches().size());
  }

  @Test
  void framesOfAPc2GoByTheRateOfTheCargo() throws Exception {
    ByteBuffer pc2 = ByteBuffer.allocate(32 + 2 * 36).order(ByteOrder.LITTLE_ENDIAN);
    pc2.put("POINTCACHE2\0".getBytes()).putInt(1).putInt(3).putFloat(10).putFloat(2).putInt(2);
    TestFiles files = new TestFiles().with("sail.pc2", pc2.array());
    Findings findings = new Findings();
    Scene alone =
        read(new TestFiles().with("yard.obj", TWO).with("sail.pc2", pc2.array()), findings);
    assertEquals(10 / 24.0, alone.caches().get(0).timeSeconds(0), 1e-9);
    assertEquals(12 / 24.0, alone.caches().get(0).timeSeconds(1), 1e-9);
    assertTrue(codes(findings).contains("cache-rate-assumed"));
    ReadContext fifty =
        new ReadContext(files, Map.of(), Map.of(), new Findings(), Progress.NONE, 50);
    Scene known = CacheFormat.PC2.reader().orElseThrow().read("sail.pc2", fifty);
    assertEquals(0.2, known.caches().get(0).timeSeconds(0), 1e-9);
  }

  @Test
  void claimsAreHeldAgainstTheFile() {
    ByteBuffer head = ByteBuffer.allocate(60).putInt(1 << 30).putInt(1 << 30);
    FormatException e =
        assertThrows(
            FormatException.class,
            () -> read(new TestFiles().with("a.mdd", head.array()), new Findings()));
    assertTrue(e.problem().contains("1073741824 samples"), e.problem());
  }

  /** Layout by the bytes: the head of an MDD is big-endian, that of a PC2 little-endian. */
  @Test
  void skinsAndMorphsAreBakedAndProved() throws Exception {
    int baked = 0;
    for (int seed = 0; seed < 8; seed++) {
      Scene rig = RandomRig.of(new Random(seed), 6);
      for (String format : List.of("mdd", "pc2")) {
        for (String space : List.of("own", "world")) {
          LandingOptions options =
              LandingOptions.of(format).with("space", space).with("unit", "cm").with("rate", 12);
          TestFiles out = new TestFiles();
          Landing landing = Landing.write(rig, options, "a", out, out, Progress.NONE);
          Proof proof =
              Proof.of(rig, rig, landing.landed(options, out), new TestFiles(), Progress.NONE);
          assertTrue(
              proof.rows().stream()
                  .filter(r -> r.group().startsWith("Point cache"))
                  .allMatch(r -> r.verdict() == LedgerRow.Verdict.KEPT),
              proof.rows().toString());
          baked += out.paths().size();
          byte[] first = out.bytes(landing.mainFile());
          ByteBuffer head =
              ByteBuffer.wrap(first)
                  .order(format.equals("mdd") ? ByteOrder.BIG_ENDIAN : ByteOrder.LITTLE_ENDIAN);
          int samples = head.getInt(format.equals("mdd") ? 0 : 28);
          int points = head.getInt(format.equals("mdd") ? 4 : 16);
          int data = format.equals("mdd") ? 8 + 4 * samples : 32;
          assertEquals(data + 12 * samples * points, first.length);
        }
      }
    }
    assertTrue(baked >= 32);
  }

  @Test
  void worldPointsAreWhereThePoseIs() throws Exception {
    Scene rig = RandomRig.of(new Random(3), 6);
    Clip clip = rig.clips().get(0);
    LandingOptions options = LandingOptions.of("mdd").with("space", "world").with("rate", 10);
    TestFiles out = new TestFiles();
    Landing.write(rig, options, "a", out, out, Progress.NONE);
    String file = out.paths().get(0);
    ByteBuffer bytes = ByteBuffer.wrap(out.bytes(file));
    int samples = bytes.getInt();
    int points = bytes.getInt();
    assertTrue(samples > 1);
    boolean found = false;
    for (int place = 0; place < rig.nodes().size() && !found; place++) {
      double[] wanted = Deform.world(rig, Pose.at(rig, clip, clip.startSeconds() + 0.1), place);
      found = wanted.length == 3 * points;
      for (int i = 0; i < wanted.length && found; i++) {
        float there = bytes.getFloat(8 + 4 * samples + 12 * points + 4 * i);
        double metres = wanted[i] * rig.frame().metresPerUnit();
        found =
            rig.frame().equals(Frame.Y_UP_METRE)
                ? Math.abs(there - metres) < 1e-4
                : Double.isFinite(there);
      }
    }
    assertTrue(found);
  }

  @Test
  void aLandedCacheComesBackSampleBySample(@TempDir Path folder) throws Exception {
    byte[] whole = mdd(5, 3);
    Files.writeString(folder.resolve("yard.obj"), TWO.substring(0, TWO.indexOf("o pennant")));
    Files.write(folder.resolve("sail.mdd"), whole);
    Scene scene = CargoReader.read("yard", ReadContext.of(CargoFolder.of(folder)));
    TestFiles out = new TestFiles();
    Landing landing = Landing.write(scene, LandingOptions.of("mdd"), "a", out, out, Progress.NONE);
    assertArrayEquals(whole, out.bytes(landing.mainFile()));
  }

  @Test
  void filesOnDiskAreReadInAnyOrder(@TempDir Path folder) throws Exception {
    byte[] bytes = new byte[10_000];
    new Random(1).nextBytes(bytes);
    Files.write(folder.resolve("a.mdd"), bytes);
    RandomBytes file = CargoFolder.of(folder).random("a.mdd");
    RandomBytes memory = new TestFiles().with("a.mdd", bytes).random("a.mdd");
    byte[] part = new byte[120];
    for (int at : new int[] {9_900, 0, 4_321}) {
      for (RandomBytes each : List.of(file, memory)) {
        each.read(at, part, 10, 100);
        assertArrayEquals(
            Arrays.copyOfRange(bytes, at, at + 100), Arrays.copyOfRange(part, 10, 110));
      }
    }
    assertThrows(EOFException.class, () -> file.read(9_950, part, 0, 100));
    assertThrows(EOFException.class, () -> memory.read(9_950, part, 0, 100));
  }
}
