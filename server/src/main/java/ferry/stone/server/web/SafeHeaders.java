package ferry.stone.server.web;

import jakarta.servlet.http.HttpServletResponse;

/**
 * What browsers are told on every answer: only this server's own, in no frame, as it says it is.
 */
final class SafeHeaders {
  /**
   * Pictures may also come from the page itself (icons in the style sheet, images of a canvas);
   * {@code style-src} allows style attributes, which charts and the 3D views set.
   */
  private static final String CONTENT =
      "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline';"
          + " worker-src 'self' blob:; object-src 'none'; base-uri 'none'; form-action 'self';"
          + " frame-ancestors 'none'";

  private static final String PERMISSIONS =
      "camera=(), microphone=(), geolocation=(), payment=(), usb=(), serial=(), midi=(),"
          + " display-capture=()";

  private SafeHeaders() {}

  static void set(HttpServletResponse response) {
    response.setHeader("Content-Security-Policy", CONTENT);
    response.setHeader("X-Content-Type-Options", "nosniff");
    response.setHeader("X-Frame-Options", "DENY");
    response.setHeader("Referrer-Policy", "no-referrer");
    response.setHeader("Permissions-Policy", PERMISSIONS);
    response.setHeader("Cross-Origin-Opener-Policy", "same-origin");
    response.setHeader("Cross-Origin-Resource-Policy", "same-origin");
  }
}
