package ferry.stone.core.landing;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Track;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** A scene with one clip alone, or at rest. */
final class ClipScene {
  private static final double USUAL_RATE = 30;

  private ClipScene() {}

  /** Everything at rest. */
  static Scene atRest(Scene scene) {
    return scene.toBuilder().clips(List.of()).build();
  }

  /**
   * @param restFirst whether the clip begins with a frame of the rest pose; the rest of it is a
   *     frame later then
   */
  static Scene of(Scene scene, Clip clip, boolean restFirst) {
    return scene.toBuilder().clips(List.of(restFirst ? withRestFirst(scene, clip) : clip)).build();
  }

  /** As long as a frame of the scene's time line, of one 30th of a second where it has none. */
  static double frame(Scene scene) {
    return 1 / (scene.framesPerSecond() > 0 ? scene.framesPerSecond() : USUAL_RATE);
  }

  private static Clip withRestFirst(Scene scene, Clip clip) {
    double later = frame(scene);
    Map<Integer, Node> nodes = new HashMap<>();
    scene.nodes().forEach(n -> nodes.put(n.id(), n));
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    List<Track> tracks = new ArrayList<>();
    for (Track track : clip.tracks()) {
      double[] rest = rest(nodes.get(track.targetId()), meshes, track);
      tracks.add(after(track.held(clip.startSeconds(), clip.endSeconds()), rest, clip, later));
    }
    List<Clip.Words> words = new ArrayList<>();
    for (Clip.Words said : clip.words()) {
      double[] times = Arrays.stream(said.timesSeconds()).map(t -> t + later).toArray();
      words.add(new Clip.Words(said.targetId(), said.property(), times, said.values()));
    }
    return new Clip(
        clip.id(),
        clip.name(),
        clip.startSeconds(),
        clip.endSeconds() + later,
        tracks,
        List.of(),
        words);
  }

  /** The value at rest; the first one where that is not known. */
  private static double[] rest(Node node, Map<Integer, PolygonMesh> meshes, Track track) {
    double[] first = Arrays.copyOf(track.values(), track.components());
    if (node == null) {
      return first;
    }
    LocalTransform own = node.transform();
    Trs trs = own instanceof Trs plain ? plain : Trs.nearest(own.toMatrix());
    return switch (track.property()) {
      case Clip.TRANSLATION ->
          new double[] {trs.translation().x(), trs.translation().y(), trs.translation().z()};
      case Clip.ROTATION ->
          new double[] {
            trs.rotation().x(), trs.rotation().y(), trs.rotation().z(), trs.rotation().w()
          };
      case Clip.SCALE -> new double[] {trs.scale().x(), trs.scale().y(), trs.scale().z()};
      default -> track.isMorph() ? weight(node, meshes, track, first) : first;
    };
  }

  private static double[] weight(
      Node node, Map<Integer, PolygonMesh> meshes, Track track, double[] first) {
    if (!(node.content() instanceof Node.Content.MeshContent content)) {
      return first;
    }
    List<MorphTarget> morphs = meshes.get(content.meshId()).morphs();
    int place = MorphTarget.keys(morphs).indexOf(track.property().substring(Clip.MORPH.length()));
    double[] own = content.morphWeights();
    return place < 0
        ? first
        : new double[] {
          own != null && place < own.length ? own[place] : morphs.get(place).weight()
        };
  }

  /** The track so much later, with the value at rest at the clip's start. */
  private static Track after(Track track, double[] rest, Clip clip, double later) {
    int c = track.components();
    int keys = track.timesSeconds().length;
    double[] times = new double[keys + 1];
    times[0] = clip.startSeconds();
    for (int k = 0; k < keys; k++) {
      times[k + 1] = track.timesSeconds()[k] + later;
    }
    return new Track(
        track.targetId(),
        track.property(),
        track.interpolation(),
        c,
        times,
        before(rest, track.values()),
        track.inSlopes() == null ? null : before(new double[c], track.inSlopes()),
        track.outSlopes() == null ? null : before(new double[c], track.outSlopes()));
  }

  private static double[] before(double[] first, double[] rest) {
    double[] all = Arrays.copyOf(first, first.length + rest.length);
    System.arraycopy(rest, 0, all, first.length, rest.length);
    return all;
  }
}
