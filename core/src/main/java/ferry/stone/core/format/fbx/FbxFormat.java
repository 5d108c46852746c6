package ferry.stone.core.format.fbx;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.Format;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Frames;
import ferry.stone.core.format.SceneReader;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.fbx.raw.FbxBinaryParser;
import ferry.stone.core.format.fbx.raw.FbxDocument;
import ferry.stone.core.format.fbx.read.FbxReader;
import ferry.stone.core.format.fbx.rules.FbxRules;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.losses.CapabilityTable;
import java.io.IOException;
import java.util.Optional;
import java.util.Set;

/**
 * FBX, binary and text, versions 6 and 7. There is no published source: facts are from files and
 * from what other readers make of them.
 *
 * <table>
 * <caption>Binary form, all little-endian</caption>
 * <tr><td>mark</td><td>23 bytes: 21 letters and spaces, 0x1A, 0x00</td></tr>
 * <tr><td>version</td><td>uint32, e.g. 7400</td></tr>
 * <tr><td>record</td><td>end, count and length of its values (uint32; uint64 from 7500), uint8 length
 * of its name, name, values, records inside it, closed by an empty record</td></tr>
 * <tr><td>value</td><td>a letter for its type: Y int16, C bool, I int32, F float, D double, L int64, S
 * text, R bytes; f d l i b arrays: uint32 count, encoding (1 deflated), length</td></tr>
 * </table>
 */
public final class FbxFormat implements Format {
  public static final Format FBX = new FbxFormat();

  private FbxFormat() {}

  @Override
  public String key() {
    return "fbx";
  }

  @Override
  public String name() {
    return "FBX";
  }

  @Override
  public Set<String> extensions() {
    return Set.of("fbx");
  }

  @Override
  public boolean sniff(byte[] head) {
    return FbxBinaryParser.isBinary(head) || FbxDocument.looksLikeText(head);
  }

  @Override
  public Optional<SceneReader> reader() {
    return Optional.of(FbxReader::read);
  }

  @Override
  public Optional<SceneWriter> writer() {
    return Optional.of(new FbxLanding());
  }

  @Override
  public Frames frames() {
    return Frames.STATED;
  }

  @Override
  public void check(String file, Resources files, Findings findings)
      throws IOException, FormatException {
    FbxRules.check(file, files, findings);
  }

  @Override
  public CapabilityTable losses() {
    return FbxCapabilities.TABLE;
  }
}
