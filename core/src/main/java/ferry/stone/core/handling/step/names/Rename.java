package ferry.stone.core.handling.step.names;

import ferry.stone.core.field.Field;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.handling.step.surface.ChosenMeshes;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.shore.NameRules;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.regex.PatternSyntaxException;

/**
 * Renames parts, meshes, materials, clips, morph targets or images. Joints and clips find parts by
 * their ids, so they follow; clips that move a morph target by its name follow it.
 */
public final class Rename extends BasicStep<Rename.Params> {
  private static final Field WHAT_CHOICE =
      Field.choice(
          "what",
          "Names of",
          "Which names change.",
          "parts",
          "parts",
          "materials",
          "materials",
          "clips",
          "clips",
          "morphs",
          "morph targets",
          "images",
          "images");
  private static final Field HOW_CHOICE =
      Field.choice(
          "how",
          "How",
          "How new names are made.",
          "replace",
          "replace a text",
          "regex",
          "replace by a regular expression",
          "affix",
          "add before or behind",
          "unique",
          "make unique",
          "rules",
          "by rules of the shore",
          "channel",
          "by material and channel (images)");

  private static final int LISTED = 200;
  private static final int LONGEST = 10_000;

  /**
   * @param what {@code parts}, {@code materials}, {@code clips}, {@code morphs} or {@code images}
   * @param how {@code replace}, {@code regex}, {@code affix}, {@code unique}, {@code rules} or
   *     {@code channel}, which is for images alone
   * @param find text or regular expression to replace
   * @param with what comes in its place; {@code $1} stands for a group of a regular expression
   * @param prefix put in front
   * @param suffix put behind
   * @param allowed characters that may stand in a name, as the inside of a character class
   * @param longest most characters of a name, 0 for any
   */
  public record Params(
      String what,
      String how,
      String find,
      String with,
      String prefix,
      String suffix,
      String allowed,
      int longest) {
    public Params {
      what = WHAT_CHOICE.chosen(what);
      HOW_CHOICE.checked(how);
      if (how.equals("channel") && !what.equals("images")) {
        throw new IllegalArgumentException(
            "names by material and channel are for images; choose images, or another way");
      }
      find = find == null ? "" : find;
      with = with == null ? "" : with;
      prefix = prefix == null ? "" : prefix;
      suffix = suffix == null ? "" : suffix;
      allowed = allowed == null || allowed.isEmpty() ? NameRules.PLAIN : allowed;
      Field.within("longest", longest, 0, LONGEST);
      if (how.equals("regex")) {
        try {
          "".replaceAll(Pattern.compile(find).pattern(), "");
        } catch (PatternSyntaxException e) {
          throw new IllegalArgumentException(
              "The expression does not read: " + e.getDescription() + " at " + e.getIndex(), e);
        }
      }
      new NameRules(allowed, longest, false);
    }
  }

  public Rename() {
    super(
        Group.NAMES,
        "rename",
        "Rename",
        "Renames parts, materials, clips, morph targets or images; what refers to them follows. What each"
            + " becomes is listed at the handling.",
        Params.class,
        true,
        WHAT_CHOICE,
        HOW_CHOICE,
        Field.text("find", "Find", "", "Text or regular expression to replace.")
            .when("how=replace|regex"),
        Field.text("with", "Replace with", "", "$1 is the first group of a regular expression.")
            .when("how=replace|regex"),
        Field.text("prefix", "Before", "", "Put in front of every name.").when("how=affix"),
        Field.text("suffix", "Behind", "", "Put behind every name.").when("how=affix"),
        Field.text("allowed", "Allowed", NameRules.PLAIN, "Characters that may stand in a name.")
            .when("how=rules"),
        Field.number("longest", "Longest", "", 0, LONGEST, 0, "Most characters; 0 for any.")
            .when("how=rules"));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    return new Work(scene, params).run(selection);
  }

  private static final class Work {
    private final Scene scene;
    private final Params params;
    private final List<Finding> findings = new ArrayList<>();
    private int renamed;

    Work(Scene scene, Params params) {
      this.scene = scene;
      this.params = params;
    }

    StepResult run(Selection selection) {
      Scene result =
          switch (params.what()) {
            case "materials" -> materials();
            case "clips" -> clips();
            case "morphs" -> morphs(selection);
            case "images" -> images();
            default -> parts(selection);
          };
      return new StepResult(
          result, findings, renamed == 0 ? "no name changes" : renamed + " renamed");
    }

    /** New names in order; those that {@code chosen} leaves out stay and are taken. */
    private List<String> names(List<String> old, boolean[] chosen) {
      Set<String> taken = new HashSet<>();
      boolean unique = params.how().equals("unique") || params.how().equals("rules");
      for (int i = 0; i < old.size(); i++) {
        if (!chosen[i]) {
          taken.add(old.get(i));
        }
      }
      UnaryOperator<String> change = change();
      List<String> result = new ArrayList<>();
      Map<String, Integer> counters = new HashMap<>();
      for (int i = 0; i < old.size(); i++) {
        String name = old.get(i);
        if (chosen[i]) {
          name = change.apply(name);
          name = unique ? unique(name, taken, counters) : name;
        }
        result.add(name);
        report(old.get(i), name);
      }
      return result;
    }

    private UnaryOperator<String> change() {
      return switch (params.how()) {
        case "replace" ->
            name -> params.find().isEmpty() ? name : name.replace(params.find(), params.with());
        case "regex" -> this::byExpression;
        case "affix" -> name -> params.prefix() + name + params.suffix();
        case "rules" -> new NameRules(params.allowed(), params.longest(), false)::fit;
        default -> name -> name;
      };
    }

    private String byExpression(String name) {
      try {
        Matcher matcher = Pattern.compile(params.find()).matcher(name);
        return params.find().isEmpty() ? name : matcher.replaceAll(params.with());
      } catch (IndexOutOfBoundsException | IllegalArgumentException e) {
        throw new IllegalArgumentException(
            "The replacement does not read: " + e.getMessage() + ". $1 is the first group", e);
      }
    }

    /** The first free one of name, name_2, name_3 …, cut so that it fits. */
    private String unique(String name, Set<String> taken, Map<String, Integer> counters) {
      String stem = name.isBlank() ? "part" : name;
      String free = stem;
      int n = counters.getOrDefault(stem, 1);
      while (!taken.add(free)) {
        String tail = "_" + ++n;
        int room = params.longest() == 0 ? stem.length() : params.longest() - tail.length();
        free = stem.substring(0, Math.max(0, Math.min(stem.length(), room))) + tail;
      }
      counters.put(stem, n);
      return free;
    }

    private void report(String from, String to) {
      if (!from.equals(to) && ++renamed <= LISTED) {
        findings.add(Finding.of("renamed", Severity.NOTE, from, "becomes " + to));
      }
    }

    private Scene parts(Selection selection) {
      boolean[] chosen = selection.withBelow(scene);
      List<String> names = names(scene.nodes().stream().map(Node::name).toList(), chosen);
      List<Node> nodes = new ArrayList<>();
      for (int i = 0; i < chosen.length; i++) {
        nodes.add(scene.nodes().get(i).withName(names.get(i)));
      }
      return scene.toBuilder().nodes(nodes).build();
    }

    private Scene materials() {
      List<String> names = names(scene.materials().stream().map(Material::name).toList());
      List<Material> materials = new ArrayList<>();
      for (int i = 0; i < names.size(); i++) {
        materials.add(scene.materials().get(i).withName(names.get(i)));
      }
      return scene.toBuilder().materials(materials).build();
    }

    private List<String> names(List<String> old) {
      boolean[] all = new boolean[old.size()];
      Arrays.fill(all, true);
      return names(old, all);
    }

    private Scene clips() {
      List<String> names = names(scene.clips().stream().map(Clip::name).toList());
      List<Clip> clips = new ArrayList<>();
      for (int i = 0; i < names.size(); i++) {
        Clip c = scene.clips().get(i);
        clips.add(c.withName(names.get(i)));
      }
      return scene.toBuilder().clips(clips).build();
    }

    /** Images keep their endings; where they lie in the cargo they stay as they are. */
    private Scene images() {
      List<String> stems = scene.textures().stream().map(Texture::stem).toList();
      List<String> names = params.how().equals("channel") ? byChannel(stems) : names(stems);
      List<Texture> textures = new ArrayList<>();
      for (int i = 0; i < names.size(); i++) {
        Texture t = scene.textures().get(i);
        textures.add(names.get(i).equals(stems.get(i)) ? t : t.withStem(names.get(i)));
      }
      return scene.toBuilder().textures(textures).build();
    }

    private List<String> byChannel(List<String> stems) {
      Map<Integer, String> wanted = ImageNames.of(scene);
      Set<String> taken = new HashSet<>();
      Map<String, Integer> counters = new HashMap<>();
      List<String> names = new ArrayList<>();
      for (int i = 0; i < stems.size(); i++) {
        String name = wanted.get(scene.textures().get(i).id());
        names.add(name == null ? stems.get(i) : unique(name, taken, counters));
        report(stems.get(i), names.get(i));
      }
      return names;
    }

    private Scene morphs(Selection selection) {
      ChosenMeshes chosen = ChosenMeshes.of(scene, selection);
      Map<Integer, Map<String, String>> keys = new HashMap<>();
      List<PolygonMesh> meshes = new ArrayList<>();
      for (PolygonMesh mesh : scene.meshes()) {
        if (!chosen.has(mesh) || mesh.morphs().isEmpty()) {
          meshes.add(mesh);
          continue;
        }
        List<String> names = names(mesh.morphs().stream().map(MorphTarget::name).toList());
        List<MorphTarget> morphs = new ArrayList<>();
        for (int i = 0; i < names.size(); i++) {
          MorphTarget m = mesh.morphs().get(i);
          morphs.add(new MorphTarget(names.get(i), m.weight(), m.shapes()));
        }
        List<String> before = MorphTarget.keys(mesh.morphs());
        List<String> after = MorphTarget.keys(morphs);
        Map<String, String> changed = new HashMap<>();
        for (int i = 0; i < before.size(); i++) {
          changed.put(Clip.MORPH + before.get(i), Clip.MORPH + after.get(i));
        }
        keys.put(mesh.id(), changed);
        meshes.add(mesh.toBuilder().morphs(morphs).build());
      }
      return scene.toBuilder().meshes(meshes).clips(followed(keys)).build();
    }

    /** Tracks and keys of morph weights under the targets' new names. */
    private List<Clip> followed(Map<Integer, Map<String, String>> keysOfMesh) {
      Map<Integer, Map<String, String>> ofNode = new HashMap<>();
      for (Node node : scene.nodes()) {
        if (node.content() instanceof Node.Content.MeshContent content
            && keysOfMesh.containsKey(content.meshId())) {
          ofNode.put(node.id(), keysOfMesh.get(content.meshId()));
        }
      }
      List<Clip> clips = new ArrayList<>();
      for (Clip clip : scene.clips()) {
        List<Clip.Track> tracks = new ArrayList<>();
        for (Clip.Track t : clip.tracks()) {
          tracks.add(
              t.withProperty(
                  ofNode
                      .getOrDefault(t.targetId(), Map.of())
                      .getOrDefault(t.property(), t.property())));
        }
        List<Clip.Keys> keys = new ArrayList<>();
        for (Clip.Keys k : clip.keys()) {
          String property =
              ofNode.getOrDefault(k.targetId(), Map.of()).getOrDefault(k.property(), k.property());
          keys.add(new Clip.Keys(k.targetId(), property, k.component(), k.curve()));
        }
        clips.add(clip.withTracks(tracks).withKeys(keys));
      }
      return clips;
    }
  }
}
