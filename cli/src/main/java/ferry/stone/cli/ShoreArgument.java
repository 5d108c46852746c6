package ferry.stone.cli;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.format.Formats;
import ferry.stone.core.shore.Shore;
import ferry.stone.core.shore.Shores;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Collectors;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** The shore whose limits and names the survey goes by. */
final class ShoreArgument {
  @Spec(Spec.Target.MIXEE)
  private CommandSpec spec;

  @Option(
      names = "--shore",
      paramLabel = "SHORE",
      description = "A built-in shore, or a JSON file of one: whose limits and names count.")
  private String shore;

  /** Whether one was named; else it is the usual one. */
  boolean isChosen() {
    return shore != null;
  }

  Shore shore() {
    if (shore == null) {
      return Shores.usual();
    }
    return Shores.builtIn(shore).orElseGet(this::fromFile);
  }

  private Shore fromFile() {
    Path file = Path.of(shore);
    if (!Files.isRegularFile(file)) {
      throw new ParameterException(
          spec.commandLine(),
          "--shore takes a JSON file or one of "
              + Shores.builtIn().stream().map(Shore::id).collect(Collectors.joining(", "))
              + ", not \""
              + shore
              + "\".");
    }
    try {
      Shore read = new ObjectMapper().readValue(file.toFile(), Shore.class);
      Formats.checkWritten(read.formats());
      return read;
    } catch (IllegalArgumentException e) {
      throw new ParameterException(
          spec.commandLine(), "\"" + shore + "\" is no shore: " + e.getMessage() + ".", e);
    } catch (JsonProcessingException e) {
      Throwable cause = e.getCause() instanceof IllegalArgumentException ? e.getCause() : e;
      String why =
          cause == e ? e.getOriginalMessage().lines().findFirst().orElse("") : cause.getMessage();
      throw new ParameterException(
          spec.commandLine(), "\"" + shore + "\" is no shore: " + why + ".", e);
    } catch (IOException e) {
      throw new ParameterException(
          spec.commandLine(), "\"" + shore + "\" cannot be read: " + e.getMessage() + ".", e);
    }
  }
}
