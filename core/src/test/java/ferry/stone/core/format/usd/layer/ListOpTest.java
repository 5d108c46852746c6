package ferry.stone.core.format.usd.layer;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Edits of lists, held against what the standard's own library made of them: {@code lists.txt}. */
class ListOpTest {
  private static List<String> items(String text) {
    return text.isEmpty() ? List.of() : List.of(text.split(" "));
  }

  @Test
  void listsAreEditedAsTheStandardsLibraryEditsThem() throws Exception {
    String all;
    try (InputStream in = ListOpTest.class.getResourceAsStream("/usd/lists.txt")) {
      all = new String(in.readAllBytes(), StandardCharsets.UTF_8);
    }
    List<String> lines = all.lines().toList();
    assertThat(lines).hasSize(120);
    for (String line : lines) {
      String[] parts = line.split("\\|", -1);
      ListOp<String> edit =
          new ListOp<>(
              parts[0].equals("-") ? null : items(parts[0]),
              items(parts[1]),
              items(parts[2]),
              items(parts[3]),
              items(parts[4]),
              items(parts[5]));
      assertThat(edit.over(items(parts[6]))).as(line).isEqualTo(items(parts[7]));
    }
  }

  @Test
  void editsThatTextHasOneByOneAreOneEdit() {
    ListOp<String> edit =
        ListOp.<String>none()
            .and(ListOp.Edit.PREPEND, List.of("a"))
            .and(ListOp.Edit.APPEND, List.of("b"))
            .and(ListOp.Edit.DELETE, List.of("c"))
            .and(ListOp.Edit.ADD, List.of("d"));
    assertThat(edit.over(List.of("c", "x"))).containsExactly("a", "x", "d", "b");
    assertThat(edit.and(ListOp.Edit.SET, List.of("y")).over(List.of("c"))).containsExactly("y");
  }
}
