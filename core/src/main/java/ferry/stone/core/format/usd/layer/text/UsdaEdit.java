package ferry.stone.core.format.usd.layer.text;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.layer.ArrayEdit;
import ferry.stone.core.format.usd.layer.ArrayEdit.Kind;
import ferry.stone.core.format.usd.layer.ArrayEdit.Operation;
import ferry.stone.core.format.usd.layer.GrowingData;
import ferry.stone.core.format.usd.layer.UsdType;
import ferry.stone.core.format.usd.layer.UsdValue;
import java.util.ArrayList;
import java.util.List;

/** Reads an edit of an array of a text layer: {@code edit [write 4 to [1]; append [0]]}. */
final class UsdaEdit {
  /** Reads one value into an array. */
  interface One {
    void read(UsdType type, GrowingData data) throws FormatException;
  }

  private final UsdaCursor in;
  private final UsdType type;
  private final One one;
  private final GrowingData literals;
  private final List<Operation> operations = new ArrayList<>();

  private UsdaEdit(UsdaCursor in, UsdType type, One one) {
    this.in = in;
    this.type = type;
    this.one = one;
    literals = new GrowingData(type.kind());
  }

  /** Behind the word {@code edit}. */
  static ArrayEdit read(UsdaCursor in, UsdType type, One one) throws FormatException {
    UsdaEdit edit = new UsdaEdit(in, type, one);
    in.expect('[');
    // What stands between operations counts as space.
    while (!in.take(']')) {
      edit.operation();
    }
    UsdValue values = new UsdValue(type, true, edit.literals.data());
    return new ArrayEdit(type, values, edit.operations);
  }

  private void operation() throws FormatException {
    String word = in.word("write, insert, prepend, append, erase, minsize, maxsize or resize");
    switch (word) {
      case "write" -> put(Kind.WRITE, Kind.WRITE_FROM, "to", 0);
      case "insert" -> put(Kind.INSERT, Kind.INSERT_FROM, "at", 0);
      case "prepend" -> put(Kind.INSERT, Kind.INSERT_FROM, null, 0);
      case "append" -> put(Kind.INSERT, Kind.INSERT_FROM, null, ArrayEdit.END);
      case "erase" -> operations.add(new Operation(Kind.ERASE, place(), 0));
      case "minsize" -> size(Kind.LEAST, Kind.LEAST_FILLED);
      case "resize" -> size(Kind.SIZE, Kind.SIZE_FILLED);
      case "maxsize" -> operations.add(new Operation(Kind.MOST, size(), 0));
      default -> throw in.error("an edit has no \"" + word + "\". Correct the file.");
    }
  }

  /**
   * @param before the word before the place, {@code null} where the place is told
   */
  private void put(Kind value, Kind from, String before, long told) throws FormatException {
    boolean refers = in.peek() == '[';
    long first = refers ? place() : literal();
    long second = told;
    if (before != null) {
      if (!in.take(before)) {
        throw in.expected("\"" + before + "\"");
      }
      second = place();
    }
    operations.add(new Operation(refers ? from : value, first, second));
  }

  private void size(Kind bare, Kind filled) throws FormatException {
    long size = size();
    if (in.take("fill")) {
      operations.add(new Operation(filled, size, literal()));
    } else {
      operations.add(new Operation(bare, size, 0));
    }
  }

  private long size() throws FormatException {
    long size = in.whole();
    if (size < 0 || size > ArrayEdit.LARGEST) {
      throw in.error(size + " is no size of an array. Correct the file.");
    }
    return size;
  }

  private long literal() throws FormatException {
    int before = literals.count() / type.components();
    one.read(type, literals);
    return before;
  }

  private long place() throws FormatException {
    in.expect('[');
    long at = in.whole();
    in.expect(']');
    return at;
  }
}
