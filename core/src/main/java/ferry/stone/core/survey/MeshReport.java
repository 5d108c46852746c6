package ferry.stone.core.survey;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Marks;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.Scene;
import java.util.Arrays;
import java.util.List;

/** Tells of elements of one shown mesh, with marks where they are. */
final class MeshReport {
  private final Scene.ShownMesh shown;
  private final Findings findings;

  MeshReport(Scene.ShownMesh shown, Findings findings) {
    this.shown = shown;
    this.findings = findings;
  }

  void elements(
      String code,
      Severity severity,
      IntList elements,
      int perElement,
      Marks.Kind kind,
      String noun,
      String message,
      Offer... offers) {
    if (elements.size() > 0) {
      Finding finding =
          Finding.of(code, severity, shown.path(), message)
              .measured(Figures.count(elements.size() / perElement, noun))
              .at(shown.node().id(), marks(elements, perElement, kind));
      findings.add(offers.length == 0 ? finding : finding.offer(offers[0].on(List.of(node()))));
    }
  }

  Marks marks(IntList elements, int perElement, Marks.Kind kind) {
    int most = Math.min(elements.size(), Marks.MAX * perElement);
    return new Marks(shown.node().id(), kind, Arrays.copyOf(elements.toArray(), most));
  }

  int node() {
    return shown.node().id();
  }
}
