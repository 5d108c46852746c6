package ferry.stone.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;
import picocli.codegen.docgen.manpage.ManPageGenerator;

/** Writes a manual page for each command. */
@Command(
    name = "manual",
    mixinStandardHelpOptions = true,
    description =
        "Writes a manual page for each command as AsciiDoc; 'asciidoctor -b manpage' makes them pages"
            + " for man.")
final class Manual implements Callable<Integer> {
  @Option(
      names = "--out",
      required = true,
      paramLabel = "DIR",
      description = "Folder to write to; pages that are there are replaced.")
  private Path out;

  @Spec private CommandSpec spec;

  @Override
  public Integer call() throws Exception {
    Files.createDirectories(out);
    return ManPageGenerator.generateManPage(out.toFile(), null, new boolean[0], true, spec.root());
  }
}
