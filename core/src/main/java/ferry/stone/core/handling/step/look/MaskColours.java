package ferry.stone.core.handling.step.look;

import ferry.stone.core.field.Field;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.handling.step.surface.ChosenMeshes;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.work.Progress;
import java.awt.Color;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * Colours faces by their material, set or part, each in a flat colour of its own: masks by which
 * the next tool tells them apart.
 */
public final class MaskColours extends BasicStep<MaskColours.Params> {
  private static final String NONE = "(none)";
  private static final int LONGEST = 120;

  /** Hues a golden section apart stay apart however many there are. */
  private static final float GOLDEN = 0.618034f;

  private static final float[] FULLNESS = {1f, 0.6f, 0.8f, 0.45f};
  private static final float[] BRIGHTNESS = {1f, 0.9f, 0.65f, 0.45f};

  private static final Field BY =
      Field.choice(
          "by",
          "A colour for each",
          "What is told apart.",
          "material",
          "material",
          "set",
          "set of faces",
          "part",
          "part");

  /**
   * @param by {@code material}, {@code set} or {@code part}
   * @param name of the set of colours
   * @param first whether it becomes the first set
   */
  public record Params(String by, String name, boolean first) {
    public Params {
      by = BY.chosen(by);
      name = name == null ? "" : name.strip();
      if (name.isEmpty() || name.length() > LONGEST) {
        throw new IllegalArgumentException("the set's name must have 1 to 120 characters");
      }
    }
  }

  public MaskColours() {
    super(
        Group.LOOK,
        "maskColours",
        "Colour faces as masks",
        "Gives faces a flat vertex colour for each material, set of faces or part, for the next"
            + " tool to tell them apart. The colours are listed with the step.",
        Params.class,
        true,
        BY,
        Field.text("name", "Name of the set", "mask", "A set of this name is replaced."),
        Field.flag("first", "First set", true, "The first is drawn, and lands everywhere."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    ChosenMeshes chosen = ChosenMeshes.of(scene, selection);
    List<PolygonMesh> meshes = scene.meshes().stream().filter(chosen::has).toList();
    Map<Integer, String[]> namesOf = new LinkedHashMap<>();
    TreeSet<String> names = new TreeSet<>();
    for (PolygonMesh mesh : meshes) {
      progress.checkCancelled();
      String[] of = names(scene, mesh, params.by());
      namesOf.put(mesh.id(), of);
      names.addAll(Arrays.asList(of));
    }
    if (names.isEmpty()) {
      return StepResult.of(scene, "no faces");
    }
    Map<String, Integer> rows = new LinkedHashMap<>();
    float[] values = new float[4 * names.size()];
    List<Finding> findings = new ArrayList<>();
    Set<Integer> used = new HashSet<>();
    for (String name : names) {
      int row = rows.size();
      rows.put(name, row);
      int rgb = colour(row);
      while (!used.add(rgb)) {
        rgb = rgb + 1 & 0xffffff;
      }
      for (int c = 0; c < 3; c++) {
        double stored = (rgb >> 16 - 8 * c & 0xff) / 255.0;
        values[4 * row + c] =
            (float) (scene.linearColours() ? ColourSpace.toLinear(stored) : stored);
      }
      values[4 * row + 3] = 1;
      findings.add(
          Finding.of("mask-colour", Severity.NOTE, name, "Its faces have this colour.")
              .measured(String.format("#%06x", rgb)));
    }
    List<PolygonMesh> all =
        scene.meshes().stream()
            .map(
                m ->
                    namesOf.containsKey(m.id())
                        ? coloured(m, namesOf.get(m.id()), rows, values, params)
                        : m)
            .toList();
    return new StepResult(
        scene.toBuilder().meshes(all).build(), findings, Figures.count(names.size(), "colour"));
  }

  /** Red, green and blue of 8 bits, apart from each other. */
  private static int colour(int row) {
    int turn = row / FULLNESS.length % FULLNESS.length;
    float hue = row * GOLDEN % 1;
    return Color.HSBtoRGB(
            hue, FULLNESS[row % FULLNESS.length], BRIGHTNESS[(row + turn) % BRIGHTNESS.length])
        & 0xffffff;
  }

  private static String[] names(Scene scene, PolygonMesh mesh, String by) {
    String[] of = new String[mesh.faces().faceCount()];
    if (by.equals("part")) {
      Arrays.fill(of, mesh.name());
      return of;
    }
    Arrays.fill(of, NONE);
    if (by.equals("set")) {
      for (FaceSet set : mesh.faceSets()) {
        for (int face : set.faces()) {
          of[face] = set.name();
        }
      }
      return of;
    }
    for (int f = 0; f < of.length; f++) {
      of[f] = scene.material(mesh.materialOf(f)).map(Material::name).orElse(NONE);
    }
    return of;
  }

  private static PolygonMesh coloured(
      PolygonMesh mesh, String[] names, Map<String, Integer> rows, float[] values, Params params) {
    int[] indices = new int[mesh.faces().cornerCount()];
    for (int f = 0; f < names.length; f++) {
      Arrays.fill(indices, mesh.faces().start(f), mesh.faces().end(f), rows.get(names[f]));
    }
    Attribute mask =
        new Attribute(params.name(), Semantic.COLOUR, Attribute.Domain.CORNER, 4, values, indices);
    List<Attribute> layers = new ArrayList<>(mesh.attributes());
    layers.removeIf(a -> a.semantic() == Semantic.COLOUR && a.name().equals(params.name()));
    layers.add(params.first() ? 0 : layers.size(), mask);
    return mesh.withAttributes(layers);
  }
}
