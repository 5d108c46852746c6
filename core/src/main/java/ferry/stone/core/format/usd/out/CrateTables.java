package ferry.stone.core.format.usd.out;

import ferry.stone.core.math.IntList;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Tokens, strings, paths, fields and sets of fields of a crate, each once. */
final class CrateTables {
  /** Stands first, so that no name of a property has the place 0, which has no sign. */
  private static final String NONE = ";-)";

  private static final int END = -1;

  private final Map<String, Integer> tokens = new LinkedHashMap<>();
  private final Map<String, Integer> strings = new LinkedHashMap<>();
  private final Map<String, Integer> paths = new LinkedHashMap<>();
  private final Map<Field, Integer> fields = new LinkedHashMap<>();
  private final Map<List<Integer>, Integer> sets = new LinkedHashMap<>();
  private final IntList setTable = new IntList(1024);
  private final IntList specPaths = new IntList(256);
  private final IntList specFields = new IntList(256);
  private final IntList specTypes = new IntList(256);

  /** A name with the 64 bits of its value. */
  private record Field(int token, long value) {}

  CrateTables() {
    token(NONE);
    path("/");
  }

  int token(String text) {
    return tokens.computeIfAbsent(text, k -> tokens.size());
  }

  int string(String text) {
    token(text);
    return strings.computeIfAbsent(text, k -> strings.size());
  }

  /** The empty path is one too. */
  int path(String path) {
    return paths.computeIfAbsent(path, k -> paths.size());
  }

  int field(String name, long value) {
    return fields.computeIfAbsent(new Field(token(name), value), k -> fields.size());
  }

  /** First place of a set of fields. */
  int set(List<Integer> of) {
    Integer known = sets.get(of);
    if (known != null) {
      return known;
    }
    int first = setTable.size();
    of.forEach(setTable::add);
    setTable.add(END);
    sets.put(List.copyOf(of), first);
    return first;
  }

  void spec(String path, int type, List<Integer> of) {
    specPaths.add(path(path));
    specFields.add(set(of));
    specTypes.add(type);
  }

  List<String> tokens() {
    return new ArrayList<>(tokens.keySet());
  }

  int[] strings() {
    return strings.keySet().stream().mapToInt(tokens::get).toArray();
  }

  Map<String, Integer> paths() {
    return paths;
  }

  int[] fieldTokens() {
    return fields.keySet().stream().mapToInt(Field::token).toArray();
  }

  long[] fieldValues() {
    return fields.keySet().stream().mapToLong(Field::value).toArray();
  }

  int[] setTable() {
    return setTable.toArray();
  }

  int[] specPaths() {
    return specPaths.toArray();
  }

  int[] specFields() {
    return specFields.toArray();
  }

  int[] specTypes() {
    return specTypes.toArray();
  }
}
