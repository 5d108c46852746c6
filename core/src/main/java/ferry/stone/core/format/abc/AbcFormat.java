package ferry.stone.core.format.abc;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.Format;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.Frames;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.SceneReader;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.abc.read.AbcReader;
import ferry.stone.core.format.abc.read.AbcRules;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.losses.CapabilityTable;
import ferry.stone.core.scene.Scene;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import java.util.Set;

/** Alembic: caches of whole scenes. The container of today, Ogawa. */
public final class AbcFormat implements Format {
  public static final Format ABC = new AbcFormat();

  private static final String CONTAINER = "Ogawa";
  private static final String OLDER = "\u0089HDF\r\n";

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
    return Optional.of(new AbcLanding());
  }

  @Override
  public Frames frames() {
    return Frames.UNSAID;
  }

  @Override
  public void check(String file, Resources files, Findings findings)
      throws IOException, FormatException {
    AbcRules.check(file, files, findings);
  }

  @Override
  public CapabilityTable losses() {
    return AbcCapabilities.TABLE;
  }
}
