package ferry.stone.core.format.collada;

import ferry.stone.core.format.Format;
import ferry.stone.core.format.Frames;
import ferry.stone.core.format.SceneReader;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.CapabilityTable;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** COLLADA 1.4 and 1.5: XML, alone or zipped with its images. It is read, not written. */
public final class ColladaFormat implements Format {
  public static final Format COLLADA = new ColladaFormat();

  private static final Set<Capability> READ =
      Set.of(
          Capability.POLYGONS,
          Capability.NORMALS,
          Capability.OWN_TANGENTS,
          Capability.UVS,
          Capability.COLOURS,
          Capability.FURTHER_SETS,
          Capability.PARTLY_LAYERED,
          Capability.SHARED_VERTICES,
          Capability.SEAMS,
          Capability.LINES,
          Capability.LINES_BESIDE_FACES,
          Capability.EMPTY_MESHES,
          Capability.UNUSED_VERTICES,
          Capability.NOT_NUMBERS,
          Capability.SEVERAL_PARTS,
          Capability.HIERARCHY,
          Capability.SHARED_MESHES,
          Capability.BRANCH_COPIES,
          Capability.PIVOTS,
          Capability.SHEAR,
          Capability.SKINS,
          Capability.MORPHS,
          Capability.SKINNED_BELOW,
          Capability.JOINTS_APART,
          Capability.INFLUENCES,
          Capability.VERTICES_WITHOUT_JOINT,
          Capability.CLIPS,
          Capability.EMPTY_CLIPS,
          Capability.TIME_BEFORE_ZERO,
          Capability.CAMERAS,
          Capability.LIGHTS,
          Capability.MATERIALS,
          Capability.MATERIAL_MODEL,
          Capability.MATERIAL_CHANNELS,
          Capability.BARE_FACES,
          Capability.NO_UVS,
          Capability.BUMP_MAPS,
          Capability.IMAGE_FORMATS,
          Capability.OPACITY_PLACEMENT);

  private static final CapabilityTable TABLE =
      CapabilityTable.named("collada", "COLLADA", "1.4 and 1.5 read, not written")
          .readOnly(
              READ,
              Map.of(),
              Map.of(
                  Capability.NOT_READ,
                  "",
                  Capability.MISSING_TEXTURES,
                  "",
                  Capability.OTHER_MOTION,
                  "Motion of nodes and morph weights is read; that of other values is told."))
          .build();

  private ColladaFormat() {}

  @Override
  public String key() {
    return "collada";
  }

  @Override
  public String name() {
    return "COLLADA";
  }

  @Override
  public Set<String> extensions() {
    return Set.of("dae", "zae");
  }

  @Override
  public boolean sniff(byte[] head) {
    // A mark of two bytes begins what is in 16 bits.
    boolean wide =
        head.length > 1 && (head[0] == -1 && head[1] == -2 || head[0] == -2 && head[1] == -1);
    Charset charset = wide ? StandardCharsets.UTF_16 : StandardCharsets.ISO_8859_1;
    return new String(head, charset).contains("<COLLADA");
  }

  @Override
  public Optional<SceneReader> reader() {
    return Optional.of(((SceneReader) ColladaReader::read).choosing(ColladaReader.FIELDS));
  }

  @Override
  public Optional<SceneWriter> writer() {
    return Optional.empty();
  }

  @Override
  public Frames frames() {
    return Frames.STATED;
  }

  @Override
  public CapabilityTable losses() {
    return TABLE;
  }
}
