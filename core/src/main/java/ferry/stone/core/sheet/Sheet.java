package ferry.stone.core.sheet;

import java.util.Collections;
import java.util.List;
import java.util.regex.Pattern;

/**
 * A table with a head, as CSV and as one HTML page that needs nothing else.
 *
 * @param title of the page
 * @param intro a sentence above the table
 * @param rows as many cells each as the head has
 */
public record Sheet(String title, String intro, List<String> head, List<List<String>> rows) {
  /** A number, alone or with a unit or noun after it: begins with a sign, but is no formula. */
  private static final Pattern NUMBER =
      Pattern.compile("[+-]?[0-9][0-9.,\\u202f\\u00a0]*( ?[\\p{L}%°²³µ/]+)*");

  /** Look of a page; {@code g} is a row that heads those below it. */
  private static final String STYLE =
      "body{font:14px/1.5 sans-serif;color:#1c2a3a;background:#faf8f3;margin:2rem}"
          + "table{border-collapse:collapse;width:100%}"
          + "th,td{text-align:left;padding:.3rem .7rem;border-bottom:1px solid #d6d0c2}"
          + "th{font-size:12px;letter-spacing:.06em;text-transform:uppercase}"
          + "tr.g td{font-weight:600;padding-top:1.2rem}"
          + ".LOST{color:#b8371f}.CHANGED{color:#8a6412}.KEPT{color:#2f6b43}";

  /** Comma-separated, every field quoted, lines ended by CR LF (RFC 4180). */
  public String csv() {
    StringBuilder out = new StringBuilder(csvLine(head)).append("\r\n");
    rows.forEach(row -> out.append(csvLine(row)).append("\r\n"));
    return out.toString();
  }

  /** Cells of one line, each quoted. */
  public static String csvLine(List<String> cells) {
    return String.join(
        ",", cells.stream().map(c -> "\"" + guard(c).replace("\"", "\"\"") + "\"").toList());
  }

  public String html() {
    StringBuilder body = new StringBuilder();
    for (List<String> row : rows) {
      body.append("<tr>")
          .append(htmlCells(row, Collections.nCopies(row.size(), "")))
          .append("</tr>");
    }
    return page(title, intro, head, body.toString());
  }

  /**
   * A page around rows that are made already.
   *
   * @param rows HTML
   */
  public static String page(String title, String intro, List<String> head, String rows) {
    StringBuilder out = new StringBuilder();
    out.append("<!doctype html><html lang=\"en\"><head><meta charset=\"utf-8\"><title>")
        .append(escape(title))
        .append("</title><style>")
        .append(STYLE)
        .append("</style></head><body><h1>")
        .append(escape(title))
        .append("</h1><p>")
        .append(escape(intro))
        .append("</p><table><thead><tr>");
    head.forEach(h -> out.append("<th>").append(escape(h)).append("</th>"));
    return out.append("</tr></thead><tbody>")
        .append(rows)
        .append("</tbody></table></body></html>\n")
        .toString();
  }

  /**
   * @param classes of each cell, empty for none
   */
  public static String htmlCells(List<String> cells, List<String> classes) {
    StringBuilder out = new StringBuilder();
    for (int i = 0; i < cells.size(); i++) {
      String own = classes.get(i);
      out.append(own.isEmpty() ? "<td>" : "<td class=\"" + escape(own) + "\">")
          .append(escape(cells.get(i)))
          .append("</td>");
    }
    return out.toString();
  }

  /** A row that heads those below it. */
  public static String htmlGroup(String words, int columns) {
    return "<tr class=\"g\"><td colspan=\"" + columns + "\">" + escape(words) + "</td></tr>";
  }

  /** Table programs run cells that begin like a formula, whatever blanks stand before it. */
  static String guard(String cell) {
    String shown = cell.stripLeading();
    boolean begins = !shown.isEmpty() && "=+-@|%".indexOf(shown.charAt(0)) >= 0;
    boolean blank = !cell.isEmpty() && "\t\r\n\0".indexOf(cell.charAt(0)) >= 0;
    boolean later = cell.lines().skip(1).anyMatch(l -> !guard(l).equals(l));
    boolean formula = begins && !NUMBER.matcher(shown).matches();
    return formula || blank || later ? "'" + cell : cell;
  }

  private static String escape(String text) {
    return text.replace("&", "&amp;")
        .replace("<", "&lt;")
        .replace(">", "&gt;")
        .replace("\"", "&quot;");
  }
}
