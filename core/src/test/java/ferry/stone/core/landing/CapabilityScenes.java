package ferry.stone.core.landing;

import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.scene.Composition;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.look.Wrap;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.mesh.Subdivision;
import ferry.stone.core.scene.node.Light;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.EulerOrder;
import ferry.stone.core.scene.node.LocalTransform.PivotTransform;
import ferry.stone.core.scene.node.LocalTransform.ScaleInheritance;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.NodeSet;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/** For each capability the smallest scene that holds it and as little else as it can. */
public final class CapabilityScenes {
  private static final int PLATE = 100;
  private final SceneBuilder scene = new SceneBuilder("weir").framesPerSecond(30);
  private PolygonMesh mesh = plate();
  private Node.Content.MeshContent content = Node.Content.MeshContent.of(PLATE);
  private LocalTransform transform = LocalTransform.IDENTITY;
  private final List<Node> more = new ArrayList<>();
  private int parent = -1;
  private double spread = 1e-4;

  private CapabilityScenes() {
    scene.nextId(1000);
  }

  /** A vertex with five joints, which stand this far from each other. */
  static Scene influences(double spread) {
    CapabilityScenes scenes = new CapabilityScenes();
    scenes.spread = spread;
    return scenes.hierarchy(Capability.INFLUENCES);
  }

  private static PolygonMesh plate() {
    float[] p = {0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0};
    float[] n = {0, 0, 1};
    float[] uv = {0, 0, 1, 0, 1, 1, 0, 1};
    Attribute.Domain vertex = Attribute.Domain.VERTEX;
    return PolygonMesh.of(
            PLATE, "plate", Coordinates.of(p), Polygons.triangles(new int[] {0, 1, 2, 0, 2, 3}))
        .toBuilder()
        .attributes(
            List.of(
                new Attribute(
                    "normal", Attribute.Semantic.NORMAL, vertex, 3, n, new int[] {0, 0, 0, 0}),
                new Attribute("uv", Attribute.Semantic.UV, vertex, 2, uv, null)))
        .materials(new int[] {1}, null)
        .build();
  }

  private Scene build(Material material) {
    more.forEach(scene::add);
    scene.add(Node.of(1, "plate", parent, content).withTransform(transform));
    return scene.add(mesh).add(material).build();
  }

  private Scene build() {
    return build(plain(Map.of(), Material.Shading.METALLIC_ROUGHNESS));
  }

  private static Material plain(Map<Channel, Material.Value> channels, Material.Shading shading) {
    Map<Channel, Material.Value> all = new java.util.EnumMap<>(Channel.class);
    all.put(Channel.BASE_COLOUR, new Material.Value(new double[] {0.5, 0.5, 0.5}, null));
    all.put(Channel.METALLIC, new Material.Value(new double[] {0}, null));
    all.put(Channel.ROUGHNESS, new Material.Value(new double[] {0.5}, null));
    if (shading == Material.Shading.PHONG) {
      all.remove(Channel.METALLIC);
      all.remove(Channel.ROUGHNESS);
    }
    all.putAll(channels);
    return new Material(1, "oak", shading, all, Material.Alpha.OPAQUE, 0.5, false, Map.of());
  }

  private TextureUse texture(String written, String place) {
    int id = scene.newId();
    scene.add(new Texture(id, written, written, place, null));
    return TextureUse.of(id);
  }

  private void skinned(int[] offsets, int[] joints, float[] weights, int jointCount) {
    int[] ids = new int[jointCount];
    double[] inverse = new double[16 * jointCount];
    for (int j = 0; j < jointCount; j++) {
      ids[j] = 10 + j;
      new Matrix4d().get(inverse, 16 * j);
      more.add(Node.of(ids[j], "joint_" + j, j == 0 ? -1 : 0, new Node.Content.Joint(0)));
    }
    scene.add(new Skin(50, "skin", PLATE, ids, inverse, offsets, joints, weights, "linear"));
    content = content.withSkin(50);
  }

  private Clip clip(String property, int target, int components, double start, double... values) {
    double[] times = {start, start + 1};
    return new Clip(
        70,
        "turn",
        start,
        start + 1,
        List.of(
            new Clip.Track(
                target,
                property,
                Clip.Interpolation.LINEAR,
                components,
                times,
                values,
                null,
                null)));
  }

  private static PivotTransform pivots(ScaleInheritance inheritance, Vector3d pivot) {
    Vector3d none = new Vector3d();
    return new PivotTransform(
        new Vector3d(1, 2, 3),
        none,
        pivot,
        none,
        new Vector3d(0, 30, 0),
        none,
        none,
        none,
        new Vector3d(1),
        EulerOrder.XYZ,
        inheritance);
  }

  public static Scene of(Capability capability) {
    CapabilityScenes s = new CapabilityScenes();
    switch (capability) {
      case POLYGONS ->
          s.mesh = s.mesh.withFaces(Polygons.of(new int[] {0, 1, 2, 3}, new int[] {0, 4}));
      case LINES_BESIDE_FACES ->
          s.mesh =
              s.mesh.toBuilder()
                  .loose(new LooseElements(new int[] {0, 2}, new int[] {0, 2}, new int[0]))
                  .build();
      case POINTS ->
          s.mesh =
              s.mesh.toBuilder()
                  .loose(new LooseElements(new int[] {0}, new int[0], new int[] {1, 3}))
                  .build();
      case EMPTY_MESHES -> {
        s.scene.add(
            PolygonMesh.of(
                200, "nothing", Coordinates.of(new float[0]), Polygons.triangles(new int[0])));
        s.more.add(Node.of(2, "nothing", -1, Node.Content.MeshContent.of(200)));
      }
      case UNUSED_VERTICES ->
          s.mesh = s.mesh.withFaces(Polygons.triangles(new int[] {0, 1, 2, 2, 1, 0}));
      case NOT_NUMBERS -> {
        float[] p = s.mesh.points().toFloats().clone();
        p[10] = Float.NaN;
        s.mesh = s.mesh.withPoints(Coordinates.of(p));
      }
      case SUBDIVISION ->
          s.mesh =
              s.mesh.toBuilder()
                  .subdivision(
                      new Subdivision(
                          "catmullClark",
                          2,
                          new int[] {0, 2},
                          new float[] {1},
                          new int[0],
                          new float[0],
                          new int[0]))
                  .build();
      case FACE_SETS ->
          s.mesh = s.mesh.toBuilder().faceSets(List.of(new FaceSet("half", new int[] {0}))).build();
      case CUSTOM_LAYERS -> {
        List<Attribute> all = new ArrayList<>(s.mesh.attributes());
        all.add(
            new Attribute(
                "_wear",
                Attribute.Semantic.OTHER,
                Attribute.Domain.VERTEX,
                1,
                new float[] {0, 1, 2, 3},
                null));
        s.mesh = s.mesh.withAttributes(all);
      }
      case BROKEN_LAYERS -> {
        List<Attribute> all = new ArrayList<>(s.mesh.attributes());
        all.add(
            new Attribute(
                "short",
                Attribute.Semantic.UV,
                Attribute.Domain.CORNER,
                2,
                new float[] {0, 0, 1, 1},
                null));
        s.mesh = s.mesh.withAttributes(all);
      }
      case POINT_CACHES -> s.scene.caches(List.of(new StillCache(PLATE)));
      default -> {
        return s.hierarchy(capability);
      }
    }
    return s.build();
  }

  private Scene hierarchy(Capability capability) {
    CapabilityScenes s = this;
    switch (capability) {
      case PIVOTS -> s.transform = pivots(ScaleInheritance.NORMAL, new Vector3d(0.5, 0, 0));
      case INHERITED_SCALE -> {
        s.more.add(Node.of(2, "deck", -1, Node.Content.GROUP));
        s.parent = 0;
        s.transform = pivots(ScaleInheritance.values()[1], new Vector3d());
      }
      case SHEAR -> s.transform = new LocalTransform.MatrixTransform(new Matrix4d().m10(0.4));
      case HELPERS -> {
        s.scene.add(
            new Light(60, "lamp", Light.Kind.POINT, new float[] {1, 1, 1}, 10, 5, 0, 0, Map.of()));
        s.more.add(
            Node.of(3, "lamp", -1, new Node.Content.LightContent(60))
                .withGeometric(
                    LocalTransform.Trs.of(
                        new Vector3d(0, 0.2, 0), new Quaterniond(), new Vector3d(1))));
        s.parent = 0;
      }
      case NODE_SETS -> s.scene.add(new NodeSet("deck", NodeSet.Kind.LAYER, new int[] {1}, true));
      case DETAIL_LEVELS, DETAIL_DISTANCES -> s.levels(capability == Capability.DETAIL_LEVELS);
      case SKINNED_BELOW -> {
        s.skinned(new int[] {0, 1, 2, 3, 4}, new int[4], new float[] {1, 1, 1, 1}, 1);
        s.parent = 0;
      }
      case JOINTS_APART -> {
        s.skinned(new int[] {0, 1, 2, 3, 4}, new int[] {0, 0, 1, 1}, new float[] {1, 1, 1, 1}, 2);
        s.more.set(1, s.more.get(1).withParent(-1));
      }
      case INFLUENCES -> {
        int[] joints = {0, 1, 2, 3, 4, 0, 0, 0};
        float[] weights = {0.2f, 0.2f, 0.2f, 0.2f, 0.2f, 1, 1, 1};
        s.skinned(new int[] {0, 5, 6, 7, 8}, joints, weights, 5);
        for (int j = 1; j < 5; j++) {
          s.more.set(
              j,
              s.more
                  .get(j)
                  .withTransform(
                      LocalTransform.Trs.of(
                          new Vector3d(0, 0, spread * j), new Quaterniond(), new Vector3d(1))));
        }
      }
      case VERTICES_WITHOUT_JOINT ->
          s.skinned(new int[] {0, 1, 2, 3, 3}, new int[3], new float[] {1, 1, 1}, 1);
      case IN_BETWEENS ->
          s.mesh =
              s.mesh.toBuilder()
                  .morphs(
                      List.of(
                          new MorphTarget(
                              "bend",
                              0,
                              List.of(
                                  new MorphTarget.Shape(
                                      0.5, new int[] {2}, new float[] {0, 0, 1}, null),
                                  new MorphTarget.Shape(
                                      1, new int[] {2}, new float[] {0, 1, 1}, null)))))
                  .build();
      default -> {
        return s.motion(capability);
      }
    }
    return s.build();
  }

  private Scene motion(Capability capability) {
    CapabilityScenes s = this;
    switch (capability) {
      case EMPTY_CLIPS -> s.scene.add(new Clip(70, "still", 0, 1, List.of()));
      case OTHER_MOTION -> {
        s.scene.add(s.clip("light/flicker", 1, 1, 0, 0, 1));
        s.scene.add(
            new Clip(
                71, "moves", 0, 1, s.clip(Clip.TRANSLATION, 1, 3, 0, 0, 0, 0, 0, 0, 1).tracks()));
      }
      case TIME_BEFORE_ZERO -> s.scene.add(s.clip(Clip.TRANSLATION, 1, 3, -1, 0, 0, 0, 0, 0, 1));
      case AREA_LIGHTS, DOME_LIGHTS -> {
        s.scene.add(
            new Light(
                60,
                "window",
                capability == Capability.AREA_LIGHTS ? Light.Kind.AREA : Light.Kind.DOME,
                new float[] {1, 1, 1},
                10,
                Double.POSITIVE_INFINITY,
                0,
                0.5,
                Map.of()));
        s.more.add(Node.of(3, "window", -1, new Node.Content.LightContent(60)));
      }
      case KEPT_SHAPES ->
          s.more.add(Node.of(3, "sail", -1, new Node.Content.KeptShape("NurbsPatch", new int[0])));
      case UNCHOSEN ->
          s.scene.compose(
              new Composition(
                  List.of(),
                  List.of(new Composition.Choice("/weir", "gates", List.of("up", "down"), "up")),
                  List.of(),
                  Map.of()));
      case VARIANTS -> {
        s.scene.variant("summer");
        s.scene.add(
            new Material(
                5,
                "pine",
                Material.Shading.METALLIC_ROUGHNESS,
                plain(Map.of(), Material.Shading.METALLIC_ROUGHNESS).channels(),
                Material.Alpha.OPAQUE,
                0.5,
                false,
                Map.of()));
        s.mesh = s.mesh.toBuilder().variantMaterials(new int[][] {{5}}).build();
      }
      default -> {
        return s.material(capability);
      }
    }
    return s.build();
  }

  private Scene material(Capability capability) {
    Material.Shading physical = Material.Shading.METALLIC_ROUGHNESS;
    TextureUse oak = null;
    return switch (capability) {
      case MATERIAL_MODEL ->
          build(
              plain(
                  Map.of(
                      Channel.SPECULAR, new Material.Value(new double[] {0.2, 0.2, 0.2}, null),
                      Channel.SHININESS, new Material.Value(new double[] {30}, null)),
                  Material.Shading.PHONG));
      case MATERIAL_CHANNELS ->
          build(
              plain(
                  Map.of(Channel.DECAL, new Material.Value(new double[] {1}, null)),
                  Material.Shading.PHONG));
      case MISSING_TEXTURES ->
          build(
              plain(
                  Map.of(Channel.BASE_COLOUR, new Material.Value(null, texture("gone.png", null))),
                  physical));
      case BUMP_MAPS ->
          build(
              plain(
                  Map.of(
                      Channel.BUMP, new Material.Value(null, texture("height.png", "height.png"))),
                  physical));
      case SEPARATE_CHANNELS ->
          build(
              plain(
                  Map.of(
                      Channel.ROUGHNESS,
                      new Material.Value(new double[] {1}, texture("height.png", "height.png"))),
                  physical));
      case IMAGE_FORMATS ->
          build(
              plain(
                  Map.of(
                      Channel.BASE_COLOUR,
                      new Material.Value(new double[] {1, 1, 1}, texture("oak.bmp", "oak.bmp"))),
                  physical));
      case OPACITY_PLACEMENT -> {
        oak = texture("oak.png", "oak.png");
        TextureUse moved = placed(texture("height.png", "height.png"));
        yield build(
            plain(
                Map.of(
                    Channel.BASE_COLOUR, new Material.Value(new double[] {1, 1, 1}, oak),
                    Channel.OPACITY, new Material.Value(new double[] {1}, moved)),
                physical));
      }
      default -> written(capability);
    };
  }

  /** What is told of how images and materials are written down. */
  private Scene written(Capability capability) {
    Material.Shading physical = Material.Shading.METALLIC_ROUGHNESS;
    TextureUse oak = null;
    return switch (capability) {
      case OWN_VALUES ->
          build(
              plain(
                  Map.of(
                      Channel.OCCLUSION, new Material.Value(null, texture("oak.png", "oak.png"))),
                  physical));
      case PACKED_CHANNELS -> {
        oak = texture("oak.png", "oak.png");
        yield build(
            plain(
                Map.of(
                    Channel.ROUGHNESS,
                    new Material.Value(new double[] {1}, oak.withComponent('g')),
                    Channel.METALLIC,
                    new Material.Value(new double[] {1}, oak.withComponent('b'))),
                physical));
      }
      case PACKED_IMAGES -> {
        byte[] ktx2 = new byte[96];
        byte[] mark = {(byte) 0xAB, 'K', 'T', 'X', ' ', '2', '0', (byte) 0xBB, 13, 10, 26, 10};
        System.arraycopy(mark, 0, ktx2, 0, mark.length);
        ktx2[20] = 4;
        ktx2[24] = 4;
        Texture second = new Texture(scene.newId(), "oak.ktx2", "oak.ktx2", null, ktx2);
        int id = scene.newId();
        scene.add(new Texture(id, "oak.png", "oak.png", "oak.png", null, second));
        yield build(
            plain(
                Map.of(
                    Channel.BASE_COLOUR,
                    new Material.Value(new double[] {1, 1, 1}, TextureUse.of(id))),
                physical));
      }
      case TINTED_TEXTURES ->
          build(
              plain(
                  Map.of(
                      Channel.BASE_COLOUR,
                      new Material.Value(
                          new double[] {0.5, 0.25, 1}, texture("oak.png", "oak.png"))),
                  Material.Shading.PHONG));
      case TANGENTS ->
          build(
              plain(
                  Map.of(Channel.NORMAL, new Material.Value(null, texture("oak.png", "oak.png"))),
                  physical));
      case NO_UVS -> {
        mesh =
            mesh.withAttributes(
                mesh.attributes().stream()
                    .filter(a -> a.semantic() != Attribute.Semantic.UV)
                    .toList());
        yield build(
            plain(
                Map.of(
                    Channel.BASE_COLOUR,
                    new Material.Value(new double[] {1, 1, 1}, texture("oak.png", "oak.png"))),
                physical));
      }
      case BARE_FACES -> {
        mesh = mesh.toBuilder().materials(new int[] {1}, new int[] {0, -1}).build();
        yield build();
      }
      case NOT_READ -> {
        scene.unread("The other scene \"quay\" of the file");
        yield build();
      }
      default -> MoreCapabilityScenes.of(capability, build());
    };
  }

  private static TextureUse placed(TextureUse use) {
    return new TextureUse(use.textureId(), 0, 0.5, 0, 2, 2, 0, Wrap.REPEATED, 'r', 1, "");
  }

  private void levels(boolean screen) {
    double[] thresholds =
        screen ? new double[] {0.5, 0} : new double[] {9, Double.POSITIVE_INFINITY};
    Node.Content group =
        new Node.Content.DetailGroup(
            thresholds,
            screen
                ? Node.Content.DetailGroup.Measure.SCREEN
                : Node.Content.DetailGroup.Measure.DISTANCE);
    more.add(Node.of(2, "levels", -1, group));
    scene.add(mesh.toBuilder().id(201).name("coarse").build());
    more.add(Node.of(4, "coarse", 0, Node.Content.MeshContent.of(201)));
    parent = 0;
  }
}
