package ferry.stone.server;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.charset.StandardCharsets;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.autoconfigure.web.servlet.AutoConfigureMockMvc;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.mock.web.MockHttpServletResponse;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;

/** Requests to the whole server, as from this machine. */
@SpringBootTest(webEnvironment = SpringBootTest.WebEnvironment.MOCK)
@AutoConfigureMockMvc
abstract class OverTheApi {
  @Autowired MockMvc mvc;
  @Autowired ObjectMapper json;

  final MockHttpServletResponse send(MockHttpServletRequestBuilder request, int expected)
      throws Exception {
    MockHttpServletResponse response =
        mvc.perform(
                request.with(
                    r -> {
                      r.setServerName("localhost");
                      return r;
                    }))
            .andReturn()
            .getResponse();
    assertThat(response.getStatus())
        .as(response.getContentAsString(StandardCharsets.UTF_8))
        .isEqualTo(expected);
    return response;
  }
}
