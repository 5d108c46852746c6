package ferry.stone.core.format.abc;

import ferry.stone.core.format.Format;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.Frames;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.SceneReader;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.abc.read.AbcReader;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.CapabilityTable;
import ferry.stone.core.scene.Scene;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** Alembic: caches of whole scenes. Its container of today is read, not written. */
public final class AbcFormat implements Format {
  public static final Format ABC = new AbcFormat();

  private static final String CONTAINER = "Ogawa";
  private static final String OLDER = "\u0089HDF\r\n";

  private static final Set<Capability> READ =
      Set.of(
          Capability.POLYGONS,
          Capability.NORMALS,
          Capability.UVS,
          Capability.COLOURS,
          Capability.FURTHER_SETS,
          Capability.PARTLY_LAYERED,
          Capability.SHARED_VERTICES,
          Capability.SEAMS,
          Capability.LINES,
          Capability.CURVES,
          Capability.NURBS_CURVES,
          Capability.POINTS,
          Capability.EMPTY_MESHES,
          Capability.UNUSED_VERTICES,
          Capability.NOT_NUMBERS,
          Capability.SUBDIVISION,
          Capability.FACE_SETS,
          Capability.CUSTOM_LAYERS,
          Capability.TEXT_LAYERS,
          Capability.LAYER_TYPES,
          Capability.POINT_CACHES,
          Capability.CHANGING_MESHES,
          Capability.SEVERAL_PARTS,
          Capability.HIERARCHY,
          Capability.SHARED_MESHES,
          Capability.BRANCH_COPIES,
          Capability.HIDDEN_PARTS,
          Capability.SHOWN_PARTS,
          Capability.CUSTOM_VALUES,
          Capability.SHEAR,
          Capability.CLIPS,
          Capability.TIME_BEFORE_ZERO,
          Capability.CAMERAS,
          Capability.CAMERA_LENSES,
          Capability.BARE_FACES);

  private static final CapabilityTable TABLE =
      CapabilityTable.named("abc", "Alembic", "Ogawa archives read, not written")
          .readOnly(
              READ,
              Map.of(
                  Capability.PIVOTS,
                  "Lists of operations are read as what they come to.",
                  Capability.OTHER_MOTION,
                  "Visibility, angles of view and custom numbers are read over time; layers and"
                      + " other values as they are at first.",
                  Capability.MATERIALS,
                  "Which material a set or a mesh has, by its name; not what it looks like."),
              Map.of(
                  Capability.NOT_READ, "",
                  Capability.LIGHTS, "Read as groups: the format says nothing of their light.",
                  Capability.MISSING_TEXTURES, ""))
          .build();

  private AbcFormat() {}

  @Override
  public String key() {
    return "abc";
  }

  @Override
  public String name() {
    return "Alembic";
  }

  @Override
  public Set<String> extensions() {
    return Set.of("abc");
  }

  @Override
  public boolean sniff(byte[] head) {
    return begins(head, CONTAINER);
  }

  private static boolean begins(byte[] head, String mark) {
    return new String(head, 0, Math.min(head.length, mark.length()), StandardCharsets.ISO_8859_1)
        .equals(mark);
  }

  @Override
  public Optional<SceneReader> reader() {
    return Optional.of(AbcFormat::read);
  }

  private static Scene read(String resource, ReadContext context)
      throws IOException, FormatException {
    byte[] head = new byte[(int) Math.min(OLDER.length(), context.resources().size(resource))];
    context.resources().random(resource).read(0, head, 0, head.length);
    if (begins(head, OLDER)) {
      throw new FormatException(
          Kind.TOO_OLD,
          resource,
          "",
          "this is an archive in the older container (HDF5), which is not read. Write it again"
              + " with the container of today (Ogawa).");
    }
    return AbcReader.read(resource, context);
  }

  @Override
  public Optional<SceneWriter> writer() {
    return Optional.empty();
  }

  @Override
  public Frames frames() {
    return Frames.UNSAID;
  }

  @Override
  public CapabilityTable losses() {
    return TABLE;
  }
}
