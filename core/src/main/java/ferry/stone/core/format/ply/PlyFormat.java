package ferry.stone.core.format.ply;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.Format;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Frames;
import ferry.stone.core.format.SceneReader;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.flat.FlatTable;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.CapabilityTable;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * PLY 1.0, after G. Turk, "The PLY Polygon File Format", 1994, as commonly published. A head in
 * text, {@code ply} to {@code end_header}, says which elements with which properties follow, in
 * text or binary of either byte order. No unit, no axes, no parts.
 *
 * <table>
 * <caption>Properties that are read</caption>
 * <tr><td>vertex</td><td>x y z, nx ny nz, red green blue alpha, s t or u v or texture_u
 * texture_v; others are kept as custom layers</td></tr>
 * <tr><td>face</td><td>list vertex_indices or vertex_index</td></tr>
 * </table>
 *
 * <p>Names of properties beside x, y and z are common practice, no source. Other elements are
 * passed over and said.
 */
public final class PlyFormat implements Format {
  public static final Format PLY = new PlyFormat();

  static final CapabilityTable TABLE =
      FlatTable.of(
          "ply",
          "PLY",
          "1.0, binary and text",
          Set.of(Capability.NORMALS, Capability.UVS, Capability.SHARED_VERTICES),
          Set.of(
              Capability.POLYGONS, Capability.COLOURS, Capability.CUSTOM_LAYERS, Capability.POINTS),
          Map.of(
              Capability.POLYGONS,
              "Faces are cut into triangles unless told otherwise: some readers leave out faces of"
                  + " more than 4 corners.",
              Capability.COLOURS,
              "Rounded to 8 bits each, which readers expect.",
              Capability.SEAMS,
              "Such a vertex stands once for each of its values.",
              Capability.PARTLY_LAYERED,
              "In one list all have them: zeros, and white, where a part has none.",
              Capability.SEVERAL_PARTS,
              "They are joined into one. Land each part in a file of its own to keep them."));

  private PlyFormat() {}

  @Override
  public String key() {
    return "ply";
  }

  @Override
  public String name() {
    return "PLY";
  }

  @Override
  public Set<String> extensions() {
    return Set.of("ply");
  }

  @Override
  public boolean sniff(byte[] head) {
    String text = new String(head, StandardCharsets.ISO_8859_1);
    return text.startsWith("ply\n") || text.startsWith("ply\r");
  }

  @Override
  public Optional<SceneReader> reader() {
    return Optional.of(PlyReader::read);
  }

  @Override
  public Optional<SceneWriter> writer() {
    return Optional.of(new PlyLanding());
  }

  @Override
  public Frames frames() {
    return Frames.UNSAID;
  }

  @Override
  public void check(String file, Resources files, Findings findings)
      throws IOException, FormatException {
    PlyRules.check(file, files, findings);
  }

  @Override
  public CapabilityTable losses() {
    return TABLE;
  }
}
