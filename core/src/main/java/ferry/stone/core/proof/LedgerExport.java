package ferry.stone.core.proof;

import ferry.stone.core.sheet.Sheet;
import java.util.List;
import java.util.Locale;

/** A proof as CSV and as one HTML page that needs nothing else. */
public final class LedgerExport {
  private static final List<String> HEAD =
      List.of("Group", "Fact", "Near", "Far", "Landed", "Differs", "Verdict", "Note");

  /** The numbers behind the texts, for programs. */
  private static final String[] NUMBERS = {
    "Unit",
    "Near number",
    "Far number",
    "Landed number",
    "Differs number",
    "\"Seen within, m\"",
    "Within the shore's tolerance"
  };

  private LedgerExport() {}

  /** See {@link Sheet#csv()}; the numbers behind the texts follow. */
  public static String csv(List<LedgerRow> rows) {
    StringBuilder out =
        new StringBuilder(String.join(",", HEAD))
            .append(',')
            .append(String.join(",", NUMBERS))
            .append("\r\n");
    for (LedgerRow row : rows) {
      out.append(Sheet.csvLine(cells(row)))
          .append(numbers(row.measure()))
          .append(number(row.seenWithin()))
          .append(row.within() == null ? "," : row.isWithin() ? ",yes" : ",no")
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
    String group = "";
    for (LedgerRow row : rows) {
      if (!row.group().equals(group)) {
        group = row.group();
        out.append(Sheet.htmlGroup(group, HEAD.size() - 1));
      }
      List<String> classes = List.of("", "", "", "", "", row.verdict().name(), "");
      out.append("<tr>")
          .append(Sheet.htmlCells(cells(row).subList(1, HEAD.size()), classes))
          .append("</tr>");
    }
    return Sheet.page(title + " · ledger", intro, HEAD.subList(1, HEAD.size()), out.toString());
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
}
