package ferry.stone.server.web;

import ferry.stone.core.work.Release;
import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.media.Schema;
import java.util.ArrayList;
import java.util.Map;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The OpenAPI document that the page's types are made from. */
@Configuration
public class ApiDocs {
  /** Every field of a record is always sent, so the page's types need not doubt it. */
  @Bean
  OpenApiCustomizer allFieldsAreSent() {
    return api -> {
      api.info(new Info().title("Stone Ferry").version(Release.VERSION));
      api.setServers(null);
      for (Object entry : api.getComponents().getSchemas().values()) {
        Schema<?> schema = (Schema<?>) entry;
        Map<String, ?> fields = schema.getProperties();
        if (fields != null) {
          schema.setRequired(new ArrayList<>(fields.keySet()));
        }
      }
    };
  }
}
