package ferry.stone.core.handling.step.parts;

import ferry.stone.core.field.Field;
import ferry.stone.core.geometry.cache.PickedCache;
import ferry.stone.core.geometry.mesh.MeshCut;
import ferry.stone.core.geometry.mesh.Pieces;
import ferry.stone.core.geometry.mesh.SkinVertices;
import ferry.stone.core.geometry.uv.UvIslands;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.handling.step.place.Picked;
import ferry.stone.core.handling.step.surface.ChosenMeshes;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.scene.time.RenamedCache;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/**
 * Splits meshes into parts of their own: by loose pieces, material, face set, UV island, the
 * objects they were merged from, or faces that were picked. Weights, morph targets, materials and
 * caches go along. The part itself becomes a group that holds them, so that what hangs on it and
 * moves it stays.
 */
public final class SplitParts extends BasicStep<SplitParts.Params> {
  private static final Field BY_CHOICE =
      Field.choice(
          "by",
          "By",
          "What becomes a part.",
          "pieces",
          "loose pieces",
          "places",
          "loose pieces, seams closed",
          "material",
          "material",
          "set",
          "face set",
          "object",
          "object it was merged from",
          "islands",
          "UV island",
          "faces",
          "picked faces");

  private static final int MOST_PARTS = 20_000;

  /**
   * @param by {@code pieces}, {@code places} (pieces with vertices at one place joined), {@code
   *     material}, {@code set}, {@code object}, {@code islands} (of the first UV set) or {@code
   *     faces}
   * @param faces {@code node:face,face …} as picked on the near side
   */
  public record Params(String by, String faces) {
    public Params {
      BY_CHOICE.checked(by);
      faces = faces == null ? "" : faces;
    }
  }

  public SplitParts() {
    super(
        Group.PARTS,
        "split",
        "Split",
        "Makes parts of their own of loose pieces, materials, face sets, UV islands or merged objects."
            + " Weights, morph targets and materials stay.",
        Params.class,
        true,
        BY_CHOICE,
        Field.pick("faces", "Faces", "faces", "Pick them in the view.").when("by=faces"));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Work work = new Work(scene, params);
    Selection meant = selection;
    if (params.by().equals("faces")) {
      Picked picked = Picked.of(params.faces(), scene);
      meant = new Selection(List.of(scene.nodes().get(picked.place()).id()));
    }
    return work.run(meant, progress);
  }

  /** Which group each face goes to. */
  private record Groups(int[] ofFace, List<String> names) {}

  private static final class Work {
    private final Scene scene;
    private final Params params;
    private final SceneBuilder builder;
    private final NodeTree tree;
    private final Map<Integer, Skin> skins = new HashMap<>();
    private final Map<Integer, List<MeshCut.Part>> cuts = new HashMap<>();
    private final Map<Integer, List<String>> names = new HashMap<>();
    private final Map<List<Integer>, Integer> newSkins = new HashMap<>();
    private final List<Skin> allSkins;
    private final List<PolygonMesh> meshes = new ArrayList<>();
    private final List<PointCache> caches = new ArrayList<>();
    private final List<PointCache> secondMotions = new ArrayList<>();
    private final Map<Integer, List<Integer>> partNodes = new HashMap<>();

    Work(Scene scene, Params params) {
      this.scene = scene;
      this.params = params;
      builder = scene.toBuilder();
      tree = new NodeTree(scene);
      allSkins = new ArrayList<>(scene.skins());
      scene.skins().forEach(s -> skins.put(s.id(), s));
    }

    StepResult run(Selection selection, Progress progress) {
      ChosenMeshes chosen = ChosenMeshes.of(scene, selection);
      int before = 0;
      int after = 0;
      for (PolygonMesh mesh : scene.meshes()) {
        progress.checkCancelled();
        if (!chosen.has(mesh) || !cut(mesh)) {
          meshes.add(mesh);
          of(mesh, scene.caches()).forEach(caches::add);
          of(mesh, scene.secondMotions()).forEach(secondMotions::add);
          continue;
        }
        before++;
        after += cuts.get(mesh.id()).size();
      }
      if (before == 0) {
        return StepResult.of(scene, "nothing to split");
      }
      if (after > MOST_PARTS) {
        throw new IllegalArgumentException(
            "That would make "
                + Figures.count(after)
                + " parts; at most "
                + Figures.count(MOST_PARTS)
                + " are made. Choose fewer parts, or weld first");
      }
      for (Node node : scene.nodes()) {
        if (node.content() instanceof Node.Content.MeshContent content
            && cuts.containsKey(content.meshId())) {
          divide(node, content);
        }
      }
      tree.into(builder);
      List<Clip> clips = morphTracks(builder.build().clips());
      builder.meshes(meshes).skins(allSkins).caches(caches).secondMotions(secondMotions);
      Scene result = builder.clips(clips).build();
      return StepResult.of(
          Orphans.without(result),
          Figures.count(before, "part") + " → " + Figures.count(after, "part"));
    }

    /** Cuts a mesh; {@code false} when it stays whole. */
    private boolean cut(PolygonMesh mesh) {
      Groups groups = groups(mesh);
      if (groups == null || groups.names().size() < 2) {
        return false;
      }
      List<MeshCut.Part> parts = new ArrayList<>();
      List<MeshCut.Part> cut = MeshCut.into(mesh, groups.ofFace(), groups.names().size());
      for (int g = 0; g < cut.size(); g++) {
        MeshCut.Part part = cut.get(g);
        int id = builder.newId();
        PolygonMesh own = named(part.mesh().toBuilder().id(id).name(groups.names().get(g)).build());
        parts.add(new MeshCut.Part(own, part.sourceVertex(), part.sourceSlot()));
        meshes.add(own);
        of(mesh, scene.caches()).map(c -> cut(c, part, id)).forEach(caches::add);
        of(mesh, scene.secondMotions()).map(c -> cut(c, part, id)).forEach(secondMotions::add);
      }
      cuts.put(mesh.id(), parts);
      names.put(mesh.id(), groups.names());
      return true;
    }

    private static Stream<PointCache> of(PolygonMesh mesh, List<PointCache> caches) {
      return caches.stream().filter(c -> c.meshId() == mesh.id());
    }

    private PointCache cut(PointCache cache, MeshCut.Part part, int meshId) {
      PickedCache picked = new PickedCache(cache, part.sourceVertex());
      return new RenamedCache(picked, builder.newId(), meshId);
    }

    /** A part that is one set, and bears its name, needs the set no more. */
    private PolygonMesh named(PolygonMesh part) {
      if (!params.by().equals("set") && !params.by().equals("object")) {
        return part;
      }
      int all = part.faces().faceCount();
      List<FaceSet> kept =
          part.faceSets().stream()
              .filter(s -> s.faces().length < all || !s.name().equals(part.name()))
              .toList();
      return part.toBuilder().faceSets(kept).build();
    }

    private Groups groups(PolygonMesh mesh) {
      return switch (params.by()) {
        case "pieces" -> pieces(mesh, Pieces.byVertex(mesh.faces(), mesh.points().count()));
        case "places" -> pieces(mesh, Pieces.byPosition(mesh.faces(), mesh.points()));
        case "material" -> materials(mesh);
        case "set" -> sets(mesh, mesh.faceSets());
        case "object" -> objects(mesh);
        case "islands" -> islands(mesh);
        default -> faces(mesh);
      };
    }

    private static Groups pieces(PolygonMesh mesh, Pieces pieces) {
      List<String> names = new ArrayList<>();
      int digits = String.valueOf(pieces.count()).length();
      for (int i = 1; i <= pieces.count(); i++) {
        names.add(mesh.name() + "_" + "0".repeat(digits - String.valueOf(i).length()) + i);
      }
      return new Groups(pieces.pieceOfFace(), names);
    }

    /** Faces without UVs stay together in a last part. */
    private static Groups islands(PolygonMesh mesh) {
      Attribute uv = mesh.first(Attribute.Semantic.UV).orElse(null);
      if (uv == null) {
        return null;
      }
      UvIslands islands = UvIslands.of(mesh, uv);
      int[] of = islands.ofFace().clone();
      boolean bare = false;
      for (int f = 0; f < of.length; f++) {
        bare |= of[f] < 0;
        of[f] = of[f] < 0 ? islands.count() : of[f];
      }
      return pieces(mesh, new Pieces(islands.count() + (bare ? 1 : 0), of));
    }

    private Groups materials(PolygonMesh mesh) {
      Map<Integer, Integer> bySlot = new LinkedHashMap<>();
      int[] of = new int[mesh.faces().faceCount()];
      List<String> names = new ArrayList<>();
      for (int f = 0; f < of.length; f++) {
        int slot = mesh.slot(f);
        Integer group = bySlot.get(slot);
        if (group == null) {
          group = names.size();
          bySlot.put(slot, group);
          int material = slot < 0 ? -1 : mesh.materialIds()[slot];
          String name = scene.material(material).map(Material::name).orElse("plain");
          names.add(mesh.name() + "_" + name);
        }
        of[f] = group;
      }
      return new Groups(of, names);
    }

    /** A face goes to the first set that has it; faces in none stay together. */
    private static Groups sets(PolygonMesh mesh, List<FaceSet> sets) {
      int[] of = new int[mesh.faces().faceCount()];
      Arrays.fill(of, -1);
      List<String> names = new ArrayList<>();
      for (FaceSet set : sets) {
        boolean any = false;
        for (int f : set.faces()) {
          if (of[f] < 0) {
            of[f] = names.size();
            any = true;
          }
        }
        if (any) {
          names.add(set.name());
        }
      }
      boolean rest = false;
      for (int f = 0; f < of.length; f++) {
        if (of[f] < 0) {
          of[f] = names.size();
          rest = true;
        }
      }
      if (rest) {
        names.add(mesh.name());
      }
      return new Groups(of, names);
    }

    private static Groups objects(PolygonMesh mesh) {
      Object objects = mesh.properties().get(MergeParts.OBJECTS);
      if (!(objects instanceof List<?> list)) {
        return null;
      }
      return sets(mesh, mesh.faceSets().stream().filter(s -> list.contains(s.name())).toList());
    }

    private Groups faces(PolygonMesh mesh) {
      Picked picked = Picked.of(params.faces(), scene);
      int id = ((Node.Content.MeshContent) scene.nodes().get(picked.place()).content()).meshId();
      if (id != mesh.id()) {
        return null;
      }
      picked.check("face", mesh.faces().faceCount());
      int[] of = new int[mesh.faces().faceCount()];
      for (int f : picked.indices()) {
        of[f] = 1;
      }
      boolean all = Arrays.stream(of).allMatch(g -> g == 1);
      return all ? null : new Groups(of, List.of(mesh.name() + "_rest", mesh.name() + "_picked"));
    }

    /** The node becomes a group; its parts hang on it. */
    private void divide(Node node, Node.Content.MeshContent content) {
      tree.put(tree.get(node.id()).withContent(Node.Content.GROUP));
      List<MeshCut.Part> parts = cuts.get(content.meshId());
      List<Integer> ids = new ArrayList<>();
      for (int g = 0; g < parts.size(); g++) {
        MeshCut.Part part = parts.get(g);
        int[] slots = null;
        if (content.slotMaterials() != null) {
          slots = new int[part.sourceSlot().length];
          for (int s = 0; s < slots.length; s++) {
            slots[s] = content.slotMaterials()[part.sourceSlot()[s]];
          }
        }
        int id = builder.newId();
        ids.add(id);
        Node child =
            Node.of(
                    id,
                    names.get(content.meshId()).get(g),
                    -1,
                    new Node.Content.MeshContent(
                        part.mesh().id(), skin(content, part), slots, content.morphWeights()))
                .withGeometric(node.geometric());
        tree.add(child, node.id());
      }
      tree.put(
          tree.get(node.id()).withGeometric(ferry.stone.core.scene.node.LocalTransform.IDENTITY));
      partNodes.put(node.id(), ids);
    }

    private int skin(Node.Content.MeshContent content, MeshCut.Part part) {
      Skin skin = skins.get(content.skinId());
      if (skin == null) {
        return -1;
      }
      return newSkins.computeIfAbsent(
          List.of(skin.id(), part.mesh().id()),
          k -> {
            int id = builder.newId();
            Skin own = SkinVertices.picked(skin, part.sourceVertex());
            allSkins.add(own.of(id, part.mesh().id()));
            return id;
          });
    }

    /** Morph weights move every part of what was split. */
    private List<Clip> morphTracks(List<Clip> clips) {
      List<Clip> result = new ArrayList<>();
      for (Clip clip : clips) {
        List<Clip.Track> tracks = new ArrayList<>();
        for (Clip.Track track : clip.tracks()) {
          List<Integer> parts = track.isMorph() ? partNodes.get(track.targetId()) : null;
          if (parts == null) {
            tracks.add(track);
          } else {
            parts.forEach(id -> tracks.add(track.withTarget(id)));
          }
        }
        List<Clip.Keys> keys = new ArrayList<>();
        for (Clip.Keys key : clip.keys()) {
          List<Integer> parts =
              key.property().startsWith(Clip.MORPH) ? partNodes.get(key.targetId()) : null;
          if (parts == null) {
            keys.add(key);
          } else {
            parts.forEach(id -> keys.add(key.withTarget(id)));
          }
        }
        result.add(clip.withTracks(tracks).withKeys(keys));
      }
      return result;
    }
  }
}
