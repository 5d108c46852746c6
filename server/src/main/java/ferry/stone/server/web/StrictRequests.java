package ferry.stone.server.web;

import com.fasterxml.jackson.databind.DeserializationFeature;
import java.util.List;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.converter.HttpMessageConverter;
import org.springframework.http.converter.json.MappingJackson2HttpMessageConverter;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/**
 * A member of a request that nobody knows is refused: passed over, a misspelt or outdated choice
 * would look as if it had been taken. What is stored is read as before.
 */
@Configuration
public class StrictRequests implements WebMvcConfigurer {
  @Override
  public void extendMessageConverters(List<HttpMessageConverter<?>> converters) {
    for (HttpMessageConverter<?> converter : converters) {
      if (converter instanceof MappingJackson2HttpMessageConverter json) {
        json.setObjectMapper(
            json.getObjectMapper()
                .copy()
                .enable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES));
      }
    }
  }
}
