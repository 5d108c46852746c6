package ferry.stone.demo;

import ferry.stone.core.format.abc.write.AbcOptions;
import ferry.stone.core.format.fbx.write.FbxOptions;
import ferry.stone.core.format.files.Output;
import ferry.stone.core.geometry.mesh.Normals;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * The heron automaton's head as it sings: a cache of its points with sets of faces and no look, as
 * a program for faces writes it, and its look in a model of its own. Centimetres, Y up, the beak
 * along Z. Fault: the cache's sets are named after its mesh and none has a material.
 */
final class SingingHead {
  private static final int RINGS = 28;
  private static final int SIDES = 32;
  private static final int SAMPLES = 96;
  private static final double RATE = 24;
  private static final double SKULL = 9;
  private static final double BEAK = 17;

  /** What the faces are made of, by ring and side. */
  private enum Patch {
    PLUMAGE,
    BEAK,
    EYE,
    THROAT
  }

  private SingingHead() {}

  static void write(Output output) throws IOException {
    SceneBuilder song = new SceneBuilder("head_song").framesPerSecond(RATE);
    PolygonMesh head = head().build(song.newId(), "headShape", new int[0]);
    List<FaceSet> sets = new ArrayList<>();
    for (Patch patch : Patch.values()) {
      String name = "headShape_" + patch.name().toLowerCase(Locale.ROOT) + "_SG";
      sets.add(new FaceSet(name, faces(patch)));
    }
    song.add(head.toBuilder().faceSets(sets).build());
    song.add(Node.of(song.newId(), "head", -1, Node.Content.MeshContent.of(head.id())));
    song.caches(List.of(new Song(song.newId(), head.id())));
    SceneCargo.writeAbc(song.build(), AbcOptions.STANDARD, "head_song", output);

    SceneBuilder look = new SceneBuilder("head_look");
    Parts parts = new Parts(look);
    int[] materials = {
      parts.phong("tin_plumage", new double[] {0.52, 0.58, 0.63}, 0.4, 40, null),
      parts.phong("brass_beak", new double[] {0.8, 0.6, 0.24}, 0.6, 60, null),
      parts.phong("glass_eye", new double[] {0.06, 0.05, 0.05}, 0.9, 120, null),
      parts.phong("leather_throat", new double[] {0.55, 0.24, 0.18}, 0.1, 10, null)
    };
    PolygonMesh dressed = head().build(look.newId(), "heron_head", materials);
    int[] slots = new int[dressed.faces().faceCount()];
    for (Patch patch : Patch.values()) {
      for (int face : faces(patch)) {
        slots[face] = patch.ordinal();
      }
    }
    dressed = dressed.toBuilder().materials(materials, slots).build();
    parts.part(
        dressed.withFirst(Semantic.NORMAL, Normals.byAngle(dressed, 50, Progress.NONE)),
        "heron_head");
    SceneCargo.writeFbx(
        look.build(),
        Frame.Y_UP_METRE.withMetresPerUnit(0.01),
        FbxOptions.USUAL,
        "head_look",
        Map.of(),
        output);
  }

  private static Patch patch(int ring, int side) {
    boolean front = ring >= 16;
    boolean below = side >= SIDES / 2 + 5 && side < SIDES - 5;
    boolean eye = ring >= 11 && ring < 14 && (side == 3 || side == 4 || side == 11 || side == 12);
    return front ? Patch.BEAK : eye ? Patch.EYE : below && ring > 3 ? Patch.THROAT : Patch.PLUMAGE;
  }

  private static int[] faces(Patch wanted) {
    int[] faces = new int[RINGS * SIDES];
    int count = 0;
    for (int f = 0; f < faces.length; f++) {
      if (patch(f / SIDES, f % SIDES) == wanted) {
        faces[count++] = f;
      }
    }
    return Arrays.copyOf(faces, count);
  }

  /** Where a point of a ring is: rings run from the back of the skull to the tip of the beak. */
  private static double[] at(int ring, int side, double seconds) {
    double t = (ring + 0.5) / (RINGS + 1.0);
    double angle = 2 * Math.PI * side / SIDES;
    double open = 0.5 - 0.5 * Math.cos(2 * Math.PI * seconds);
    // A round skull that runs over into the beak.
    double round = (t - 0.31) / 0.34;
    double skull = Math.sqrt(Math.max(0, 1 - round * round));
    double over = Math.max(0, Math.min(1, (t - 0.4) / 0.24));
    over = over * over * (3 - 2 * over);
    double radius = SKULL * ((1 - over) * skull + over * 0.34 * (1.02 - t) / 0.4);
    double z = -SKULL + (2 * SKULL + BEAK) * t;
    double x = radius * Math.cos(angle);
    double y = radius * Math.sin(angle);
    if (t > 0.56) {
      // The beak opens: its lower half goes down about the hinge.
      y += (Math.sin(angle) >= 0 ? 0.1 : -0.35) * open * (t - 0.56) * BEAK;
    } else if (Math.sin(angle) < 0) {
      // The throat swells with the tone.
      double swell = 1 + 0.2 * open * Math.sin(Math.PI * t / 0.56) * -Math.sin(angle);
      x *= swell;
      y *= swell;
    }
    return new double[] {x, 150 + y, z};
  }

  private static Shape head() {
    Shape shape = new Shape();
    for (int ring = 0; ring <= RINGS; ring++) {
      for (int side = 0; side < SIDES; side++) {
        double[] p = at(ring, side, 0);
        shape.point(p[0], p[1], p[2]);
      }
    }
    for (int ring = 0; ring <= RINGS; ring++) {
      for (int side = 0; side <= SIDES; side++) {
        shape.uv((double) side / SIDES, (double) ring / RINGS);
      }
    }
    for (int ring = 0; ring < RINGS; ring++) {
      for (int side = 0; side < SIDES; side++) {
        int next = (side + 1) % SIDES;
        int a = ring * SIDES + side;
        int b = ring * SIDES + next;
        int uv = ring * (SIDES + 1) + side;
        int up = uv + SIDES + 1;
        shape.face(a, uv, b, uv + 1, b + SIDES, up + 1, a + SIDES, up);
      }
    }
    return shape;
  }

  /** Its points by their closed form, a breath of one second again and again. */
  private record Song(int id, int meshId) implements PointCache {
    @Override
    public String name() {
      return "head";
    }

    @Override
    public int sampleCount() {
      return SAMPLES;
    }

    @Override
    public int pointCount() {
      return (RINGS + 1) * SIDES;
    }

    @Override
    public double timeSeconds(int sample) {
      return sample / RATE;
    }

    @Override
    public void read(int sample, int from, int count, float[] target) {
      for (int i = 0; i < count; i++) {
        double[] p = at((from + i) / SIDES, (from + i) % SIDES, sample / RATE);
        for (int c = 0; c < 3; c++) {
          target[3 * i + c] = (float) p[c];
        }
      }
    }
  }
}
