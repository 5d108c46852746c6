package ferry.stone.core.scene.mesh;

import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** The values that a layer keeps, row by row, in the type of their source. */
public sealed interface Table {
  /** Numbers or texts in a row, at least 1. */
  int components();

  /** How many rows there are. */
  int count();

  /** What stands for this type in lists. */
  String type();

  /** Some rows, in the order in which they are named. */
  Table picked(int[] rows);

  /**
   * The rows of tables of this type, one after another, cut or filled with 0 to this one's width.
   */
  Table joined(List<Table> tables);

  /** Whether two rows hold the same; of one type. */
  default boolean same(int row, Table other, int otherRow) {
    for (int k = 0; k < components(); k++) {
      // Every type of number is a double without loss.
      if (number(row, k) != other.number(otherRow, k)) {
        return false;
      }
    }
    return true;
  }

  /** Whether tables can stand in one: of one type. */
  default boolean fits(Table other) {
    return type().equals(other.type());
  }

  /**
   * A number of a row.
   *
   * @throws UnsupportedOperationException for texts
   */
  double number(int row, int component);

  /** The first row that holds the same as each row. Time O(n). */
  default int[] firstOfEach() {
    return Rows.firstOfEach(
        this,
        row -> {
          int hash = 1;
          for (int k = 0; k < components(); k++) {
            // The two zeros are one number.
            hash = 31 * hash + Double.hashCode(number(row, k) + 0.0);
          }
          return hash;
        });
  }

  /** Bytes that the values take. */
  long bytes();

  /** Whether all values are the same, bit by bit. */
  boolean equal(Table other);

  /**
   * Numbers of 32 bits.
   *
   * @param half whether the source wrote them with 16 bits
   */
  record Floats(float[] numbers, int components, boolean half) implements Table {
    public Floats {
      check(numbers.length, components);
    }

    @Override
    public int count() {
      return numbers.length / components;
    }

    @Override
    public String type() {
      return half ? "half" : "float";
    }

    @Override
    public Floats picked(int[] rows) {
      return new Floats((float[]) Rows.picked(numbers, components, rows), components, half);
    }

    @Override
    public Floats joined(List<Table> tables) {
      Object[] all = tables.stream().map(t -> ((Floats) t).numbers).toArray();
      Object both = Rows.joined(numbers, components, all, tables);
      return new Floats((float[]) both, components, half);
    }

    @Override
    public double number(int row, int component) {
      return numbers[components * row + component];
    }

    @Override
    public long bytes() {
      return (long) Float.BYTES * numbers.length;
    }

    @Override
    public boolean equal(Table other) {
      return other instanceof Floats o
          && components == o.components
          && half == o.half
          && Arrays.equals(numbers, o.numbers);
    }
  }

  /** Numbers of 64 bits. */
  record Doubles(double[] numbers, int components) implements Table {
    public Doubles {
      check(numbers.length, components);
    }

    @Override
    public int count() {
      return numbers.length / components;
    }

    @Override
    public String type() {
      return "double";
    }

    @Override
    public Doubles picked(int[] rows) {
      return new Doubles((double[]) Rows.picked(numbers, components, rows), components);
    }

    @Override
    public Doubles joined(List<Table> tables) {
      Object[] all = tables.stream().map(t -> ((Doubles) t).numbers).toArray();
      Object both = Rows.joined(numbers, components, all, tables);
      return new Doubles((double[]) both, components);
    }

    @Override
    public double number(int row, int component) {
      return numbers[components * row + component];
    }

    @Override
    public long bytes() {
      return (long) Double.BYTES * numbers.length;
    }

    @Override
    public boolean equal(Table other) {
      return other instanceof Doubles o
          && components == o.components
          && Arrays.equals(numbers, o.numbers);
    }
  }

  /** Whole numbers. */
  record Wholes(int[] numbers, int components) implements Table {
    public Wholes {
      check(numbers.length, components);
    }

    @Override
    public int count() {
      return numbers.length / components;
    }

    @Override
    public String type() {
      return "whole";
    }

    @Override
    public Wholes picked(int[] rows) {
      return new Wholes((int[]) Rows.picked(numbers, components, rows), components);
    }

    @Override
    public Wholes joined(List<Table> tables) {
      Object[] all = tables.stream().map(t -> ((Wholes) t).numbers).toArray();
      Object both = Rows.joined(numbers, components, all, tables);
      return new Wholes((int[]) both, components);
    }

    @Override
    public double number(int row, int component) {
      return numbers[components * row + component];
    }

    @Override
    public long bytes() {
      return (long) Integer.BYTES * numbers.length;
    }

    @Override
    public boolean equal(Table other) {
      return other instanceof Wholes o
          && components == o.components
          && Arrays.equals(numbers, o.numbers);
    }
  }

  /** Texts, one a row. */
  record Texts(String[] texts) implements Table {
    @Override
    public int components() {
      return 1;
    }

    @Override
    public int count() {
      return texts.length;
    }

    @Override
    public String type() {
      return "text";
    }

    @Override
    public Texts picked(int[] rows) {
      return new Texts(Arrays.stream(rows).mapToObj(r -> texts[r]).toArray(String[]::new));
    }

    @Override
    public Texts joined(List<Table> tables) {
      return new Texts(
          tables.stream().flatMap(t -> Arrays.stream(((Texts) t).texts)).toArray(String[]::new));
    }

    @Override
    public boolean same(int row, Table other, int otherRow) {
      return texts[row].equals(((Texts) other).texts[otherRow]);
    }

    @Override
    public double number(int row, int component) {
      throw new UnsupportedOperationException("texts");
    }

    @Override
    public int[] firstOfEach() {
      Map<String, Integer> first = new HashMap<>();
      int[] result = new int[texts.length];
      for (int i = 0; i < result.length; i++) {
        Integer known = first.putIfAbsent(texts[i], i);
        result[i] = known == null ? i : known;
      }
      return result;
    }

    @Override
    public long bytes() {
      long bytes = 0;
      for (String text : texts) {
        bytes += 40 + 2L * text.length();
      }
      return bytes;
    }

    @Override
    public boolean equal(Table other) {
      return other instanceof Texts o && Arrays.equals(texts, o.texts);
    }
  }

  private static void check(int numbers, int components) {
    if (components < 1 || numbers % components != 0) {
      throw new IllegalArgumentException(numbers + " numbers in rows of " + components);
    }
  }
}
