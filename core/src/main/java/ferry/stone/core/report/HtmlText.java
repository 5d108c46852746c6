package ferry.stone.core.report;

/** Plain text as it stands in HTML, between tags and in quoted attributes. */
public final class HtmlText {
  private HtmlText() {}

  public static String of(String plain) {
    return plain
        .replace("&", "&amp;")
        .replace("<", "&lt;")
        .replace(">", "&gt;")
        .replace("\"", "&quot;");
  }
}
