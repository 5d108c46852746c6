package ferry.stone.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.put;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.autoconfigure.web.servlet.AutoConfigureMockMvc;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.http.MediaType;
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

  final JsonNode read(MockHttpServletResponse response) throws Exception {
    return json.readTree(response.getContentAsString(StandardCharsets.UTF_8));
  }

  final String create(String name) throws Exception {
    return read(send(
            post("/api/crossings")
                .contentType(MediaType.APPLICATION_JSON)
                .content("{\"name\":\"" + name + "\"}"),
            201))
        .path("id")
        .asText();
  }

  final void upload(String id, String path, byte[] content) throws Exception {
    send(put("/api/crossings/" + id + "/files").param("path", path).content(content), 200);
  }

  final JsonNode settled(String id) throws Exception {
    send(post("/api/crossings/" + id + "/read"), 202);
    return left("/api/crossings/" + id, "reading");
  }

  /** What is under a path when it has left a state. */
  final JsonNode left(String path, String state) throws Exception {
    Instant end = Instant.now().plus(Duration.ofSeconds(20));
    while (Instant.now().isBefore(end)) {
      JsonNode now = read(send(get(path), 200));
      if (!now.path("state").asText().equals(state)) {
        return now;
      }
      Thread.sleep(20);
    }
    throw new AssertionError(path + " is " + state + " still");
  }

  /** Sends a body of JSON. */
  final JsonNode sent(MockHttpServletRequestBuilder request, String body, int expected)
      throws Exception {
    return read(send(request.contentType(MediaType.APPLICATION_JSON).content(body), expected));
  }

  final String ready(String name, String obj) throws Exception {
    String id = create(name);
    upload(id, "a.obj", obj.getBytes(StandardCharsets.UTF_8));
    assertThat(settled(id).path("state").asText()).isEqualTo("ready");
    return id;
  }

  final JsonNode handling(String id, int revision, String steps, int expected) throws Exception {
    return read(
        send(
            put("/api/crossings/" + id + "/handling")
                .contentType(MediaType.APPLICATION_JSON)
                .content("{\"revision\":" + revision + ",\"steps\":" + steps + "}"),
            expected));
  }

  static String step(String id, String kind, String params) {
    return "{\"id\":\""
        + id
        + "\",\"kind\":\""
        + kind
        + "\",\"params\":"
        + params
        + ",\"enabled\":true,\"nodeIds\":[]}";
  }
}
