package ferry.stone.core.landing;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.WriterSays;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.look.Wrap;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.Progress;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Every word of a writer is said of the scene that it is about, foretold, and of no sound one. */
class WriterWordsTest {
  private static final String WORDS =
      """
      bump-to-normal, BUMP_MAPS, glb
      channels-packed, SEPARATE_CHANNELS, glb
      clip-not-written, EMPTY_CLIPS, glb
      clip-shifted, TIME_BEFORE_ZERO, glb
      image-converted, IMAGE_FORMATS, glb
      in-betweens-as-targets, IN_BETWEENS, glb
      influences-reduced, INFLUENCES, glb
      levels-beside, DETAIL_LEVELS, glb
      opacity-map-placed-otherwise, OPACITY_PLACEMENT, glb
      skeleton-root-added, JOINTS_APART, glb
      skinned-at-top, SKINNED_BELOW, glb
      tangents-computed, TANGENTS, glb
      texture-without-uvs, NO_UVS, glb
      track-not-carried, OTHER_MOTION, glb
      triangles-nowhere, NOT_NUMBERS, glb
      vertices-given-a-joint, VERTICES_WITHOUT_JOINT, glb
      transform-unsheared, SHEAR, glb
      layer-does-not-fit, BROKEN_LAYERS, glb
      channels-split, PACKED_CHANNELS, fbx
      faces-given-a-material, BARE_FACES, fbx
      helper-parts, HELPERS, fbx
      lines-not-carried, LINES_BESIDE_FACES, fbx
      motion-not-carried, OTHER_MOTION, fbx
      points-not-carried, POINTS, fbx
      texture-tinted, TINTED_TEXTURES, fbx
      transform-unsheared, SHEAR, fbx
      variants-not-carried, VARIANTS, fbx
      layer-does-not-fit, BROKEN_LAYERS, fbx
      faces-given-a-material, BARE_FACES, obj
      material-values-not-carried, MATERIAL_CHANNELS, obj
      layer-does-not-fit, BROKEN_LAYERS, ply
      """;

  private static List<Finding> said(Scene scene, LandingOptions options, TestFiles cargo)
      throws Exception {
    TestFiles out = new TestFiles();
    Landing landing = Landing.write(scene, options, "a", cargo, out, Progress.NONE);
    return landing.landed(options, out).findings();
  }

  private static List<Finding> said(Scene scene, LandingOptions options) throws Exception {
    return said(scene, options, CapabilityFiles.all());
  }

  @ParameterizedTest(name = "{0} in {2}")
  @CsvSource(textBlock = WORDS)
  void itIsSaidForetoldAndProved(String code, Capability capability, String format)
      throws Exception {
    LandingOptions options = LandingOptions.of(format);
    Scene scene = CapabilityScenes.of(capability);
    List<Finding> said = said(scene, options).stream().filter(f -> f.code().equals(code)).toList();
    assertThat(said).isNotEmpty();
    assertThat(said.get(0).message()).endsWith(".");
    Capability about = WriterSays.about(code);
    assertThat(Forecast.of(scene, options, CapabilityFiles.all()).items())
        .as("foretold")
        .anyMatch(item -> item.capability() == about);
    TestFiles out = new TestFiles();
    TestFiles cargo = CapabilityFiles.all();
    Landing landing = Landing.write(scene, options, "a", cargo, out, Progress.NONE);
    Proof proof = Proof.of(scene, scene, landing.landed(options, out), cargo, Progress.NONE);
    assertThat(proof.rows())
        .as("in the proof")
        .anyMatch(r -> r.about() == about && r.verdict() != LedgerRow.Verdict.KEPT);
  }

  @Test
  void nothingIsSaidOfASoundPlate() throws Exception {
    Scene sound = CapabilityScenes.of(Capability.UVS);
    for (String format : List.of("glb", "gltf", "fbx", "obj")) {
      assertThat(said(sound, LandingOptions.of(format))).as(format).isEmpty();
    }
  }

  @Test
  void everyFormatThatIsWrittenIsAskedForItsWords() {
    List<String> asked = WORDS.lines().map(l -> l.split(", ")[2].strip()).distinct().toList();
    assertThat(Formats.written().stream().map(f -> f.key()).toList()).containsAll(asked);
  }

  private static Scene packed(Material.Shading shading, char part) {
    Scene plate = CapabilityScenes.of(Capability.UVS);
    Material own = plate.materials().get(0);
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    TextureUse use = new TextureUse(900, 0, 0, 0, 1, 1, 0, Wrap.REPEATED, part, 1, "");
    channels.put(Channel.ROUGHNESS, new Material.Value(null, use));
    return plate.toBuilder()
        .textures(List.of(new Texture(900, "oak.png", "oak.png", "oak.png", null)))
        .materials(
            List.of(
                new Material(
                    own.id(),
                    own.name(),
                    shading,
                    channels,
                    Material.Alpha.OPAQUE,
                    0.5,
                    false,
                    Map.of())))
        .build();
  }

  @Test
  void anImageThatCannotBeReadLandsWholeAndSaysWhichPartIsMeant() throws Exception {
    Scene scene = packed(Material.Shading.METALLIC_ROUGHNESS, 'g');
    TestFiles broken = new TestFiles().with("oak.png", "this is no picture");
    List<Finding> said = said(scene, LandingOptions.of("obj"), broken);
    assertThat(said)
        .filteredOn(f -> f.code().equals("part-of-image-not-taken"))
        .singleElement()
        .matches(f -> f.where().equals("oak.png") && f.message().contains("green"));
    assertThat(said(scene, LandingOptions.of("obj")))
        .noneMatch(f -> f.code().equals("part-of-image-not-taken"));
  }

  @Test
  void anImageThatCannotBeReadDoesNotStopALanding() throws Exception {
    Scene scene = packed(Material.Shading.METALLIC_ROUGHNESS, 'r');
    TestFiles broken = new TestFiles().with("oak.png", "this is no picture");
    assertThat(said(scene, LandingOptions.of("glb"), broken))
        .filteredOn(f -> f.code().equals("texture-unreadable"))
        .isNotEmpty()
        .allMatch(f -> f.message().contains("does not land"));
  }

  @Test
  void materialsOfOneNameAreToldApartInObj() throws Exception {
    Scene plate = CapabilityScenes.of(Capability.UVS);
    Material own = plate.materials().get(0);
    Scene twice = plate.toBuilder().materials(List.of(own, own.withId(own.id() + 800))).build();
    assertThat(said(twice, LandingOptions.of("obj")))
        .filteredOn(f -> f.code().equals("material-names-changed"))
        .singleElement()
        .matches(f -> f.measured().equals("1 material"));
    assertThat(said(plate, LandingOptions.of("obj")))
        .noneMatch(f -> f.code().equals("material-names-changed"));
  }

  @Test
  void aSetWithoutFacesHasNoLineInObj() throws Exception {
    Scene plate = CapabilityScenes.of(Capability.UVS);
    PolygonMesh mesh = plate.meshes().get(0);
    Scene sets =
        plate.toBuilder()
            .meshes(
                List.of(
                    mesh.toBuilder()
                        .faceSets(
                            List.of(
                                new FaceSet("rim", new int[] {0}), new FaceSet("none", new int[0])))
                        .build()))
            .build();
    assertThat(said(sets, LandingOptions.of("obj")))
        .filteredOn(f -> f.code().equals("empty-sets-not-carried"))
        .singleElement()
        .matches(f -> f.measured().equals("1 set"));
  }

  /** Samples at moments of one's own. */
  private record Uneven(int meshId, int pointCount, double[] seconds) implements PointCache {
    @Override
    public int id() {
      return 77;
    }

    @Override
    public String name() {
      return "uneven";
    }

    @Override
    public int sampleCount() {
      return seconds.length;
    }

    @Override
    public double timeSeconds(int sample) {
      return seconds[sample];
    }

    @Override
    public void read(int sample, int from, int count, float[] target) {
      for (int i = 0; i < 3 * count; i++) {
        target[i] = (float) seconds[sample];
      }
    }
  }

  private static Scene cached(double... seconds) {
    Scene plate = CapabilityScenes.of(Capability.UVS);
    PolygonMesh mesh = plate.meshes().get(0);
    return plate.toBuilder()
        .caches(List.of(new Uneven(mesh.id(), mesh.points().count(), seconds)))
        .build();
  }

  @Test
  void unevenSamplesAreTakenAnewWhereTheFormatCountsFrames() throws Exception {
    assertThat(said(cached(0, 0.1, 0.5), LandingOptions.of("pc2")))
        .anyMatch(f -> f.code().equals("samples-evened"));
    assertThat(said(cached(0, 0.25, 0.5), LandingOptions.of("pc2")))
        .noneMatch(f -> f.code().equals("samples-evened"));
    assertThat(said(cached(0, 0.1, 0.5), LandingOptions.of("mdd")))
        .as("MDD has a time for each sample")
        .noneMatch(f -> f.code().equals("samples-evened"));
  }

  @Test
  void roundingAndTranslationAreSaidAsChosen() throws Exception {
    Scene scene = CapabilityScenes.of(Capability.CURVES);
    assertThat(said(scene, LandingOptions.of("obj").with("decimals", "2")))
        .anyMatch(f -> f.code().equals("positions-rounded"));
    assertThat(said(scene, LandingOptions.of("obj")))
        .noneMatch(f -> f.code().equals("positions-rounded"));
    Scene dressed = CapabilityScenes.of(Capability.UVS);
    assertThat(said(dressed, LandingOptions.of("obj").with("pbrKeys", false)))
        .anyMatch(f -> f.code().equals("material-translated"));
    assertThat(said(dressed, LandingOptions.of("glb").with("quantize", true)))
        .anyMatch(f -> f.code().equals("quantized"))
        .anyMatch(f -> f.code().equals("packed-helper-parts"));
  }
}
