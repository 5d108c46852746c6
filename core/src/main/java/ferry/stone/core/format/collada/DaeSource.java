package ferry.stone.core.format.collada;

import ferry.stone.core.format.FormatException;
import java.util.ArrayList;
import java.util.List;

/**
 * A list of values as an accessor shows it: of each {@code stride} numbers from {@code offset} on
 * those that have a name.
 *
 * @param numbers the array behind it
 * @param places place of each component in a value
 * @param words of a list of names, else {@code null}
 */
record DaeSource(
    DaeElement element,
    double[] numbers,
    String[] words,
    int count,
    int offset,
    int stride,
    int[] places) {

  int components() {
    return places.length;
  }

  double at(int value, int component) {
    return numbers[offset + stride * value + places[component]];
  }

  String word(int value) {
    return words[offset + stride * value];
  }

  static DaeSource of(DaeDocument document, DaeElement element) throws FormatException {
    DaeElement accessor = element.at("technique_common", "accessor");
    DaeElement array = null;
    for (DaeElement child : element.children) {
      if (child.name.endsWith("_array")) {
        array = child;
      }
    }
    if (accessor != null && accessor.attribute("source").startsWith("#")) {
      DaeElement named = document.byId(accessor.attribute("source").substring(1));
      array = named != null && named.name.endsWith("_array") ? named : array;
    }
    if (array == null) {
      throw document.broken(element, "the source has no array of values. Export the file again.");
    }
    double[] numbers =
        array.name.equals("float_array") || array.name.equals("int_array") ? array.numbers() : null;
    String[] words = numbers == null ? array.words() : null;
    int length = numbers == null ? words.length : numbers.length;
    if (accessor == null) {
      return new DaeSource(element, numbers, words, length, 0, 1, new int[] {0});
    }
    int offset = Math.max(0, accessor.number("offset", 0));
    int stride = Math.max(1, accessor.number("stride", 1));
    int[] places = places(accessor, stride);
    int fits = length <= offset ? 0 : (length - offset) / stride;
    int count = accessor.number("count", fits);
    if (count > fits || count < 0) {
      throw document.broken(
          element,
          "the accessor claims "
              + count
              + " values of "
              + stride
              + " numbers, and the array has "
              + length
              + " numbers. Export the file again.");
    }
    return new DaeSource(element, numbers, words, count, offset, stride, places);
  }

  /** Parameters without a name are passed over; a matrix is one parameter of 16 numbers. */
  private static int[] places(DaeElement accessor, int stride) {
    List<Integer> places = new ArrayList<>();
    int at = 0;
    boolean named = false;
    for (DaeElement param : accessor.all("param")) {
      int width = param.attribute("type").equals("float4x4") ? 16 : 1;
      named |= !param.attribute("name").isEmpty();
      for (int k = 0; k < width && at < stride; k++, at++) {
        if (!param.attribute("name").isEmpty() || width > 1) {
          places.add(at);
        }
      }
    }
    if (!named || places.isEmpty()) {
      // Some writers name none of them and mean all.
      places.clear();
      for (int k = 0; k < stride; k++) {
        places.add(k);
      }
    }
    return places.stream().mapToInt(Integer::intValue).toArray();
  }
}
