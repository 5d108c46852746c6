package ferry.stone.core.format.fbx.read;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.fbx.raw.FbxDocument;
import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.MorphTarget.Shape;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Skin;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;

/** Reads what deforms a geometry: clusters of joints, and blend shapes with their in-betweens. */
final class FbxRigReader {
  private static final double PERCENT = 100;
  private final FbxDocument document;
  private final Findings findings;

  FbxRigReader(FbxDocument document, Findings findings) {
    this.document = document;
    this.findings = findings;
  }

  private List<FbxDocument.Item> deformers(FbxDocument.Item geometry, String type) {
    return document.sources(geometry, "Deformer").stream()
        .filter(d -> d.type().equals(type))
        .toList();
  }

  /** The joints that move a geometry, whether or not they are in the scene. */
  List<FbxDocument.Item> joints(FbxDocument.Item geometry) {
    List<FbxDocument.Item> joints = new ArrayList<>();
    for (FbxDocument.Item skin : deformers(geometry, "Skin")) {
      for (FbxDocument.Item cluster : document.sources(skin, "Deformer")) {
        joints.addAll(document.sources(cluster, "Model"));
      }
    }
    return joints;
  }

  /**
   * The skin of a geometry, or {@code null} when nothing moves it.
   *
   * @param nodeIds scene's id of each model
   * @param geometric what the model that shows the geometry applies to it
   */
  Skin skin(
      FbxDocument.Item geometry,
      PolygonMesh mesh,
      int id,
      Map<Long, Integer> nodeIds,
      Matrix4d geometric) {
    List<FbxDocument.Item> clusters = new ArrayList<>();
    List<Pull> pulls = pulls(geometry, nodeIds, geometric, clusters);
    if (pulls.isEmpty()) {
      return null;
    }
    int vertices = mesh.points().count();
    addRest(geometry, clusters, pulls, nodeIds, geometric, vertices);
    int[] offsets = new int[vertices + 1];
    int bad = 0;
    for (Pull pull : pulls) {
      for (int i = 0; i < pull.count(); i++) {
        int v = pull.vertices()[i];
        bad += v < 0 || v >= vertices ? 1 : 0;
        if (counts(v, pull.weights()[i], vertices)) {
          offsets[v + 1]++;
        }
      }
    }
    if (bad > 0) {
      report(geometry, "weights-out-of-range", "Weights name vertices that are not there.", bad);
    }
    for (int v = 0; v < vertices; v++) {
      offsets[v + 1] += offsets[v];
    }
    int[] at = Arrays.copyOf(offsets, vertices);
    int[] joint = new int[offsets[vertices]];
    float[] weight = new float[offsets[vertices]];
    double[] inverseBind = new double[16 * pulls.size()];
    for (int p = 0; p < pulls.size(); p++) {
      Pull pull = pulls.get(p);
      for (int i = 0; i < pull.count(); i++) {
        if (counts(pull.vertices()[i], pull.weights()[i], vertices)) {
          int place = at[pull.vertices()[i]]++;
          joint[place] = p;
          weight[place] = (float) pull.weights()[i];
        }
      }
      pull.bind().get(inverseBind, 16 * p);
    }
    int[] nodes = pulls.stream().mapToInt(Pull::node).toArray();
    List<FbxDocument.Item> skins = deformers(geometry, "Skin");
    boolean dual =
        skins.stream().anyMatch(k -> k.record().at("SkinningType").text(0).startsWith("Dual"));
    return new Skin(
        id,
        skins.get(0).name().isEmpty() ? geometry.name() : skins.get(0).name(),
        mesh.id(),
        nodes,
        inverseBind,
        offsets,
        joint,
        weight,
        dual ? "dualQuaternion" : "linear",
        bindMatrix(clusters, geometric));
  }

  /**
   * What one joint does.
   *
   * @param node the joint's node
   * @param bind mesh space at bind to the joint's
   */
  private record Pull(int node, int[] vertices, double[] weights, Matrix4d bind) {
    int count() {
      return Math.min(vertices.length, weights.length);
    }
  }

  /** The clusters whose joints are in the scene. */
  private List<Pull> pulls(
      FbxDocument.Item geometry,
      Map<Long, Integer> nodeIds,
      Matrix4d geometric,
      List<FbxDocument.Item> clusters) {
    List<Pull> pulls = new ArrayList<>();
    for (FbxDocument.Item skin : deformers(geometry, "Skin")) {
      for (FbxDocument.Item cluster : document.sources(skin, "Deformer")) {
        Integer joint =
            document.sources(cluster, "Model").stream()
                .map(m -> nodeIds.get(m.id()))
                .filter(java.util.Objects::nonNull)
                .findFirst()
                .orElse(null);
        if (joint == null) {
          report(
              geometry,
              "joint-missing",
              "Some joints are not in the file; what they move stays.",
              1);
          continue;
        }
        FbxRecord record = cluster.record();
        clusters.add(cluster);
        pulls.add(
            new Pull(
                joint,
                record.at("Indexes").ints(),
                record.at("Weights").doubles(),
                bind(geometry, record).mul(geometric)));
      }
    }
    return pulls;
  }

  /**
   * Weights are scaled to add up to 1 unless the file says otherwise. Where the joints are to leave
   * the rest to the mesh's own place ({@code Total1}), the mesh's model pulls with that rest.
   */
  private void addRest(
      FbxDocument.Item geometry,
      List<FbxDocument.Item> clusters,
      List<Pull> pulls,
      Map<Long, Integer> nodeIds,
      Matrix4d geometric,
      int vertices) {
    boolean total = false;
    for (FbxDocument.Item cluster : clusters) {
      String mode = cluster.record().at("Mode").text(0);
      total |= mode.equals("Total1");
      if (mode.equals("Additive")) {
        report(
            geometry,
            "link-mode-additive",
            "Joints that add their motion are read as joints that share it: look at the pose.",
            1);
      }
    }
    Integer own =
        document.destinations(geometry).stream()
            .map(l -> nodeIds.get(l.item().id()))
            .filter(java.util.Objects::nonNull)
            .findFirst()
            .orElse(null);
    if (!total || own == null) {
      return;
    }
    double[] rest = new double[vertices];
    Arrays.fill(rest, 1);
    for (Pull pull : pulls) {
      for (int i = 0; i < pull.count(); i++) {
        if (counts(pull.vertices()[i], pull.weights()[i], vertices)) {
          rest[pull.vertices()[i]] -= pull.weights()[i];
        }
      }
    }
    int[] left =
        java.util.stream.IntStream.range(0, vertices).filter(v -> rest[v] > 1e-6).toArray();
    if (left.length > 0) {
      double[] weights = Arrays.stream(left).mapToDouble(v -> rest[v]).toArray();
      pulls.add(new Pull(own, left, weights, new Matrix4d(geometric)));
    }
  }

  private static boolean counts(int vertex, double weight, int vertices) {
    return vertex >= 0 && vertex < vertices && weight > 0 && Double.isFinite(weight);
  }

  /** Where the mesh's points stood at bind, by the first joint that says so. */
  private static double[] bindMatrix(List<FbxDocument.Item> clusters, Matrix4d geometric) {
    for (FbxDocument.Item cluster : clusters) {
      double[] transform = cluster.record().at("Transform").doubles();
      double[] link = cluster.record().at("TransformLink").doubles();
      if (transform.length == 16 && link.length == 16) {
        Matrix4d bind = new Matrix4d().set(link).mul(new Matrix4d().set(transform)).mul(geometric);
        return bind.isFinite() ? bind.get(new double[16]) : null;
      }
    }
    return null;
  }

  /** From the mesh's node to the joint's, at the bind pose. */
  private Matrix4d bind(FbxDocument.Item geometry, FbxRecord cluster) {
    double[] transform = cluster.at("Transform").doubles();
    if (transform.length != 16 || !Arrays.stream(transform).allMatch(Double::isFinite)) {
      report(geometry, "bind-missing", "A joint has no bind matrix: it moves nothing at rest.", 1);
      return new Matrix4d();
    }
    return new Matrix4d().set(transform);
  }

  /** Channels of the blend shapes of a geometry, in order. */
  List<FbxDocument.Item> channels(FbxDocument.Item geometry) {
    List<FbxDocument.Item> channels = new ArrayList<>();
    for (FbxDocument.Item blend : deformers(geometry, "BlendShape")) {
      document.sources(blend, "Deformer").stream()
          .filter(d -> d.type().equals("BlendShapeChannel"))
          .filter(d -> !document.sources(d, "Geometry").isEmpty())
          .forEach(channels::add);
    }
    return channels;
  }

  List<MorphTarget> morphs(FbxDocument.Item geometry, int vertices) {
    List<MorphTarget> morphs = new ArrayList<>();
    for (FbxDocument.Item channel : channels(geometry)) {
      List<FbxDocument.Item> written = document.sources(channel, "Geometry");
      double[] full = channel.record().at("FullWeights").doubles();
      List<Shape> shapes = new ArrayList<>();
      for (int s = 0; s < written.size(); s++) {
        double weight = s < full.length && full[s] > 0 ? full[s] / PERCENT : 1;
        shapes.add(shape(written.get(s), weight, vertices));
      }
      shapes.sort(java.util.Comparator.comparingDouble(Shape::fullWeight));
      double percent =
          channel
              .properties()
              .number("DeformPercent", channel.record().at("DeformPercent").number(0, 0));
      morphs.add(new MorphTarget(channel.name(), percent / PERCENT, shapes));
    }
    return morphs;
  }

  private Shape shape(FbxDocument.Item item, double weight, int vertices) {
    int[] indices = item.record().at("Indexes").ints();
    double[] deltas = item.record().at("Vertices").doubles();
    double[] normals = item.record().at("Normals").doubles();
    int count = Math.min(indices.length, deltas.length / 3);
    int kept = 0;
    int[] vertex = new int[count];
    float[] moves = new float[3 * count];
    boolean turned = normals.length >= 3 * count && Arrays.stream(normals).anyMatch(n -> n != 0);
    float[] turns = turned ? new float[3 * count] : null;
    for (int i = 0; i < count; i++) {
      if (indices[i] < 0 || indices[i] >= vertices) {
        continue;
      }
      vertex[kept] = indices[i];
      for (int k = 0; k < 3; k++) {
        moves[3 * kept + k] = (float) deltas[3 * i + k];
        if (turned) {
          turns[3 * kept + k] = (float) normals[3 * i + k];
        }
      }
      kept++;
    }
    if (kept < count) {
      report(
          item, "shape-out-of-range", "A shape moves vertices that are not there.", count - kept);
    }
    return new Shape(
        weight,
        Arrays.copyOf(vertex, kept),
        Arrays.copyOf(moves, 3 * kept),
        turned ? Arrays.copyOf(turns, 3 * kept) : null);
  }

  private void report(FbxDocument.Item item, String code, String message, int count) {
    findings.add(
        Finding.of(code, Severity.LOOK, item.name(), message)
            .measured(Figures.count(count, "place")));
  }
}
