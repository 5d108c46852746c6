package ferry.stone.e2e;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.format.fbx.FbxCapabilities;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.texture.PbrMaterial;
import ferry.stone.core.texture.PbrTranslation;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Predicate;

/** Differences that another reader sees in a landed file and that the proof does not tell. */
final class Untold {
  private static final double REST = 1e-4;
  private static final double MOVING = 1e-3;
  private static final double FACTOR = 0.003;

  private final String reader;
  private final Expected expected;
  private final JsonNode seen;
  private final Proof proof;
  private final List<String> found = new ArrayList<>();

  Untold(String reader, Expected expected, JsonNode seen, Proof proof) {
    this.reader = reader;
    this.expected = expected;
    this.seen = seen;
    this.proof = proof;
  }

  List<String> list() {
    if (seen.has("problem")) {
      found.add(reader + " cannot read it: " + seen.path("problem").asText());
      return found;
    }
    seen.path("warnings").forEach(w -> found.add(reader + " warns: " + w.asText()));
    nodes();
    if (seen.path("nodes").path(0).has("at")) {
      origins();
    }
    meshes();
    materials();
    clips();
    if (seen.has("cameras")) {
      count("cameras", expected.scene().cameras().size());
      count("lights", expected.scene().lights().size());
    }
    return found;
  }

  private void differs(boolean differs, String what, Predicate<LedgerRow> tells) {
    boolean told =
        proof.rows().stream().anyMatch(r -> r.verdict() != LedgerRow.Verdict.KEPT && tells.test(r));
    if (differs && !told) {
      found.add(reader + ": " + what);
    }
  }

  private void nodes() {
    Map<String, Integer> counts = new TreeMap<>();
    expected.paths().forEach(p -> counts.merge(p, 1, Integer::sum));
    seen.path("nodes").forEach(n -> counts.merge(n.path("path").asText(), -1, Integer::sum));
    counts.values().removeIf(n -> n == 0);
    differs(
        !counts.isEmpty(),
        "nodes differ: " + counts,
        r -> r.fact().startsWith("Nodes as") || r.fact().startsWith("Names and"));
  }

  private void origins() {
    Map<String, Deque<JsonNode>> there = new HashMap<>();
    seen.path("nodes")
        .forEach(
            n -> there.computeIfAbsent(n.path("path").asText(), k -> new ArrayDeque<>()).add(n));
    double size = expected.size();
    for (int i = 0; i < expected.paths().size(); i++) {
      Deque<JsonNode> same = there.get(expected.paths().get(i));
      if (same == null || same.isEmpty()) {
        continue;
      }
      double[] own = expected.origins()[i];
      double off = off(own, same.poll().path("at"));
      differs(
          off > REST * Math.max(size, Math.abs(own[0]) + Math.abs(own[1]) + Math.abs(own[2])),
          "origin of " + expected.paths().get(i) + " is off by " + off + " m",
          r -> r.fact().startsWith("Origins"));
    }
  }

  private static double off(double[] own, JsonNode there) {
    double most = 0;
    for (int k = 0; k < own.length; k++) {
      double d = Math.abs(own[k] - there.path(k).asDouble(Double.NaN));
      // What is nowhere on our side need not be anywhere there.
      most = Double.isFinite(own[k]) ? Math.max(most, Double.isNaN(d) ? 1e9 : d) : most;
    }
    return most;
  }

  private static String name(String path) {
    return path.substring(path.lastIndexOf('/') + 1);
  }

  /** The seen mesh for each expected one: by path, by name, by the name of a child made for it. */
  private static JsonNode[] matched(List<Expected.Mesh> meshes, JsonNode seen) {
    List<JsonNode> left = new ArrayList<>();
    seen.forEach(left::add);
    JsonNode[] result = new JsonNode[meshes.size()];
    for (int pass = 0; pass < 4; pass++) {
      for (int i = 0; i < result.length; i++) {
        String path = meshes.get(i).path();
        for (int j = 0; result[i] == null && j < left.size(); j++) {
          String there = left.get(j).path("path").asText();
          boolean fits =
              switch (pass) {
                case 0 -> there.equals(path);
                case 1 -> there.endsWith("/" + path);
                case 2 -> name(there).equals(name(path));
                default -> name(there).equals(name(path) + "_shape");
              };
          if (fits) {
            result[i] = left.remove(j);
          }
        }
      }
    }
    return result;
  }

  private void meshes() {
    JsonNode[] there = matched(expected.meshes(), seen.path("meshes"));
    for (int i = 0; i < there.length; i++) {
      Expected.Mesh own = expected.meshes().get(i);
      Predicate<LedgerRow> part = r -> r.group().equals(own.path());
      if (there[i] == null) {
        differs(
            true,
            own.path() + " is not there",
            part.or(r -> r.about() == Capability.DETAIL_LEVELS));
        continue;
      }
      if (there[i].has("box")) {
        double off = off(own.box(), there[i].path("box"));
        differs(
            off > REST * expected.size(),
            own.path() + " is off by " + off + " m",
            part.or(r -> r.fact().startsWith("Vertices under"))
                .or(r -> r.group().equals("Whole scene")));
      }
      Map<String, Long> counts = new TreeMap<>();
      there[i]
          .path("triangles")
          .fields()
          .forEachRemaining(e -> counts.put(e.getKey(), e.getValue().asLong()));
      differs(
          !counts.equals(own.triangles()),
          own.path() + " has triangles " + counts + ", not " + own.triangles(),
          r ->
              r.fact().startsWith("Faces on")
                  || r.group().equals(own.path()) && r.fact().equals("Faces")
                  || r.about() == Capability.NO_UVS);
      List<String> morphs = new ArrayList<>();
      there[i].path("morphs").forEach(m -> morphs.add(m.asText()));
      differs(
          !morphs.equals(own.morphs()),
          own.path() + " has targets " + morphs + ", not " + own.morphs(),
          r -> r.fact().startsWith("Morph targets of"));
    }
  }

  private void materials() {
    Set<String> used = new HashSet<>();
    expected.meshes().forEach(m -> used.addAll(m.triangles().keySet()));
    Map<String, Integer> times = new HashMap<>();
    expected.scene().materials().forEach(m -> times.merge(m.name(), 1, Integer::sum));
    for (Material material : expected.scene().materials()) {
      // Names that several have cannot be told apart by these readers.
      if (!used.contains(material.name()) || times.get(material.name()) > 1) {
        continue;
      }
      JsonNode there = null;
      for (JsonNode m : seen.path("materials")) {
        there = m.path("name").asText().equals(material.name()) ? m : there;
      }
      Predicate<LedgerRow> rows =
          r -> r.group().equals("Material " + material.name()) || r.group().equals("Materials");
      if (there == null) {
        differs(true, "material " + material.name() + " is not there", rows);
      } else if (reader.equals("ufbx")) {
        ufbx(material, there, rows);
      } else if (there.has("maps")) {
        gltf(material, there, rows);
      }
    }
  }

  private void gltf(Material m, JsonNode there, Predicate<LedgerRow> rows) {
    PbrMaterial pbr = PbrTranslation.translate(m, expected.scene().linearColours());
    String what = "material " + m.name() + ": ";
    colour(what + "base colour", pbr.baseColour(), there.path("base"), rows);
    number(what + "metallic", pbr.metallic(), there.path("metallic").asDouble(), rows);
    number(what + "roughness", pbr.roughness(), there.path("roughness").asDouble(), rows);
    double[] e = pbr.emissive().clone();
    for (int k = 0; k < 3; k++) {
      e[k] *= pbr.emissiveStrength();
    }
    colour(what + "emission", e, there.path("emissive"), rows);
    number(what + "opacity", pbr.baseColour()[3], there.path("opacity").asDouble(), rows);
    differs(m.doubleSided() != there.path("double").asBoolean(), what + "both sides differ", rows);
    JsonNode maps = there.path("maps");
    flag(what + "colour map", pbr.base() != null || pbr.opacity() != null, maps.path("map"), rows);
    flag(
        what + "normal map",
        pbr.normal() != null || pbr.bump() != null,
        maps.path("normalMap"),
        rows);
    flag(what + "emission map", pbr.emissiveMap() != null, maps.path("emissiveMap"), rows);
    flag(
        what + "roughness map",
        pbr.roughnessMap() != null
            || pbr.metallicMap() != null
            || pbr.packed() != null
            || pbr.shininess() != null,
        maps.path("roughnessMap"),
        rows);
  }

  private void ufbx(Material m, JsonNode there, Predicate<LedgerRow> rows) {
    boolean classic = m.shading() == Material.Shading.PHONG;
    String what = "material " + m.name() + ": ";
    JsonNode base = there.path(classic ? "diffuse" : "base");
    double[] own = m.factor(Channel.BASE_COLOUR, 1, 1, 1);
    boolean tinted =
        m.get(Channel.BASE_COLOUR)
            .map(v -> FbxCapabilities.tint(Channel.BASE_COLOUR, v) != null)
            .orElse(false);
    double[] coded = new double[3];
    for (int k = 0; k < 3; k++) {
      coded[k] =
          tinted ? 1 : expected.scene().linearColours() ? ColourSpace.toSrgb(own[k]) : own[k];
    }
    colour(what + "base colour", coded, base.path("value"), rows);
    flag(
        what + "colour map",
        m.texture(Channel.BASE_COLOUR).isPresent(),
        base.path("texture"),
        rows);
    if (classic) {
      return;
    }
    for (Channel channel : List.of(Channel.METALLIC, Channel.ROUGHNESS)) {
      JsonNode value = there.path(channel.name().toLowerCase(java.util.Locale.ROOT));
      boolean image =
          m.get(channel).map(v -> FbxCapabilities.tint(channel, v) != null).orElse(false);
      if (m.factor(channel, (double[]) null) != null) {
        number(
            what + channel.label(),
            image ? 1 : m.factor(channel, 1)[0],
            value.path("value").path(0).asDouble(),
            rows);
      }
      flag(
          what + channel.label() + " map",
          m.texture(channel).isPresent(),
          value.path("texture"),
          rows);
    }
    flag(
        what + "normal map",
        m.texture(Channel.NORMAL).isPresent(),
        there.at("/normal/texture"),
        rows);
    flag(
        what + "emission map",
        m.texture(Channel.EMISSIVE).isPresent(),
        there.at("/emissive/texture"),
        rows);
  }

  private void colour(String what, double[] own, JsonNode there, Predicate<LedgerRow> rows) {
    for (int k = 0; k < 3; k++) {
      double off = Math.abs(own[k] - there.path(k).asDouble(Double.NaN));
      differs(!(off <= FACTOR), what + " " + own[k] + " is " + there, rows);
    }
  }

  private void number(String what, double own, double there, Predicate<LedgerRow> rows) {
    differs(!(Math.abs(own - there) <= FACTOR), what + " " + own + " is " + there, rows);
  }

  private void flag(String what, boolean own, JsonNode there, Predicate<LedgerRow> rows) {
    boolean is = there.isBoolean() ? there.asBoolean() : !there.isNull() && !there.isMissingNode();
    differs(own != is, what + (own ? " is not there" : " is there"), rows);
  }

  private void clips() {
    Scene scene = expected.scene();
    List<JsonNode> left = new ArrayList<>();
    seen.path("clips").forEach(left::add);
    for (Clip clip : scene.clips()) {
      JsonNode there = null;
      for (int i = 0; there == null && i < left.size(); i++) {
        there = left.get(i).path("name").asText().equals(clip.name()) ? left.remove(i) : null;
      }
      // three lists no clip without motion.
      boolean still = reader.equals("three, FBX") && clip.tracks().isEmpty();
      if (there == null) {
        differs(
            !still,
            "clip " + clip.name() + " is not there",
            r -> r.fact().equals("Clip " + clip.name()));
        continue;
      }
      double seconds = clip.endSeconds() - clip.startSeconds();
      differs(
          Math.abs(there.path("seconds").asDouble() - seconds) > 1e-3
              && !reader.equals("three, FBX"),
          "clip " + clip.name() + " lasts " + there.path("seconds") + " s, not " + seconds,
          r -> r.fact().equals("Length of " + clip.name()));
      for (JsonNode pose : there.path("poses")) {
        if (!reader.equals("ufbx") || allMoveTheSame(scene)) {
          moving(clip, pose);
        }
      }
    }
    differs(!left.isEmpty(), "more clips: " + left, r -> r.fact().equals("Clips"));
  }

  /**
   * Whether all clips move the same values. Where they do not, ufbx 0.11.5 takes for a value that
   * one clip leaves alone the curve of the element after it (seen with rigs of two clips: its
   * evaluation runs past the element's own curves). Such rigs land once more with one clip.
   */
  private static boolean allMoveTheSame(Scene scene) {
    Set<Set<String>> moved = new HashSet<>();
    for (Clip clip : scene.clips()) {
      Set<String> own = new HashSet<>();
      clip.tracks().forEach(t -> own.add(t.targetId() + "/" + t.property()));
      moved.add(own);
    }
    return moved.size() < 2;
  }

  private void moving(Clip clip, JsonNode pose) {
    List<double[]> own = expected.boxes(clip, pose.path("part").asDouble());
    JsonNode[] there = matched(expected.meshes(), pose.path("boxes"));
    for (int i = 0; i < there.length; i++) {
      if (there[i] != null) {
        double off = off(own.get(i), there[i].path("box"));
        boolean cached = expected.isCached(i);
        differs(
            off > MOVING * expected.size(),
            expected.meshes().get(i).path()
                + " is off by "
                + off
                + " m at "
                + pose.path("part")
                + " of "
                + clip.name(),
            r ->
                r.fact().equals("Vertices during " + clip.name())
                    || r.about() == Capability.OTHER_MOTION
                    || cached && r.about() == Capability.POINT_CACHES);
      }
    }
  }

  private void count(String what, int own) {
    int there = seen.path(what).asInt();
    differs(
        own != there,
        there + " " + what + ", not " + own,
        r -> r.group().equals("Cameras and lights"));
  }
}
