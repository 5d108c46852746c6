package ferry.stone.core.format.abc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.StoppedProgress;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.SceneReader;
import ferry.stone.core.format.files.MemoryFiles;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Subdivision;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Visibility;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.CancelledException;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/** {@code yard.abc} and what the standard's own library reads in it; see {@code make-yard.py}. */
class AbcReaderTest {
  private static byte[] resource(String name) throws IOException {
    try (InputStream in = AbcReaderTest.class.getResourceAsStream("/abc/" + name)) {
      return in.readAllBytes();
    }
  }

  private static ReadContext context(byte[] bytes) {
    return ReadContext.of(new MemoryFiles(Map.of("yard.abc", bytes)));
  }

  private static Scene read(byte[] bytes) throws IOException, FormatException {
    return AbcFormat.ABC.reader().orElseThrow().read("yard.abc", context(bytes));
  }

  private static Scene yard() throws IOException, FormatException {
    return read(resource("yard.abc"));
  }

  private static Node node(Scene scene, String path) {
    return scene.nodes().get(scene.paths().indexOf(path));
  }

  private static PolygonMesh mesh(Scene scene, String path) {
    Node.Content.MeshContent content = (Node.Content.MeshContent) node(scene, path).content();
    return scene.mesh(content.meshId()).orElseThrow();
  }

  @Test
  void partsAndTheirMeshesAreThoseOfTheStandardsOwnLibrary() throws Exception {
    Scene scene = yard();
    JsonNode told = new ObjectMapper().readTree(resource("yard.json"));
    int meshes = 0;
    for (JsonNode object : told.get("objects")) {
      String path = object.get("path").asText();
      if (object.get("schema").asText().contains("FaceSet")) {
        continue;
      }
      assertThat(scene.paths()).contains(path);
      if (object.has("faces")) {
        PolygonMesh mesh = mesh(scene, path);
        meshes++;
        assertThat(mesh.points().count()).as(path).isEqualTo(object.get("vertices").asInt());
        assertThat(mesh.faces().faceCount()).as(path).isEqualTo(object.get("faces").asInt());
        assertThat(mesh.faces().triangleCount()).isEqualTo(object.get("triangles").asInt());
      }
    }
    assertThat(meshes).isEqualTo(4);
    assertThat(scene.nodes()).hasSize(12);
    JsonNode box = told.get("sceneBoundingBox");
    assertThat(scene.framesPerSecond()).isEqualTo(24);
    // The library's box is of the first moment, when all stand as at rest.
    for (int c = 0; c < 3; c++) {
      double low = box.get("min").get(c).asDouble();
      double high = box.get("max").get(c).asDouble();
      assertThat(scene.bounds().min(c)).isCloseTo(low, within(1e-6));
      assertThat(scene.bounds().max(c)).isCloseTo(high, within(1e-6));
    }
  }

  @Test
  void facesTurnTheirFrontToTheOutsideWithTheirCorners() throws Exception {
    PolygonMesh plank = mesh(yard(), "yard/plank");
    int[] corners = {0, 1, 2, 3, 3, 2, 4};
    Attribute uv = plank.first(Semantic.UV).orElseThrow();
    // Written clockwise as 0 3 2 1, 3 4 2, with UVs of the same indices.
    float[][] values = {{0, 0}, {1, 0}, {1, 1}, {0, 1}, {0.5f, 1}};
    for (int c = 0; c < corners.length; c++) {
      assertThat(plank.faces().vertex(c)).isEqualTo(corners[c]);
      int row = uv.indices()[c];
      assertThat(uv.table().number(row, 0)).isEqualTo(values[corners[c]][0]);
      assertThat(uv.table().number(row, 1)).isEqualTo(values[corners[c]][1]);
    }
    assertThat(uv.domain()).isEqualTo(Domain.CORNER);
    assertThat(plank.first(Semantic.NORMAL).orElseThrow().table().number(0, 2)).isEqualTo(1);
    assertThat(plank.faceSets()).singleElement().matches(s -> s.name().equals("oak"));
    assertThat(plank.faceSets().get(0).faces()).containsExactly(1);
  }

  @Test
  void pointsThatMoveAreACacheAndFacesThatChangeASequence() throws Exception {
    Scene scene = yard();
    assertThat(scene.caches()).hasSize(1);
    PointCache cache = Caches.of(scene, mesh(scene, "yard/plank").id());
    assertThat(cache.sampleCount()).isEqualTo(5);
    assertThat(cache.timeSeconds(4)).isCloseTo(5 / 24.0, within(1e-12));
    float[] last = new float[3];
    cache.read(4, 4, 1, last);
    assertThat(last).containsExactly(1, 2.5f, 0);
    assertThat(scene.sequences()).hasSize(1);
    MeshSequence mist = scene.sequences().get(0);
    assertThat(mist.timeSeconds(0)).isEqualTo(-1);
    assertThat(mist.mesh(0).faces().faceCount()).isZero();
    assertThat(mist.mesh(1).faces().faceCount()).isEqualTo(1);
    assertThat(mist.mesh(2).faces().faceCount()).isEqualTo(2);
    assertThat(mist.mesh(2).points().count()).isEqualTo(5);
  }

  @Test
  void partsMoveAndLeaveTheirParentsWhenTheySaySo() throws Exception {
    Scene scene = yard();
    Clip clip = scene.clips().get(0);
    assertThat(clip.startSeconds()).isEqualTo(-1);
    assertThat(clip.endSeconds()).isCloseTo(5 / 24.0, within(1e-12));
    Node yard = node(scene, "yard");
    Vector3d place = yard.transform().toMatrix().getTranslation(new Vector3d());
    assertThat(place.distance(0, 2, 3)).isLessThan(1e-9);
    Clip.Track track =
        clip.tracks().stream()
            .filter(t -> t.targetId() == yard.id() && t.property().equals(Clip.TRANSLATION))
            .findFirst()
            .orElseThrow();
    assertThat(track.timesSeconds()).hasSize(3);
    assertThat(track.values()).containsExactly(0, 2, 3, 1, 2, 3, 2, 2, 3);
    assertThat(yard.properties())
        .containsEntry("berth", "Hafen Süd")
        .containsEntry("depth", -7)
        .containsEntry("draught", 1.5)
        .containsEntry("lit", true)
        .containsEntry("flag", "Öl")
        .containsEntry("stops", List.of("quay", "", "mole"));
  }

  /** The window of the picture is the one that the standard's own library makes of it. */
  @Test
  void theFilmBackMovesAndWidensThePicture() throws Exception {
    Camera eye = read(resource("film.abc")).cameras().get(0);
    double half = 18;
    double right = (eye.lens().shiftX() + eye.lens().gateWidth() / 2) / half;
    double left = (eye.lens().shiftX() - eye.lens().gateWidth() / 2) / half;
    double top = (eye.lens().shiftY() + eye.lens().gateHeight() / 2) / half;
    double bottom = (eye.lens().shiftY() - eye.lens().gateHeight() / 2) / half;
    assertThat(right).isCloseTo(2.65, within(1e-6));
    assertThat(left).isCloseTo(-1.35, within(1e-6));
    assertThat(top).isCloseTo(2.1666667, within(1e-6));
    assertThat(bottom).isCloseTo(-1.8333333, within(1e-6));
    assertThat(eye.lens().focalLength(eye.verticalAngleRadians())).isCloseTo(35, within(1e-6));
  }

  @Test
  void whatIsSeenWhenIsRead() throws Exception {
    Scene scene = yard();
    Node plank = node(scene, "yard/plank");
    assertThat(plank.visibility()).isEqualTo(Visibility.SHOWN);
    Clip.Track seen =
        scene.clips().get(0).tracks().stream()
            .filter(t -> t.targetId() == plank.id() && t.property().equals(Clip.VISIBLE))
            .findFirst()
            .orElseThrow();
    assertThat(seen.values()).containsExactly(1, 0, 1);
    assertThat(seen.interpolation()).isEqualTo(Clip.Interpolation.STEP);
  }

  @Test
  void surfacesPointsCurvesAndCamerasAreRead() throws Exception {
    Scene scene = yard();
    Subdivision buoy = mesh(scene, "buoy").subdivision();
    assertThat(buoy.scheme()).isEqualTo("catmullClark");
    assertThat(buoy.creaseEdges()).containsExactly(0, 1);
    assertThat(buoy.creaseSharpness()).containsExactly(2.5f);
    assertThat(buoy.creaseVertices()).containsExactly(2);
    assertThat(buoy.vertexSharpness()).containsExactly(4f);
    assertThat(mesh(scene, "spray").loose().points()).containsExactly(0, 1);
    assertThat(mesh(scene, "rope").loose().lineOffsets()).containsExactly(0, 3, 5);
    assertThat(mesh(scene, "rope").loose().form()).isNull();
    Camera eye = scene.cameras().get(0);
    assertThat(Math.toDegrees(eye.verticalAngleRadians())).isCloseTo(37.8492888, within(1e-6));
    assertThat(eye.aspect()).isCloseTo(1.5, within(1e-9));
    assertThat(eye.near()).isEqualTo(0.5);
    assertThat(eye.far()).isEqualTo(500);
    assertThat(eye.lens().gateWidth()).isCloseTo(36, within(1e-9));
    assertThat(eye.lens().fStop()).isEqualTo(5.6);
    Clip.Track zoom =
        scene.clips().get(0).tracks().stream()
            .filter(t -> t.property().equals(Clip.CAMERA_ANGLE))
            .findFirst()
            .orElseThrow();
    assertThat(zoom.timesSeconds()).containsExactly(0.1, 0.2);
    assertThat(zoom.values()[1]).isCloseTo(2 * Math.atan(24 / 2.0 / 50), within(1e-12));
  }

  @Test
  void aCopyIsReadAsACopy() throws Exception {
    Scene scene = yard();
    assertThat(mesh(scene, "second yard/plank")).isSameAs(mesh(scene, "yard/plank"));
    assertThat(scene.copies().get(0).nodeIds())
        .containsExactly(node(scene, "yard").id(), node(scene, "second yard").id());
  }

  @Test
  void whatDoesNotFollowItsParentStandsWhereItStoodAndIsSaid() throws Exception {
    ReadContext context = context(resource("yard.abc"));
    Scene scene = AbcFormat.ABC.reader().orElseThrow().read("yard.abc", context);
    assertThat(context.findings().list())
        .filteredOn(f -> f.code().equals("place-not-inherited"))
        .extracting(Finding::where)
        .containsExactly("yard.abc /yard/crane");
    int crane = scene.paths().indexOf("yard/crane");
    // The yard moves along X and turns under it; the crane's own place is the world's.
    double[] along = {5, 6, 6};
    for (int sample = 0; sample < along.length; sample++) {
      Pose pose = Pose.at(scene, scene.clips().get(0), (1 + sample) / 24.0);
      Vector3d place = pose.world()[crane].getTranslation(new Vector3d());
      assertThat(place.distance(along[sample], 0, 0)).as("sample " + sample).isLessThan(1e-9);
    }
  }

  @Test
  void readingCanBeStopped() throws Exception {
    MemoryFiles files = new MemoryFiles(Map.of("yard.abc", resource("yard.abc")));
    Progress stopped = new StoppedProgress();
    ReadContext context = new ReadContext(files, Map.of(), new Findings(), stopped);
    SceneReader reader = AbcFormat.ABC.reader().orElseThrow();
    assertThatThrownBy(() -> reader.read("yard.abc", context))
        .isInstanceOf(CancelledException.class);
  }

  @Test
  void anOlderContainerIsToldInASentence() {
    byte[] older = new byte[600];
    byte[] mark = {(byte) 0x89, 'H', 'D', 'F', '\r', '\n', 0x1a, '\n'};
    System.arraycopy(mark, 0, older, 0, mark.length);
    assertThatThrownBy(() -> read(older)).hasMessageContaining("older container (HDF5)");
    assertThatThrownBy(() -> read(new byte[0])).hasMessageContaining("empty (0 bytes)");
    assertThatThrownBy(() -> read("no archive".getBytes(StandardCharsets.UTF_8)))
        .hasMessageContaining("does not begin with \"Ogawa\"");
  }

  @Test
  void whateverIsWrongInTheFileThereIsASceneOrASentence() throws Exception {
    byte[] whole = resource("yard.abc");
    int scenes = 0;
    for (int at = 0; at < whole.length; at += 3) {
      byte[] damaged = whole.clone();
      damaged[at] ^= (byte) (1 << at % 8);
      try {
        Scene scene = read(damaged);
        scene.bounds();
        scenes++;
      } catch (FormatException e) {
        assertThat(e.getMessage()).startsWith("yard.abc");
      }
    }
    assertThat(scenes).isGreaterThan(100);
  }
}
