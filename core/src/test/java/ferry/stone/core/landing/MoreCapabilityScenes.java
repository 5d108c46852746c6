package ferry.stone.core.landing;

import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.CurveForm;
import ferry.stone.core.scene.mesh.EdgeSet;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.mesh.Table;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.node.Lens;
import ferry.stone.core.scene.node.Light;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Purpose;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.node.Visibility;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/** What formats may lack that hold bare parts, added to the plate. */
final class MoreCapabilityScenes {
  private MoreCapabilityScenes() {}

  /** Normals, UVs, vertices that faces share and a material are on the plate already. */
  static Scene of(Capability capability, Scene plate) {
    PolygonMesh mesh = plate.meshes().get(0);
    Node node = plate.nodes().get(0);
    return switch (capability) {
      case SMOOTHING -> with(plate, bare(mesh).toBuilder().smoothing(new int[] {1, 1}).build());
      case SMOOTHING_BESIDE -> with(plate, mesh.toBuilder().smoothing(new int[] {2, 3}).build());
      case SHARP_EDGES -> with(plate, bare(mesh).toBuilder().hardEdges(new int[] {0, 2}).build());
      case SHARP_EDGES_BESIDE -> with(plate, mesh.toBuilder().hardEdges(new int[] {0, 2}).build());
      case EDGE_SETS ->
          with(
              plate,
              mesh.toBuilder()
                  .edgeSets(List.of(new EdgeSet("weld", "yard", new int[] {0, 1})))
                  .build());
      case OWN_TANGENTS -> {
        float[] along = {1, 0, 0, 1};
        int[] all = {0, 0, 0, 0};
        yield with(
            plate,
            more(mesh, new Attribute("tangent", Semantic.TANGENT, Domain.VERTEX, 4, along, all)));
      }
      case TEXT_LAYERS ->
          with(
              plate, more(mesh, layer(new Table.Texts(new String[] {"oak", "elm", "ash", "fir"}))));
      case LAYER_TYPES ->
          with(
              plate,
              more(mesh, layer(new Table.Wholes(new int[] {1 << 28, 3, (1 << 28) + 1, 0}, 1))));
      case LINES -> beside(plate, null);
      case NURBS_CURVES -> {
        double[] knots = {0, 0, 0, 0.5, 1, 1, 1};
        CurveForm form =
            new CurveForm(CurveForm.Basis.NURBS, 2, knots, new double[] {1, 0.7, 2, 1});
        yield beside(plate, form);
      }
      case CURVES -> beside(plate, new CurveForm(CurveForm.Basis.BEZIER, 3, null, null));
      case COLOURS -> with(plate, more(mesh, colours("colour")));
      case FURTHER_SETS -> with(plate, more(mesh, colours("first"), colours("second")));
      case SEAMS -> with(plate, seams(mesh));
      case SEVERAL_PARTS, SHARED_MESHES -> {
        Node second = Node.of(7, "second", -1, node.content()).withTransform(aside());
        yield plate.toBuilder().nodes(List.of(node, second)).build();
      }
      case CHANGING_MESHES -> plate.toBuilder().add(new RisingSequence(40, mesh, 3)).build();
      case LISTED_COPIES -> {
        Node holder = Node.of(8, "row", -1, Node.Content.GROUP);
        Node first = Node.of(9, "row_1", 0, node.content());
        Node second = Node.of(10, "row_2", 0, node.content()).withTransform(aside());
        yield plate.toBuilder()
            .nodes(List.of(holder, first, second))
            .copies(List.of(new CopySet(CopySet.Kind.PLACES, 8, new int[] {9, 10})))
            .build();
      }
      case BRANCH_COPIES -> {
        Node first = Node.of(8, "left", -1, Node.Content.GROUP);
        Node second = Node.of(9, "right", -1, Node.Content.GROUP).withTransform(aside());
        yield plate.toBuilder()
            .nodes(
                List.of(
                    first,
                    second,
                    Node.of(10, "plate", 0, node.content()),
                    Node.of(11, "plate", 1, node.content())))
            .copies(List.of(new CopySet(CopySet.Kind.BRANCHES, -1, new int[] {8, 9})))
            .build();
      }
      case HIERARCHY -> {
        Node above = Node.of(8, "yard", -1, Node.Content.GROUP);
        LocalTransform mirrored =
            LocalTransform.Trs.of(
                new Vector3d(1, 2, 3), new Quaterniond().rotateX(0.7), new Vector3d(-1, 2, 1));
        Node below = node.withParent(0).withTransform(mirrored);
        yield plate.toBuilder().nodes(List.of(above, below)).build();
      }
      default -> scene(capability, plate);
    };
  }

  private static LocalTransform aside() {
    return LocalTransform.Trs.of(new Vector3d(3, 0, 0), new Quaterniond(), new Vector3d(1));
  }

  private static Scene scene(Capability capability, Scene plate) {
    PolygonMesh mesh = plate.meshes().get(0);
    Node node = plate.nodes().get(0);
    return switch (capability) {
      case TEXTS_OVER_TIME -> {
        Clip.Words words =
            new Clip.Words(
                node.id(), Clip.CUSTOM + "flag", new double[] {0, 1}, List.of("up", "down"));
        Clip.Track still =
            new Clip.Track(
                node.id(),
                Clip.TRANSLATION,
                Clip.Interpolation.LINEAR,
                3,
                new double[] {0, 1},
                new double[6],
                null,
                null);
        yield plate.toBuilder()
            .add(new Clip(50, "watch", 0, 1, List.of(still)).withWords(List.of(words)))
            .build();
      }
      case HIDDEN_PARTS -> plate.toBuilder().nodes(List.of(node.withVisible(false))).build();
      case SHOWN_PARTS ->
          plate.toBuilder()
              .nodes(
                  List.of(
                      Node.of(9, "store", -1, Node.Content.GROUP).withVisible(false),
                      node.withParent(0).withVisibility(Visibility.SHOWN)))
              .build();
      case PURPOSES -> plate.toBuilder().nodes(List.of(node.withPurpose(Purpose.PROXY))).build();
      case CUSTOM_VALUES ->
          plate.toBuilder().nodes(List.of(node.withProperties(Map.of("tide", 3)))).build();
      case SKINS -> skinned(plate, node);
      case MORPHS -> {
        MorphTarget.Shape shape =
            new MorphTarget.Shape(1, new int[] {1}, new float[] {0, 0, 0.5f}, null);
        MorphTarget target = new MorphTarget("bow", 0.25, List.of(shape));
        yield with(plate, mesh.toBuilder().morphs(List.of(target)).build());
      }
      case CLIPS -> {
        Clip.Track track =
            new Clip.Track(
                node.id(),
                Clip.TRANSLATION,
                Clip.Interpolation.LINEAR,
                3,
                new double[] {0, 1},
                new double[] {0, 0, 0, 1, 0, 0},
                null,
                null);
        yield plate.toBuilder().add(new Clip(70, "swing", 0, 1, List.of(track))).build();
      }
      case CAMERAS -> {
        Camera camera = new Camera(60, "eye", 0.8, 0, 1.5, 0.1, 100, Map.of());
        Node eye = Node.of(9, "eye", -1, new Node.Content.CameraContent(60));
        yield plate.toBuilder().add(camera).nodes(List.of(node, eye)).build();
      }
      case CAMERA_LENSES -> eye(plate, 100, new Lens(36, 24, 1.5, -2, 3, 2.8));
      case OPEN_CAMERAS -> eye(plate, Double.POSITIVE_INFINITY, null);
      case LIGHTS -> {
        Light lamp =
            new Light(
                61,
                "lamp",
                Light.Kind.POINT,
                new float[] {1, 1, 1},
                10,
                Double.POSITIVE_INFINITY,
                0,
                Math.PI / 4,
                Map.of());
        Node holder = Node.of(9, "lamp", -1, new Node.Content.LightContent(61));
        yield plate.toBuilder().add(lamp).nodes(List.of(node, holder)).build();
      }
      default -> plate;
    };
  }

  /** The plate, and a line of its corners in a part of its own. */
  private static Scene beside(Scene plate, CurveForm form) {
    PolygonMesh mesh = plate.meshes().get(0);
    LooseElements line =
        new LooseElements(new int[] {0, 4}, new int[] {0, 1, 2, 3}, new int[0], form);
    PolygonMesh rope =
        mesh.toBuilder()
            .id(41)
            .name("rope")
            .faces(Polygons.triangles(new int[0]))
            .attributes(List.of())
            .materials(new int[0], null)
            .loose(line)
            .build();
    Node shown = Node.of(42, "rope", -1, Node.Content.MeshContent.of(41));
    return plate.toBuilder()
        .meshes(List.of(mesh, rope))
        .nodes(List.of(plate.nodes().get(0), shown))
        .build();
  }

  private static Scene eye(Scene plate, double far, Lens lens) {
    Camera camera = new Camera(60, "eye", 0.8, 0, 1.5, 0.1, far, lens, Map.of());
    Node eye = Node.of(9, "eye", -1, new Node.Content.CameraContent(60));
    return plate.toBuilder().add(camera).nodes(List.of(plate.nodes().get(0), eye)).build();
  }

  private static Scene with(Scene plate, PolygonMesh mesh) {
    return plate.toBuilder().meshes(List.of(mesh)).build();
  }

  private static PolygonMesh more(PolygonMesh mesh, Attribute... layers) {
    List<Attribute> all = new ArrayList<>(mesh.attributes());
    all.addAll(List.of(layers));
    return mesh.withAttributes(all);
  }

  private static Attribute layer(Table table) {
    return new Attribute("wood", Semantic.OTHER, Domain.VERTEX, table, null);
  }

  /** Colours of 8 bits, which every format holds. */
  private static Attribute colours(String name) {
    float[] values = new float[16];
    for (int i = 0; i < values.length; i++) {
      values[i] = i % 4 == 3 ? 1 : 15 * i / 255f;
    }
    return new Attribute(name, Semantic.COLOUR, Domain.VERTEX, 4, values, null);
  }

  /** UVs of the second triangle lie elsewhere. */
  private static PolygonMesh seams(PolygonMesh mesh) {
    List<Attribute> all = new ArrayList<>(mesh.attributes());
    all.removeIf(a -> a.semantic() == Semantic.UV);
    float[] uv = {0, 0, 1, 0, 1, 1, 0.5f, 0, 0, 1, 0.5f, 1};
    all.add(new Attribute("uv", Semantic.UV, Domain.CORNER, 2, uv, null));
    return mesh.withAttributes(all);
  }

  /** Two joints, the second of which stands otherwise than at bind. */
  private static Scene skinned(Scene plate, Node node) {
    double[] inverse = new double[32];
    new Matrix4d().get(inverse, 0);
    new Matrix4d().get(inverse, 16);
    int[] offsets = {0, 1, 2, 3, 4};
    float[] weights = {1, 1, 1, 1};
    Skin skin =
        new Skin(
            50,
            "skin",
            plate.meshes().get(0).id(),
            new int[] {10, 11},
            inverse,
            offsets,
            new int[] {0, 1, 1, 0},
            weights,
            "linear");
    LocalTransform raised =
        LocalTransform.Trs.of(new Vector3d(0, 0, 0.4), new Quaterniond(), new Vector3d(1));
    List<Node> nodes =
        List.of(
            Node.of(10, "low", -1, new Node.Content.Joint(0)),
            Node.of(11, "high", 0, new Node.Content.Joint(0)).withTransform(raised),
            node.withContent(((Node.Content.MeshContent) node.content()).withSkin(50)));
    return plate.toBuilder().add(skin).nodes(nodes).build();
  }

  private static PolygonMesh bare(PolygonMesh mesh) {
    return mesh.withAttributes(
        mesh.attributes().stream().filter(a -> a.semantic() != Semantic.NORMAL).toList());
  }
}
