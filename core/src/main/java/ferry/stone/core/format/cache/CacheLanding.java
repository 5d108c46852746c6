package ferry.stone.core.format.cache;

import ferry.stone.core.field.Field;
import ferry.stone.core.field.Values;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.cache.CachePlan.CacheOptions;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.RandomBytes;
import ferry.stone.core.format.flat.FlatFields;
import ferry.stone.core.format.flat.FlatWriter;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.CapabilityTable;
import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.PointCache;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.List;

/** Landing as MDD or PC2: a file for each part that its points move. */
final class CacheLanding implements FlatWriter {
  private static final double FASTEST = 1000;
  private static final int POINTS_AT_ONCE = 1 << 14;
  private static final String SAMPLES = "Samples";
  private static final String FRAMES = "frameRate";

  private final CacheKind kind;
  private final CapabilityTable table;

  CacheLanding(CacheKind kind, CapabilityTable table) {
    this.kind = kind;
    this.table = table;
  }

  @Override
  public List<Field> fields() {
    List<Field> fields = new ArrayList<>();
    fields.add(
        Field.number(
                "rate",
                "Samples a second",
                "",
                0,
                FASTEST,
                0,
                "0 for those of the source: the samples of a cache, the frames of a clip.")
            .proposing("0", "As the source", "24", "24", "25", "25", "30", "30", "60", "60")
            .under(SAMPLES));
    fields.add(
        Field.text(
                "clip",
                "Clip that is baked",
                "",
                "Name of the clip whose joints and morph targets move the points. Empty: the"
                    + " first.")
            .under(SAMPLES));
    fields.add(
        Field.choice(
                "space",
                "Numbers of the points",
                "The mesh's own fit the mesh where its part stands; the world's fit a mesh whose"
                    + " place is in its points.",
                "own",
                "The mesh's own",
                "world",
                "The world's")
            .under(SAMPLES));
    if (kind == CacheKind.PC2) {
      fields.add(
          Field.number(
                  FRAMES,
                  "Frames a second of the reader",
                  "",
                  1,
                  FASTEST,
                  CacheKind.USUAL_RATE,
                  "The file counts frames, not seconds: at which rate whoever reads it plays them.")
              .proposing("24", "24", "25", "25", "30", "30", "60", "60")
              .under(SAMPLES));
    }
    fields.addAll(FlatFields.frame("m", "y"));
    return fields;
  }

  private CacheOptions typed(Values options) {
    boolean counts = kind == CacheKind.PC2;
    return new CacheOptions(
        options.number("rate"),
        options.text("clip"),
        options.text("space").equals("world"),
        counts,
        counts ? options.number(FRAMES) : CacheKind.USUAL_RATE);
  }

  @Override
  public boolean isSeveralFiles(Values options) {
    return true;
  }

  @Override
  public Holding holding(Values options) {
    return new CacheHolding(this, options);
  }

  @Override
  public void foretell(Outlook outlook) {
    outlook.told().said(new CachePlan(outlook.arrived(), typed(outlook.options())).said());
  }

  @Override
  public String write(Scene arrived, Values options, Target target)
      throws IOException, FormatException {
    CacheOptions typed = typed(options);
    CachePlan plan = new CachePlan(arrived, typed);
    Scene held = plan.held(target.stem());
    plan.said().forEach(target.findings()::add);
    if (held.caches().isEmpty()) {
      throw new FormatException(
          FormatException.Kind.MISSING,
          arrived.name(),
          "",
          "there is no mesh with points, so there is nothing to write.");
    }
    try {
      for (int c = 0; c < held.caches().size(); c++) {
        PointCache cache = held.caches().get(c);
        target.progress().report("writing " + cache.name(), (double) c / held.caches().size());
        file(held.nodes().get(c).name(), cache, typed.frames(), target);
      }
    } catch (UncheckedIOException e) {
      throw e.getCause();
    }
    return held.nodes().get(0).name() + "." + kind.key;
  }

  private void file(String name, PointCache cache, double rate, Target target) throws IOException {
    int points = cache.pointCount();
    double[] seconds = new double[cache.sampleCount()];
    for (int s = 0; s < seconds.length; s++) {
      seconds[s] = cache.timeSeconds(s);
    }
    float[] some = new float[3 * Math.min(points, POINTS_AT_ONCE)];
    ByteBuffer bytes = ByteBuffer.allocate(4 * some.length).order(kind.order);
    try (OutputStream out =
        new BufferedOutputStream(target.output().create(name + "." + kind.key), 1 << 16)) {
      out.write(kind.head(points, seconds, rate));
      for (int s = 0; s < seconds.length; s++) {
        target.progress().checkCancelled();
        for (int from = 0; from < points; from += POINTS_AT_ONCE) {
          int count = Math.min(points - from, POINTS_AT_ONCE);
          cache.read(s, from, count, some);
          bytes.clear().asFloatBuffer().put(some, 0, 3 * count);
          out.write(bytes.array(), 0, 12 * count);
        }
      }
    }
  }

  private record CacheHolding(CacheLanding landing, Values options) implements Holding {
    @Override
    public String format() {
      return landing.kind.label;
    }

    @Override
    public Capability.Fate fate(Capability capability) {
      return landing.table.of(capability).written();
    }

    @Override
    public Scene read(String mainFile, ReadContext context) throws IOException, FormatException {
      SceneBuilder scene = new SceneBuilder(CargoPath.stem(mainFile));
      scene.frame(landing.frame(options), FrameSource.CHOSEN, FrameSource.CHOSEN);
      List<PointCache> caches = new ArrayList<>();
      for (String path : context.resources().paths()) {
        if (!CargoPath.extension(path).equals(landing.kind.key)) {
          continue;
        }
        RandomBytes file = context.resources().random(path);
        CacheKind.Head head = landing.kind.head(path, file, landing.typed(options).frames());
        CacheRules.check(landing.kind, path, file, context.findings());
        String name = CargoPath.stem(path);
        int mesh = scene.newId();
        PointCache cache = FileCache.of(scene.newId(), mesh, path, file, landing.kind, head);
        PolygonMesh points = CachePlan.points(mesh, name, cache);
        scene.add(points);
        scene.add(Node.of(scene.newId(), name, -1, Node.Content.MeshContent.of(mesh)));
        caches.add(cache);
      }
      return scene.caches(caches).build();
    }

    @Override
    public boolean isFlat() {
      return true;
    }

    @Override
    public Scene held(Scene far, String mainFile) {
      Scene arrived = Rebase.intoData(far, landing.frame(options));
      CachePlan plan = new CachePlan(arrived, landing.typed(options));
      Scene alone = plan.held(CargoPath.stem(mainFile));
      return alone.nodes().size() == 1 ? alone : plan.held(stem(alone, mainFile));
    }

    /** The stem that the first of several files was named after. */
    private static String stem(Scene alone, String mainFile) {
      String main = CargoPath.stem(mainFile);
      String first = alone.nodes().get(0).name().substring(main.length());
      return main.endsWith(first) ? main.substring(0, main.length() - first.length()) : main;
    }
  }
}
