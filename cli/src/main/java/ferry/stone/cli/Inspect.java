package ferry.stone.cli;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.ObjectWriter;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.landing.Forecast;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.Frame;
import ferry.stone.core.routine.Asset;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** Reads files and says what they hold and what is wrong. */
@Command(
    name = "inspect",
    mixinStandardHelpOptions = true,
    description = "Says what files hold, how large they are and what is wrong with them.")
final class Inspect implements Callable<Integer> {
  @Mixin private CargoArguments arguments;

  @Option(names = "--json", description = "Print one JSON object.")
  private boolean json;

  @Option(
      names = "--forecast",
      paramLabel = "FORMAT",
      description = "Say what landing as ${COMPLETION-CANDIDATES} would change or lose.",
      completionCandidates = WrittenFormats.class)
  private String format;

  @Option(
      names = "--each",
      description =
          "Each FILE is an asset of its own; with --json a line each. One that cannot be read is told"
              + " and the others go on.")
  private boolean each;

  @Spec private CommandSpec spec;

  @Override
  public Integer call() throws Exception {
    if (!each) {
      try (WorkFolder work = new WorkFolder()) {
        say(arguments.read(work.path()), new ObjectMapper().writerWithDefaultPrettyPrinter());
        return Ferry.KEPT;
      }
    }
    int worst = Ferry.KEPT;
    ObjectWriter lines = new ObjectMapper().writer();
    for (Path file : arguments.files()) {
      try (WorkFolder work = new WorkFolder()) {
        say(arguments.read(List.of(file), work.path()), lines);
      } catch (FormatException | IOException e) {
        worst = Ferry.LOST;
        PrintWriter out = spec.commandLine().getOut();
        out.println(
            json
                ? lines.writeValueAsString(
                    Map.of("file", file.toString(), "problem", String.valueOf(e.getMessage())))
                : file + ": refused: " + e.getMessage());
        out.flush();
      }
    }
    return worst;
  }

  private void say(Asset cargo, ObjectWriter writer) throws IOException {
    Forecast forecast = format == null ? null : forecast(cargo);
    PrintWriter out = spec.commandLine().getOut();
    if (json) {
      ObjectNode told = InspectReport.of(cargo, forecast);
      out.println(writer.writeValueAsString(each ? told.put("asset", cargo.name()) : told));
    } else {
      print(out, cargo);
      print(out, forecast);
    }
    out.flush();
  }

  private Forecast forecast(Asset cargo) {
    try {
      return Forecast.of(cargo.near(), arguments.landing(format), cargo.resources());
    } catch (IllegalArgumentException e) {
      throw new ParameterException(spec.commandLine(), "--forecast: " + e.getMessage() + ".", e);
    }
  }

  private void print(PrintWriter out, Forecast forecast) {
    if (forecast == null) {
      return;
    }
    out.println(
        forecast.items().isEmpty()
            ? "Landing as " + format + " changes and loses nothing."
            : "Landing as " + format + ":");
    for (Forecast.Item item : forecast.items()) {
      out.println(
          (item.fate() == Fate.LOST ? "lost  " : "changed  ")
              + item.label()
              + " ("
              + item.measured()
              + "): "
              + item.how()
              + (item.offers().isEmpty() ? "" : " Step: " + item.offers().get(0).label() + "."));
    }
  }

  private static void print(PrintWriter out, Asset cargo) {
    var inventory = cargo.survey().inventory();
    Frame frame = cargo.near().frame();
    Bounds b = cargo.near().bounds().transform(frame.matrixTo(Frame.Y_UP_METRE));
    out.println(cargo.name() + " · " + frame.label());
    out.println(
        Figures.length(b.size(0))
            + " wide, "
            + Figures.length(b.size(1))
            + " high, "
            + Figures.length(b.size(2))
            + " deep");
    out.println(
        Figures.count(inventory.nodes(), "node")
            + ", "
            + Figures.count(inventory.vertices(), "vertex")
            + ", "
            + Figures.count(inventory.triangles(), "triangle")
            + ", "
            + Figures.count(inventory.materials(), "material")
            + ", "
            + Figures.count(inventory.textures(), "texture"));
    for (Finding f : cargo.survey().findings()) {
      String mark =
          f.severity() == Severity.FIX ? "fix " : f.severity() == Severity.LOOK ? "look" : "note";
      out.println(
          mark
              + "  "
              + f.where()
              + ": "
              + f.message()
              + (f.measured().isEmpty() ? "" : " (" + f.measured() + ")"));
    }
  }
}
