package ferry.stone.core.geometry;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertSame;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.geometry.mesh.EdgeTable;
import ferry.stone.core.geometry.mesh.FaceTurns;
import ferry.stone.core.geometry.mesh.MeshMeasure;
import ferry.stone.core.geometry.mesh.MeshMove;
import ferry.stone.core.geometry.mesh.Weld;
import ferry.stone.core.geometry.mesh.Winding;
import ferry.stone.core.geometry.uv.UvOverlap;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Skin;
import java.util.BitSet;
import java.util.List;
import java.util.Random;
import org.joml.Matrix4d;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/** Welding, turning faces and baking matrices, on solids whose measures have closed forms. */
class SurfaceStepsTest {
  private static final Weld.Options CLOSE = new Weld.Options(1e-3, false, true);

  /** Every face with vertices of its own, shaken by less than a distance. */
  private static PolygonMesh apart(PolygonMesh mesh, double shake, Random random) {
    int corners = mesh.faces().cornerCount();
    float[] p = new float[3 * corners];
    int[] c = new int[corners];
    int[] offsets = new int[mesh.faces().faceCount() + 1];
    for (int f = 0; f < mesh.faces().faceCount(); f++) {
      offsets[f + 1] = mesh.faces().end(f);
    }
    for (int i = 0; i < corners; i++) {
      int v = mesh.faces().vertex(i);
      for (int k = 0; k < 3; k++) {
        double off = (2 * random.nextDouble() - 1) * shake / Math.sqrt(3) / 2;
        p[3 * i + k] = (float) (mesh.points().at(3 * v + k) + off);
      }
      c[i] = i;
    }
    return PolygonMesh.of(mesh.id(), mesh.name(), Coordinates.of(p), Polygons.of(c, offsets));
  }

  private static int euler(PolygonMesh mesh) {
    EdgeTable edges = EdgeTable.of(mesh.faces(), mesh.points().count());
    return mesh.points().count() - edges.count() + mesh.faces().faceCount();
  }

  /** A torus has Euler characteristic 0, a sphere or box 2 (Euler's polyhedron formula). */
  @Test
  void aWeldSewsSolidsTogetherAgain() {
    for (int seed = 0; seed < 10; seed++) {
      PolygonMesh torus = Solids.torus(24, 12, 3, 1);
      Weld.Result sewn = Weld.of(apart(torus, 4e-4, new Random(seed)), null, CLOSE);
      assertEquals(0, euler(sewn.mesh()));
      assertEquals(4 * 24 * 12 - 24 * 12, sewn.joined());
      double volume = MeshMeasure.of(torus).volume();
      assertEquals(volume, MeshMeasure.of(sewn.mesh()).volume(), 1e-3 * volume);
      Weld.Result box = Weld.of(apart(Solids.box(1, 2, 3), 0, new Random(seed)), null, CLOSE);
      assertEquals(2, euler(box.mesh()));
      assertEquals(6, MeshMeasure.of(box.mesh()).volume(), 1e-6);
      assertEquals(22, MeshMeasure.of(box.mesh()).area(), 1e-6);
    }
  }

  @Test
  void aSecondWeldChangesNothing() {
    for (int seed = 0; seed < 40; seed++) {
      Random random = new Random(seed);
      double distance = 0.02 + 0.3 * random.nextDouble();
      Weld.Options options = new Weld.Options(distance, random.nextBoolean(), true);
      PolygonMesh mesh = apart(Solids.torus(9, 7, 3, 1), distance, random);
      Weld.Result once = Weld.of(mesh, null, options);
      Weld.Result twice = Weld.of(once.mesh(), null, options);
      if (!options.bordersOnly()) {
        assertEquals(0, twice.joined(), "seed " + seed);
        assertSame(once.mesh(), twice.mesh());
      }
      assertEquals(
          once.joined(),
          Weld.count(mesh, null, options, EdgeTable.of(mesh.faces(), mesh.points().count())));
      // Kept vertices are as far apart as the distance says.
      Coordinates p = once.mesh().points();
      for (int a = 0; a < p.count() && !options.bordersOnly(); a++) {
        for (int b = a + 1; b < p.count(); b++) {
          double d = Math.hypot(Math.hypot(p.x(a) - p.x(b), p.y(a) - p.y(b)), p.z(a) - p.z(b));
          assertTrue(d > distance * (1 - 1e-6));
        }
      }
    }
  }

  @Test
  void seamsOfUvsSurviveAWeldUnlessTheyAreDropped() {
    PolygonMesh two = apart(Solids.box(1, 1, 1), 0, new Random(1));
    float[] uv = new float[48];
    for (int i = 0; i < uv.length; i++) {
      uv[i] = i;
    }
    Attribute layer = new Attribute("uv", Semantic.UV, Domain.VERTEX, 2, uv, null);
    PolygonMesh mesh = two.withAttributes(List.of(layer));
    PolygonMesh kept = Weld.of(mesh, null, CLOSE).mesh();
    Attribute seams = kept.first(Semantic.UV).orElseThrow();
    for (int c = 0; c < kept.faces().cornerCount(); c++) {
      int value = seams.valueOf(c, kept.faces().vertex(c), c / 4);
      assertEquals(2 * c, seams.values()[2 * value]);
    }
    PolygonMesh dropped = Weld.of(mesh, null, new Weld.Options(1e-3, false, false)).mesh();
    assertEquals(8, dropped.first(Semantic.UV).orElseThrow().valueCount());
  }

  /** Lips of a closed mouth lie on each other but open by a joint or a morph target. */
  @Test
  void whatMovesApartIsNotJoined() {
    float[] p = {0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, -1, 0};
    PolygonMesh lips =
        PolygonMesh.of(
            1, "lips", Coordinates.of(p), Polygons.triangles(new int[] {0, 1, 2, 3, 5, 4}));
    assertEquals(2, Weld.of(lips, null, CLOSE).joined());
    MorphTarget open =
        new MorphTarget(
            "open",
            0,
            List.of(new MorphTarget.Shape(1, new int[] {3}, new float[] {0, -1, 0}, null)));
    PolygonMesh morphing = lips.toBuilder().morphs(List.of(open)).build();
    assertEquals(1, Weld.of(morphing, null, CLOSE).joined());
    int[] offsets = {0, 1, 2, 3, 4, 5, 6};
    Skin jaw =
        new Skin(
            2,
            "jaw",
            1,
            new int[] {7, 8},
            new double[32],
            offsets,
            new int[] {0, 0, 0, 1, 1, 1},
            new float[] {1, 1, 1, 1, 1, 1},
            "linear");
    assertEquals(0, Weld.of(lips, jaw, CLOSE).joined());
  }

  /** Volume of a torus: 2 π² R r² (closed form); of ours the same as it was before. */
  @Test
  void facesThatWereTurnedAtRandomAgreeAgain() {
    PolygonMesh torus = Solids.torus(96, 48, 3, 1);
    double closed = 2 * Math.PI * Math.PI * 3;
    assertEquals(closed, MeshMeasure.of(torus).volume(), 0.01 * closed);
    for (int seed = 0; seed < 10; seed++) {
      Random random = new Random(seed);
      BitSet turned = new BitSet();
      for (int f = 0; f < torus.faces().faceCount(); f++) {
        turned.set(f, random.nextInt(3) == 0);
      }
      PolygonMesh mixed = Winding.flipped(torus, turned);
      FaceTurns turns = FaceTurns.of(mixed);
      assertEquals(turned, turns.turn());
      assertEquals(1, turns.sheets());
      PolygonMesh mended = Winding.flipped(mixed, turns.turn());
      assertEquals(MeshMeasure.of(torus).volume(), MeshMeasure.of(mended).volume(), 1e-9);
    }
    assertEquals(1, FaceTurns.of(Winding.flipped(torus)).insideOut());
    // Panels that are not sewn agree by their seams.
    BitSet one = new BitSet();
    one.set(17);
    PolygonMesh panels = Winding.flipped(apart(torus, 1e-5, new Random(3)), one);
    assertEquals(one, FaceTurns.acrossSeams(panels, 1e-3).turn());
  }

  /**
   * A sphere scaled unevenly is an ellipsoid; its normal at p is the gradient of x²/a² + y²/b² +
   * z²/c², which is (x/a², y/b², z/c²).
   */
  @Test
  void normalsOfAnUnevenScaleAreThoseOfTheEllipsoid() {
    double[] axes = {2, -0.5, 3};
    int n = 200;
    float[] p = new float[3 * n];
    Random random = new Random(5);
    for (int i = 0; i < n; i++) {
      Vector3d v =
          new Vector3d(random.nextGaussian(), random.nextGaussian(), random.nextGaussian())
              .normalize();
      p[3 * i] = (float) v.x;
      p[3 * i + 1] = (float) v.y;
      p[3 * i + 2] = (float) v.z;
    }
    PolygonMesh sphere =
        PolygonMesh.of(1, "ball", Coordinates.of(p), Polygons.triangles(new int[] {0, 1, 2}))
            .withAttributes(
                List.of(new Attribute("n", Semantic.NORMAL, Domain.VERTEX, 3, p, null)));
    PolygonMesh moved = MeshMove.by(sphere, new Matrix4d().scaling(axes[0], axes[1], axes[2]));
    float[] normals = moved.first(Semantic.NORMAL).orElseThrow().values();
    for (int i = 0; i < n; i++) {
      Vector3d gradient =
          new Vector3d(
                  moved.points().x(i) / (axes[0] * axes[0]),
                  moved.points().y(i) / (axes[1] * axes[1]),
                  moved.points().z(i) / (axes[2] * axes[2]))
              .normalize();
      Vector3d found = new Vector3d(normals[3 * i], normals[3 * i + 1], normals[3 * i + 2]);
      assertEquals(1, gradient.dot(found), 1e-5);
    }
    // The mirror in it turns faces round.
    assertEquals(2, moved.faces().vertex(1));
  }

  /** Tens of thousands of faces on one tile, as trim sheets have them, are no long work. */
  @Test
  @org.junit.jupiter.api.Timeout(90)
  void manyFacesOnOneTileAreMeasuredFast() {
    int count = 40_000;
    int[] corners = new int[3 * count];
    for (int i = 0; i < corners.length; i++) {
      corners[i] = i % 3;
    }
    PolygonMesh mesh =
        PolygonMesh.of(
            1,
            "tile",
            Coordinates.of(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0}),
            Polygons.triangles(corners));
    Attribute uv =
        new Attribute(
            "uv", Semantic.UV, Attribute.Domain.VERTEX, 2, new float[] {0, 0, 1, 0, 0, 1}, null);
    UvOverlap overlap = UvOverlap.of(mesh, uv);
    assertEquals(1, overlap.part(), 0);
    assertEquals(count - 1, overlap.faces().size());
  }

  @Test
  void overlappingUvsAreMeasured() {
    float[] p = new float[24];
    float[] uv = {0, 0, 1, 0, 1, 1, 0, 1, 0.5f, 0, 1.5f, 0, 1.5f, 1, 0.5f, 1};
    PolygonMesh sheets =
        PolygonMesh.of(
                1,
                "sheets",
                Coordinates.of(p),
                Polygons.of(new int[] {0, 1, 2, 3, 4, 5, 6, 7}, new int[] {0, 4, 8}))
            .withAttributes(List.of(new Attribute("uv", Semantic.UV, Domain.VERTEX, 2, uv, null)));
    Attribute layer = sheets.attributes().get(0);
    // Two squares that share half of each: a third of what they cover is covered twice.
    assertEquals(1 / 3.0, UvOverlap.of(sheets, layer).part(), 0.005);
    uv = new float[] {0, 0, 1, 0, 1, 1, 0, 1, 1, 0, 2, 0, 2, 1, 1, 1};
    Attribute beside = new Attribute("uv", Semantic.UV, Domain.VERTEX, 2, uv, null);
    assertTrue(UvOverlap.of(sheets, beside).part() < UvOverlap.WORTH_TELLING);
  }
}
