package ferry.stone.core.format.stl;

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
 * STL, binary and text, after the "StereoLithography Interface Specification" of October 1989 as
 * commonly published. Triangles with a normal each; no unit, no axes, no names but that of a solid
 * in text.
 *
 * <table>
 * <caption>Binary, all little-endian</caption>
 * <tr><td>head</td><td>80 bytes, any; readers take "solid" at its beginning for text</td></tr>
 * <tr><td>count</td><td>uint32 triangles</td></tr>
 * <tr><td>triangle</td><td>float32[3] normal, float32[9] corners, uint16 attribute bytes, 0</td></tr>
 * </table>
 *
 * <p>Normals are not read: the corners' order says the same. Colours that some programs put into
 * the attribute bytes are not read, and said.
 */
public final class StlFormat implements Format {
  public static final Format STL = new StlFormat();

  static final int HEAD = 84;
  static final int TRIANGLE = 50;

  static final CapabilityTable TABLE =
      FlatTable.of(
          "stl",
          "STL",
          "binary, text",
          Set.of(),
          Set.of(Capability.SEVERAL_PARTS),
          Map.of(
              Capability.POLYGONS,
              "Faces are cut into triangles: the format holds nothing else.",
              Capability.SHARED_VERTICES,
              "Each triangle has corners of its own; weld them after reading.",
              Capability.SEVERAL_PARTS,
              "In text each part is a solid with its name; in binary they are joined into one."));

  private StlFormat() {}

  @Override
  public String key() {
    return "stl";
  }

  @Override
  public String name() {
    return "STL";
  }

  @Override
  public Set<String> extensions() {
    return Set.of("stl");
  }

  @Override
  public boolean sniff(byte[] head) {
    // The binary form has no mark of its own: its ending tells it.
    String text = new String(head, StandardCharsets.ISO_8859_1).stripLeading();
    return text.startsWith("solid") && (text.contains("facet") || text.contains("endsolid"));
  }

  @Override
  public Optional<SceneReader> reader() {
    return Optional.of(StlReader::read);
  }

  @Override
  public Optional<SceneWriter> writer() {
    return Optional.of(new StlLanding());
  }

  @Override
  public Frames frames() {
    return Frames.UNSAID;
  }

  @Override
  public void check(String file, Resources files, Findings findings)
      throws IOException, FormatException {
    StlRules.check(file, files, findings);
  }

  @Override
  public CapabilityTable losses() {
    return TABLE;
  }
}
