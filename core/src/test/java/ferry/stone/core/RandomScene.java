package ferry.stone.core;

import static org.junit.jupiter.api.Assertions.assertEquals;

import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Node;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;

/** Scenes of a few bumpy sheets of mixed polygons with UVs, normals and materials, from a seed. */
public final class RandomScene {
  private RandomScene() {}

  public static Scene of(Random random) {
    SceneBuilder scene = new SceneBuilder("random");
    List<Integer> materials = new ArrayList<>();
    for (int i = 0; i < 1 + random.nextInt(3); i++) {
      int id = scene.newId();
      materials.add(id);
      double[] kd = {random.nextDouble(), random.nextDouble(), random.nextDouble()};
      scene.add(
          new Material(
              id,
              "material " + i,
              Material.Shading.PHONG,
              Map.of(
                  Channel.BASE_COLOUR, new Material.Value(kd, null),
                  Channel.SHININESS, new Material.Value(new double[] {random.nextInt(200)}, null)),
              Material.Alpha.OPAQUE,
              0.5,
              false,
              Map.of()));
    }
    for (int m = 0; m < 1 + random.nextInt(3); m++) {
      PolygonMesh mesh = sheet(random, scene.newId(), "part_" + m, materials);
      scene.add(mesh);
      scene.add(Node.of(scene.newId(), mesh.name(), -1, Node.Content.MeshContent.of(mesh.id())));
    }
    return scene.build();
  }

  /** A grid of quads, some cut, some joined to larger polygons. */
  private static PolygonMesh sheet(Random random, int id, String name, List<Integer> materials) {
    int w = 2 + random.nextInt(6);
    int h = 2 + random.nextInt(6);
    FloatList points = new FloatList(64);
    FloatList uvs = new FloatList(64);
    FloatList normals = new FloatList(64);
    for (int y = 0; y <= h; y++) {
      for (int x = 0; x <= w; x++) {
        points.add(x + random.nextFloat() * 0.2f);
        points.add(random.nextFloat() * 0.3f);
        points.add(y + random.nextFloat() * 0.2f);
        uvs.add((float) x / w);
        uvs.add(random.nextFloat() * 3 - 1);
      }
    }
    for (int i = 0; i < 5; i++) {
      double a = random.nextDouble() * 0.6;
      normals.add((float) Math.sin(a));
      normals.add((float) Math.cos(a));
      normals.add(0);
    }
    IntList corners = new IntList(64);
    IntList offsets = new IntList(32);
    IntList slots = new IntList(32);
    offsets.add(0);
    for (int y = 0; y < h; y++) {
      for (int x = 0; x < w; x++) {
        int a = y * (w + 1) + x;
        int[] quad = {a, a + w + 1, a + w + 2, a + 1};
        int kind = random.nextInt(3);
        int slot = random.nextInt(materials.size());
        if (kind == 0) {
          face(corners, offsets, slots, slot, quad[0], quad[1], quad[2]);
          face(corners, offsets, slots, slot, quad[0], quad[2], quad[3]);
        } else if (kind == 1 && x + 1 < w) {
          face(corners, offsets, slots, slot, a, a + w + 1, a + w + 2, a + w + 3, a + 2, a + 1);
          x++;
        } else {
          face(corners, offsets, slots, slot, quad);
        }
      }
    }
    int[] uvIndex = corners.toArray().clone();
    int[] normalIndex = new int[corners.size()];
    for (int c = 0; c < normalIndex.length; c++) {
      normalIndex[c] = random.nextInt(5);
    }
    return PolygonMesh.of(
            id,
            name,
            Coordinates.of(points.toArray()),
            Polygons.of(corners.toArray(), offsets.toArray()))
        .withAttributes(
            List.of(
                new Attribute("uv", Semantic.UV, Domain.CORNER, 2, uvs.toArray(), uvIndex),
                new Attribute(
                    "normal", Semantic.NORMAL, Domain.CORNER, 3, normals.toArray(), normalIndex)))
        .toBuilder()
        .materials(materials.stream().mapToInt(Integer::intValue).toArray(), slots.toArray())
        .build();
  }

  private static void face(
      IntList corners, IntList offsets, IntList slots, int slot, int... vertices) {
    for (int v : vertices) {
      corners.add(v);
    }
    offsets.add(corners.size());
    slots.add(slot);
  }

  /** Same faces, and at every corner the same position, UV and normal. */
  public static void assertSame(PolygonMesh a, PolygonMesh b, double tolerance, String what) {
    assertEquals(a.faces().faceCount(), b.faces().faceCount(), what);
    for (int f = 0; f < a.faces().faceCount(); f++) {
      assertEquals(a.faces().size(f), b.faces().size(f), what);
      for (int k = 0; k < a.faces().size(f); k++) {
        int c = a.faces().start(f) + k;
        int d = b.faces().start(f) + k;
        int v = a.faces().vertex(c);
        int w = b.faces().vertex(d);
        assertEquals(a.points().x(v), b.points().x(w), tolerance, what);
        assertEquals(a.points().y(v), b.points().y(w), tolerance, what);
        assertEquals(a.points().z(v), b.points().z(w), tolerance, what);
        for (Attribute left : a.attributes()) {
          Attribute right = b.first(left.semantic()).orElseThrow();
          int i = left.valueOf(c, v, f);
          int j = right.valueOf(d, w, f);
          for (int n = 0; n < left.components(); n++) {
            assertEquals(
                left.values()[left.components() * i + n],
                right.values()[right.components() * j + n],
                tolerance + 1e-6,
                what + " " + left.name());
          }
        }
      }
    }
  }
}
