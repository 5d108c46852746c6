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
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
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
  private static final String COOKIE = "ferry_token";

  private final String token;

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
    if (!token.isBlank()) {
      String given = request.getParameter("token");
      if (matches(given)) {
        Cookie cookie = new Cookie(COOKIE, given);
        cookie.setHttpOnly(true);
        cookie.setPath("/");
        cookie.setAttribute("SameSite", "Strict");
        response.addCookie(cookie);
      } else if (!matches(fromHeader(request)) && !matches(fromCookie(request))) {
        response.sendError(401, "Open the page once with ?token=… to come in.");
        return;
      }
    } else if (!OWN_NAMES.contains(request.getServerName())) {
      response.sendError(403, "This server answers to localhost only.");
      return;
    }
    if (!isOwnOrigin(request)) {
      response.sendError(403, "Changes from other sites' pages are refused.");
      return;
    }
    chain.doFilter(request, response);
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
