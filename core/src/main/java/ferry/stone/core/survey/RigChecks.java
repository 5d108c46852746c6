package ferry.stone.core.survey;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Marks;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Weights, joints and morph targets. */
final class RigChecks {
  private static final double WEIGHT_SUM = 0.01;

  /** A shape shifts the body when this part of its vertices moves by nearly the same way. */
  private static final double SHIFTED_PART = 0.5;

  private static final double SAME_SHIFT = 0.2;
  private static final double LEAST_SHIFT = 0.002;

  private final Scene scene;
  private final Findings findings;
  private final Map<Integer, Node> nodeOfMesh = new HashMap<>();

  RigChecks(Scene scene, Findings findings) {
    this.scene = scene;
    this.findings = findings;
    for (Node node : scene.nodes()) {
      if (node.content() instanceof Node.Content.MeshContent content) {
        nodeOfMesh.putIfAbsent(content.meshId(), node);
      }
    }
  }

  void run() {
    scene.skins().forEach(this::weights);
    jointNames();
    for (PolygonMesh mesh : scene.meshes()) {
      morphs(mesh);
    }
  }

  private void weights(Skin skin) {
    Node node = nodeOfMesh.get(skin.meshId());
    if (node == null) {
      return;
    }
    IntList none = new IntList(16);
    IntList uneven = new IntList(16);
    boolean[] used = new boolean[skin.jointNodeIds().length];
    for (int v = 0; v + 1 < skin.offsets().length; v++) {
      double sum = 0;
      for (int i = skin.offsets()[v]; i < skin.offsets()[v + 1]; i++) {
        sum += skin.weights()[i];
        used[skin.joints()[i]] |= skin.weights()[i] > 0;
      }
      if (sum <= 0) {
        none.add(v);
      } else if (Math.abs(sum - 1) > WEIGHT_SUM) {
        uneven.add(v);
      }
    }
    report(
        node,
        none,
        "vertices-without-joint",
        Severity.FIX,
        "No joint moves these vertices: they stay behind when the rest goes.",
        Offer.step("Bind them to their neighbours", "strays", Map.of("to", "near")));
    report(
        node,
        uneven,
        "weights-not-one",
        Severity.LOOK,
        "Weights do not sum to one: destinations scale them and the skin sits differently.",
        Offer.step(
            "Make them sum to 1",
            "influences",
            Map.of("most", Math.max(1, skin.mostInfluences()), "sum", "one")));
    int idle = 0;
    for (boolean u : used) {
      idle += u ? 0 : 1;
    }
    if (idle > 0) {
      findings.add(
          Finding.of(
                  "joints-without-weight",
                  Severity.NOTE,
                  node.name(),
                  "Joints in the skin move no vertex; they count against the limit of joints.")
              .measured(Figures.count(idle, "joint") + " of " + used.length)
              .at(node.id())
              .offer(
                  Offer.step("Leave them out", "joints", Map.of("keep", "used"))
                      .on(List.of(node.id()))));
    }
  }

  private void report(
      Node node, IntList vertices, String code, Severity severity, String message, Offer offer) {
    if (vertices.size() > 0) {
      int[] some = Arrays.copyOf(vertices.toArray(), Math.min(vertices.size(), Marks.MAX));
      Finding finding =
          Finding.of(code, severity, node.name(), message)
              .measured(Figures.count(vertices.size(), "vertex"))
              .at(node.id(), new Marks(node.id(), Marks.Kind.VERTICES, some));
      findings.add(finding.offer(offer.on(List.of(node.id()))));
    }
  }

  private void jointNames() {
    Set<Integer> joints = new HashSet<>();
    for (Skin skin : scene.skins()) {
      Arrays.stream(skin.jointNodeIds()).forEach(joints::add);
    }
    Map<String, List<Integer>> byName = new HashMap<>();
    for (Node node : scene.nodes()) {
      if (joints.contains(node.id())) {
        byName.computeIfAbsent(node.name(), k -> new ArrayList<>()).add(node.id());
      }
    }
    byName.forEach(
        (name, ids) -> {
          if (ids.size() > 1) {
            findings.add(
                Finding.of(
                        "joints-share-a-name",
                        Severity.FIX,
                        name,
                        "Several joints have this name: motion that finds joints by name moves"
                            + " the wrong one.")
                    .measured(Figures.count(ids.size(), "joint"))
                    .nodes(ids)
                    .offer(
                        Offer.step("Make names unique", "rename", Map.of("how", "unique"))
                            .on(ids)));
          }
        });
  }

  private void morphs(PolygonMesh mesh) {
    Node node = nodeOfMesh.get(mesh.id());
    if (node == null) {
      return;
    }
    double size = mesh.points().bounds().isEmpty() ? 0 : mesh.points().bounds().diagonal();
    for (int m = 0; m < mesh.morphs().size(); m++) {
      MorphTarget morph = mesh.morphs().get(m);
      shift(mesh, node, morph, size);
      double weight =
          node.content() instanceof Node.Content.MeshContent content
                  && content.morphWeights() != null
                  && m < content.morphWeights().length
              ? content.morphWeights()[m]
              : morph.weight();
      if (weight != 0) {
        findings.add(
            Finding.of(
                    "morph-left-on",
                    Severity.LOOK,
                    node.name() + " · " + morph.name(),
                    "The morph target is in effect at rest: exported so, it lands in the base"
                        + " shape of tools that bake it.")
                .measured(Figures.plain(100 * weight) + " %")
                .at(node.id())
                .offer(
                    rest("Set to 0", "zero", morph, node),
                    rest("Bake it in", "bake", morph, node)));
      }
    }
  }

  private static Offer rest(String label, String how, MorphTarget morph, Node node) {
    Map<String, Object> params = Map.of("how", how, "named", NamePatterns.exactly(morph.name()));
    return Offer.step(label, "morphRest", params).on(List.of(node.id()));
  }

  /** Deltas that mostly are one translation: a pose or offset was in effect when it was made. */
  private void shift(PolygonMesh mesh, Node node, MorphTarget morph, double size) {
    float[] d = morph.full().deltas();
    int n = d.length / 3;
    if (n == 0) {
      findings.add(
          Finding.of(
                  "morph-empty",
                  Severity.LOOK,
                  node.name() + " · " + morph.name(),
                  "The morph target moves nothing.")
              .at(node.id())
              .offer(
                  Offer.step(
                          "Remove it",
                          "remove",
                          Map.of("what", "morphs", "named", NamePatterns.exactly(morph.name())))
                      .on(List.of(node.id()))));
      return;
    }
    double[] common = new double[3];
    for (int k = 0; k < 3; k++) {
      double[] values = new double[n];
      for (int i = 0; i < n; i++) {
        values[i] = d[3 * i + k];
      }
      Arrays.sort(values);
      common[k] = values[n / 2];
    }
    double length =
        Math.sqrt(common[0] * common[0] + common[1] * common[1] + common[2] * common[2]);
    int same = 0;
    for (int i = 0; i < n; i++) {
      double x = d[3 * i] - common[0];
      double y = d[3 * i + 1] - common[1];
      double z = d[3 * i + 2] - common[2];
      same += x * x + y * y + z * z <= SAME_SHIFT * SAME_SHIFT * length * length ? 1 : 0;
    }
    if (length > LEAST_SHIFT * size && same >= SHIFTED_PART * mesh.points().count()) {
      findings.add(
          Finding.of(
                  "morph-shifts-all",
                  Severity.FIX,
                  node.name() + " · " + morph.name(),
                  "The morph target moves the whole body the same way: a pose or offset was in"
                      + " effect when it was made.")
              .measured(
                  Figures.length(length * scene.frame().metresPerUnit())
                      + " on "
                      + Math.round(100.0 * same / mesh.points().count())
                      + " % of vertices")
              .at(node.id())
              .offer(
                  Offer.step(
                          "Take the shift out",
                          "morphShift",
                          Map.of("named", NamePatterns.exactly(morph.name())))
                      .on(List.of(node.id()))));
    }
  }
}
