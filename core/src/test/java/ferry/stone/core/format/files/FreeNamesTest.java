package ferry.stone.core.format.files;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashSet;
import java.util.Set;
import org.junit.jupiter.api.Test;

class FreeNamesTest {
  @Test
  void aNameThatLooksLikeACountedOneIsNotGivenTwice() {
    FreeNames names = new FreeNames();
    assertThat(names.take("post")).isEqualTo("post");
    assertThat(names.take("post")).isEqualTo("post_2");
    assertThat(names.take("post_2")).isEqualTo("post_2_2");
    assertThat(names.take("post_3")).isEqualTo("post_3");
    assertThat(names.take("post")).isEqualTo("post_4");
  }

  @Test
  void manyEqualNamesAreAllUnlike() {
    FreeNames names = new FreeNames();
    Set<String> all = new HashSet<>();
    for (int i = 0; i < 50_000; i++) {
      all.add(names.take("stone"));
    }
    assertThat(all).hasSize(50_000).contains("stone", "stone_50000");
  }
}
