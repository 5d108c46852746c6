package ferry.stone.core.format.obj;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.Format;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Frames;
import ferry.stone.core.format.SceneReader;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.losses.CapabilityTable;
import ferry.stone.core.format.obj.read.ObjReader;
import ferry.stone.core.format.obj.rules.ObjRules;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * OBJ with MTL: "Appendix B1. Object Files", version 3.0, and "MTL material format", version 4.2,
 * as commonly published. Text, a statement a line, a keyword first; no unit, no axes.
 */
public final class ObjFormat implements Format {
  public static final Format OBJ = new ObjFormat();

  /**
   * A vertex is three numbers or more after its keyword; a file without one is told by its ending.
   */
  private static final Pattern VERTEX =
      Pattern.compile("(?m)^[ \\t]*v([ \\t]+[-+.\\deE]+){3,7}[ \\t]*\\r?$");

  private ObjFormat() {}

  @Override
  public String key() {
    return "obj";
  }

  @Override
  public String name() {
    return "OBJ";
  }

  @Override
  public Set<String> extensions() {
    return Set.of("obj");
  }

  @Override
  public boolean sniff(byte[] head) {
    for (byte b : head) {
      if (b == 0) {
        return false;
      }
    }
    return VERTEX.matcher(new String(head, StandardCharsets.ISO_8859_1)).find();
  }

  @Override
  public Optional<SceneReader> reader() {
    return Optional.of(((SceneReader) ObjReader::read).choosing(ObjReader.FIELDS));
  }

  @Override
  public Optional<SceneWriter> writer() {
    return Optional.of(new ObjLanding());
  }

  @Override
  public Frames frames() {
    return Frames.UNSAID;
  }

  @Override
  public void check(String file, Resources files, Findings findings)
      throws IOException, FormatException {
    ObjRules.check(file, files, findings);
  }

  @Override
  public CapabilityTable losses() {
    return ObjCapabilities.TABLE;
  }
}
