package ferry.stone.core.format.usd.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.ValidNames;
import ferry.stone.core.format.usd.write.look.ImagesOut;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** What of meshes, skins, looks and clips a stage has no place for, in words. */
final class NotWritten {
  private final Scene scene;
  private final Clip clip;
  private final boolean inLayers;
  private final boolean inPackage;
  private final Findings said = new Findings();

  private NotWritten(Scene scene, Clip clip, boolean inLayers, boolean inPackage) {
    this.scene = scene;
    this.clip = clip;
    this.inLayers = inLayers;
    this.inPackage = inPackage;
  }

  /**
   * @param clip that is written, {@code null} for none
   * @param inLayers whether the others get layers of their own
   * @param inPackage whether all files are in one package
   */
  static List<Finding> of(Scene scene, Clip clip, boolean inLayers, boolean inPackage) {
    NotWritten all = new NotWritten(scene, clip, inLayers, inPackage);
    all.meshes();
    all.levels();
    all.relationships();
    if (inPackage) {
      scene.nodes().forEach(n -> all.files(n.name(), n.properties()));
      scene.materials().forEach(m -> all.files(m.name(), m.properties()));
    }
    all.skins();
    all.clips();
    return all.said.list();
  }

  private void meshes() {
    for (PolygonMesh mesh : scene.meshes()) {
      boolean faces = mesh.faces().faceCount() > 0;
      boolean lines = mesh.loose() != null && mesh.loose().lineCount() > 0;
      boolean points = mesh.loose() != null && mesh.loose().points().length > 0;
      if (faces && lines) {
        lost("lines-not-carried", mesh.name(), "A shape is faces or lines: its lines do not land.");
      }
      if (points && (faces || lines)) {
        lost("points-not-carried", mesh.name(), "Points beside faces or lines do not land.");
      }
    }
  }

  private void levels() {
    int coarser = 0;
    Set<Integer> seen = new HashSet<>();
    for (Node node : scene.nodes()) {
      boolean level =
          node.parent() >= 0
              && scene.nodes().get(node.parent()).content() instanceof Content.DetailGroup;
      coarser += level && !seen.add(node.parent()) ? 1 : 0;
    }
    if (coarser > 0) {
      said.add(
          Finding.of(
                  "levels-as-variants",
                  Severity.LOOK,
                  "",
                  "Detail levels are variants of their group: other programs show the finest until"
                      + " another is chosen.")
              .measured(Figures.count(coarser, "level")));
    }
  }

  /** Files that values name and a package may not hold. */
  private void files(String where, Map<?, ?> values) {
    values.forEach(
        (name, value) -> {
          boolean named = String.valueOf(name).endsWith(UsdNames.FILES);
          if (named && value instanceof Map<?, ?> found) {
            found.keySet().forEach(file -> file(where, String.valueOf(file)));
          } else if (name.equals(UsdNames.FILES_OF) && value instanceof Map<?, ?> all) {
            all.values().stream()
                .filter(f -> f instanceof Map)
                .forEach(
                    f -> ((Map<?, ?>) f).keySet().forEach(x -> file(where, String.valueOf(x))));
          } else if (value instanceof Map<?, ?> below) {
            files(where, below);
          }
        });
  }

  private void file(String where, String path) {
    if (!ImagesOut.isForPackages(path)) {
      lost(
          "file-not-in-package",
          where + ", " + path,
          "A package may not hold such a file: its path lands without it. Land layers instead.");
    }
  }

  /** Relationships whose ends have other names by now. */
  private void relationships() {
    Set<String> there = new HashSet<>();
    for (String path : scene.paths()) {
      StringBuilder valid = new StringBuilder();
      for (String name : path.split("/", -1)) {
        valid.append('/').append(ValidNames.of(name));
      }
      there.add(valid.toString());
    }
    for (Node node : scene.nodes()) {
      if (node.properties().get(UsdNames.TYPES) instanceof Map<?, ?> types) {
        types.forEach(
            (name, type) -> {
              if (type.equals(UsdNames.RELATIONSHIP)
                  && node.properties().get(name) instanceof List<?> ends
                  && !there.containsAll(ends.stream().map(NotWritten::prim).toList())) {
                said.add(
                    Finding.of(
                        "relationship-leads-nowhere",
                        Severity.LOOK,
                        node.name() + ", " + name,
                        "What it leads to is no part of that name now: it lands as it was"
                            + " written."));
              }
            });
      }
    }
  }

  private static String prim(Object end) {
    String path = String.valueOf(end);
    int dot = path.indexOf('.');
    return dot < 0 ? path : path.substring(0, dot);
  }

  private void skins() {
    for (Skin skin : scene.skins()) {
      int none = 0;
      for (int v = 0; v + 1 < skin.offsets().length; v++) {
        none += skin.offsets()[v] == skin.offsets()[v + 1] ? 1 : 0;
      }
      if (none > 0) {
        said.add(
            Finding.of(
                    "vertices-given-a-joint",
                    Severity.LOOK,
                    skin.name(),
                    "Vertices that no joint moves follow the first joint of the skeleton.")
                .measured(Figures.count(none, "vertex")));
      }
    }
  }

  private void clips() {
    for (Clip other : scene.clips()) {
      if (other != clip && inLayers) {
        said.add(
            Finding.of(
                "clip-in-layer",
                Severity.NOTE,
                other.name(),
                "A stage has one time line: this clip is a file of its own, above the same shapes"
                    + " and looks."));
      } else if (other != clip) {
        lost(
            "clip-not-chosen",
            other.name(),
            "A stage has one time line: this clip does not land. Land each clip as a layer of its own.");
      }
    }
    for (Clip each : scene.clips()) {
      List<Clip.Track> tracks = each.tracks().stream().filter(t -> !HeldMotion.carries(t)).toList();
      if (!tracks.isEmpty()) {
        said.add(
            Finding.of(
                    "track-not-carried",
                    Severity.FIX,
                    each.name() + ", " + tracks.get(0).property(),
                    "The format has no motion of such a value: it is left out.")
                .measured(Figures.count(tracks.size(), "track")));
      }
    }
    boolean curved =
        clip != null
            && clip.tracks().stream()
                .anyMatch(
                    t -> t.interpolation() == Clip.Interpolation.CUBIC && HeldMotion.carries(t));
    if (curved) {
      said.add(
          Finding.of(
              "motion-sampled",
              Severity.NOTE,
              clip.name(),
              "Its curves are written as samples; between two of them it runs straight."));
    }
  }

  private void lost(String code, String where, String message) {
    said.add(Finding.of(code, Severity.FIX, where, message));
  }
}
