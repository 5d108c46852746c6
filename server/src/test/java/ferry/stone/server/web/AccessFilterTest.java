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
    wrong.setParameter("token", "ebb");
    assertThat(answer(filter, wrong).getStatus()).isEqualTo(401);
    MockHttpServletRequest first = request("quay.example");
    first.setParameter("token", "tide");
    MockHttpServletResponse opened = answer(filter, first);
    assertThat(opened.getStatus()).isEqualTo(200);
    Cookie cookie = opened.getCookies()[0];
    assertThat(cookie.isHttpOnly()).isTrue();
    MockHttpServletRequest later = request("quay.example");
    later.setCookies(cookie);
    assertThat(answer(filter, later).getStatus()).isEqualTo(200);
  }

  @Test
  void changesFromOtherSitesAreRefusedEvenWithTheCookie() throws Exception {
    MockHttpServletRequest request = request("quay.example");
    request.setMethod("POST");
    request.setCookies(new Cookie("ferry_token", "tide"));
    request.addHeader("Origin", "http://elsewhere.example");
    assertThat(answer(filter("0.0.0.0", "tide"), request).getStatus()).isEqualTo(403);
  }

  @Test
  void onItsOwnAddressOnlyItsOwnNamesAreServed() throws Exception {
    AccessFilter filter = filter("127.0.0.1", "");
    assertThat(answer(filter, request("localhost")).getStatus()).isEqualTo(200);
    assertThat(answer(filter, request("rebound.example")).getStatus()).isEqualTo(403);
  }
}
