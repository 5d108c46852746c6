package ferry.stone.core.proof;

import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.corner.LayerValues;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.util.List;
import java.util.function.IntUnaryOperator;

/** Lists the custom layers of a part: their names, types, and where values differ. */
record LayerProof(Ledger ledger, int nodeId, PolygonMesh far, PolygonMesh landed, Holding holding) {

  /**
   * @param others how many values of the layer at a place differ
   * @param noun of what carries them
   */
  void list(IntUnaryOperator others, String noun) {
    List<Attribute> held = holding.layers(far);
    List<String> names = holding.layerNames(far);
    Attribute[] found = LayerValues.found(names, landed);
    for (int place = 0; place < held.size(); place++) {
      Attribute layer = held.get(place);
      Attribute there = found[place];
      int other = others.applyAsInt(place);
      String words = LayerValues.words(layer);
      boolean same =
          there != null
              && other == 0
              && names.get(place).equals(layer.name())
              && there.table().type().equals(layer.table().type());
      ledger
          .about(Capability.CUSTOM_LAYERS)
          .add(
              "Layer " + layer.name(),
              nodeId,
              words,
              words,
              there == null ? "—" : names.get(place) + ", " + LayerValues.words(there),
              other == 0 ? "0" : Figures.count(other, noun),
              there == null ? Verdict.LOST : same ? Verdict.KEPT : Verdict.CHANGED,
              "");
    }
  }
}
