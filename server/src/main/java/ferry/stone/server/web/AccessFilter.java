package ferry.stone.server.web;

import ferry.stone.server.FerrySettings;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.InetAddress;
import java.net.URI;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.util.Locale;
import java.util.Set;
import org.springframework.boot.autoconfigure.web.ServerProperties;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Keeps other sites and other machines out. On this machine's own address only its own names are
 * served and changes from other sites' pages are refused; elsewhere a token is needed.
 */
@Component
public class AccessFilter extends OncePerRequestFilter {
  private static final Set<String> OWN_NAMES = Set.of("localhost", "127.0.0.1", "[::1]");
  private static final String COOKIE = "ferry_session";

  private final String token;
  private final Sessions sessions = new Sessions();
  private final Tries tries = new Tries();

  public AccessFilter(FerrySettings settings, ServerProperties server) {
    token = settings.token() == null ? "" : settings.token();
    InetAddress address = server.getAddress();
    boolean elsewhere = address == null || !address.isLoopbackAddress();
    if (elsewhere && token.isBlank()) {
      throw new IllegalStateException(
          "To listen on another address than this machine's own, set FERRY_TOKEN to a secret.");
    }
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    SafeHeaders.set(response);
    if (!token.isBlank()) {
      if (!letIn(request, response)) {
        return;
      }
    } else if (!OWN_NAMES.contains(request.getServerName().toLowerCase(Locale.ROOT))) {
      refuse(response, 403, "Not this address", "This server answers to localhost only.");
      return;
    }
    if (!isOwnOrigin(request)) {
      refuse(response, 403, "Another site", "Changes from other sites' pages are refused.");
      return;
    }
    chain.doFilter(request, response);
  }

  /** Whether a request has the token or a session that the token opened. */
  private boolean letIn(HttpServletRequest request, HttpServletResponse response)
      throws IOException {
    if (sessions.isOpen(fromCookie(request))) {
      return true;
    }
    String from = request.getRemoteAddr();
    String inAddress = inQuery(request);
    String given = inAddress != null ? inAddress : fromHeader(request);
    if (given == null) {
      refuse(response, 401, "A token is needed", "Open the page once with ?token=… to come in.");
      return false;
    }
    if (tries.areTooMany(from)) {
      response.setHeader("Retry-After", String.valueOf(Tries.SECONDS));
      refuse(
          response,
          429,
          "Too many tries",
          "Too many wrong tokens came from this address. Wait a minute, then try again.");
      return false;
    }
    if (!matches(given)) {
      tries.wrong(from);
      refuse(response, 401, "The token is wrong", "Open the page once with ?token=… to come in.");
      return false;
    }
    if (inAddress != null) {
      // The cookie is a session of its own: it does not give the token away.
      Cookie cookie = new Cookie(COOKIE, sessions.open());
      cookie.setHttpOnly(true);
      cookie.setPath("/");
      cookie.setSecure(isSecure(request));
      cookie.setMaxAge((int) Sessions.LASTS.toSeconds());
      cookie.setAttribute("SameSite", "Strict");
      response.addCookie(cookie);
    }
    return true;
  }

  private static boolean isSecure(HttpServletRequest request) {
    return request.isSecure() || "https".equalsIgnoreCase(request.getHeader("X-Forwarded-Proto"));
  }

  /** From the address alone: reading a body here would take it from who needs it. */
  private static String inQuery(HttpServletRequest request) {
    String query = request.getQueryString();
    for (String part : query == null ? new String[0] : query.split("&")) {
      if (part.startsWith("token=")) {
        try {
          return URLDecoder.decode(part.substring("token=".length()), StandardCharsets.UTF_8);
        } catch (IllegalArgumentException e) {
          return part;
        }
      }
    }
    return null;
  }

  /** A problem document (RFC 9457), as all others are. */
  private static void refuse(HttpServletResponse response, int status, String title, String detail)
      throws IOException {
    response.setStatus(status);
    response.setContentType("application/problem+json");
    response.setCharacterEncoding("UTF-8");
    response
        .getWriter()
        .write(
            "{\"type\":\"about:blank\",\"title\":\""
                + title
                + "\",\"status\":"
                + status
                + ",\"detail\":\""
                + detail
                + "\"}");
  }

  private static boolean isOwnOrigin(HttpServletRequest request) {
    String origin = request.getHeader("Origin");
    if (origin == null || request.getMethod().equals("GET")) {
      return true;
    }
    try {
      return URI.create(origin).getAuthority() != null
          && URI.create(origin).getAuthority().equals(request.getHeader("Host"));
    } catch (IllegalArgumentException e) {
      return false;
    }
  }

  private boolean matches(String given) {
    return given != null
        && MessageDigest.isEqual(
            given.getBytes(StandardCharsets.UTF_8), token.getBytes(StandardCharsets.UTF_8));
  }

  private static String fromHeader(HttpServletRequest request) {
    String header = request.getHeader("Authorization");
    return header != null && header.startsWith("Bearer ") ? header.substring(7) : null;
  }

  private static String fromCookie(HttpServletRequest request) {
    if (request.getCookies() != null) {
      for (Cookie cookie : request.getCookies()) {
        if (cookie.getName().equals(COOKIE)) {
          return cookie.getValue();
        }
      }
    }
    return null;
  }
}
