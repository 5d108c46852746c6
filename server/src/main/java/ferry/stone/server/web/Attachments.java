package ferry.stone.server.web;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;

/** Answers that the browser keeps as files, written as they are made, however large. */
public final class Attachments {
  private Attachments() {}

  /**
   * Where a file goes once all that it needs has been read: before that, errors can still be told.
   */
  public interface Target {
    OutputStream open() throws IOException;
  }

  /** A page of a name. */
  public static OutputStream html(HttpServletResponse response, String name) throws IOException {
    response.setContentType("text/html;charset=UTF-8");
    response.setHeader(
        HttpHeaders.CONTENT_DISPOSITION,
        ContentDisposition.attachment().filename(name, StandardCharsets.UTF_8).build().toString());
    return response.getOutputStream();
  }
}
