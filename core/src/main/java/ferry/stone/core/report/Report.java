package ferry.stone.core.report;

import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.proof.pair.PairProof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.view.picture.Picture;
import ferry.stone.core.view.picture.ViewFrom;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * A proof as one HTML file: the verdict, pictures of both sides from four directions and of where
 * they lie apart, all facts, files with their hashes, settings. Readable on a phone, printable.
 *
 * @param kind what is told of
 * @param title of the page
 * @param made when it was made and by what, in words
 * @param first the side that is held to be right
 * @param second what is held against it
 * @param against what the surfaces of the second are held against in pictures
 * @param settings by their names, in the order that they are shown in
 */
public record Report(
    Kind kind,
    String title,
    String made,
    Proof proof,
    ReportSide first,
    ReportSide second,
    Against against,
    Map<String, String> settings) {

  /**
   * What the second was to be.
   *
   * @param scene {@code null} where that is not known any more: then there are no pictures of where
   *     they lie apart
   * @param how it was put on the spot of the first, and parts that were matched by hand
   */
  public record Against(Scene scene, PairProof.How how) {
    /** What was to land. */
    public static Against far(Scene far) {
      return new Against(far, PairProof.How.USUAL);
    }
  }

  /** What a report tells of. */
  public enum Kind {
    /** What landed against what was to land. */
    LANDING(List.of("Near", "Far", "Landed"), "did not arrive", "arrived in another form"),
    /** One file against another. */
    PAIR(List.of("First", "Second"), "of the first are not in the second", "differ");

    private final List<String> columns;
    private final String lost;
    private final String changed;

    Kind(List<String> columns, String lost, String changed) {
      this.columns = columns;
      this.lost = lost;
      this.changed = changed;
    }

    private List<String> cells(LedgerRow row) {
      return this == LANDING
          ? List.of(row.near(), row.far(), row.landed())
          : List.of(row.far(), row.landed());
    }
  }

  private static final int WIDTH = 480;
  private static final int HEIGHT = 360;
  private static final List<ViewFrom> SIDES =
      List.of(ViewFrom.CORNER, ViewFrom.FRONT, ViewFrom.RIGHT, ViewFrom.TOP);

  /** The page. */
  public String html(Progress progress) {
    StringBuilder out = new StringBuilder(1 << 16);
    out.append("<!doctype html>\n<html lang=\"en\"><head><meta charset=\"utf-8\">\n");
    out.append("<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">\n");
    out.append("<title>").append(HtmlText.of(title)).append("</title>\n<style>");
    out.append(ReportStyle.CSS).append("</style></head><body>\n<header><h1>");
    out.append(HtmlText.of(title)).append("</h1><p class=\"quiet\">").append(HtmlText.of(made));
    out.append("</p></header>\n");
    verdict(out);
    pictures(out, progress);
    told(out);
    facts(out);
    files(out, first);
    files(out, second);
    settings(out);
    return out.append("</body></html>\n").toString();
  }

  private void verdict(StringBuilder out) {
    int differ = proof.changed() + proof.lost();
    String colour = proof.lost() > 0 ? "lost" : proof.changed() > 0 ? "changed" : "kept";
    String words =
        differ == 0
            ? "Everything that was compared is the same."
            : proof.lost() > 0
                ? Figures.count(proof.lost(), "fact") + " " + kind.lost + "."
                : Figures.count(proof.changed(), "fact") + " " + kind.changed + ".";
    out.append("<p class=\"verdict ").append(colour).append("\"><b>").append(words);
    out.append("</b> ").append(proof.kept()).append(kind == Kind.PAIR ? " the same, " : " kept, ");
    out.append(proof.changed()).append(" changed, ").append(proof.lost()).append(" lost");
    out.append(proof.within() == 0 ? "" : ", " + proof.within() + " of what changed within");
    out.append(proof.beyond() == 0 ? "" : ", " + proof.beyond() + " beyond");
    out.append(proof.within() + proof.beyond() == 0 ? "" : " what the shore lets differ");
    out.append(".</p>\n");
  }

  private void pictures(StringBuilder out, Progress progress) {
    Picture one = Picture.of(first.scene(), first.files(), Double.NaN, progress);
    Picture two = Picture.of(second.scene(), second.files(), Double.NaN, progress);
    out.append("<section><h2>Both sides</h2><div class=\"pictures\">\n");
    for (ViewFrom side : SIDES) {
      progress.checkCancelled();
      String from = "from the " + side.name().toLowerCase(Locale.ROOT);
      figure(out, one.taken(side, WIDTH, HEIGHT, progress), first.label() + ", " + from);
      figure(out, two.taken(side, WIDTH, HEIGHT, progress), second.label() + ", " + from);
    }
    out.append("</div>\n");
    apart(out, progress);
    out.append("</section>\n");
  }

  /** Where the second side lies apart from the first, if it does anywhere. */
  private void apart(StringBuilder out, Progress progress) {
    Scene wanted = against.scene;
    if (wanted == null || !Apart.isPossible(wanted) || !Apart.isPossible(second.scene())) {
      return;
    }
    Apart apart = Apart.of(wanted, second.scene(), second.files(), against.how, progress);
    if (apart.isNothing()) {
      return;
    }
    out.append("<h3>Where they lie apart</h3><p>Up to ")
        .append(HtmlText.of(Figures.length(apart.most())));
    out.append(", most on ")
        .append(HtmlText.of(apart.where()))
        .append(": pale is together, vermilion is the most");
    out.append(".</p><div class=\"pictures\">\n");
    for (ViewFrom side : SIDES) {
      Pixels heat = apart.taken(side, WIDTH, HEIGHT, null, progress);
      figure(out, heat, "apart, from the " + side.name().toLowerCase(Locale.ROOT));
    }
    out.append("</div>\n");
  }

  private static void figure(StringBuilder out, Pixels picture, String words) {
    String png = Base64.getEncoder().encodeToString(ImageCodec.encodePng(picture));
    out.append("<figure><img alt=\"")
        .append(HtmlText.of(words))
        .append("\" width=\"")
        .append(WIDTH);
    out.append("\" height=\"").append(HEIGHT).append("\" src=\"data:image/png;base64,");
    out.append(png)
        .append("\"><figcaption>")
        .append(HtmlText.of(words))
        .append("</figcaption></figure>\n");
  }

  /** What is not as it was, before all else. */
  private void told(StringBuilder out) {
    List<LedgerRow> rows = proof.rows().stream().filter(r -> r.verdict() != Verdict.KEPT).toList();
    if (!rows.isEmpty()) {
      out.append("<section><h2>What is not as it was</h2>");
      table(out, rows);
      out.append("</section>\n");
    }
  }

  private void facts(StringBuilder out) {
    out.append("<section><details open><summary><h2>All facts</h2></summary>");
    table(out, proof.rows());
    out.append("</details></section>\n");
  }

  private void table(StringBuilder out, List<LedgerRow> rows) {
    out.append("<div class=\"wide\"><table><thead><tr><th>Fact</th>");
    kind.columns.forEach(column -> out.append("<th>").append(column).append("</th>"));
    out.append("<th>Differs</th><th>Verdict</th></tr></thead><tbody>\n");
    int columns = kind.columns.size() + 3;
    String group = null;
    for (LedgerRow row : rows) {
      if (!row.group().equals(group)) {
        group = row.group();
        out.append("<tr class=\"group\"><th colspan=\"")
            .append(columns)
            .append("\">")
            .append(HtmlText.of(group));
        out.append("</th></tr>\n");
      }
      String verdict = row.verdict().name().toLowerCase(Locale.ROOT);
      out.append("<tr><td>").append(HtmlText.of(row.fact()));
      if (!row.note().isEmpty()) {
        out.append("<div class=\"quiet\">").append(HtmlText.of(row.note())).append("</div>");
      }
      for (String cell : kind.cells(row)) {
        out.append("</td><td class=\"num\">").append(HtmlText.of(cell));
      }
      out.append("</td><td class=\"num\">").append(HtmlText.of(row.differs()));
      out.append("</td><td class=\"").append(verdict).append("\">").append(verdict);
      out.append("</td></tr>\n");
    }
    out.append("</tbody></table></div>");
  }

  private static void files(StringBuilder out, ReportSide side) {
    out.append("<section><h2>Files: ")
        .append(HtmlText.of(side.label()))
        .append("</h2><div class=\"wide\">");
    out.append(
        "<table><thead><tr><th>File</th><th>Size</th><th>SHA-256</th></tr></thead><tbody>\n");
    for (ReportSide.FileFact file : side.list()) {
      out.append("<tr><td>").append(HtmlText.of(file.path())).append("</td><td class=\"num\">");
      out.append(Figures.bytes(file.bytes())).append("</td><td class=\"hash\">");
      out.append(file.sha256()).append("</td></tr>\n");
    }
    out.append("</tbody></table></div></section>\n");
  }

  private void settings(StringBuilder out) {
    if (settings.isEmpty()) {
      return;
    }
    out.append("<section><h2>Settings</h2><div class=\"wide\"><table><tbody>\n");
    List<String> names = new ArrayList<>(settings.keySet());
    for (String name : names) {
      out.append("<tr><td>").append(HtmlText.of(name)).append("</td><td>");
      out.append(HtmlText.of(settings.get(name))).append("</td></tr>\n");
    }
    out.append("</tbody></table></div></section>\n");
  }
}
