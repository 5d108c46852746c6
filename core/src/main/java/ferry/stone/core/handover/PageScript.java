package ferry.stone.core.handover;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;

/**
 * The script that shows a page's asset: built with the application's page, found on the class path.
 */
public final class PageScript {
  private static final String PLACE = "/handover/handover.js";

  private PageScript() {}

  /** The script as it may stand inside a page. */
  public static String text() {
    try (InputStream in = PageScript.class.getResourceAsStream(PLACE)) {
      if (in == null) {
        throw new IllegalStateException(
            "The script of the page to hand over is not built in; build the whole application.");
      }
      return inline(new String(in.readAllBytes(), StandardCharsets.UTF_8));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** Nothing in a script may end its element or begin a comment of HTML. */
  static String inline(String script) {
    return script.replace("</script", "<\\/script").replace("<!--", "<\\!--");
  }
}
