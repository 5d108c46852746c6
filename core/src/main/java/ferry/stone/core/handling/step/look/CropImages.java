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
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/**
 * Cuts away what no face shows of the images of materials, pixel by pixel, and moves the UVs along.
 * Images shared with another material are cut for each by itself.
 */
public final class CropImages extends BasicStep<CropImages.Params> {
  /**
   * @param margin pixels that stay around what is shown, of the smallest image of a material
   * @param least percent of the pixels that have to go
   */
  public record Params(double margin, double least) {
    public Params {
      Field.within("margin", margin, 0, 256);
      Field.within("least", least, 1, 99);
    }
  }

  public CropImages() {
    super(
        Group.LOOK,
        "cropImages",
        "Crop images",
        "Cuts away what no face of the chosen parts shows of their images, and moves the UVs"
            + " along. Every pixel that stays is as it was.",
        Params.class,
        true,
        Field.number("margin", "Margin", "px", 0, 256, 4, "Stays around what is shown."),
        Field.number(
            "least", "Worth it from", "%", 1, 99, 10, "Materials that would lose less stay."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    List<Finding> findings = new ArrayList<>();
    Set<Integer> several = SeveralLooks.of(scene);
    ChosenMeshes chosen = ChosenMeshes.of(scene, selection);
    Map<Integer, CropPart> parts = new LinkedHashMap<>();
    Set<Integer> others = new HashSet<>();
    ImageSlots slots = new ImageSlots(scene);
    for (PolygonMesh mesh : scene.meshes()) {
      boolean taken = chosen.has(mesh) && !several.contains(mesh.id());
      for (int f = 0; f < mesh.faces().faceCount(); f++) {
        int id = mesh.materialOf(f);
        if (!taken) {
          others.add(id);
        } else if (id >= 0) {
          parts
              .computeIfAbsent(id, k -> new CropPart(scene, scene.material(k).orElseThrow(), slots))
              .add(mesh, f);
        }
      }
    }
    // What faces elsewhere show as well is not known here.
    parts.keySet().removeAll(others);
    Map<Integer, CropPart> cropped = new HashMap<>();
    long before = 0;
    long after = 0;
    for (Map.Entry<Integer, CropPart> entry : parts.entrySet()) {
      progress.checkCancelled();
      CropPart part = entry.getValue();
      String why = part.refused();
      if (why != null) {
        findings.add(told("images-stay", Severity.LOOK, part, "Its images stay: " + why + ".", ""));
        continue;
      }
      if (!part.fit((int) params.margin()) || part.saved() * 100 < params.least()) {
        continue;
      }
      before += part.pixels();
      after += Math.round(part.pixels() * (1 - part.saved()));
      part.crop();
      cropped.put(entry.getKey(), part);
      String saved = String.format(Locale.ROOT, "%.0f %% of their pixels", 100 * part.saved());
      findings.add(
          told("images-cropped", Severity.NOTE, part, "What no face shows was cut away.", saved));
    }
    if (cropped.isEmpty()) {
      return new StepResult(scene, findings, "nothing to cut away");
    }
    Scene made = slots.scene();
    List<PolygonMesh> meshes = new ArrayList<>();
    for (PolygonMesh mesh : made.meshes()) {
      boolean taken = chosen.has(mesh) && !several.contains(mesh.id());
      meshes.add(taken ? CropPart.moved(mesh, cropped) : mesh);
    }
    String figure =
        Figures.count(cropped.size(), "material")
            + String.format(Locale.ROOT, " · %.2f → %.2f megapixels", before / 1e6, after / 1e6);
    return new StepResult(made.toBuilder().meshes(meshes).build(), findings, figure);
  }

  private static Finding told(
      String code, Severity severity, CropPart part, String message, String measured) {
    return Finding.of(code, severity, part.name(), message).measured(measured);
  }
}
