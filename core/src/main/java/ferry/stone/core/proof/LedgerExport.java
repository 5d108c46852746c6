package ferry.stone.core.proof;

import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;

/** A proof as CSV and as one HTML page that needs nothing else. */
public final class LedgerExport {
  private static final String[] HEAD = {
    "Group", "Fact", "Near", "Far", "Landed", "Differs", "Verdict", "Note"
  };

  /** The numbers behind the texts, for programs. */
  private static final String[] NUMBERS = {
    "Unit", "Near number", "Far number", "Landed number", "Differs number"
  };

  private LedgerExport() {}

  /** Comma-separated, every field quoted, lines ended by CR LF (RFC 4180). */
  public static String csv(List<LedgerRow> rows) {
    StringBuilder out =
        new StringBuilder(String.join(",", HEAD))
            .append(',')
            .append(String.join(",", NUMBERS))
            .append("\r\n");
    for (LedgerRow row : rows) {
      out.append(
              String.join(
                  ",",
                  cells(row).stream()
                      .map(c -> "\"" + guard(c).replace("\"", "\"\"") + "\"")
                      .toList()))
          .append(numbers(row.measure()))
          .append("\r\n");
    }
    return out.toString();
  }

  private static String numbers(Measure m) {
    return m == null
        ? ",,,,,"
        : ","
            + m.unit()
            + number(m.near())
            + number(m.far())
            + number(m.landed())
            + number(m.differs());
  }

  private static String number(Double value) {
    return "," + (value == null || !Double.isFinite(value) ? "" : value.toString());
  }

  /** A number, alone or with a unit or noun after it: begins with a sign, but is no formula. */
  private static final Pattern NUMBER =
      Pattern.compile("[+-]?[0-9][0-9.,\\u202f\\u00a0]*( ?[\\p{L}%°²³µ/]+)*");

  /** Table programs run cells that begin like a formula, whatever blanks stand before it. */
  static String guard(String cell) {
    String shown = cell.stripLeading();
    boolean begins = !shown.isEmpty() && "=+-@|%".indexOf(shown.charAt(0)) >= 0;
    boolean blank = !cell.isEmpty() && "\t\r\n\0".indexOf(cell.charAt(0)) >= 0;
    boolean later = cell.lines().skip(1).anyMatch(l -> !guard(l).equals(l));
    boolean formula = begins && !NUMBER.matcher(shown).matches();
    return formula || blank || later ? "'" + cell : cell;
  }

  /** The proof of a landing, with its counts. */
  public static String html(String title, Proof proof) {
    String counts =
        proof.file()
            + ": "
            + proof.kept()
            + " kept, "
            + proof.changed()
            + " changed, "
            + proof.lost()
            + " lost.";
    return html(title, counts, proof.rows());
  }

  /**
   * @param intro one sentence above the table
   */
  public static String html(String title, String intro, List<LedgerRow> rows) {
    StringBuilder out = new StringBuilder();
    out.append("<!doctype html><html lang=\"en\"><head><meta charset=\"utf-8\"><title>")
        .append(escape(title))
        .append(" · ledger</title><style>")
        .append(
            "body{font:14px/1.5 sans-serif;color:#1c2a3a;background:#faf8f3;margin:2rem}"
                + "table{border-collapse:collapse;width:100%}"
                + "th,td{text-align:left;padding:.3rem .7rem;border-bottom:1px solid #d6d0c2}"
                + "th{font-size:12px;letter-spacing:.06em;text-transform:uppercase}"
                + "tr.g td{font-weight:600;padding-top:1.2rem}"
                + ".LOST{color:#b8371f}.CHANGED{color:#8a6412}.KEPT{color:#2f6b43}")
        .append("</style></head><body><h1>")
        .append(escape(title))
        .append("</h1><p>")
        .append(escape(intro))
        .append("</p><table><thead><tr>");
    for (int i = 1; i < HEAD.length; i++) {
      out.append("<th>").append(HEAD[i]).append("</th>");
    }
    out.append("</tr></thead><tbody>");
    String group = "";
    for (LedgerRow row : rows) {
      if (!row.group().equals(group)) {
        group = row.group();
        out.append("<tr class=\"g\"><td colspan=\"7\">").append(escape(group)).append("</td></tr>");
      }
      out.append("<tr>");
      List<String> cells = cells(row);
      for (int i = 1; i < cells.size(); i++) {
        out.append(i == 6 ? "<td class=\"" + row.verdict() + "\">" : "<td>")
            .append(escape(cells.get(i)))
            .append("</td>");
      }
      out.append("</tr>");
    }
    return out.append("</tbody></table></body></html>\n").toString();
  }

  private static List<String> cells(LedgerRow row) {
    return List.of(
        row.group(),
        row.fact(),
        row.near(),
        row.far(),
        row.landed(),
        row.differs(),
        row.verdict().name().toLowerCase(Locale.ROOT),
        row.note());
  }

  private static String escape(String text) {
    return text.replace("&", "&amp;")
        .replace("<", "&lt;")
        .replace(">", "&gt;")
        .replace("\"", "&quot;");
  }
}
