package ferry.stone.core.format.cache;

import ferry.stone.core.field.Field;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.CargoRole;
import ferry.stone.core.format.Format;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Frames;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.SceneReader;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.RandomBytes;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.flat.FlatTable;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.CapabilityTable;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.node.Node;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** MDD and PC2. */
public final class CacheFormat implements Format {
  private static final List<Field> RATE =
      List.of(
          Field.number(
                  "cacheRate",
                  "Samples a second of a point cache",
                  "",
                  0,
                  1000,
                  0,
                  "For caches that count frames or have no times. 0 for the rate of the scene.")
              .proposing("0", "As the scene", "24", "24", "25", "25", "30", "30", "60", "60"));

  public static final Format MDD = new CacheFormat(CacheKind.MDD);
  public static final Format PC2 = new CacheFormat(CacheKind.PC2);

  private final CacheKind kind;
  private final CapabilityTable table;

  private CacheFormat(CacheKind kind) {
    this.kind = kind;
    table = table(kind);
  }

  private static CapabilityTable table(CacheKind kind) {
    return FlatTable.of(
        kind.key,
        kind.label,
        kind == CacheKind.PC2 ? "version 1" : "all",
        Set.of(
            Capability.POINT_CACHES,
            Capability.SHARED_VERTICES,
            Capability.SEAMS,
            Capability.UNUSED_VERTICES,
            Capability.EMPTY_MESHES,
            Capability.SEVERAL_PARTS,
            Capability.TIME_BEFORE_ZERO),
        Set.of(Capability.NOT_NUMBERS),
        Map.of(
            Capability.SKINS,
            "What the joints do to the mesh is in its points; the skin itself goes.",
            Capability.MORPHS,
            "What the targets do to the mesh is in its points; they themselves go.",
            Capability.NOT_NUMBERS,
            "Written as they are; what stands there cannot be compared.",
            Capability.HIERARCHY,
            "Each part that its points move is a file of its own, in the numbers of its mesh.",
            Capability.SHARED_MESHES,
            "Each part is a file of its own."));
  }

  @Override
  public String key() {
    return kind.key;
  }

  @Override
  public String name() {
    return kind.label;
  }

  @Override
  public String label() {
    return kind.label + " point cache";
  }

  @Override
  public Set<String> extensions() {
    return Set.of(kind.key);
  }

  @Override
  public boolean sniff(byte[] head) {
    // An MDD begins with two counts: only its name tells it.
    return kind == CacheKind.PC2 && CacheKind.isPc2(head);
  }

  @Override
  public CargoRole role() {
    return CargoRole.CACHE;
  }

  @Override
  public Optional<SceneReader> reader() {
    return Optional.of(((SceneReader) this::read).choosing(RATE));
  }

  /** Its points as a scene of their own: what is put onto a mesh of the cargo, or shown alone. */
  private Scene read(String resource, ReadContext context) throws IOException, FormatException {
    context.progress().report("reading " + resource, 0);
    context.progress().checkCancelled();
    RandomBytes file = context.resources().random(resource);
    double chosen = context.values(RATE).number("cacheRate");
    CacheKind.Head head =
        kind.head(resource, file, chosen > 0 ? chosen : context.framesPerSecond());
    if (head.rateAssumed()) {
      context
          .findings()
          .add(
              Finding.of(
                      "cache-rate-assumed",
                      Severity.LOOK,
                      resource,
                      "The cache does not say how fast its samples follow each other, and no other"
                          + " file of the cargo does.")
                  .measured("taken for " + (int) CacheKind.USUAL_RATE + " a second")
                  .offer(
                      Offer.read("Take 25 a second", "cacheRate", 25),
                      Offer.read("Take 30 a second", "cacheRate", 30),
                      Offer.read("Take 60 a second", "cacheRate", 60)));
    }
    String name = CargoPath.stem(resource);
    SceneBuilder scene = new SceneBuilder(name);
    int mesh = scene.newId();
    FileCache cache = FileCache.of(scene.newId(), mesh, resource, file, kind, head);
    scene.add(CachePlan.points(mesh, name, cache));
    scene.add(Node.of(scene.newId(), name, -1, Node.Content.MeshContent.of(mesh)));
    return scene.caches(List.of(cache)).build();
  }

  @Override
  public Optional<SceneWriter> writer() {
    return Optional.of(new CacheLanding(kind, table));
  }

  @Override
  public Frames frames() {
    return Frames.UNSAID;
  }

  @Override
  public void check(String file, Resources files, Findings findings)
      throws IOException, FormatException {
    RandomBytes bytes = files.random(file);
    kind.head(file, bytes, CacheKind.USUAL_RATE);
    CacheRules.check(kind, file, bytes, findings);
  }

  @Override
  public CapabilityTable losses() {
    return table;
  }
}
