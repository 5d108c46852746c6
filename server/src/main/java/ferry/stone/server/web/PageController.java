package ferry.stone.server.web;

import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;

/** Deep links of the page: all its own paths show the same document. */
@Controller
public class PageController {
  @GetMapping({
    "/",
    "/crossings/{id}",
    "/crossings/{id}/{stop:cargo|survey|handling|landing|proof|materials}",
    "/jobs",
    "/batches",
    "/batches/{id}",
    "/compare",
    "/routines",
    "/routines/{id}",
    "/shores",
    "/shores/{id}",
    "/atlas"
  })
  public String page() {
    return "forward:/index.html";
  }
}
