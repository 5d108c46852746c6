package ferry.stone.core.format.gltf.write;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.gltf.raw.GltfExtensions;
import ferry.stone.core.format.gltf.raw.GltfPointers;
import ferry.stone.core.motion.MorphTracks;
import ferry.stone.core.motion.TrackValues;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Interpolation;
import ferry.stone.core.scene.time.Clip.Track;
import ferry.stone.core.texture.ColourSpace;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** Writes clips, each track with its own keys and interpolation. */
final class GltfAnimations {
  private final Scene scene;
  private final GltfBuffer buffer;
  private final Findings findings;
  private final Map<Integer, Integer> places;
  private final GltfPlaces elements;
  private final Set<String> extensions;
  private final Map<Integer, PolygonMesh> meshes;
  private final Map<ByteBuffer, Integer> timesWritten = new HashMap<>();

  GltfAnimations(
      Scene scene,
      GltfBuffer buffer,
      GltfPlaces elements,
      Set<String> extensions,
      Findings findings) {
    this.elements = elements;
    this.extensions = extensions;
    this.scene = scene;
    this.buffer = buffer;
    this.findings = findings;
    places = elements.nodes();
    meshes = scene.meshesById();
  }

  void write(ObjectNode root) {
    for (Clip clip : scene.clips()) {
      // Keys before 0 are not allowed: such a clip is moved to begin at 0.
      double shift = Math.max(0, -clip.startSeconds());
      List<Track> tracks = tracks(clip);
      holdEnds(tracks, clip);
      if (tracks.isEmpty()) {
        findings.add(
            Finding.of(
                "clip-not-written",
                Severity.FIX,
                clip.name(),
                "The clip moves nothing that glTF can move: it is left out."));
        continue;
      }
      ObjectNode json = root.withArray("animations").addObject();
      if (!clip.name().isEmpty()) {
        json.put("name", clip.name());
      }
      ArrayNode channels = json.putArray("channels");
      ArrayNode samplers = json.putArray("samplers");
      for (Track track : tracks) {
        ObjectNode channel = channels.addObject();
        channel.put("sampler", samplers.size());
        sampler(samplers.addObject(), target(channel.putObject("target"), track), shift);
      }
      if (shift > 0) {
        findings.add(
            Finding.of(
                "clip-shifted",
                Severity.LOOK,
                clip.name(),
                "glTF has no time before 0: the clip was moved by " + shift + " s."));
      }
    }
  }

  /** Says what the track moves; the track as it is written. */
  private Track target(ObjectNode json, Track track) {
    if (isOfNode(track)) {
      json.put("node", places.get(track.targetId())).put("path", track.property());
      return track;
    }
    Map.Entry<String, Double> pointer = pointer(track).orElseThrow();
    extensions.add(GltfExtensions.POINTER);
    json.put("path", "pointer")
        .withObject("/extensions/" + GltfExtensions.POINTER)
        .put("pointer", pointer.getKey());
    return colour(track).scaled(1 / pointer.getValue());
  }

  /** Colours of materials are linear in glTF, and the base colour has its opacity beside it. */
  private Track colour(Track track) {
    if (!track.property().startsWith(Clip.MATERIAL)) {
      return track;
    }
    Channel channel = Channel.valueOf(track.property().substring(Clip.MATERIAL.length()));
    if (!channel.isColour() || scene.linearColours()) {
      return track;
    }
    Track linear = TrackValues.through(track, ColourSpace::toLinear);
    if (channel != Channel.BASE_COLOUR || track.components() != 3) {
      return linear;
    }
    double opacity =
        scene.material(track.targetId()).map(m -> m.factor(Channel.OPACITY, 1)[0]).orElse(1.0);
    int keys = linear.timesSeconds().length;
    double[] rgba = new double[4 * keys];
    for (int k = 0; k < keys; k++) {
      System.arraycopy(linear.values(), 3 * k, rgba, 4 * k, 3);
      rgba[4 * k + 3] = opacity;
    }
    return new Track(
        track.targetId(),
        track.property(),
        linear.interpolation(),
        4,
        linear.timesSeconds(),
        rgba,
        null,
        null);
  }

  private static boolean isOfNode(Track track) {
    return track.isTransform() || track.property().equals("weights");
  }

  private Optional<Map.Entry<String, Double>> pointer(Track track) {
    GltfPointers.Kind kind = elements.kind(track.targetId());
    return kind == null
        ? Optional.empty()
        : GltfPointers.write(kind, elements.index(track.targetId()), track.property());
  }

  /** The tracks that glTF has; morph weights are joined for each node. */
  private List<Track> tracks(Clip clip) {
    List<Track> result = new ArrayList<>();
    Map<Integer, List<Track>> weights = new LinkedHashMap<>();
    for (Track track : clip.tracks()) {
      boolean node = places.containsKey(track.targetId());
      if (node && track.isMorph() && MorphTracks.hasTarget(scene, track)) {
        weights.computeIfAbsent(track.targetId(), k -> new ArrayList<>()).add(track);
      } else if (node && track.isTransform() || pointer(track).isPresent()) {
        result.add(track);
      } else {
        findings.add(
            Finding.of(
                "track-not-carried",
                Severity.FIX,
                clip.name(),
                "The motion of " + track.property() + " has no place in glTF: it is left out."));
      }
    }
    weights.forEach(
        (nodeId, list) -> {
          Node node = scene.nodes().get(places.get(nodeId));
          if (node.content() instanceof Node.Content.MeshContent content) {
            result.add(MorphTracks.join(node, meshes.get(content.meshId()), list));
          }
        });
    return result;
  }

  /**
   * A clip lasts from its first key to its last: one track holds its ends for the whole range. It
   * is one of a node where there is any, since many programs know no others.
   */
  private static void holdEnds(List<Track> tracks, Clip clip) {
    if (tracks.isEmpty()) {
      return;
    }
    List<Track> known = tracks.stream().filter(GltfAnimations::isOfNode).toList();
    double first = Double.POSITIVE_INFINITY;
    double last = Double.NEGATIVE_INFINITY;
    for (Track track : known.isEmpty() ? tracks : known) {
      first = Math.min(first, track.timesSeconds()[0]);
      last = Math.max(last, track.timesSeconds()[track.timesSeconds().length - 1]);
    }
    if (first > clip.startSeconds() || last < clip.endSeconds()) {
      int held = known.isEmpty() ? 0 : tracks.indexOf(known.get(0));
      tracks.set(held, tracks.get(held).held(clip.startSeconds(), clip.endSeconds()));
    }
  }

  private void sampler(ObjectNode json, Track track, double shift) {
    int n = track.components();
    int keys = track.timesSeconds().length;
    json.put("input", times(track.timesSeconds(), shift));
    boolean cubic = track.interpolation() == Interpolation.CUBIC;
    json.put(
        "interpolation",
        cubic ? "CUBICSPLINE" : track.interpolation() == Interpolation.STEP ? "STEP" : "LINEAR");
    float[] values = new float[keys * n * (cubic ? 3 : 1)];
    boolean rotation = track.property().equals(Clip.ROTATION);
    for (int k = 0; k < keys; k++) {
      double length = 1;
      if (rotation && !cubic) {
        length = 0;
        for (int c = 0; c < n; c++) {
          length += track.values()[n * k + c] * track.values()[n * k + c];
        }
        length = length > 0 ? Math.sqrt(length) : 1;
      }
      for (int c = 0; c < n; c++) {
        int at = n * k + c;
        if (cubic) {
          values[3 * n * k + c] = (float) track.inSlopes()[at];
          values[3 * n * k + n + c] = (float) track.values()[at];
          values[3 * n * k + 2 * n + c] = (float) track.outSlopes()[at];
        } else {
          values[at] = (float) (track.values()[at] / length);
        }
      }
    }
    json.put(
        "output",
        track.property().equals(Clip.VISIBLE)
            ? buffer.addFlags(values)
            : buffer.addNumbers(values, track.property().equals("weights") ? 1 : n, false));
  }

  /** Equal key times are written once. */
  private int times(double[] seconds, double shift) {
    float[] times = new float[seconds.length];
    for (int i = 0; i < times.length; i++) {
      times[i] = (float) (seconds[i] + shift);
      if (i > 0 && times[i] <= times[i - 1]) {
        // Keys closer than a float can tell stay in order.
        times[i] = Math.nextUp(times[i - 1]);
      }
    }
    ByteBuffer key = ByteBuffer.allocate(4 * times.length);
    key.asFloatBuffer().put(times);
    return timesWritten.computeIfAbsent(key, k -> buffer.addNumbers(times, 1, true));
  }
}
