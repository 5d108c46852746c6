package ferry.stone.core.proof;

import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.math.Figures;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.CacheMeshes;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.List;
import java.util.Locale;

/** Compares meshes that are others over time: every sample, its points, faces and layers. */
final class SequenceProof {
  private static final double SAME_SECONDS = 1e-4;

  private final Ledger ledger;
  private final Scene far;
  private final Scene read;
  private final PartMatch parts;
  private final double size;

  SequenceProof(Ledger ledger, Scene far, Scene read, PartMatch parts) {
    this.ledger = ledger;
    this.far = far;
    this.read = read;
    this.parts = parts;
    size = Proof.size(far);
  }

  /** What differs in any sample. */
  private static final class Found {
    private int others;
    private int layers;
    private double off;
    private double late;
  }

  void run(Landed landed, Progress progress) throws IOException {
    if (far.sequences().isEmpty() || landed.fate(Capability.CHANGING_MESHES) != Fate.KEPT) {
      return;
    }
    List<Scene.ShownMesh> shown = far.shownMeshes();
    for (int i = 0; i < shown.size(); i++) {
      MeshSequence wanted = of(far, shown.get(i).mesh().id());
      Scene.ShownMesh there = parts.landed(i);
      if (wanted != null) {
        progress.report("comparing the samples of " + wanted.name(), 0.8);
        MeshSequence found = there == null ? null : landed(there.mesh());
        ledger.group("Changing mesh " + wanted.name());
        compare(wanted, found, shown.get(i).node().id(), progress);
      }
    }
  }

  /** The same faces at all samples come back as points that move. */
  private MeshSequence landed(PolygonMesh mesh) {
    MeshSequence sequence = of(read, mesh.id());
    PointCache cache = sequence == null ? Caches.of(read, mesh.id()) : null;
    return cache == null ? sequence : new CacheMeshes(cache, mesh);
  }

  private static MeshSequence of(Scene scene, int meshId) {
    return scene.sequences().stream().filter(s -> s.meshId() == meshId).findFirst().orElse(null);
  }

  private void compare(MeshSequence wanted, MeshSequence found, int nodeId, Progress progress)
      throws IOException {
    int count = wanted.sampleCount();
    boolean counts = found != null && found.sampleCount() == count;
    row(
        "Samples",
        nodeId,
        Figures.count(count, "sample"),
        found == null ? "—" : Figures.count(found.sampleCount(), "sample"),
        "",
        counts ? Verdict.KEPT : Verdict.LOST);
    if (!counts) {
      return;
    }
    Found differs = new Found();
    for (int s = 0; s < count; s++) {
      progress.checkCancelled();
      double late = Math.abs(wanted.timeSeconds(s) - found.timeSeconds(s));
      differs.late = Math.max(differs.late, late);
      sample(wanted.mesh(s), found.mesh(s), differs);
    }
    String all = Figures.count(count, "sample");
    row(
        "Times of samples",
        nodeId,
        all,
        all,
        String.format(Locale.ROOT, "%.6f s", differs.late),
        differs.late <= SAME_SECONDS ? Verdict.KEPT : Verdict.CHANGED);
    row(
        "Faces in all samples",
        nodeId,
        all,
        Figures.count(count - differs.others) + " the same",
        Figures.count(differs.others),
        differs.others == 0 ? Verdict.KEPT : Verdict.LOST);
    ledger.off(differs.off);
    row(
        "Positions in all samples",
        nodeId,
        all,
        all,
        Proof.millimetres(differs.off),
        differs.off <= Proof.POSITION_TOLERANCE * size ? Verdict.KEPT : Verdict.CHANGED);
    row(
        "Layers in all samples",
        nodeId,
        all,
        Figures.count(count - differs.layers) + " with all of them",
        Figures.count(differs.layers),
        differs.layers == 0 ? Verdict.KEPT : Verdict.LOST);
  }

  private void row(
      String fact, int nodeId, String wanted, String found, String off, Verdict verdict) {
    ledger.about(Capability.CHANGING_MESHES).add(fact, nodeId, "", wanted, found, off, verdict, "");
  }

  private static void sample(PolygonMesh wanted, PolygonMesh found, Found differs) {
    boolean same =
        wanted.points().count() == found.points().count() && wanted.faces().isSame(found.faces());
    if (!same) {
      differs.others++;
      return;
    }
    for (int i = 0; i < 3 * wanted.points().count(); i++) {
      double a = wanted.points().at(i);
      double b = found.points().at(i);
      boolean nowhere = Double.isNaN(a) && Double.isNaN(b);
      double off = Math.abs(a - b) - 4 * Math.ulp((float) a);
      differs.off = nowhere ? differs.off : Math.max(differs.off, off);
    }
    for (Attribute.Semantic semantic :
        List.of(Attribute.Semantic.NORMAL, Attribute.Semantic.UV, Attribute.Semantic.COLOUR)) {
      boolean gone = wanted.all(semantic).size() > found.all(semantic).size();
      boolean other =
          !gone
              && wanted.first(semantic).isPresent()
              && !sameValues(
                  wanted, wanted.first(semantic).get(), found.first(semantic).orElseThrow());
      if (gone || other) {
        differs.layers++;
        return;
      }
    }
  }

  private static boolean sameValues(PolygonMesh mesh, Attribute a, Attribute b) {
    if (a.components() != b.components()) {
      return false;
    }
    for (int f = 0; f < mesh.faces().faceCount(); f++) {
      for (int c = mesh.faces().start(f); c < mesh.faces().end(f); c++) {
        int own = a.valueOf(c, mesh.faces().vertex(c), f);
        int there = b.valueOf(c, mesh.faces().vertex(c), f);
        for (int k = 0; own >= 0 && k < a.components(); k++) {
          if (there < 0 || Math.abs(a.table().number(own, k) - b.table().number(there, k)) > 1e-5) {
            return false;
          }
        }
      }
    }
    return true;
  }
}
