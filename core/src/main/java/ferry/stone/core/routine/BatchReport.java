package ferry.stone.core.routine;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.math.Figures;
import ferry.stone.core.report.HtmlText;
import ferry.stone.core.report.ReportStyle;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Base64;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/**
 * One report of a whole batch: how many arrived, and a row for each asset with its picture, its
 * verdict and what was lost; the worst first. Records may be missing where an asset was not run.
 */
public final class BatchReport {
  /** Beyond as many pictures the page shows those of the folders instead of holding them itself. */
  private static final int MOST_PICTURES = 300;

  private static final int MOST_LOST = 5;

  private final Routine routine;
  private final List<BatchTask> tasks;
  private final List<RunRecord> records;
  private final String ferry;

  public BatchReport(
      Routine routine, List<BatchTask> tasks, List<RunRecord> records, String ferry) {
    this.routine = routine;
    this.tasks = tasks;
    this.records = records;
    this.ferry = ferry;
  }

  private Map<RunRecord.Verdict, Integer> counts() {
    Map<RunRecord.Verdict, Integer> counts = new EnumMap<>(RunRecord.Verdict.class);
    for (RunRecord record : records) {
      if (record != null) {
        counts.merge(record.verdict(), 1, Integer::sum);
      }
    }
    return counts;
  }

  private int missing() {
    return (int) records.stream().filter(r -> r == null).count();
  }

  public String json() {
    ObjectMapper mapper = new ObjectMapper();
    ObjectNode json = mapper.createObjectNode();
    json.put("schema", RunRecord.SCHEMA);
    json.put("ferry", ferry);
    json.set("routine", mapper.valueToTree(RunRecord.RoutineName.of(routine)));
    json.put("assets", tasks.size());
    ObjectNode counts = json.putObject("verdicts");
    for (RunRecord.Verdict verdict : RunRecord.Verdict.values()) {
      counts.put(verdict.word(), counts().getOrDefault(verdict, 0));
    }
    counts.put("missing", missing());
    ArrayNode runs = json.putArray("runs");
    for (int i = 0; i < tasks.size(); i++) {
      if (records.get(i) != null) {
        runs.add(mapper.valueToTree(records.get(i)));
      } else {
        runs.addObject().put("asset", tasks.get(i).name()).put("verdict", "MISSING");
      }
    }
    try {
      return mapper.writerWithDefaultPrettyPrinter().writeValueAsString(json) + "\n";
    } catch (JsonProcessingException e) {
      throw new IllegalStateException(e);
    }
  }

  /** Pictures of the assets, as PNG. */
  public interface Pictures {
    /** {@code null} for none. */
    byte[] of(BatchTask task) throws IOException;
  }

  public String html(Pictures pictures) throws IOException {
    StringBuilder page = new StringBuilder(1 << 16);
    page.append("<!doctype html>\n<html lang=\"en\"><head><meta charset=\"utf-8\">\n");
    page.append("<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">\n");
    page.append("<title>").append(HtmlText.of(routine.name())).append("</title>\n<style>");
    page.append(ReportStyle.CSS).append(ROWS).append("</style></head><body>\n<header><h1>");
    page.append(Figures.count(tasks.size(), "asset")).append(" through ");
    page.append(HtmlText.of(routine.name())).append("</h1><p class=\"quiet\">Version ");
    page.append(routine.version())
        .append(" of the routine, Stone Ferry ")
        .append(HtmlText.of(ferry));
    page.append("; shore ").append(HtmlText.of(routine.shore().name())).append(".</p></header>\n");
    verdict(page);
    page.append("<div class=\"wide\"><table><thead><tr><th>Picture</th><th>Asset</th>");
    page.append("<th>Verdict</th><th>What is to be known</th></tr></thead><tbody>\n");
    for (int i : order()) {
      row(page, tasks.get(i), records.get(i), pictures);
    }
    return page.append("</tbody></table></div></body></html>\n").toString();
  }

  private static final String ROWS =
      "td img{width:8rem;height:auto;background:var(--view);display:block}"
          + "td ul{margin:.2rem 0;padding-left:1.1rem}";

  private void verdict(StringBuilder page) {
    int trouble = missing();
    StringBuilder words = new StringBuilder();
    for (var count : counts().entrySet()) {
      trouble += count.getKey().isTrouble() ? count.getValue() : 0;
      words.append(words.length() == 0 ? "" : ", ");
      words.append(count.getValue()).append(' ').append(count.getKey().word());
    }
    if (missing() > 0) {
      words.append(words.length() == 0 ? "" : ", ").append(missing()).append(" not run");
    }
    page.append("<p class=\"verdict ").append(trouble > 0 ? "lost" : "kept").append("\"><b>");
    page.append(
        trouble == 0
            ? "Every asset arrived."
            : Figures.count(trouble, "asset") + " of " + tasks.size() + " to look at.");
    page.append("</b> ").append(words).append(".</p>\n");
  }

  /** Places of the tasks, the worst first, else as they were named. */
  private List<Integer> order() {
    List<Integer> order = new ArrayList<>();
    for (int i = 0; i < tasks.size(); i++) {
      order.add(i);
    }
    order.sort((a, b) -> Integer.compare(worth(b), worth(a)));
    return order;
  }

  private int worth(int place) {
    RunRecord record = records.get(place);
    return record == null ? Integer.MAX_VALUE : record.verdict().ordinal();
  }

  private void row(StringBuilder page, BatchTask task, RunRecord record, Pictures pictures)
      throws IOException {
    page.append("<tr><td>");
    byte[] picture = record == null ? null : pictures.of(task);
    if (picture != null) {
      String source =
          tasks.size() > MOST_PICTURES
              ? task.name() + "/" + AssetRun.PICTURE
              : "data:image/png;base64," + Base64.getEncoder().encodeToString(picture);
      page.append("<img alt=\"\" loading=\"lazy\" src=\"")
          .append(HtmlText.of(source))
          .append("\">");
    }
    page.append("</td><td>").append(HtmlText.of(task.name())).append("</td>");
    String colour =
        record == null || record.verdict().isTrouble()
            ? "lost"
            : record.verdict() == RunRecord.Verdict.CHANGED ? "changed" : "kept";
    page.append("<td class=\"").append(colour).append("\">");
    page.append(record == null ? "not run" : record.verdict().word()).append("</td><td>");
    if (record != null) {
      told(page, record);
    }
    page.append("</td></tr>\n");
  }

  private static void told(StringBuilder page, RunRecord record) {
    if (record.verdict() == RunRecord.Verdict.REFUSED) {
      page.append(HtmlText.of(record.problem()));
      return;
    }
    for (RunRecord.LandingFact landing : record.landings()) {
      String folder = record.asset() + "/";
      page.append(HtmlText.of(landing.format()))
          .append(": ")
          .append(landing.kept())
          .append(" kept, ");
      page.append(landing.changed()).append(" changed, ").append(landing.lost()).append(" lost");
      if (!landing.report().isEmpty()) {
        String place = folder + landing.report();
        page.append(" (<a href=\"").append(HtmlText.of(place)).append("\">report</a>)");
      }
      if (!landing.page().isEmpty()) {
        String place = folder + landing.page();
        page.append(" (<a href=\"").append(HtmlText.of(place)).append("\">page</a>)");
      }
      page.append(landing.lostFacts().isEmpty() ? "<br>" : "<ul>");
      int shown = Math.min(MOST_LOST, landing.lostFacts().size());
      for (String fact : landing.lostFacts().subList(0, shown)) {
        page.append("<li>").append(HtmlText.of(fact)).append("</li>");
      }
      if (landing.lostFacts().size() > shown) {
        page.append("<li>").append(landing.lostFacts().size() - shown).append(" more</li>");
      }
      page.append(landing.lostFacts().isEmpty() ? "" : "</ul>");
    }
    for (RunRecord.FindingFact finding : record.findings()) {
      if (finding.isOfSteps()) {
        page.append(HtmlText.of(finding.where() + ": " + finding.message())).append("<br>");
      }
    }
  }
}
