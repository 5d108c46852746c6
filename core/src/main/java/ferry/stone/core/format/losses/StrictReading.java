package ferry.stone.core.format.losses;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.SceneReader;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Beside;
import java.io.IOException;
import java.util.function.Supplier;

/** Reads a file back and holds it to the rules of its standard, a large one on two cores. */
public final class StrictReading {
  /** Bytes from which it pays to use another core. */
  private static final long MANY = 1 << 20;

  private StrictReading() {}

  /** Rules of a standard. */
  public interface Rules {
    /** Tells which of them a file breaks. */
    void check(String file, Resources files, Findings findings) throws IOException, FormatException;
  }

  /** What rules are broken is told first, and so is a file that cannot be held to them at all. */
  public static Scene read(Rules rules, SceneReader reader, String file, ReadContext context)
      throws IOException, FormatException {
    Resources files = context.resources();
    if (files.size(file) < MANY) {
      rules.check(file, files, context.findings());
      return reader.read(file, context);
    }
    Findings broken = new Findings();
    Findings told = new Findings();
    try (Beside beside = new Beside()) {
      Supplier<Exception> check = beside.give(() -> checked(rules, file, files, broken));
      Scene scene = null;
      Exception problem = null;
      try {
        scene = reader.read(file, context.of(files, told));
      } catch (IOException | FormatException e) {
        problem = e;
      }
      Exception first = check.get();
      raise(first == null ? problem : first);
      context.findings().addAll(broken.list());
      context.findings().addAll(told.list());
      return scene;
    }
  }

  private static Exception checked(Rules rules, String file, Resources files, Findings broken) {
    try {
      rules.check(file, files, broken);
      return null;
    } catch (IOException | FormatException e) {
      return e;
    }
  }

  private static void raise(Exception problem) throws IOException, FormatException {
    if (problem instanceof IOException io) {
      throw io;
    }
    if (problem instanceof FormatException format) {
      throw format;
    }
  }
}
