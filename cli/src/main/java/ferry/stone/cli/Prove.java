package ferry.stone.cli;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.proof.pair.PairProof;
import ferry.stone.core.proof.pair.PairProof.Together;
import ferry.stone.core.report.Report;
import ferry.stone.core.routine.Asset;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** Says whether two files are the same asset, and what differs. */
@Command(
    name = "prove",
    mixinStandardHelpOptions = true,
    description = "Says whether two files are the same asset, and what differs where.")
final class Prove implements Callable<Integer> {
  @Mixin private CargoArguments arguments;

  @Option(
      names = "--together",
      paramLabel = "SPOT",
      defaultValue = "AS_THEY_ARE",
      description =
          "Where the second stands: AS_THEY_ARE (${DEFAULT-VALUE}), ROOTS (origins of both roots on"
              + " one spot) or BASES (middles of the bases of both boxes).")
  private Together together;

  @Option(
      names = "--match",
      paramLabel = "PART=PART",
      description = "A part of the first by its path, and the part of the second that it is.")
  private Map<String, String> match = new LinkedHashMap<>();

  @Option(
      names = "--takes",
      paramLabel = "CLIP=CLIP",
      description =
          "A clip of the first and the clip of the second that it is held against, whatever their"
              + " names; other clips do not count.")
  private String takes;

  @Option(names = "--all", description = "Print what is the same too.")
  private boolean all;

  @Option(
      names = "--json",
      paramLabel = "FILE",
      description = "Write all facts as JSON; an existing file is replaced.")
  private Path json;

  @Option(
      names = "--report",
      paramLabel = "FILE",
      description =
          "Write a page with pictures of both, all facts and hashes; an existing file is replaced.")
  private Path report;

  @Option(
      names = "--seam",
      paramLabel = "FILE",
      description =
          "Write a page that shows both with a seam between them, without a server; an existing file"
              + " is replaced.")
  private Path seam;

  @Spec private CommandSpec spec;

  @Override
  public Integer call() throws Exception {
    List<Path> files = arguments.files();
    if (files.size() != 2) {
      throw new ParameterException(
          spec.commandLine(), "Two files are compared; " + files.size() + " were given.");
    }
    try (WorkFolder work = new WorkFolder()) {
      Asset a = arguments.read(files.subList(0, 1), work.path().resolve("a"));
      Asset b = arguments.read(files.subList(1, 2), work.path().resolve("b"));
      for (String path : match.keySet()) {
        if (!a.near().paths().contains(path) || !b.near().paths().contains(match.get(path))) {
          boolean first = !a.near().paths().contains(path);
          throw new ParameterException(
              spec.commandLine(),
              "--match: "
                  + (first ? files.get(0) : files.get(1))
                  + " has no part \""
                  + (first ? path : match.get(path))
                  + "\"; 'ferry inspect --json' lists the paths.");
        }
      }
      PairProof.How how = how(a, b, files);
      Proof proof = proof(a, b, files, how);
      refuse(json, a, b);
      refuse(report, a, b);
      refuse(seam, a, b);
      if (json != null) {
        write(proof, a, b);
      }
      if (report != null) {
        Map<String, String> settings = new LinkedHashMap<>();
        settings.put("Stands", together.name().toLowerCase(Locale.ROOT).replace('_', ' '));
        match.forEach((one, other) -> settings.put("Part " + one, other));
        if (takes != null) {
          settings.put("Takes", takes.replace("=", " against "));
        }
        Reports.write(
            report,
            Report.Kind.PAIR,
            b.name() + " against " + a.name(),
            proof,
            Reports.side("first, " + files.get(0).getFileName(), a),
            Reports.side("second, " + files.get(1).getFileName(), b),
            new Report.Against(a.near(), how),
            settings);
      }
      if (seam != null) {
        Pages.write(a, b, proof, seam);
      }
      return print(proof);
    }
  }

  private static Proof proof(Asset a, Asset b, List<Path> files, PairProof.How how)
      throws Exception {
    try (ProgressLine line = ProgressLine.onTerminal()) {
      return PairProof.of(
          new PairProof.Side(a.near(), a.resources(), files.get(0).toString()),
          new PairProof.Side(b.near(), b.resources(), files.get(1).toString()),
          how,
          line);
    }
  }

  private PairProof.How how(Asset a, Asset b, List<Path> files) {
    PairProof.How how =
        PairProof.How.USUAL.with(together).with(match).with(arguments.shore().tolerances());
    if (takes == null) {
      return how;
    }
    String[] names = takes.split("=", 2);
    String wrong =
        names.length < 2
            ? "takes CLIP=CLIP"
            : !has(a, names[0])
                ? files.get(0) + " has no clip \"" + names[0] + "\""
                : !has(b, names[1]) ? files.get(1) + " has no clip \"" + names[1] + "\"" : "";
    if (!wrong.isEmpty()) {
      throw new ParameterException(
          spec.commandLine(), "--takes: " + wrong + "; 'ferry inspect' lists the clips.");
    }
    return how.withTakes(names[0], names[1]);
  }

  private static boolean has(Asset asset, String clip) {
    return asset.near().clips().stream().anyMatch(c -> c.name().equals(clip));
  }

  /** What is compared is never written over. */
  private void refuse(Path target, Asset a, Asset b) throws IOException {
    for (Asset cargo : List.of(a, b)) {
      for (Path input : cargo.inputs()) {
        if (target != null && Files.exists(target) && Files.isSameFile(input, target)) {
          throw new ParameterException(
              spec.commandLine(),
              target + " would be replaced, and it is compared. Name another file.");
        }
      }
    }
  }

  private void write(Proof proof, Asset a, Asset b) throws Exception {
    ObjectMapper mapper = new ObjectMapper();
    ObjectNode tree = mapper.valueToTree(proof);
    tree.set("first", InspectReport.of(a));
    tree.set("second", InspectReport.of(b));
    mapper.writerWithDefaultPrettyPrinter().writeValue(json.toFile(), tree);
  }

  private int print(Proof proof) {
    PrintWriter out = spec.commandLine().getOut();
    int differ = proof.changed() + proof.lost();
    for (LedgerRow row : proof.rows()) {
      if (all || row.verdict() != Verdict.KEPT) {
        String mark =
            row.verdict() == Verdict.KEPT
                ? "same     "
                : row.isWithin() ? "within   " : "differs  ";
        String values =
            row.far().equals(row.landed()) ? row.far() : row.far() + " → " + row.landed();
        out.println(
            mark
                + row.group()
                + ", "
                + row.fact()
                + ": "
                + values
                + (row.differs().isEmpty() ? "" : " (" + row.differs() + ")")
                + (row.note().isEmpty() ? "" : "; " + row.note()));
      }
    }
    int seen = differ - proof.within();
    out.println(
        differ == 0
            ? "The same asset: " + proof.kept() + " facts compared, all the same."
            : differ
                + " of "
                + (proof.kept() + differ)
                + " facts differ"
                + (proof.within() == 0
                    ? "."
                    : ", " + proof.within() + " of them within what the shore lets differ."));
    return seen == 0 ? Ferry.KEPT : Ferry.LOST;
  }
}
