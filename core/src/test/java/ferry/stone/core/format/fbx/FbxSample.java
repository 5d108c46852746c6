package ferry.stone.core.format.fbx;

import static ferry.stone.core.format.fbx.FbxEncoder.list;
import static ferry.stone.core.format.fbx.FbxEncoder.record;

import ferry.stone.core.format.fbx.raw.FbxRecord;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/**
 * Random files from a seed: a hierarchy with pivots, pre- and post-rotations, all orders and
 * inheritances, a mesh with n-gons, layers and materials, skin, blend shapes with in-betweens, and
 * a take with keys of every kind.
 */
final class FbxSample {
  private static final long TICKS = 46_186_158_000L;
  private static final Object[] NONE = {};
  private static final int MODELS = 9;
  private static final int SIDE = 4;

  private final Random random;
  private final List<FbxRecord> objects = new ArrayList<>();
  private final List<FbxRecord> connections = new ArrayList<>();
  private final boolean inherits;

  private FbxSample(long seed) {
    random = new Random(seed);
    // Every third sample keeps to the plain inheritance, as most files do.
    inherits = seed % 3 != 0;
  }

  static FbxRecord of(long seed) {
    return new FbxSample(seed).build();
  }

  private FbxRecord build() {
    models();
    mesh();
    skin();
    shapes();
    materials();
    take();
    FbxRecord root = record("");
    root.children()
        .add(
            list(
                "FBXHeaderExtension",
                NONE,
                record("FBXHeaderVersion", 1003),
                record("FBXVersion", 7400)));
    root.children()
        .add(
            list(
                "GlobalSettings",
                NONE,
                record("Version", 1000),
                list(
                    "Properties70",
                    NONE,
                    p("UpAxis", "int", 2),
                    p("UpAxisSign", "int", 1),
                    p("FrontAxis", "int", 1),
                    p("FrontAxisSign", "int", -1),
                    p("CoordAxis", "int", 0),
                    p("CoordAxisSign", "int", 1),
                    p("UnitScaleFactor", "double", 2.5),
                    p("TimeMode", "enum", 11))));
    root.children().add(list("Objects", NONE, objects.toArray(new FbxRecord[0])));
    root.children().add(list("Connections", NONE, connections.toArray(new FbxRecord[0])));
    return root;
  }

  private static FbxRecord p(String name, String type, Object... values) {
    FbxRecord p = record("P", name, type, "", "");
    p.values().addAll(List.of(values));
    return p;
  }

  private FbxRecord vector(String name, double size, double around) {
    return p(
        name,
        "Vector3D",
        around + size * (random.nextDouble() - 0.5),
        around + size * (random.nextDouble() - 0.5),
        around + size * (random.nextDouble() - 0.5));
  }

  private void connect(long from, long to) {
    connections.add(record("C", "OO", from, to));
  }

  private void connect(long from, long to, String property) {
    connections.add(record("C", "OP", from, to, property));
  }

  private static long model(int i) {
    return 1000 + i;
  }

  private void models() {
    for (int i = 0; i < MODELS; i++) {
      List<FbxRecord> p = new ArrayList<>();
      p.add(vector("Lcl Translation", 4, 0));
      p.add(vector("Lcl Rotation", 300, 0));
      p.add(
          random.nextInt(3) == 0
              ? vector("Lcl Scaling", 1, 1.2)
              : p("Lcl Scaling", "Vector3D", 1.0, 1.0, 1.0));
      if (random.nextBoolean()) {
        p.add(vector("RotationOffset", 2, 0));
        p.add(vector("RotationPivot", 2, 0));
        p.add(vector("ScalingOffset", 2, 0));
        p.add(vector("ScalingPivot", 2, 0));
      }
      if (random.nextBoolean()) {
        p.add(p("RotationActive", "bool", 1));
        p.add(p("RotationOrder", "enum", random.nextInt(6)));
        p.add(vector("PreRotation", 200, 0));
        p.add(vector("PostRotation", 200, 0));
      }
      p.add(p("InheritType", "enum", inherits ? random.nextInt(3) : 1));
      p.add(p("depth_mark", "KString", "fathom " + i));
      p.get(p.size() - 1).values().set(3, "U");
      if (i == MODELS - 1) {
        p.add(vector("GeometricTranslation", 1, 0));
        p.add(vector("GeometricRotation", 90, 0));
        p.add(vector("GeometricScaling", 0.5, 1));
      }
      String type = i == MODELS - 1 ? "Mesh" : i < 4 ? "LimbNode" : "Null";
      objects.add(
          list(
              "Model",
              new Object[] {model(i), "Model::part_" + i, type},
              list("Properties70", NONE, p.toArray(new FbxRecord[0]))));
      connect(model(i), i == 0 ? 0L : model(random.nextInt(i)));
    }
  }

  private void mesh() {
    double[] xyz = new double[3 * SIDE * SIDE];
    for (int v = 0; v < SIDE * SIDE; v++) {
      xyz[3 * v] = v % SIDE;
      xyz[3 * v + 1] = random.nextDouble();
      xyz[3 * v + 2] = v / SIDE;
    }
    List<Integer> corners = new ArrayList<>();
    for (int r = 0; r + 1 < SIDE; r++) {
      for (int c = 0; c + 1 < SIDE; c++) {
        int a = r * SIDE + c;
        int[] quad = {a, a + SIDE, a + SIDE + 1, a + 1};
        if ((r + c) % 2 == 0) {
          corners.addAll(List.of(quad[0], quad[1], quad[2], ~quad[3]));
        } else {
          corners.addAll(List.of(quad[0], quad[1], ~quad[2], quad[0], quad[2], ~quad[3]));
        }
      }
    }
    int[] index = corners.stream().mapToInt(Integer::intValue).toArray();
    int faces = (int) java.util.Arrays.stream(index).filter(i -> i < 0).count();
    double[] normals = new double[3 * index.length];
    for (int i = 0; i < index.length; i++) {
      normals[3 * i + 1] = 1;
    }
    double[] uv = new double[2 * SIDE * SIDE];
    int[] uvIndex = new int[index.length];
    for (int v = 0; v < SIDE * SIDE; v++) {
      uv[2 * v] = v % SIDE / 3.0;
      uv[2 * v + 1] = v / SIDE / 3.0;
    }
    for (int i = 0; i < index.length; i++) {
      uvIndex[i] = index[i] < 0 ? ~index[i] : index[i];
    }
    int[] slots = new int[faces];
    for (int f = 0; f < faces; f++) {
      slots[f] = f % 2;
    }
    objects.add(
        list(
            "Geometry",
            new Object[] {2000L, "Geometry::sheet", "Mesh"},
            record("Vertices", xyz),
            record("PolygonVertexIndex", index),
            list(
                "LayerElementNormal",
                new Object[] {0},
                record("MappingInformationType", "ByPolygonVertex"),
                record("ReferenceInformationType", "Direct"),
                record("Normals", normals)),
            list(
                "LayerElementUV",
                new Object[] {0},
                record("Name", "chart"),
                record("MappingInformationType", "ByPolygonVertex"),
                record("ReferenceInformationType", "IndexToDirect"),
                record("UV", uv),
                record("UVIndex", uvIndex)),
            list(
                "LayerElementMaterial",
                new Object[] {0},
                record("MappingInformationType", "ByPolygon"),
                record("ReferenceInformationType", "IndexToDirect"),
                record("Materials", slots)),
            // Readers find layers by this list.
            list(
                "Layer",
                new Object[] {0},
                record("Version", 100),
                layer("LayerElementNormal"),
                layer("LayerElementUV"),
                layer("LayerElementMaterial"))));
    connect(2000, model(MODELS - 1));
  }

  private static FbxRecord layer(String type) {
    return list("LayerElement", NONE, record("Type", type), record("TypedIndex", 0));
  }

  private void skin() {
    objects.add(
        list("Deformer", new Object[] {3000L, "Deformer::", "Skin"}, record("Version", 101)));
    connect(3000, 2000);
    for (int c = 0; c < 3; c++) {
      int[] indices = new int[SIDE * SIDE];
      double[] weights = new double[indices.length];
      for (int v = 0; v < indices.length; v++) {
        indices[v] = v;
        weights[v] = 0.1 + random.nextDouble();
      }
      objects.add(
          list(
              "Deformer",
              new Object[] {3001L + c, "SubDeformer::", "Cluster"},
              record("Version", 100),
              record("Indexes", indices),
              record("Weights", weights),
              record("Transform", matrix()),
              record("TransformLink", matrix())));
      connect(3001 + c, 3000);
      connect(model(c), 3001 + c);
    }
  }

  private double[] matrix() {
    org.joml.Matrix4d m =
        new org.joml.Matrix4d()
            .translate(random.nextDouble(), random.nextDouble(), random.nextDouble())
            .rotateXYZ(random.nextDouble(), random.nextDouble(), random.nextDouble())
            .scale(0.5 + random.nextDouble());
    return m.get(new double[16]);
  }

  private void shapes() {
    objects.add(
        list("Deformer", new Object[] {4000L, "Deformer::", "BlendShape"}, record("Version", 100)));
    connect(4000, 2000);
    objects.add(
        list(
            "Deformer",
            new Object[] {4001L, "SubDeformer::swell", "BlendShapeChannel"},
            record("Version", 100),
            record("DeformPercent", 30.0),
            record("FullWeights", new double[] {40, 100})));
    connect(4001, 4000);
    for (int s = 0; s < 2; s++) {
      double[] deltas = new double[15];
      for (int i = 0; i < deltas.length; i++) {
        deltas[i] = random.nextDouble() - 0.5;
      }
      objects.add(
          list(
              "Geometry",
              new Object[] {4002L + s, "Geometry::swell_" + s, "Shape"},
              record("Version", 100),
              record("Indexes", new int[] {0, 3, 5, 9, 14}),
              record("Vertices", deltas),
              record("Normals", new double[15])));
      connect(4002 + s, 4001);
    }
  }

  private void materials() {
    for (int m = 0; m < 2; m++) {
      objects.add(
          list(
              "Material",
              new Object[] {5000L + m, "Material::paint_" + m, ""},
              record("ShadingModel", "phong"),
              list(
                  "Properties70",
                  NONE,
                  p("DiffuseColor", "Color", 0.25, 0.5, 0.75),
                  p("DiffuseFactor", "Number", 0.5),
                  p("ShininessExponent", "Number", 20.0),
                  p("TransparencyFactor", "Number", 0.25 * m))));
      connect(5000 + m, model(MODELS - 1));
    }
    objects.add(
        list(
            "Texture",
            new Object[] {5010L, "Texture::planks", ""},
            record("FileName", "C:\\yard\\textures\\planks.png"),
            record("RelativeFilename", "..\\textures\\planks.png")));
    connect(5010, 5000, "DiffuseColor");
  }

  private void take() {
    objects.add(
        list(
            "AnimationStack",
            new Object[] {6000L, "AnimStack::heave", ""},
            list(
                "Properties70",
                NONE,
                p("LocalStart", "KTime", 0L),
                p("LocalStop", "KTime", 2 * TICKS))));
    objects.add(
        list(
            "AnimationLayer", new Object[] {6001L, "AnimLayer::base", ""}, record("Version", 100)));
    connect(6001, 6000);
    long id = 7000;
    for (int i = 0; i < MODELS; i++) {
      if (i % 2 == 1 || i == 0) {
        id = curves(id, model(i), "Lcl Rotation", "R", 200, 0);
        id = curves(id, model(i), "Lcl Translation", "T", 3, 0);
        if (i == 3) {
          id = curves(id, model(i), "Lcl Scaling", "S", 0.5, 1);
        }
      }
    }
    long node = id++;
    objects.add(
        list(
            "AnimationCurveNode",
            new Object[] {node, "AnimCurveNode::DeformPercent", ""},
            list("Properties70", NONE, p("d|DeformPercent", "Number", 30.0))));
    connect(node, 6001);
    connect(node, 4001, "DeformPercent");
    curve(id, node, "d|DeformPercent", 100, 50);
  }

  private long curves(
      long id, long target, String property, String name, double size, double around) {
    long node = id++;
    objects.add(
        list(
            "AnimationCurveNode",
            new Object[] {node, "AnimCurveNode::" + name, ""},
            list(
                "Properties70",
                NONE,
                p("d|X", "Number", around),
                p("d|Y", "Number", around),
                p("d|Z", "Number", around))));
    connect(node, 6001);
    connect(node, target, property);
    for (String axis : new String[] {"d|X", "d|Y", "d|Z"}) {
      curve(id++, node, axis, size, around);
    }
    return id;
  }

  /** Four keys: a held one, a straight one, a curved one with handles of its own lengths. */
  private void curve(long id, long node, String property, double size, double around) {
    long[] times = {0, TICKS / 2, TICKS, 2 * TICKS};
    float[] values = new float[4];
    for (int i = 0; i < 4; i++) {
      values[i] = (float) (around + size * (random.nextDouble() - 0.5));
    }
    int weighted = 0x8 | 0x400 | 0x1000000 | 0x2000000;
    int[] flags = {0x8 | 0x400, 0x4, weighted, 0x2};
    float packed = Float.intBitsToFloat(5000 << 16 | 2000);
    float usual = Float.intBitsToFloat(3333 << 16 | 3333);
    float[] data = {
      (float) size,
      (float) -size,
      0,
      0, //
      0,
      0,
      0,
      0, //
      (float) size / 2,
      (float) size / 3,
      packed,
      0, //
      0,
      0,
      0,
      0
    };
    objects.add(
        list(
            "AnimationCurve",
            new Object[] {id, "AnimCurve::", ""},
            record("Default", 0.0),
            record("KeyVer", 4008),
            record("KeyTime", times),
            record("KeyValueFloat", values),
            record("KeyAttrFlags", flags),
            record("KeyAttrDataFloat", data),
            record("KeyAttrRefCount", new int[] {1, 1, 1, 1})));
    connect(id, node, property);
  }
}
