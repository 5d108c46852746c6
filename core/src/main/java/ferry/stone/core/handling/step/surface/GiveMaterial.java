package ferry.stone.core.handling.step.surface;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/** Gives faces a material: one that is there, or a new plain one. */
public final class GiveMaterial extends BasicStep<GiveMaterial.Params> {
  private static final Field FACES_CHOICE =
      Field.choice(
          "faces", "Faces", "Which faces get it.", "without", "that have none", "all", "all");

  private static final double GREY = 0.5;
  private static final double CUTOFF = 0.5;

  /**
   * @param name of the material; a plain grey one is made when none has it
   * @param faces {@code without} (those that have none) or {@code all}
   */
  public record Params(String name, String faces) {
    public Params {
      name = name == null ? "" : name.strip();
      if (name.isEmpty() || name.length() > 120) {
        throw new IllegalArgumentException("the material's name must have 1 to 120 characters");
      }
      faces = FACES_CHOICE.chosen(faces);
    }
  }

  public GiveMaterial() {
    super(
        Group.LOOK,
        "material",
        "Give a material",
        "Gives faces a material of this name; a plain grey one is made when there is none.",
        Params.class,
        true,
        Field.text("name", "Material", "plain", "Name of one that is there, or of a new one."),
        FACES_CHOICE);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    SceneBuilder builder = scene.toBuilder();
    int known =
        scene.materials().stream()
            .filter(m -> m.name().equals(params.name()))
            .mapToInt(Material::id)
            .findFirst()
            .orElse(-1);
    int material = known >= 0 ? known : builder.newId();
    boolean all = params.faces().equals("all");
    ChosenMeshes chosen = ChosenMeshes.of(scene, selection);
    List<PolygonMesh> meshes = new ArrayList<>();
    Map<Integer, Integer> slotsBefore = new java.util.HashMap<>();
    long faces = 0;
    for (PolygonMesh mesh : scene.meshes()) {
      int count = chosen.has(mesh) ? without(mesh, all) : 0;
      faces += count;
      meshes.add(count > 0 ? given(mesh, material, all) : mesh);
      if (count > 0) {
        slotsBefore.put(mesh.id(), mesh.materialIds().length);
      }
    }
    if (faces == 0) {
      return StepResult.of(scene, "every face has one");
    }
    builder.meshes(meshes);
    builder.nodes(scene.nodes().stream().map(n -> choices(n, slotsBefore, material, all)).toList());
    if (known < 0) {
      builder.add(plain(material, params.name()));
    }
    return StepResult.of(builder.build(), Figures.count(faces, "face") + " · " + params.name());
  }

  private static int without(PolygonMesh mesh, boolean all) {
    int count = 0;
    for (int f = 0; f < mesh.faces().faceCount(); f++) {
      count += all || mesh.materialOf(f) < 0 ? 1 : 0;
    }
    return count;
  }

  private static PolygonMesh given(PolygonMesh mesh, int material, boolean all) {
    if (all) {
      return mesh.toBuilder()
          .materials(new int[] {material}, null)
          .variantMaterials(new int[0][])
          .build();
    }
    int slot = mesh.materialIds().length;
    int[] materials = Arrays.copyOf(mesh.materialIds(), slot + 1);
    materials[slot] = material;
    int[] ofFace = new int[mesh.faces().faceCount()];
    for (int f = 0; f < ofFace.length; f++) {
      ofFace[f] = mesh.materialOf(f) < 0 ? slot : mesh.slot(f);
    }
    int[][] variants = new int[mesh.variantMaterials().length][];
    for (int i = 0; i < variants.length; i++) {
      variants[i] = Arrays.copyOf(mesh.variantMaterials()[i], slot + 1);
      variants[i][slot] = -1;
    }
    return mesh.toBuilder().materials(materials, ofFace).variantMaterials(variants).build();
  }

  /** A node's own choice of materials has a place for each slot. */
  private static Node choices(
      Node node, Map<Integer, Integer> slotsBefore, int material, boolean all) {
    if (!(node.content() instanceof Node.Content.MeshContent content)
        || content.slotMaterials() == null
        || !slotsBefore.containsKey(content.meshId())) {
      return node;
    }
    int slots = slotsBefore.get(content.meshId());
    int[] chosen = all ? new int[1] : Arrays.copyOf(content.slotMaterials(), slots + 1);
    chosen[chosen.length - 1] = material;
    return node.withContent(
        new Node.Content.MeshContent(
            content.meshId(), content.skinId(), chosen, content.morphWeights()));
  }

  private static Material plain(int id, String name) {
    EnumMap<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    channels.put(Channel.BASE_COLOUR, new Material.Value(new double[] {GREY, GREY, GREY}, null));
    channels.put(Channel.METALLIC, new Material.Value(new double[] {0}, null));
    channels.put(Channel.ROUGHNESS, new Material.Value(new double[] {1}, null));
    return new Material(
        id,
        name,
        Material.Shading.METALLIC_ROUGHNESS,
        channels,
        Material.Alpha.OPAQUE,
        CUTOFF,
        false,
        Map.of());
  }
}
