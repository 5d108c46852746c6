package ferry.stone.cli;

import ferry.stone.core.format.Format;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.losses.Capability;
import java.io.PrintWriter;
import java.util.Locale;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Lists formats and what each of them carries. */
@Command(
    name = "formats",
    mixinStandardHelpOptions = true,
    description = "Lists the formats that are read and written, or what one of them carries.")
final class ListFormats implements Callable<Integer> {
  @Parameters(arity = "0..1", paramLabel = "FORMAT", description = "Key of a format.")
  private String key;

  @Spec private CommandSpec spec;

  @Override
  public Integer call() {
    PrintWriter to = spec.commandLine().getOut();
    if (key == null) {
      for (Format format : Formats.ALL) {
        boolean read = format.reader().isPresent();
        boolean written = format.writer().isPresent();
        String both = read && written ? "read and written" : read ? "read" : "written";
        to.println(format.key() + "  " + format.name() + ", " + both);
      }
    } else {
      Format format =
          Formats.find(key)
              .orElseThrow(
                  () ->
                      new ParameterException(
                          spec.commandLine(), "There is no format \"" + key + "\"."));
      format
          .losses()
          .supports()
          .forEach(
              s ->
                  to.println(
                      word(s.read())
                          + " / "
                          + word(s.written())
                          + "  "
                          + s.capability().label()
                          + (s.how().isEmpty() ? "" : ": " + s.how())));
    }
    to.flush();
    return Ferry.KEPT;
  }

  private static String word(Capability.Fate fate) {
    return fate == Capability.Fate.NONE ? "—" : fate.name().toLowerCase(Locale.ROOT);
  }
}
