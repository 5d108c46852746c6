package ferry.stone.core.survey;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Marks;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.geometry.triangle.FaceSizes;
import ferry.stone.core.geometry.uv.UvOverlap;
import ferry.stone.core.geometry.uv.UvPlacing;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.util.List;
import java.util.Map;

/** Normals and UVs of one shown mesh. */
final class LayerChecks {
  private static final double NORMAL_ANGLE = 40;
  private static final double NORMAL_LENGTH = 0.05;
  private static final double AGAINST_PART = 0.01;

  private final Scene.ShownMesh shown;
  private final PolygonMesh mesh;
  private final Polygons faces;
  private final Findings findings;
  private final MeshReport report;

  LayerChecks(Scene.ShownMesh shown, Findings findings) {
    this.shown = shown;
    this.findings = findings;
    report = new MeshReport(shown, findings);
    mesh = shown.mesh();
    faces = mesh.faces();
  }

  private Offer computeNormals() {
    return Offer.step("Compute normals", "normals", Map.of("angle", NORMAL_ANGLE))
        .on(List.of(report.node()));
  }

  /** Normals of no length. */
  private void lengths(Attribute layer) {
    int broken = 0;
    for (int i = 0; i + 2 < layer.values().length; i += layer.components()) {
      double x = layer.values()[i];
      double y = layer.values()[i + 1];
      double z = layer.values()[i + 2];
      double length = Math.sqrt(x * x + y * y + z * z);
      broken += Math.abs(length - 1) <= NORMAL_LENGTH ? 0 : 1;
    }
    if (broken > 0) {
      findings.add(
          Finding.of(
                  "normals-broken",
                  Severity.FIX,
                  shown.path(),
                  "Normals that have not the length 1, or are no numbers: shading is wrong there.")
              .measured(Figures.count(broken, "normal"))
              .at(report.node())
              .offer(computeNormals()));
    }
  }

  /** Finds the faces that normals look away from, face by face. */
  private FaceSizes.Look against(Attribute layer, IntList against) {
    float[] values = layer.values();
    int components = layer.components();
    int count = layer.valueCount();
    int[] named = layer.domain() == Attribute.Domain.CORNER ? layer.indices() : null;
    return (f, n) -> {
      int start = faces.start(f);
      int away = 0;
      for (int c = start; c < faces.end(f); c++) {
        int value = named != null ? named[c] : layer.valueOf(c, faces.vertex(c), f);
        if (value >= 0 && value < count) {
          int at = components * value;
          double dot = n.x * values[at] + n.y * values[at + 1] + n.z * values[at + 2];
          away += dot < 0 ? 1 : 0;
        }
      }
      if (away > 0 && away == faces.size(f)) {
        against.add(f);
      }
    };
  }

  private void tellAgainst(IntList against) {
    if (against.size() > AGAINST_PART * faces.faceCount()) {
      report.elements(
          "normals-against-faces",
          Severity.LOOK,
          against,
          1,
          Marks.Kind.FACES,
          "face",
          "Normals look away from their faces: these look lit from behind.",
          Offer.step("Compute normals", "normals", Map.of("angle", NORMAL_ANGLE)));
    }
  }

  void uvs() {
    if (faces.faceCount() == 0) {
      return;
    }
    if (mesh.first(Semantic.UV).isEmpty()) {
      findings.add(
          Finding.of(
                  "no-uvs",
                  Severity.NOTE,
                  shown.path(),
                  "The mesh has no UVs: textures cannot sit.")
              .at(shown.node().id())
              .offer(uvs("Lay out UVs from six sides", "box"), uvs("Tiling, 1 m a tile", "tile")));
    } else {
      missingCorners(mesh.first(Semantic.UV).get(), "missing-uvs", "UV");
      outsideSquare(mesh.first(Semantic.UV).get());
      overlaps(mesh.first(Semantic.UV).get());
    }
  }

  /** Looks at the normals, and on the way at how large the faces are. */
  FaceSizes normals() {
    Attribute layer = mesh.first(Semantic.NORMAL).orElse(null);
    if (layer != null && faces.faceCount() > 0) {
      missingCorners(layer, "missing-normals", "normal");
      lengths(layer);
      IntList against = new IntList(16);
      FaceSizes sizes = FaceSizes.of(mesh, against(layer, against));
      tellAgainst(against);
      return sizes;
    }
    if (faces.faceCount() > 0 && mesh.smoothing() == null && mesh.hardEdges() == null) {
      findings.add(
          Finding.of(
                  "no-normals",
                  Severity.LOOK,
                  shown.path(),
                  "The mesh has no normals: it will look faceted.")
              .at(report.node())
              .offer(computeNormals()));
    }
    return FaceSizes.of(mesh);
  }

  private void missingCorners(Attribute layer, String code, String what) {
    if (layer.indices() == null) {
      return;
    }
    int missing = 0;
    for (int index : layer.indices()) {
      missing += index < 0 ? 1 : 0;
    }
    if (missing > 0) {
      Finding finding =
          Finding.of(code, Severity.FIX, shown.path(), "Some face corners have no " + what + ".")
              .measured(Figures.count(missing, "corner"))
              .at(shown.node().id());
      findings.add(
          finding.offer(
              what.equals("normal") ? computeNormals() : uvs("Lay out the missing UVs", "fill")));
    }
  }

  private Offer uvs(String label, String how) {
    return Offer.step(label, "uvs", Map.of("how", how)).on(List.of(report.node()));
  }

  /** Another set without overlaps is one for baking. */
  private boolean hasSetApart() {
    return mesh.all(Semantic.UV).stream()
        .skip(1)
        .anyMatch(uv -> UvOverlap.of(mesh, uv).part() <= UvOverlap.WORTH_TELLING);
  }

  private void overlaps(Attribute uv) {
    UvOverlap overlap = UvOverlap.of(mesh, uv);
    if (overlap.part() > UvOverlap.WORTH_TELLING && !hasSetApart()) {
      findings.add(
          Finding.of(
                  "uvs-overlap",
                  Severity.NOTE,
                  shown.path(),
                  "UVs lie over each other: fine for mirrored or tiled textures, a fault for baked"
                      + " ones.")
              .measured(Math.round(100 * overlap.part()) + " % of the used square")
              .at(report.node(), report.marks(overlap.faces(), 1, Marks.Kind.FACES))
              .offer(
                  Offer.step(
                          "Add a set side by side",
                          "uvs",
                          Map.of("how", "pack", "named", "side by side"))
                      .on(List.of(report.node()))));
    }
  }

  private Offer[] intoSquare(Attribute uv) {
    Offer fit = uvs("Fit the set into the square", "fit");
    return UvPlacing.fitTiles(mesh, uv)
        ? new Offer[] {uvs("Move islands by whole tiles", "tiles"), fit}
        : new Offer[] {fit, uvs("Pack the islands", "pack")};
  }

  private void outsideSquare(Attribute uv) {
    int outside = 0;
    int bad = 0;
    for (int i = 0; i + 1 < uv.values().length; i += 2) {
      float u = uv.values()[i];
      float v = uv.values()[i + 1];
      bad += Float.isFinite(u + v) ? 0 : 1;
      outside += u < -1e-4f || u > 1.0001f || v < -1e-4f || v > 1.0001f ? 1 : 0;
    }
    if (outside > 0) {
      findings.add(
          Finding.of(
                  "uvs-outside",
                  Severity.NOTE,
                  shown.path(),
                  "UVs lie outside the 0–1 square: fine for tiling, a fault for baked textures.")
              .measured(Figures.count(outside) + " of " + Figures.count(uv.valueCount()) + " UVs")
              .at(shown.node().id())
              .offer(intoSquare(uv)));
    }
    if (bad > 0) {
      findings.add(
          Finding.of(
                  "uvs-not-numbers",
                  Severity.FIX,
                  shown.path(),
                  "UVs that are not numbers land as 0.")
              .measured(Figures.count(bad, "UV"))
              .at(shown.node().id())
              .offer(
                  Offer.step(
                          "Remove the UV set",
                          "remove",
                          Map.of("what", "uvs", "named", NamePatterns.exactly(uv.name())))
                      .on(List.of(shown.node().id()))));
    }
  }
}
