package ferry.stone.core.format.obj.read;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Divides the flat arrays of an OBJ into parts and makes a node with a mesh of each. */
final class ObjAssembler {
  private final ObjData data;
  private final ObjParts parts;
  private final SceneBuilder scene;
  private final Map<String, Integer> materialIds;
  private final Findings findings;

  ObjAssembler(
      ObjData data,
      ObjParts parts,
      SceneBuilder scene,
      Map<String, Integer> materialIds,
      Findings findings) {
    this.data = data;
    this.parts = parts;
    this.scene = scene;
    this.materialIds = materialIds;
    this.findings = findings;
  }

  void assemble(String fileStem) {
    normaliseColours();
    Map<Integer, IntList> runsOfPart = new LinkedHashMap<>();
    for (int r = 0; r < data.runs.size(); r++) {
      ObjData.Run run = data.runs.get(r);
      runsOfPart.computeIfAbsent(parts.part(run), k -> new IntList(4)).add(r);
    }
    Map<Integer, IntList> unused = unusedByPart();
    for (int part : unused.keySet()) {
      runsOfPart.putIfAbsent(part, new IntList(1));
    }
    ObjPart builder = new ObjPart(data, materialIds);
    long lines = 0;
    long points = 0;
    for (Map.Entry<Integer, IntList> entry : runsOfPart.entrySet()) {
      int part = entry.getKey();
      String name = partName(part, fileStem);
      PolygonMesh mesh =
          builder.build(
              scene.newId(),
              name,
              entry.getValue().toArray(),
              unused.get(part),
              parts.keepsGroups());
      scene.add(mesh);
      scene.add(Node.of(scene.newId(), name, -1, Node.Content.MeshContent.of(mesh.id())));
      if (mesh.loose() != null) {
        lines += mesh.loose().lineCount();
        points += mesh.loose().points().length;
      }
    }
    if (lines + points > 0) {
      findings.add(
          Finding.of(
                  "lines-and-points",
                  Severity.LOOK,
                  fileStem,
                  "The file holds "
                      + Figures.count(lines, "line")
                      + " and "
                      + Figures.count(points, "point")
                      + "; many engines do not show them.")
              .measured(Figures.count(lines + points)));
    }
  }

  private String partName(int part, String fileStem) {
    if (part < 0) {
      return fileStem;
    }
    String name = parts.name(part, data);
    return name.isBlank() ? fileStem : name;
  }

  /** Vertices that nothing uses, under the part that was current when they were written. */
  private Map<Integer, IntList> unusedByPart() {
    BitSet used = new BitSet(data.vertexCount());
    for (int i = 0; i < data.cornerVertex.size(); i++) {
      used.set(data.cornerVertex.get(i));
    }
    for (int i = 0; i < data.lineVertex.size(); i++) {
      used.set(data.lineVertex.get(i));
    }
    for (int i = 0; i < data.points.size(); i++) {
      used.set(data.points.get(i));
    }
    Map<Integer, IntList> unused = new LinkedHashMap<>();
    int owner = 0;
    int part = -1;
    int v = used.nextClearBit(0);
    for (; v < data.vertexCount(); v = used.nextClearBit(v + 1)) {
      while (owner < data.owners.size() && data.owners.get(owner).firstVertex() <= v) {
        part = parts.part(data.owners.get(owner++));
      }
      unused.computeIfAbsent(part, k -> new IntList(16)).add(v);
    }
    return unused;
  }

  private void normaliseColours() {
    if (data.colours == null) {
      return;
    }
    float largest = 0;
    for (int i = 0; i < data.colours.size(); i++) {
      // No number stands for no colour.
      largest = data.colours.get(i) > largest ? data.colours.get(i) : largest;
    }
    if (largest > 1.5f && largest <= 255f) {
      FloatList scaled = new FloatList(data.colours.size());
      for (int i = 0; i < data.colours.size(); i++) {
        scaled.add(data.colours.get(i) / 255f);
      }
      data.colours = scaled;
      findings.add(
          Finding.of(
              "colours-to-255",
              Severity.NOTE,
              "",
              "Vertex colours are written from 0 to 255; they were read as 0 to 1."));
    }
  }

  /** Names of a run's groups. */
  static List<String> groupNames(ObjData data, int group) {
    return group < 0 ? List.of() : new ArrayList<>(data.groups.get(group));
  }
}
