package ferry.stone.cli;

import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.math.Figures;
import ferry.stone.core.routine.Batch;
import ferry.stone.core.routine.BatchList;
import ferry.stone.core.routine.BatchTask;
import ferry.stone.core.routine.Routine;
import ferry.stone.core.routine.Routines;
import ferry.stone.core.routine.RunRecord;
import ferry.stone.core.routine.RunSettings;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Runs a routine on many assets, each proved, with one report. */
@Command(
    name = "run",
    mixinStandardHelpOptions = true,
    description = {
      "Runs a routine on many assets: each is read, handled, landed and proved in a folder of its own"
          + " below DIR, and one report tells of all.",
      "What was done before is left as it is, so a run that was cut off goes on where it stopped."
    })
final class Run implements Callable<Integer> {
  @Parameters(
      arity = "1..*",
      paramLabel = "FILE",
      description =
          "Scene files, zips, and folders of them: what lies in a folder is an asset each. @LIST reads"
              + " them from a file, one a line.")
  private List<Path> files;

  @Mixin private RoutineArgument routine;

  @Option(
      names = "--out",
      required = true,
      paramLabel = "DIR",
      description = "Folder to write to; made if it is not there.")
  private Path out;

  @Option(
      names = "--jobs",
      paramLabel = "N",
      description = "Assets at once; as many as there are processors when left out.")
  private Integer jobs;

  @Option(names = "--reports", description = "A page with pictures for each landing too.")
  private boolean reports;

  @Option(
      names = "--pages",
      description =
          "The landed asset in one page that needs no server, for each landing too; convert --page"
              + " makes the same.")
  private boolean pages;

  @Option(
      names = "--shard",
      paramLabel = "K/N",
      description =
          "The K-th of N parts of the assets alone, for several machines; the report is written by"
              + " --summary then.")
  private String shard;

  @Option(
      names = "--summary",
      description = "Run nothing: write the report of what was run, and say what was not.")
  private boolean summary;

  @Option(names = "--json", description = "Print one JSON object a line for each asset.")
  private boolean json;

  @Option(
      names = "--save",
      paramLabel = "FILE",
      description = "Write the routine as JSON too, to be run again.")
  private Path save;

  @Mixin private LibraryArgument library;

  @Spec private CommandSpec spec;

  private int done;

  @Override
  public Integer call() throws Exception {
    Routine wanted = routine.routine();
    if (save != null) {
      Files.writeString(save, Routines.write(wanted));
    }
    List<BatchTask> tasks = BatchList.of(files);
    if (tasks.isEmpty()) {
      throw new IOException("There is no scene file in what was named. Check the path");
    }
    Batch batch = new Batch(wanted, settings(), out);
    List<BatchTask> own = summary ? List.of() : shard(tasks);
    PrintWriter to = spec.commandLine().getOut();
    int all = own.size();
    List<RunRecord> records;
    try (ProgressLine line = ProgressLine.onTerminal()) {
      Batch.Listener listener =
          (task, record, again) -> {
            // No other asset puts its line between.
            synchronized (line) {
              line.close();
              say(to, task, record, again, all);
            }
          };
      records = batch.run(own, listener, line);
    }
    if (shard == null || summary) {
      List<RunRecord> told = summary ? batch.records(tasks) : records;
      Path page = batch.report(tasks, told);
      records = told;
      if (!json) {
        to.println("Report of " + Figures.count(tasks.size(), "asset") + ": " + page);
      }
    }
    boolean trouble = false;
    for (RunRecord record : records) {
      trouble |= record == null || record.verdict().isTrouble();
    }
    return trouble ? Ferry.LOST : Ferry.KEPT;
  }

  private RunSettings settings() {
    try {
      int usual = Math.max(1, Runtime.getRuntime().availableProcessors());
      return new RunSettings(
          Ferry.VERSION, reports, pages, jobs == null ? usual : jobs, library.folders());
    } catch (IllegalArgumentException e) {
      throw new ParameterException(spec.commandLine(), "--jobs: " + e.getMessage() + ".", e);
    }
  }

  private List<BatchTask> shard(List<BatchTask> tasks) {
    if (shard == null) {
      return tasks;
    }
    int slash = shard.indexOf('/');
    int part = slash < 0 ? 0 : number(shard.substring(0, slash));
    int parts = slash < 0 ? 0 : number(shard.substring(slash + 1));
    if (part < 1 || parts < part) {
      throw new ParameterException(
          spec.commandLine(), "--shard takes K/N with K from 1 to N, not \"" + shard + "\".");
    }
    List<BatchTask> own = new ArrayList<>();
    for (int i = part - 1; i < tasks.size(); i += parts) {
      own.add(tasks.get(i));
    }
    return own;
  }

  private static int number(String text) {
    return text.matches("\\d{1,6}") ? Integer.parseInt(text) : 0;
  }

  private void say(PrintWriter to, BatchTask task, RunRecord record, boolean again, int all) {
    done++;
    if (json) {
      try {
        to.println(new ObjectMapper().writeValueAsString(record));
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    } else {
      to.println(
          "["
              + done
              + "/"
              + all
              + "] "
              + task.name()
              + ": "
              + record.line()
              + (again ? " (done before)" : ""));
    }
    to.flush();
  }
}
