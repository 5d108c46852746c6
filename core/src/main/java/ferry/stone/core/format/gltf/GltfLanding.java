package ferry.stone.core.format.gltf;

import ferry.stone.core.field.Field;
import ferry.stone.core.field.Values;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.gltf.plan.ImageKind;
import ferry.stone.core.format.gltf.plan.MaterialForecast;
import ferry.stone.core.format.gltf.write.CameraSpan;
import ferry.stone.core.format.gltf.write.GltfLayers;
import ferry.stone.core.format.gltf.write.GltfOptions;
import ferry.stone.core.format.gltf.write.GltfPacking;
import ferry.stone.core.format.gltf.write.GltfWriter;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.shore.Shore;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Landing as GLB or glTF. */
final class GltfLanding implements SceneWriter {
  private static final String INSIDE = "Textures and data";
  private static final String SMALLER = "Smaller, faster";
  private static final String LIMITS = "Limits";
  private static final int LARGEST_TEXTURE = 16_384;
  private static final int MOST_INFLUENCES = 64;
  private static final int SET = 4;

  private final GltfOptions.Container container;

  GltfLanding(GltfOptions.Container container) {
    this.container = container;
  }

  private boolean isBinary() {
    return container == GltfOptions.Container.GLB;
  }

  @Override
  public List<Field> fields() {
    List<Field> fields = new ArrayList<>();
    fields.add(
        Field.flag(
                "embedTextures",
                "Textures inside the file",
                isBinary(),
                "Off: images stand in a textures folder beside it.")
            .under(INSIDE));
    if (!isBinary()) {
      fields.add(
          Field.flag(
                  "embedGeometry",
                  "Geometry inside the file",
                  false,
                  "Off: it stands in a .bin file beside it.")
              .under(INSIDE));
    }
    fields.add(
        Field.number(
                "influences",
                "Joints of a vertex",
                "",
                0,
                MOST_INFLUENCES,
                GltfOptions.USUAL_INFLUENCES,
                "The standard only promises that viewers use 4; others are passed over by many. 0"
                    + " keeps all.")
            .proposing("4", "The 4 strongest", "8", "The 8 strongest", "0", "All")
            .under("Joints of a vertex"));
    fields.addAll(packing());
    fields.addAll(limits());
    return fields;
  }

  private static List<Field> packing() {
    return List.of(
        Field.flag(
                "quantize",
                "16-bit vertices",
                false,
                "KHR_mesh_quantization: the proof says how far vertices moved.")
            .under(SMALLER),
        Field.flag(
                "compress",
                "Packed without loss",
                false,
                "EXT_meshopt_compression: viewers must know it.")
            .under(SMALLER),
        Field.flag(
                "drawOrder",
                "In drawing order",
                false,
                "Triangles and vertices in the order that draws fastest; morphs and caches made for"
                    + " the old order no longer fit.")
            .under(SMALLER),
        Field.flag(
                "gatherCopies",
                "Gather copies",
                false,
                "EXT_mesh_gpu_instancing: copies under one parent become one part without names of"
                    + " their own.")
            .under(SMALLER),
        Field.flag(
                "tangents",
                "Compute missing tangents",
                true,
                "Off: each viewer computes its own for normal maps, and the shading may differ.")
            .under("Normal maps"));
  }

  private static List<Field> limits() {
    return List.of(
        Field.number(
                "largestTexture",
                "Longest side of a texture",
                "px",
                0,
                LARGEST_TEXTURE,
                0,
                "Larger images are made smaller; 0 leaves them as large as they are.")
            .proposing(
                "0", "Textures as large as they are",
                "4096", "Textures up to 4096 px",
                "2048", "Textures up to 2048 px",
                "1024", "Textures up to 1024 px",
                "512", "Textures up to 512 px",
                "256", "Textures up to 256 px")
            .under(LIMITS),
        Field.flag(
                "plainImages",
                "KTX2 and WebP as PNG",
                false,
                "Off: they stay as they are (KHR_texture_basisu, EXT_texture_webp), which viewers"
                    + " must know.")
            .under(LIMITS),
        Field.choice(
                "imageKind",
                "Kind of images",
                "WebP takes fewer bytes (EXT_texture_webp); KTX2 also less memory when drawn"
                    + " (KHR_texture_basisu, UASTC): viewers must know them. What is lost is told"
                    + " of each image.",
                "same",
                "Images as they are",
                "exact",
                "Images as WebP without loss",
                "webp",
                "Images as WebP, colours a little changed",
                "ktx2",
                "Images as KTX2, a little changed")
            .under(LIMITS),
        Field.choice(
                "indexBits",
                "Width of indices",
                "16 bits, cut to fit: larger parts are cut into several primitives.",
                "fitting",
                "Indices of 16 bits where they reach",
                "short",
                "Indices of 16 bits, cut to fit",
                "long",
                "Indices of 32 bits")
            .under(LIMITS));
  }

  @Override
  public Map<String, Object> wanted(Shore shore) {
    Map<String, Object> wanted = new HashMap<>();
    int joints = shore.budgets().influences();
    wanted.put("influences", SET * ((joints + SET - 1) / SET));
    wanted.put("largestTexture", shore.budgets().textureSize());
    if (isBinary()) {
      wanted.put("embedTextures", shore.wishes().embedTextures());
    }
    return wanted;
  }

  @Override
  public void check(Values options) {
    if (options.whole("influences") % SET != 0) {
      throw new IllegalArgumentException(
          "influences must be a multiple of 4, or 0 for all, not " + options.whole("influences"));
    }
  }

  private GltfOptions typed(Values options) {
    return new GltfOptions(
        container,
        options.flag("embedTextures"),
        isBinary() || options.flag("embedGeometry"),
        options.whole("influences"),
        packing(options));
  }

  private static GltfPacking packing(Values options) {
    return new GltfPacking(
        options.flag("quantize"),
        options.flag("compress"),
        switch (options.text("indexBits")) {
          case "short" -> GltfPacking.IndexBits.SHORT;
          case "long" -> GltfPacking.IndexBits.LONG;
          default -> GltfPacking.IndexBits.FITTING;
        },
        options.flag("drawOrder"),
        options.whole("largestTexture"),
        options.flag("gatherCopies"),
        options.flag("tangents"),
        options.flag("plainImages"),
        switch (options.text("imageKind")) {
          case "exact" -> ImageKind.WEBP_EXACT;
          case "webp" -> ImageKind.WEBP;
          case "ktx2" -> ImageKind.KTX2;
          default -> ImageKind.SAME;
        });
  }

  @Override
  public Frame frame(Values options) {
    return Frame.Y_UP_METRE;
  }

  @Override
  public boolean isSeveralFiles(Values options) {
    GltfOptions typed = typed(options);
    return !typed.embedTextures() || !typed.embedBuffers();
  }

  @Override
  public Holding holding(Values options) {
    return new GltfHolding(packing(options));
  }

  @Override
  public int mostInfluences(Values options) {
    return options.whole("influences");
  }

  @Override
  public boolean carries(Scene far, Clip.Track track) {
    return GltfCapabilities.carries(far, track);
  }

  @Override
  public boolean leavesSkinnedPlaces() {
    return true;
  }

  @Override
  public void foretell(Outlook outlook) {
    Told told = outlook.told();
    GltfPacking packing = packing(outlook.options());
    Findings said = new Findings();
    Scene landing = GltfWriter.forecast(outlook.arrived(), packing, said);
    told.said(said.list());
    MaterialForecast materials = new MaterialForecast(outlook.far(), outlook.cargo());
    materials.tell(told, packing.plainImages());
    boolean reordered =
        packing.drawOrder()
            && outlook.arrived().shownMeshes().stream()
                .anyMatch(shown -> shown.mesh().faces().faceCount() > 0);
    List<Texture> beside =
        outlook.arrived().textures().stream().filter(t -> t.packed() != null).toList();
    if (packing.leavesPackedImages() && !beside.isEmpty()) {
      told.item(
          Capability.PACKED_IMAGES,
          Capability.Fate.LOST,
          Figures.count(beside.size(), "image"),
          beside.get(0).packed().name(),
          List.of());
    }
    int larger =
        materials.largerThan(packing.largestTexture())
            + (packing.imageKind() == ImageKind.SAME
                ? 0
                : new MaterialForecast(landing, outlook.cargo())
                    .repacked(packing.imageKind(), packing.plainImages()));
    List<GltfLayers> other =
        outlook.arrived().meshes().stream()
            .flatMap(m -> GltfLayers.of(m).stream())
            .filter(l -> !l.exact())
            .toList();
    if (!other.isEmpty()) {
      told.item(
          Capability.CUSTOM_LAYERS,
          Capability.Fate.CHANGED,
          Figures.count(other.size(), "layer"),
          other.get(0).layer().name(),
          List.of());
    }
    List<Camera> bent =
        outlook.arrived().cameras().stream().filter(c -> !CameraSpan.holds(c)).toList();
    if (!bent.isEmpty()) {
      told.item(
          Capability.OPEN_CAMERAS,
          Capability.Fate.CHANGED,
          Figures.count(bent.size(), "camera"),
          bent.get(0).name(),
          List.of());
    }
    told.count(Capability.PACKING, (reordered ? 1 : 0) + larger, "choice", "");
  }

  @Override
  public String write(Scene arrived, Values options, Target target)
      throws IOException, FormatException {
    return GltfWriter.write(
        arrived,
        typed(options),
        target.stem(),
        target.resources(),
        target.output(),
        target.findings(),
        target.progress());
  }
}
