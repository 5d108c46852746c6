package ferry.stone.server.web;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ferry.stone.server.FerrySettings;
import jakarta.servlet.http.Cookie;
import java.net.InetAddress;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.springframework.boot.autoconfigure.web.ServerProperties;
import org.springframework.mock.web.MockFilterChain;
import org.springframework.mock.web.MockHttpServletRequest;
import org.springframework.mock.web.MockHttpServletResponse;

class AccessFilterTest {
  private static AccessFilter filter(String address, String token) throws Exception {
    ServerProperties server = new ServerProperties();
    server.setAddress(InetAddress.getByName(address));
    return new AccessFilter(new FerrySettings(Path.of("x"), false, token, 1, 1, 0), server);
  }

  private static MockHttpServletRequest request(String host) {
    MockHttpServletRequest request = new MockHttpServletRequest("GET", "/api/crossings");
    request.setServerName(host);
    request.addHeader("Host", host);
    return request;
  }

  private static MockHttpServletResponse answer(AccessFilter filter, MockHttpServletRequest request)
      throws Exception {
    MockHttpServletResponse response = new MockHttpServletResponse();
    filter.doFilter(request, response, new MockFilterChain());
    return response;
  }

  @Test
  void anotherAddressNeedsAToken() {
    assertThatThrownBy(() -> filter("0.0.0.0", ""))
        .isInstanceOf(IllegalStateException.class)
        .hasMessageContaining("FERRY_TOKEN");
  }

  @Test
  void theTokenOpensOnceAndTheCookieFromThenOn() throws Exception {
    AccessFilter filter = filter("0.0.0.0", "tide");
    assertThat(answer(filter, request("quay.example")).getStatus()).isEqualTo(401);
    MockHttpServletRequest wrong = request("quay.example");
    wrong.setQueryString("token=ebb");
    assertThat(answer(filter, wrong).getStatus()).isEqualTo(401);
    MockHttpServletRequest first = request("quay.example");
    first.setQueryString("token=tide");
    MockHttpServletResponse opened = answer(filter, first);
    assertThat(opened.getStatus()).isEqualTo(200);
    Cookie cookie = opened.getCookies()[0];
    assertThat(cookie.isHttpOnly()).isTrue();
    assertThat(cookie.getSecure()).isFalse();
    // The cookie opens, and does not give the token away.
    assertThat(cookie.getValue()).doesNotContain("tide").hasSizeGreaterThan(40);
    MockHttpServletRequest guess = request("quay.example");
    guess.setCookies(new Cookie(cookie.getName(), "tide"));
    assertThat(answer(filter, guess).getStatus()).isEqualTo(401);
    MockHttpServletRequest later = request("quay.example");
    later.setCookies(cookie);
    assertThat(answer(filter, later).getStatus()).isEqualTo(200);
  }

  @Test
  void changesFromOtherSitesAreRefusedEvenWithTheCookie() throws Exception {
    AccessFilter filter = filter("0.0.0.0", "tide");
    MockHttpServletRequest first = request("quay.example");
    first.setQueryString("token=tide");
    MockHttpServletRequest request = request("quay.example");
    request.setMethod("POST");
    request.setCookies(answer(filter, first).getCookies());
    request.addHeader("Origin", "http://elsewhere.example");
    MockHttpServletResponse refused = answer(filter, request);
    assertThat(refused.getStatus()).isEqualTo(403);
    assertThat(refused.getContentType()).startsWith("application/problem+json");
    assertThat(refused.getContentAsString()).contains("\"status\":403");
  }

  @Test
  void onItsOwnAddressOnlyItsOwnNamesAreServed() throws Exception {
    AccessFilter filter = filter("127.0.0.1", "");
    assertThat(answer(filter, request("localhost")).getStatus()).isEqualTo(200);
    assertThat(answer(filter, request("rebound.example")).getStatus()).isEqualTo(403);
  }

  @Test
  void aNameIsItsOwnWhateverItsCase() throws Exception {
    assertThat(answer(filter("127.0.0.1", ""), request("LOCALHOST")).getStatus()).isEqualTo(200);
  }

  @Test
  void wrongTokensAreThrottled() throws Exception {
    AccessFilter filter = filter("0.0.0.0", "tide");
    for (int i = 0; i < 10; i++) {
      MockHttpServletRequest wrong = request("quay.example");
      wrong.addHeader("Authorization", "Bearer guess" + i);
      assertThat(answer(filter, wrong).getStatus()).isEqualTo(401);
    }
    MockHttpServletRequest right = request("quay.example");
    right.setQueryString("token=tide");
    MockHttpServletResponse late = answer(filter, right);
    assertThat(late.getStatus()).isEqualTo(429);
    assertThat(late.getHeader("Retry-After")).isEqualTo("60");
    MockHttpServletRequest other = request("quay.example");
    other.setRemoteAddr("10.1.2.3");
    other.setQueryString("token=tide");
    assertThat(answer(filter, other).getStatus()).isEqualTo(200);
  }

  @Test
  void behindTlsTheCookieStaysThere() throws Exception {
    MockHttpServletRequest request = request("quay.example");
    request.setQueryString("token=tide");
    request.addHeader("X-Forwarded-Proto", "https");
    assertThat(answer(filter("0.0.0.0", "tide"), request).getCookies()[0].getSecure()).isTrue();
  }

  @Test
  void everyAnswerSaysWhatBrowsersMayDo() throws Exception {
    MockHttpServletResponse refused = answer(filter("127.0.0.1", ""), request("rebound.example"));
    MockHttpServletResponse served = answer(filter("127.0.0.1", ""), request("localhost"));
    for (MockHttpServletResponse response : new MockHttpServletResponse[] {refused, served}) {
      assertThat(response.getHeader("Content-Security-Policy"))
          .contains("default-src 'self'", "frame-ancestors 'none'", "object-src 'none'");
      assertThat(response.getHeader("X-Content-Type-Options")).isEqualTo("nosniff");
      assertThat(response.getHeader("Referrer-Policy")).isEqualTo("no-referrer");
      assertThat(response.getHeader("Permissions-Policy")).contains("camera=()");
    }
  }
}
