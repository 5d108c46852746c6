package ferry.stone.core.format.fbx.read;

import ferry.stone.core.format.fbx.raw.FbxDocument;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.node.NodeSet;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Reads display layers and selection sets. */
final class FbxSets {
  private final FbxDocument document;
  private final Map<Long, Integer> nodeIds;

  /**
   * @param nodeIds scene's id of each model
   */
  FbxSets(FbxDocument document, Map<Long, Integer> nodeIds) {
    this.document = document;
    this.nodeIds = nodeIds;
  }

  void addTo(SceneBuilder scene) {
    for (FbxDocument.Item item : document.all("CollectionExclusive")) {
      boolean shown = item.properties().flag("Show", true);
      scene.add(new NodeSet(item.name(), NodeSet.Kind.LAYER, nodes(item), shown));
    }
    for (FbxDocument.Item item : document.all("Collection")) {
      if (item.type().equals("SelectionSet")) {
        scene.add(new NodeSet(item.name(), NodeSet.Kind.SELECTION, nodes(item), true));
      }
    }
  }

  /** Its models, some of them through a record of their own. */
  private int[] nodes(FbxDocument.Item set) {
    List<Integer> nodes = new ArrayList<>();
    for (FbxDocument.Link link : document.sources(set)) {
      if (link.item().kind().equals("Model")) {
        nodes.add(nodeIds.get(link.item().id()));
      } else if (link.item().kind().equals("SelectionNode")) {
        document.sources(link.item(), "Model").forEach(model -> nodes.add(nodeIds.get(model.id())));
      }
    }
    return nodes.stream().filter(java.util.Objects::nonNull).mapToInt(Integer::intValue).toArray();
  }
}
