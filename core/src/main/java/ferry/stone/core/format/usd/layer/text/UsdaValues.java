package ferry.stone.core.format.usd.layer.text;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.layer.GrowingData;
import ferry.stone.core.format.usd.layer.UsdBlock;
import ferry.stone.core.format.usd.layer.UsdType;
import ferry.stone.core.format.usd.layer.UsdValue;
import java.util.LinkedHashMap;
import java.util.Map;

/** Values in a text layer, of types that are told and of those that are not. */
final class UsdaValues {
  private static final int DEEPEST = 64;
  private static final Map<Integer, String> TUPLES =
      Map.of(2, "double2", 3, "double3", 4, "double4", 9, "matrix3d", 16, "matrix4d");

  private final UsdaCursor in;

  UsdaValues(UsdaCursor in) {
    this.in = in;
  }

  /** A value of a type, or a block. */
  Object typed(UsdType type, boolean array) throws FormatException {
    if (in.take("None")) {
      return UsdBlock.VALUE;
    }
    if (in.take("AnimationBlock")) {
      return UsdBlock.ANIMATION;
    }
    if (array && type.components() > 0 && in.take("edit")) {
      return UsdaEdit.read(in, type, this::one);
    }
    GrowingData data = new GrowingData(type.kind());
    if (!array) {
      one(type, data);
      return new UsdValue(type, false, data.data());
    }
    in.expect('[');
    while (!in.take(']')) {
      one(type, data);
      if (!in.take(',') && in.peek() != ']') {
        throw in.expected("\",\" or \"]\"");
      }
    }
    return new UsdValue(type, true, data.data());
  }

  private void one(UsdType type, GrowingData data) throws FormatException {
    if (type.components() == 1) {
      component(type, data);
      return;
    }
    int before = data.count();
    tuple(type, data, 0);
    if (data.count() - before != type.components()) {
      throw in.error(
          "a value of "
              + type.name()
              + " ends here and has "
              + (data.count() - before)
              + " numbers; it has "
              + type.components()
              + ". Correct the file.");
    }
  }

  private void tuple(UsdType type, GrowingData data, int depth) throws FormatException {
    if (depth > 2) {
      throw in.error("tuples are nested too deep here. Correct the file.");
    }
    in.expect('(');
    while (!in.take(')')) {
      if (in.peek() == '(') {
        tuple(type, data, depth + 1);
      } else {
        component(type, data);
      }
      if (!in.take(',') && in.peek() != ')') {
        throw in.expected("\",\" or \")\"");
      }
    }
  }

  private void component(UsdType type, GrowingData data) throws FormatException {
    switch (type.kind()) {
      case BOOL -> data.add(truth() ? 1.0 : 0.0);
      case UCHAR, INT, UINT, INT64, UINT64 -> data.add(in.whole());
      case HALF, FLOAT, DOUBLE, TIMECODE -> data.add(in.number());
      case STRING, TOKEN, PATH_EXPRESSION -> data.add(in.string("a text in quotes"));
      case ASSET -> data.add(in.asset());
      default -> throw in.error("values of " + type.name() + " cannot be written.");
    }
  }

  private boolean truth() throws FormatException {
    if (in.take("true") || in.take("True") || in.take("yes")) {
      return true;
    }
    if (in.take("false") || in.take("False") || in.take("no")) {
      return false;
    }
    if (!in.isNumber()) {
      throw in.expected("true or false");
    }
    return in.number() != 0;
  }

  /** A value whose type nothing tells: by how it is written. */
  Object any(int depth) throws FormatException {
    if (depth > DEEPEST) {
      throw in.error("values are nested too deep here.");
    }
    if (in.isString()) {
      return UsdValue.text(UsdType.Kind.STRING, in.string("a text"));
    }
    return switch (in.peek()) {
      case '@' -> UsdValue.text(UsdType.Kind.ASSET, in.asset());
      case '<' -> UsdValue.text(UsdType.Kind.TOKEN, in.path());
      case '{' -> dictionary(depth + 1);
      case '(' -> anyTuple();
      case '[' -> anyList(depth);
      default -> {
        if (in.isNumber()) {
          yield in.isWhole()
              ? new UsdValue(UsdType.known("int64"), false, new long[] {in.whole()})
              : UsdValue.real(in.number());
        }
        String word = in.word("a value");
        yield switch (word) {
          case "None" -> UsdBlock.VALUE;
          case "AnimationBlock" -> UsdBlock.ANIMATION;
          case "true", "false" ->
              new UsdValue(UsdType.known("bool"), false, new boolean[] {word.equals("true")});
          default -> UsdValue.text(UsdType.Kind.TOKEN, word);
        };
      }
    };
  }

  private UsdValue anyTuple() throws FormatException {
    GrowingData data = new GrowingData(UsdType.Kind.DOUBLE);
    tuple(UsdType.known("double"), data, 0);
    String name = TUPLES.get(data.count());
    return name == null
        ? new UsdValue(UsdType.known("double"), true, data.data())
        : new UsdValue(UsdType.known(name), false, data.data());
  }

  private UsdValue anyList(int depth) throws FormatException {
    in.expect('[');
    GrowingData texts = new GrowingData(UsdType.Kind.STRING);
    GrowingData numbers = new GrowingData(UsdType.Kind.DOUBLE);
    UsdType type = UsdType.known("double");
    while (!in.take(']')) {
      Object item = any(depth + 1);
      if (!(item instanceof UsdValue value)) {
        throw in.error("a list holds something here that no list can hold.");
      }
      type = value.type();
      for (String text : value.texts()) {
        texts.add(text);
      }
      for (int i = 0; value.text() == null && i < value.length(); i++) {
        numbers.add(value.number(i));
      }
      if (!in.take(',') && in.peek() != ']') {
        throw in.expected("\",\" or \"]\"");
      }
    }
    if (texts.count() > 0) {
      return new UsdValue(type, true, texts.data());
    }
    boolean several = type.kind() == UsdType.Kind.DOUBLE && type.components() > 1;
    UsdType own = several ? type : UsdType.known("double");
    return new UsdValue(own, true, numbers.data());
  }

  /** Keys with typed values between braces. */
  Map<String, Object> dictionary(int depth) throws FormatException {
    if (depth > DEEPEST) {
      throw in.error("dictionaries are nested too deep here.");
    }
    Map<String, Object> entries = new LinkedHashMap<>();
    in.expect('{');
    while (!in.take('}')) {
      String typeName = in.word("the type of an entry");
      boolean array = in.take('[');
      if (array) {
        in.expect(']');
      }
      String key = in.isString() ? in.string("a key") : in.word("a key");
      in.expect('=');
      UsdType type = UsdType.of(typeName).orElse(null);
      entries.put(
          key,
          typeName.equals("dictionary")
              ? dictionary(depth + 1)
              : type == null ? any(depth) : typed(type, array));
      in.take(',');
    }
    return entries;
  }
}
