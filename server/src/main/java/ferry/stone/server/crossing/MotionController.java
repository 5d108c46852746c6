package ferry.stone.server.crossing;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.math.Frame;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.motion.MotionApart;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.view.PointFrames;
import ferry.stone.core.view.PreviewCurves;
import ferry.stone.core.view.PreviewMotion;
import ferry.stone.core.view.PreviewTracks;
import ferry.stone.core.view.SideView;
import ferry.stone.server.jobs.JobService;
import ferry.stone.server.web.NotFoundException;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.concurrent.atomic.AtomicReference;
import org.joml.Matrix4d;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/**
 * Motion of the states of a crossing: to play, as curves and tracks, and two of them compared. A
 * clip is named by its id on the near side; in other states it is the one that came of it.
 */
@RestController
@RequestMapping("/api/crossings/{id}")
public class MotionController {
  private final StateService states;
  private final SceneService scenes;
  private final JobService jobs;

  public MotionController(StateService states, SceneService scenes, JobService jobs) {
    this.states = states;
    this.scenes = scenes;
    this.jobs = jobs;
  }

  /** A scene with the clip of it that is meant. */
  private record Played(Scene scene, Clip clip, Matrix4d toView) {}

  /**
   * @param state see {@link StateService}; {@code far} is the same as {@code now}
   */
  private Played played(String id, String state, int clip) throws IOException, FormatException {
    Scene near = scenes.scenes(id).near();
    Scene scene =
        state.equals("near") ? near : states.scene(id, state.equals("far") ? "now" : state);
    Matrix4d toView = state.equals("near") ? new Matrix4d() : SideView.farToView(scene);
    return new Played(scene, clip(near, scene, clip), toView);
  }

  private static Clip clip(Scene near, Scene scene, int clip) {
    List<Clip> all = Caches.timeline(scene);
    for (Clip own : all) {
      if (own.id() == clip) {
        return own;
      }
    }
    List<Clip> before = Caches.timeline(near);
    for (int i = 0; i < before.size(); i++) {
      if (before.get(i).id() == clip) {
        String name = before.get(i).name();
        int place = i;
        // Another cache has another name: then it is the one in the same place.
        return all.stream()
            .filter(c -> c.name().equals(name))
            .findFirst()
            .or(() -> all.stream().skip(Math.min(place, Math.max(0, all.size() - 1))).findFirst())
            .orElseThrow(MotionController::gone);
      }
    }
    throw gone();
  }

  private static NotFoundException gone() {
    return new NotFoundException("This clip is not there any more.");
  }

  /**
   * Frames of a clip as {@link PreviewMotion} lays them out, from one on, as many as a block holds.
   */
  @GetMapping(path = "/motion", produces = MediaType.APPLICATION_OCTET_STREAM_VALUE)
  public byte[] motion(
      @PathVariable String id,
      @RequestParam String side,
      @RequestParam int clip,
      @RequestParam(defaultValue = "0") int from)
      throws IOException, FormatException {
    Played played = played(id, side, clip);
    return PreviewMotion.of(
        played.scene(), played.clip(), played.toView(), from, scenes.scenes(id).shapes());
  }

  /**
   * Positions of point caches in some frames of a clip as {@link PointFrames} lays them out, for
   * motion that the page does not hold whole.
   */
  @GetMapping(path = "/points", produces = MediaType.APPLICATION_OCTET_STREAM_VALUE)
  public byte[] points(
      @PathVariable String id,
      @RequestParam String side,
      @RequestParam int clip,
      @RequestParam int from,
      @RequestParam(defaultValue = "1") int count)
      throws IOException, FormatException {
    Played played = played(id, side, clip);
    return PointFrames.of(played.scene(), played.clip(), from, count, scenes.scenes(id).shapes());
  }

  /** Curves of a clip on one part, sampled at its frames. */
  @GetMapping("/curves")
  public PreviewCurves curves(
      @PathVariable String id,
      @RequestParam String side,
      @RequestParam int clip,
      @RequestParam int node)
      throws IOException, FormatException {
    Played played = played(id, side, clip);
    return PreviewCurves.of(played.scene(), played.clip(), node);
  }

  /** What moves in a clip, part by part. */
  @GetMapping("/tracks")
  public PreviewTracks tracks(
      @PathVariable String id, @RequestParam String side, @RequestParam int clip)
      throws IOException, FormatException {
    Played played = played(id, side, clip);
    return PreviewTracks.of(played.scene(), played.clip());
  }

  /**
   * How far two states lie apart over a clip. The spots are places in each state's view.
   *
   * @param a state whose time line counts
   * @param b the other
   * @param sameSpot whether both are put on one spot at each moment first
   * @param starts whether both start together, whatever their seconds
   * @param node part that is compared, −1 for all
   */
  @GetMapping("/apart")
  public MotionApart apart(
      @PathVariable String id,
      @RequestParam String a,
      @RequestParam String b,
      @RequestParam int clip,
      @RequestParam(defaultValue = "false") boolean sameSpot,
      @RequestParam(defaultValue = "false") boolean starts,
      @RequestParam(defaultValue = "-1") int node)
      throws IOException, FormatException {
    Played one = played(id, a, clip);
    Played other = played(id, b, clip);
    MotionApart.Side first = new MotionApart.Side(one.scene(), one.clip());
    MotionApart.Side second = new MotionApart.Side(other.scene(), other.clip());
    double rate = Caches.rate(one.scene());
    AtomicReference<MotionApart> found = new AtomicReference<>();
    try {
      jobs.here(
          "compare",
          id,
          "Comparing motions",
          progress ->
              found.set(MotionApart.of(first, second, rate, sameSpot, starts, node, progress)));
      MotionApart apart = found.get();
      return new MotionApart(
          apart.seconds(),
          apart.most(),
          apart.mean(),
          MotionApart.through(apart.spots(), toView(one)),
          MotionApart.through(apart.otherSpots(), toView(other)),
          apart.parts(),
          apart.left());
    } catch (UncheckedIOException e) {
      throw e.getCause();
    }
  }

  /** From metres, in which motions are compared, to what a view shows. */
  private static Matrix4d toView(Played played) {
    Matrix4d metres = played.scene().frame().matrixTo(Frame.Y_UP_METRE);
    return new Matrix4d(played.toView()).mul(metres.invert());
  }
}
