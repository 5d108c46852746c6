package ferry.stone.core.handling.step.parts;

import ferry.stone.core.field.Field;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.geometry.mesh.MeshClean;
import ferry.stone.core.handling.KnownMeshes;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.handling.step.surface.ChosenMeshes;
import ferry.stone.core.handling.step.surface.VertexChanges;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;

/** Takes away what the destination has no use for; every removal is listed. */
public final class Remove extends BasicStep<Remove.Params> {
  private static final Field WHAT_CHOICE =
      Field.choice(
          "what",
          "What",
          "What goes.",
          "unusedMaterials",
          "unused materials and textures",
          "unusedVertices",
          "unused vertices",
          "emptyGroups",
          "empty groups",
          "parts",
          "the chosen parts",
          "brokenVertices",
          "vertices that are no numbers",
          "degenerateFaces",
          "faces without area",
          "duplicateFaces",
          "duplicate faces",
          "attributes",
          "custom attributes",
          "normals",
          "normals",
          "colours",
          "vertex colours",
          "uvs",
          "UV sets",
          "morphs",
          "morph targets",
          "clips",
          "clips",
          "cameras",
          "cameras",
          "lights",
          "lights",
          "properties",
          "custom values");

  /**
   * @param what one of the choices
   * @param named pattern of names, for attributes, UV sets, morph targets, clips and properties;
   *     empty for all
   */
  public record Params(String what, String named) {
    public Params {
      WHAT_CHOICE.checked(what);
      named = named == null ? "" : named.strip();
    }

    boolean fits(String name) {
      return named.isEmpty() || Selection.names(named).matcher(name).matches();
    }
  }

  public Remove() {
    super(
        Group.CLEAN,
        "remove",
        "Remove",
        "Takes away unused or unwanted things; each is listed.",
        Params.class,
        true,
        WHAT_CHOICE,
        Field.text(
            "named",
            "Named",
            "",
            "A pattern like helper_*; for attributes, UV sets, morph targets, clips and values."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    List<String> gone = new ArrayList<>();
    Scene result =
        switch (params.what()) {
          case "unusedMaterials" -> unusedMaterials(scene, gone);
          case "emptyGroups" -> emptyGroups(scene, selection, gone);
          case "parts" -> parts(scene, selection, gone);
          case "cameras", "lights" -> ofKind(scene, params.what(), selection, gone);
          case "clips" -> clips(scene, params, gone);
          case "properties" -> properties(scene, selection, params, gone);
          case "unusedVertices", "brokenVertices", "degenerateFaces", "duplicateFaces" ->
              elements(scene, selection, params, gone, progress);
          default -> layers(scene, selection, params, gone);
        };
    List<Finding> findings =
        gone.stream()
            .limit(200)
            .map(g -> Finding.of("removed", Severity.NOTE, g, "removed"))
            .toList();
    return new StepResult(
        result, findings, gone.isEmpty() ? "nothing to remove" : gone.size() + " removed");
  }

  private static Scene unusedMaterials(Scene scene, List<String> gone) {
    Set<Integer> used = new HashSet<>();
    scene.meshes().forEach(m -> m.usedMaterials().forEach(used::add));
    for (Node node : scene.nodes()) {
      node.ownMaterials().forEach(used::add);
    }
    List<Material> kept = new ArrayList<>();
    Set<Integer> textures = new HashSet<>();
    for (Material material : scene.materials()) {
      if (used.contains(material.id())) {
        kept.add(material);
        for (Material.Value value : material.channels().values()) {
          TextureUse use = value.texture();
          if (use != null) {
            textures.add(use.textureId());
          }
        }
      } else {
        gone.add("material " + material.name());
      }
    }
    scene.textures().stream()
        .filter(t -> !textures.contains(t.id()))
        .forEach(t -> gone.add("texture " + t.name()));
    return scene.toBuilder()
        .materials(kept)
        .textures(scene.textures().stream().filter(t -> textures.contains(t.id())).toList())
        .build();
  }

  /** Groups below which nothing is shown and no joint or set needs them. */
  private static Scene emptyGroups(Scene scene, Selection selection, List<String> gone) {
    boolean[] chosen = selection.withBelow(scene);
    boolean[] needed = new boolean[chosen.length];
    Set<Integer> joints = new HashSet<>();
    scene.skins().forEach(s -> java.util.Arrays.stream(s.jointNodeIds()).forEach(joints::add));
    for (int i = chosen.length - 1; i >= 0; i--) {
      Node node = scene.nodes().get(i);
      boolean group = node.content() instanceof Node.Content.Group;
      needed[i] |= !group || joints.contains(node.id()) || !chosen[i];
      if (needed[i] && node.parent() >= 0) {
        needed[node.parent()] = true;
      }
    }
    Set<Integer> ids = new HashSet<>();
    List<String> paths = scene.paths();
    for (int i = 0; i < needed.length; i++) {
      if (!needed[i]) {
        ids.add(scene.nodes().get(i).id());
        gone.add(paths.get(i));
      }
    }
    return without(scene, ids);
  }

  private static Scene parts(Scene scene, Selection selection, List<String> gone) {
    if (selection.isAll()) {
      throw new IllegalArgumentException(
          "That would remove everything: pick parts, or give a pattern of their names");
    }
    return removed(scene, selection.withBelow(scene), gone);
  }

  private static Scene ofKind(Scene scene, String what, Selection selection, List<String> gone) {
    boolean[] chosen = selection.withBelow(scene);
    for (int i = 0; i < chosen.length; i++) {
      boolean isKind = what.startsWith(scene.nodes().get(i).content().kind());
      chosen[i] &= isKind;
    }
    return removed(scene, chosen, gone);
  }

  /** What hangs on a removed part and is not chosen itself stays, on a plain group in its place. */
  private static Scene removed(Scene scene, boolean[] chosen, List<String> gone) {
    boolean[] holds = new boolean[chosen.length];
    Set<Integer> joints = new HashSet<>();
    scene.skins().forEach(s -> java.util.Arrays.stream(s.jointNodeIds()).forEach(joints::add));
    for (int i = chosen.length - 1; i >= 0; i--) {
      int parent = scene.nodes().get(i).parent();
      if (parent >= 0 && (!chosen[i] || holds[i])) {
        holds[parent] = true;
      }
    }
    Set<Integer> ids = new HashSet<>();
    NodeTree tree = new NodeTree(scene);
    List<String> paths = scene.paths();
    Set<Integer> skinned = new HashSet<>();
    for (int i = 0; i < chosen.length; i++) {
      if (!chosen[i]
          && scene.nodes().get(i).content() instanceof Node.Content.MeshContent content) {
        skinned.add(content.skinId());
      }
    }
    for (int i = 0; i < chosen.length; i++) {
      Node node = scene.nodes().get(i);
      if (!chosen[i]) {
        continue;
      }
      if (joints.contains(node.id()) && isNeeded(scene, node.id(), skinned)) {
        throw new IllegalArgumentException(
            "The joint \"" + node.name() + "\" moves a mesh that stays. Remove that mesh too");
      }
      gone.add(paths.get(i));
      if (holds[i]) {
        tree.put(node.withContent(Node.Content.GROUP));
      } else {
        ids.add(node.id());
      }
    }
    tree.remove(ids);
    return Orphans.without(tree.into(scene.toBuilder()).build());
  }

  private static boolean isNeeded(Scene scene, int joint, Set<Integer> skins) {
    return scene.skins().stream()
        .anyMatch(
            s ->
                skins.contains(s.id())
                    && java.util.Arrays.stream(s.jointNodeIds()).anyMatch(j -> j == joint));
  }

  private static Scene without(Scene scene, Set<Integer> ids) {
    NodeTree tree = new NodeTree(scene);
    tree.remove(ids);
    return Orphans.without(tree.into(scene.toBuilder()).build());
  }

  private static Scene clips(Scene scene, Params params, List<String> gone) {
    scene.clips().stream().filter(c -> params.fits(c.name())).forEach(c -> gone.add(c.name()));
    return scene.toBuilder()
        .clips(scene.clips().stream().filter(c -> !params.fits(c.name())).toList())
        .build();
  }

  private static Scene properties(
      Scene scene, Selection selection, Params params, List<String> gone) {
    boolean[] chosen = selection.withBelow(scene);
    List<Node> nodes = new ArrayList<>();
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    List<String> paths = scene.paths();
    for (int i = 0; i < chosen.length; i++) {
      Node node = scene.nodes().get(i);
      if (chosen[i]) {
        Map<String, Object> kept = new java.util.HashMap<>(node.properties());
        String path = paths.get(i);
        node.properties().keySet().stream()
            .filter(params::fits)
            .forEach(
                key -> {
                  kept.remove(key);
                  gone.add(path + " · " + key);
                });
        node = node.withProperties(kept);
      }
      nodes.add(node);
    }
    List<PolygonMesh> changed = new ArrayList<>();
    ChosenMeshes of = ChosenMeshes.of(scene, selection);
    for (PolygonMesh mesh : meshes.values().stream().sorted(byId()).toList()) {
      Map<String, Object> kept = new java.util.HashMap<>(mesh.properties());
      boolean own = of.has(mesh);
      if (own && kept.keySet().removeIf(params::fits)) {
        gone.add(mesh.name() + " · values of the mesh");
      }
      changed.add(own ? mesh.toBuilder().properties(kept).build() : mesh);
    }
    return scene.toBuilder().nodes(nodes).meshes(changed).build();
  }

  private static java.util.Comparator<PolygonMesh> byId() {
    return java.util.Comparator.comparingInt(PolygonMesh::id);
  }

  private static Scene elements(
      Scene scene, Selection selection, Params params, List<String> gone, Progress progress) {
    VertexChanges changes = new VertexChanges();
    ChosenMeshes chosen = ChosenMeshes.of(scene, selection);
    for (PolygonMesh mesh : scene.meshes()) {
      progress.checkCancelled();
      if (!chosen.has(mesh)) {
        continue;
      }
      MeshClean.Result result =
          switch (params.what()) {
            case "unusedVertices" -> MeshClean.unusedVertices(mesh);
            case "brokenVertices" -> MeshClean.brokenVertices(mesh);
            case "degenerateFaces" -> MeshClean.degenerateFaces(mesh);
            default -> MeshClean.duplicateFaces(mesh);
          };
      if (result.removed() > 0) {
        changes.put(result.mesh(), result.sourceVertex());
        String noun = params.what().equals("unusedVertices") ? "vertex" : "face";
        gone.add(mesh.name() + " · " + Figures.count(result.removed(), noun));
      }
    }
    return changes.apply(scene);
  }

  private static Scene layers(Scene scene, Selection selection, Params params, List<String> gone) {
    ChosenMeshes chosen = ChosenMeshes.of(scene, selection);
    Pattern any = params.named().isEmpty() ? null : Selection.names(params.named());
    return chosen.each(
        KnownMeshes.NONE,
        Progress.NONE,
        mesh -> {
          if (params.what().equals("morphs")) {
            List<ferry.stone.core.scene.mesh.MorphTarget> kept =
                mesh.morphs().stream().filter(m -> !params.fits(m.name())).toList();
            mesh.morphs().stream()
                .filter(m -> params.fits(m.name()))
                .forEach(m -> gone.add(mesh.name() + " · " + m.name()));
            return kept.size() == mesh.morphs().size()
                ? mesh
                : mesh.toBuilder().morphs(kept).build();
          }
          List<Attribute> kept = new ArrayList<>();
          for (Attribute a : mesh.attributes()) {
            boolean goes =
                isMeant(a, params.what()) && (any == null || any.matcher(a.name()).matches());
            if (goes) {
              gone.add(mesh.name() + " · " + a.name());
            } else {
              kept.add(a);
            }
          }
          return kept.size() == mesh.attributes().size() ? mesh : mesh.withAttributes(kept);
        });
  }

  private static boolean isMeant(Attribute a, String what) {
    return switch (a.semantic()) {
      case NORMAL, TANGENT -> what.equals("normals");
      case UV -> what.equals("uvs");
      case COLOUR -> what.equals("colours");
      default -> what.equals("attributes");
    };
  }
}
