package ferry.stone.core.proof;

import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.math.Figures;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/** Compares point caches: every sample of every point, streamed. */
final class CacheProof {
  /** Positions are written as 32-bit numbers: four steps of one, as a part of the largest. */
  private static final double ROUNDING = 4 * 0x1p-23;

  private static final double SAME_SECONDS = 1e-4;
  private static final int POINTS_AT_ONCE = 1 << 16;

  private final Ledger ledger;
  private final Scene near;
  private final Scene far;
  private final Scene read;
  private final PartMatch parts;
  private final double size;
  private final Set<Integer> resting = new HashSet<>();

  CacheProof(Ledger ledger, Scene near, Scene far, Scene read, PartMatch parts) {
    this.ledger = ledger;
    this.near = near;
    this.far = far;
    this.read = read;
    this.parts = parts;
    size = Proof.size(far);
  }

  void run(Landed landed, Progress progress) throws IOException {
    if (far.caches().isEmpty() || landed.fate(Capability.POINT_CACHES) != Fate.KEPT) {
      return;
    }
    List<Scene.ShownMesh> shown = far.shownMeshes();
    int atRest = 0;
    for (int i = 0; i < shown.size(); i++) {
      PointCache wanted = Caches.of(far, shown.get(i).mesh().id());
      Scene.ShownMesh there = parts.landed(i);
      boolean gone = there != null && Caches.of(read, there.mesh().id()) == null;
      if (wanted != null && gone && rests(wanted, progress)) {
        atRest++;
        resting.add(wanted.id());
      }
    }
    if (atRest == far.caches().size()) {
      return;
    }
    ledger.group("Point caches");
    ledger.count(
        "Caches",
        -1,
        near.caches().size(),
        far.caches().size() - atRest,
        read.caches().size(),
        "caches are missing");
    for (int i = 0; i < shown.size(); i++) {
      PointCache wanted = Caches.of(far, shown.get(i).mesh().id());
      Scene.ShownMesh there = parts.landed(i);
      if (wanted == null || resting.contains(wanted.id())) {
        continue;
      }
      progress.checkCancelled();
      progress.report("comparing the samples of " + wanted.name(), 0.8);
      PointCache found = there == null ? null : Caches.of(read, there.mesh().id());
      ledger.group("Point cache " + wanted.name());
      compare(wanted, found, shown.get(i).node().id(), progress);
    }
  }

  /** Whether all samples are one: then nothing moves, and a mesh without a cache is the same. */
  private static boolean rests(PointCache cache, Progress progress) throws IOException {
    int points = cache.pointCount();
    float[] first = new float[3 * Math.min(points, POINTS_AT_ONCE)];
    float[] other = new float[first.length];
    for (int s = 1; s < cache.sampleCount(); s++) {
      progress.checkCancelled();
      for (int from = 0; from < points; from += POINTS_AT_ONCE) {
        int count = Math.min(points - from, POINTS_AT_ONCE);
        cache.read(0, from, count, first);
        cache.read(s, from, count, other);
        if (!Arrays.equals(first, 0, 3 * count, other, 0, 3 * count)) {
          return false;
        }
      }
    }
    return true;
  }

  private void compare(PointCache wanted, PointCache found, int nodeId, Progress progress)
      throws IOException {
    boolean counts =
        found != null
            && found.sampleCount() == wanted.sampleCount()
            && found.pointCount() == wanted.pointCount();
    String own =
        Figures.count(wanted.sampleCount(), "sample")
            + " of "
            + Figures.count(wanted.pointCount(), "point");
    ledger.add(
        "Samples and points",
        nodeId,
        own,
        own,
        found == null
            ? "—"
            : Figures.count(found.sampleCount(), "sample")
                + " of "
                + Figures.count(found.pointCount(), "point"),
        "",
        counts ? Verdict.KEPT : Verdict.LOST,
        counts ? "" : "their numbers differ");
    if (!counts) {
      return;
    }
    double late = 0;
    for (int s = 0; s < wanted.sampleCount(); s++) {
      late = Math.max(late, Math.abs(wanted.timeSeconds(s) - found.timeSeconds(s)));
    }
    ledger.measure(Measure.off("s", late));
    ledger.add(
        "Times of samples",
        nodeId,
        "",
        span(wanted),
        span(found),
        String.format(Locale.ROOT, "%.6f s", late),
        late <= SAME_SECONDS ? Verdict.KEPT : Verdict.CHANGED,
        "");
    double off = farthest(wanted, found, progress);
    ledger
        .off(off)
        .add(
            "Positions in all samples",
            nodeId,
            "",
            Figures.count((long) wanted.sampleCount() * wanted.pointCount()),
            Figures.count((long) found.sampleCount() * found.pointCount()),
            Proof.millimetres(off),
            off <= Proof.POSITION_TOLERANCE * size ? Verdict.KEPT : Verdict.CHANGED,
            off <= Proof.POSITION_TOLERANCE * size ? "" : "points lie apart");
  }

  private static String span(PointCache cache) {
    return Figures.plain(cache.startSeconds()) + "–" + Figures.plain(cache.endSeconds()) + " s";
  }

  /** Beyond what 32-bit numbers of that size round by. */
  private static double farthest(PointCache a, PointCache b, Progress progress) throws IOException {
    double most = 0;
    int points = a.pointCount();
    float[] own = new float[3 * Math.min(points, POINTS_AT_ONCE)];
    float[] there = new float[own.length];
    for (int s = 0; s < a.sampleCount(); s++) {
      progress.checkCancelled();
      for (int from = 0; from < points; from += POINTS_AT_ONCE) {
        int count = Math.min(points - from, POINTS_AT_ONCE);
        a.read(s, from, count, own);
        b.read(s, from, count, there);
        for (int i = 0; i < 3 * count; i++) {
          // What is nowhere on both sides is the same.
          boolean nowhere = Float.isNaN(own[i]) && Float.isNaN(there[i]);
          double off = Math.abs((double) own[i] - there[i]) - ROUNDING * Math.abs(own[i]);
          most = nowhere ? most : Double.isNaN(off) ? Double.MAX_VALUE : Math.max(most, off);
        }
      }
    }
    return most;
  }
}
