package ferry.stone.core.routine;

import ferry.stone.core.TestFiles;
import ferry.stone.core.geometry.Solids;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.math.Frame;
import ferry.stone.core.proof.FaultScene;
import ferry.stone.core.routine.RunRecord.Verdict;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Table;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.TreeMap;

/** Forty assets of eight kinds, sound ones and faulty ones, with the verdict that each deserves. */
public final class FortyAssets {
  /** The routine that they go through: markers go, all stands on the ground, a GLB lands. */
  public static final String ROUTINE =
      """
      {"schema":1,"id":"forty","name":"Forty","unit":"cm","up":"y","shore":"y-up-metre",
       "steps":[{"kind":"remove","params":{"what":"parts"},"pattern":"marker*"},{"kind":"ground"}],
       "landings":[{"format":"glb"}]}
      """;

  private static final int EACH = 5;
  private static final byte[] OBJ =
      ("o crate\nv 0 0 0\nv 100 0 0\nv 100 0 50\nv 0 0 50\nvn 0 1 0\nf 1//1 4//1 3//1 2//1\n"
              + "o marker\nv 0 9 0\nv 9 9 0\nv 9 9 9\nf 5//1 7//1 6//1\n")
          .getBytes(java.nio.charset.StandardCharsets.UTF_8);

  private final Path folder;
  private final TreeMap<String, Verdict> wanted = new TreeMap<>();

  private FortyAssets(Path folder) {
    this.folder = folder;
  }

  /** Writes them into a folder; the verdicts by the names of the assets. */
  public static TreeMap<String, Verdict> write(Path folder) throws Exception {
    Files.createDirectories(folder);
    FortyAssets all = new FortyAssets(folder);
    for (int i = 1; i <= EACH; i++) {
      all.sound(i);
      all.faulty(i);
    }
    return all.wanted;
  }

  private void sound(int i) throws Exception {
    // Triangles from one GLB to another: nothing need change.
    landed(boxes(i, true), "crate-" + i, "glb", Verdict.KEPT);
    // Four corners a face are three in a GLB.
    file("slab-" + i + ".obj", OBJ, Verdict.CHANGED);
    landed(marked(FaultScene.with(FaultScene.Fault.NONE)), "buoy-" + i, "fbx", Verdict.CHANGED);
  }

  private void faulty(int i) throws Exception {
    // There is no marker to take away.
    landed(boxes(i, false), "plain-" + i, "glb", Verdict.UNMATCHED);
    byte[] whole = bytes(boxes(i, true), "torn", "glb").bytes("torn.glb");
    file("torn-" + i + ".glb", Arrays.copyOf(whole, whole.length - 40), Verdict.REFUSED);
    file("letter-" + i + ".fbx", "Dear ferryman,\n".getBytes(), Verdict.REFUSED);
    String dyed = "mtllib none.mtl\nusemtl dye\n" + new String(OBJ);
    Path own = Files.createDirectories(folder.resolve("dyed-" + i));
    Files.writeString(own.resolve("dyed.obj"), dyed.replace("none.mtl", "dyed.mtl"));
    Files.writeString(own.resolve("dyed.mtl"), "newmtl dye\nmap_Kd gone.png\n");
    wanted.put("dyed-" + i, Verdict.LOST);
    // A layer of texts has no place in a GLB.
    Scene scene = boxes(i, true);
    PolygonMesh mesh = scene.meshes().get(0);
    Table names = new Table.Texts(new String[mesh.points().count()]);
    Arrays.fill(((Table.Texts) names).texts(), "oak");
    Attribute layer =
        new Attribute("wood", Attribute.Semantic.OTHER, Attribute.Domain.VERTEX, names, null);
    List<PolygonMesh> meshes = new java.util.ArrayList<>(scene.meshes());
    meshes.set(0, mesh.withAttributes(List.of(layer)));
    landed(scene.toBuilder().meshes(meshes).build(), "label-" + i, "usda", Verdict.LOST);
  }

  private void file(String name, byte[] bytes, Verdict verdict) throws IOException {
    Files.write(folder.resolve(name), bytes);
    wanted.put(name.substring(0, name.indexOf('.')), verdict);
  }

  private void landed(Scene scene, String name, String format, Verdict verdict) throws Exception {
    TestFiles out = bytes(scene, name, format);
    for (String path : out.paths()) {
      Path place = folder.resolve(path);
      Files.createDirectories(place.getParent());
      Files.write(place, out.bytes(path));
    }
    wanted.put(name, verdict);
  }

  private static TestFiles bytes(Scene scene, String name, String format) throws Exception {
    TestFiles out = new TestFiles();
    LandingOptions options = LandingOptions.of(format);
    Landing.write(scene, options, name, new TestFiles(), out, Progress.NONE);
    return out;
  }

  private static SceneBuilder builder(String name) {
    SceneBuilder scene = new SceneBuilder(name);
    scene.nextId(1000);
    return scene.frame(Frame.Y_UP_METRE, FrameSource.STATED, FrameSource.STATED);
  }

  private static Scene boxes(int i, boolean marker) {
    SceneBuilder scene = builder("boxes");
    for (int k = 0; k < (marker ? 2 : 1); k++) {
      PolygonMesh box = Solids.box(1 + i, 1 + k, 1);
      scene.add(box.toBuilder().id(100 + k).name(k == 0 ? "crate" : "marker").build());
      scene.add(Node.of(200 + k, k == 0 ? "crate" : "marker", -1, Content.MeshContent.of(100 + k)));
    }
    return ferry.stone.core.geometry.triangle.Triangulate.all(scene.build());
  }

  private static Scene marked(Scene scene) {
    List<Node> nodes = new java.util.ArrayList<>(scene.nodes());
    nodes.add(Node.of(900, "marker", -1, Content.GROUP));
    return scene.toBuilder().nodes(nodes).build();
  }
}
