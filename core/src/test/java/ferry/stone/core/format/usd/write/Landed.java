package ferry.stone.core.format.usd.write;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.usd.read.UsdReader;
import ferry.stone.core.format.usd.write.UsdOptions.Container;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.work.Progress;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/** A scene that is made in a few words, written as text and read again. */
abstract class Landed {
  final SceneBuilder scene =
      new SceneBuilder("yard").frame(Frame.Y_UP_METRE, FrameSource.STATED, FrameSource.STATED);
  final Findings said = new Findings();
  TestFiles files = new TestFiles();
  String text = "";

  int mesh(String name) {
    int id = scene.newId();
    float[] points = {0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0};
    scene.add(
        PolygonMesh.of(
            id,
            name,
            Coordinates.of(points),
            Polygons.of(new int[] {0, 1, 2, 0, 2, 3}, new int[] {0, 3, 6})));
    return id;
  }

  /** A material that says nothing but its name. */
  int material(String name) {
    int id = scene.newId();
    scene.add(
        new Material(
            id,
            name,
            Material.Shading.METALLIC_ROUGHNESS,
            Map.of(),
            Material.Alpha.OPAQUE,
            0.5,
            false,
            Map.of()));
    return id;
  }

  int node(String name, int parent, Content content) {
    return scene.add(Node.of(scene.newId(), name, parent, content));
  }

  int group(String name, int parent) {
    return node(name, parent, Content.GROUP);
  }

  Trs moved(double x, double y, double z) {
    return Trs.of(new Vector3d(x, y, z), new Quaterniond(), new Vector3d(1));
  }

  Scene written() throws Exception {
    return written(new UsdOptions(Container.TEXT, 0, "", false));
  }

  Scene written(UsdOptions options) throws Exception {
    TestFiles out = new TestFiles();
    String main =
        UsdWriter.write(
            scene.build(),
            options,
            new SceneWriter.Target("yard", files, out, said, Progress.NONE));
    text = new String(out.bytes(main), StandardCharsets.UTF_8);
    files = out;
    return UsdReader.read(main, ReadContext.of(out));
  }

  List<String> codes() {
    return said.list().stream().map(Finding::code).toList();
  }
}
