package ferry.stone.core.handover;

import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.report.HtmlText;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * One HTML file that shows an asset, or both sides of a proof with the seam between them. It asks
 * nothing of any network: its own policy forbids it to.
 *
 * @param title of the page
 * @param made when it was made and by what, in words
 * @param assets one, or the first side and the second
 * @param proof of the second against the first; {@code null} for an asset alone
 */
public record HandoverPage(String title, String made, List<PageAsset> assets, Proof proof) {
  /** Rows that a page lists; the report has all. */
  private static final int MOST_ROWS = 500;

  private static final String POLICY =
      "default-src 'none'; script-src 'unsafe-inline'; style-src 'unsafe-inline';"
          + " img-src data: blob:; connect-src data: blob:; base-uri 'none'; form-action 'none'";

  /**
   * Writes the page.
   *
   * @param out stays open
   */
  public void write(OutputStream out, Progress progress) throws IOException {
    StringBuilder head = new StringBuilder(1 << 20);
    head.append("<!doctype html>\n<html lang=\"en\"><head><meta charset=\"utf-8\">\n");
    head.append("<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">\n");
    head.append("<meta http-equiv=\"Content-Security-Policy\" content=\"").append(POLICY);
    head.append("\">\n<title>").append(HtmlText.of(title)).append("</title></head><body>\n");
    head.append("<noscript>This page shows a 3D asset with a script inside it; allow scripts for");
    head.append(" this file.</noscript>\n<script type=\"application/json\" id=\"about\">");
    head.append(new ObjectMapper().writeValueAsString(about()).replace("<", "\\u003c"));
    head.append("</script>\n<script>").append(PageScript.text()).append("</script>\n");
    out.write(head.toString().getBytes(StandardCharsets.UTF_8));
    for (int i = 0; i < assets.size(); i++) {
      progress.checkCancelled();
      progress.report("writing the page", (double) i / assets.size());
      try (InputStream bytes = assets.get(i).open()) {
        AssetText.write(bytes, i, out);
      }
    }
    out.write("</body></html>\n".getBytes(StandardCharsets.UTF_8));
  }

  private Map<String, Object> about() throws IOException {
    Map<String, Object> about = new LinkedHashMap<>();
    about.put("title", title);
    about.put("made", made);
    List<Map<String, Object>> sides = new ArrayList<>();
    for (PageAsset asset : assets) {
      sides.add(asset.about());
    }
    about.put("sides", sides);
    about.put("proof", proof == null ? null : told());
    return about;
  }

  private Map<String, Object> told() {
    List<LedgerRow> differing =
        proof.rows().stream().filter(row -> row.verdict() != Verdict.KEPT).toList();
    Map<String, Object> told = new LinkedHashMap<>();
    told.put("kept", proof.kept());
    told.put("changed", proof.changed());
    told.put("lost", proof.lost());
    told.put("more", Math.max(0, differing.size() - MOST_ROWS));
    told.put("rows", differing.stream().limit(MOST_ROWS).map(HandoverPage::row).toList());
    return told;
  }

  private static Map<String, Object> row(LedgerRow row) {
    return Map.of(
        "what", row.group() + ", " + row.fact(),
        "wanted", row.far(),
        "landed", row.landed(),
        "note", row.note(),
        "verdict", row.verdict().name().toLowerCase(Locale.ROOT));
  }
}
