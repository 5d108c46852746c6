package ferry.stone.core.sheet;

import static org.junit.jupiter.api.Assertions.assertEquals;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * Names come from files: in a table program none may run as a formula, and no number may change.
 */
class SheetTest {
  @ParameterizedTest
  @ValueSource(
      strings = {
        "=1+1",
        "+1+cmd",
        "-2*A1",
        "@SUM(A1)",
        "|x",
        "%x",
        "  =1",
        "\r=1",
        "\tmast",
        "mast\n=1"
      })
  void whatBeginsLikeAFormulaIsText(String cell) {
    assertEquals("'" + cell, Sheet.guard(cell));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "",
        "mast",
        "-1.5",
        "+3",
        "-12 mm",
        "-0.5 °",
        "hull_01=a",
        "a-b",
        "-1,000 vertices"
      })
  void whatIsNoFormulaStays(String cell) {
    assertEquals(cell, Sheet.guard(cell));
  }
}
