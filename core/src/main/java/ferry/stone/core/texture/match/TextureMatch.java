package ferry.stone.core.texture.match;

import ferry.stone.core.math.Spelling;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.Scene.ShownMesh;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.texture.MaterialDifferences;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Proposes where loose images go: the channel by the words of their names and by their pixels, the
 * material by what is left of the name, by folders, and by the names of parts. What two images want
 * the surer one gets.
 */
public final class TextureMatch {
  /** Below this nothing is proposed. */
  private static final double LEAST = 0.25;

  private static final double ONLY_MATERIAL = 0.8;

  /** How alike a renamed file is to the name that is wanted, and how sure that makes it. */
  private static final double RENAMED = 0.6;

  private static final double BY_LIKENESS = 0.4;
  private static final double MOST_SURE = 0.99;

  /** More images than that are a folder of many assets, not those of one material. */
  public static final int FEW = 40;

  private final Scene scene;
  private final List<SubjectNames> subjects = new ArrayList<>();
  private final List<Proposal> proposals = new ArrayList<>();
  private final List<Unplaced> unplaced = new ArrayList<>();
  private final Set<Slot> taken = new HashSet<>();
  private final Set<String> unreadable = new HashSet<>();
  private boolean few;

  /**
   * Where an image goes.
   *
   * @param image path in the cargo
   * @param confidence 0 to 1
   * @param reasons on which it rests
   */
  public record Proposal(
      String image, Material material, ImageRole role, double confidence, List<String> reasons) {
    public Proposal {
      reasons = List.copyOf(reasons);
    }
  }

  /** An image that goes nowhere, and why. */
  public record Unplaced(String image, String why) {}

  private record Slot(int material, Channel channel) {}

  /** One thought of where an image goes, for all of its roles. */
  private record Thought(
      String image, List<ImageRole> roles, Material material, double sure, List<String> reasons) {}

  private TextureMatch(Scene scene) {
    this.scene = scene;
  }

  /**
   * @param replace whether channels that have an image already may get another
   */
  public static TextureMatch of(Scene scene, boolean replace) {
    return of(scene, LooseImages.of(scene), replace);
  }

  static TextureMatch of(Scene scene, List<String> images, boolean replace) {
    TextureMatch match = new TextureMatch(scene);
    match.subjects();
    if (!replace) {
      match.held();
    }
    match.run(images);
    return match;
  }

  public List<Proposal> proposals() {
    return List.copyOf(proposals);
  }

  public List<Unplaced> unplaced() {
    return List.copyOf(unplaced);
  }

  private void subjects() {
    Map<Integer, Set<String>> parts = new HashMap<>();
    for (ShownMesh shown : scene.shownMeshes()) {
      shown
          .mesh()
          .usedMaterials()
          .forEach(
              id -> {
                Set<String> names = parts.computeIfAbsent(id, k -> new LinkedHashSet<>());
                names.add(shown.node().name());
                names.add(shown.mesh().name());
              });
    }
    for (Material material : scene.materials()) {
      Set<String> names = parts.get(material.id());
      if (names != null || parts.isEmpty()) {
        subjects.add(new SubjectNames(material, names == null ? Set.of() : names));
      }
    }
  }

  /** Channels whose image is there. */
  private void held() {
    for (Material material : scene.materials()) {
      material
          .channels()
          .forEach(
              (channel, value) -> {
                boolean found =
                    value.texture() != null
                        && scene
                            .texture(value.texture().textureId())
                            .map(Texture::isFound)
                            .orElse(false);
                if (found) {
                  taken.add(new Slot(material.id(), channel));
                }
                if (found && channel == Channel.OCCLUSION_ROUGHNESS_METALLIC) {
                  taken.add(new Slot(material.id(), Channel.ROUGHNESS));
                  taken.add(new Slot(material.id(), Channel.METALLIC));
                }
              });
    }
  }

  private void run(List<String> images) {
    few = images.size() <= FEW;
    List<Thought> thoughts = new ArrayList<>();
    Map<String, String> nothing = new LinkedHashMap<>();
    for (String image : images) {
      List<Thought> own = new ArrayList<>(thoughts(image));
      own.addAll(renamed(image));
      if (own.isEmpty()) {
        nothing.put(image, why(image));
      }
      thoughts.addAll(own);
    }
    // Images for one channel go before those for several, at the same confidence.
    thoughts.sort(
        Comparator.comparingDouble((Thought t) -> -t.sure)
            .thenComparingInt(t -> t.roles.size())
            .thenComparing(Thought::image)
            .thenComparing(t -> t.material.id()));
    Map<String, Thought> placed = new HashMap<>();
    for (Thought thought : thoughts) {
      Thought before = placed.get(thought.image);
      if (before != null && !isSameName(before.material, thought.material)) {
        continue;
      }
      boolean free =
          thought.roles.stream()
              .noneMatch(r -> taken.contains(new Slot(thought.material.id(), r.channel())));
      if (free) {
        place(thought);
        placed.put(thought.image, thought);
      }
    }
    for (Thought thought : thoughts) {
      if (!placed.containsKey(thought.image)) {
        nothing.putIfAbsent(
            thought.image,
            thought.roles.get(0).channel().label()
                + " of "
                + thought.material.name()
                + " has an image already");
      }
    }
    nothing.forEach((image, why) -> unplaced.add(new Unplaced(image, why)));
  }

  private void place(Thought thought) {
    for (ImageRole role : thought.roles) {
      taken.add(new Slot(thought.material.id(), role.channel()));
      proposals.add(
          new Proposal(thought.image, thought.material, role, thought.sure, thought.reasons));
    }
  }

  /** Copies of a material, such as body and body.001, share their images. */
  private static boolean isSameName(Material a, Material b) {
    return MaterialDifferences.plainName(a).equals(MaterialDifferences.plainName(b));
  }

  private List<Thought> thoughts(String image) {
    String name = image.substring(image.lastIndexOf('/') + 1);
    String stem = name.contains(".") ? name.substring(0, name.lastIndexOf('.')) : name;
    ChannelWords.Read read = ChannelWords.of(stem);
    List<Likely> likely = likely(read.subject(), image);
    // Pixels are looked at only where a name goes with a material.
    if (likely.isEmpty()) {
      return List.of();
    }
    Optional<ImageEvidence> seen = LooseImages.evidence(scene.images(), image);
    if (seen.isEmpty()) {
      unreadable.add(image);
      return List.of();
    }
    Purpose purpose = Purpose.of(read, seen.get());
    List<Thought> found = new ArrayList<>();
    for (Likely subject : likely) {
      double sure = subject.value * purpose.sure();
      if (!purpose.roles().isEmpty() && sure >= LEAST) {
        List<String> reasons = new ArrayList<>(purpose.reasons());
        reasons.add(subject.why);
        found.add(new Thought(image, purpose.roles(), subject.material, sure, reasons));
      }
    }
    return found;
  }

  /** A file whose name is much like that of an image which a material wants and does not find. */
  private List<Thought> renamed(String image) {
    List<Thought> found = new ArrayList<>();
    for (Material material : scene.materials()) {
      material
          .channels()
          .forEach(
              (channel, value) -> {
                Optional<Texture> wanted =
                    Optional.ofNullable(value.texture())
                        .flatMap(use -> scene.texture(use.textureId()));
                if (wanted.isPresent() && !wanted.get().isFound()) {
                  double like =
                      Spelling.likeness(
                          plain(image), plain(wanted.get().written().replace('\\', '/')));
                  if (like >= RENAMED) {
                    ImageRole role = new ImageRole(channel, value.texture().component(), false);
                    String why = "named like " + wanted.get().written() + ", which is not found";
                    double sure = BY_LIKENESS + (MOST_SURE - BY_LIKENESS) * like;
                    found.add(new Thought(image, List.of(role), material, sure, List.of(why)));
                  }
                }
              });
    }
    return found;
  }

  /** A file name without folder, ending and signs, in small letters. */
  private static String plain(String path) {
    String name = path.substring(path.lastIndexOf('/') + 1);
    String stem = name.contains(".") ? name.substring(0, name.lastIndexOf('.')) : name;
    return String.join("", NameTokens.of(stem));
  }

  private record Likely(Material material, double value, String why) {}

  private List<Likely> likely(List<String> subject, String image) {
    String folder = image.contains("/") ? image.substring(0, image.lastIndexOf('/')) : "";
    List<Likely> likely = new ArrayList<>();
    for (SubjectNames names : subjects) {
      SubjectNames.Likeness like = names.likeness(subject, folder);
      if (like.value() < ONLY_MATERIAL && subjects.size() == 1 && few) {
        likely.add(new Likely(names.material(), ONLY_MATERIAL, "the only material"));
      } else if (like.value() >= LEAST) {
        likely.add(new Likely(names.material(), like.value(), like.why()));
      }
    }
    return likely;
  }

  private String why(String image) {
    if (unreadable.contains(image)) {
      return "it cannot be read";
    }
    return subjects.isEmpty()
        ? "there is no material"
        : "neither its name nor its pixels say where it belongs";
  }
}
