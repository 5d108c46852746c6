package ferry.stone.core.format.collada;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** An element with what is in it. Lists of numbers are held as numbers, not as text. */
final class DaeElement {
  final String name;
  final int line;
  final DaeElement parent;
  final Map<String, String> attributes = new HashMap<>(4);
  final List<DaeElement> children = new ArrayList<>(4);
  String text = "";

  /** Of {@code float_array}; {@code null} for others. */
  double[] reals;

  /** Of {@code p}, {@code h}, {@code v} and {@code vcount}; {@code null} for others. */
  int[] wholes;

  DaeElement(String name, int line, DaeElement parent) {
    this.name = name;
    this.line = line;
    this.parent = parent;
  }

  /** An attribute, empty when it is not there. */
  String attribute(String key) {
    return attributes.getOrDefault(key, "");
  }

  /** A whole number, or another one when it is not there or none. */
  int number(String key, int otherwise) {
    try {
      return Integer.parseInt(attribute(key).strip());
    } catch (NumberFormatException e) {
      return otherwise;
    }
  }

  /** The first child of a name, or {@code null}. */
  DaeElement child(String childName) {
    for (DaeElement child : children) {
      if (child.name.equals(childName)) {
        return child;
      }
    }
    return null;
  }

  /** The element at the end of a path of first children, or {@code null}. */
  DaeElement at(String... path) {
    DaeElement at = this;
    for (int i = 0; i < path.length && at != null; i++) {
      at = at.child(path[i]);
    }
    return at;
  }

  List<DaeElement> all(String childName) {
    return children.stream().filter(c -> c.name.equals(childName)).toList();
  }

  /** Its text as numbers; what is none is not a number. */
  double[] numbers() {
    if (reals != null) {
      return reals;
    }
    String[] words = text.strip().isEmpty() ? new String[0] : text.strip().split("\\s+");
    double[] numbers = new double[words.length];
    for (int i = 0; i < numbers.length; i++) {
      numbers[i] = DaeNumbers.real(words[i]);
    }
    return numbers;
  }

  /** Its text as one number, or another when there is none. */
  double scalar(double otherwise) {
    double[] numbers = numbers();
    return numbers.length > 0 && Double.isFinite(numbers[0]) ? numbers[0] : otherwise;
  }

  /** Its words. */
  String[] words() {
    return text.strip().isEmpty() ? new String[0] : text.strip().split("\\s+");
  }

  /** Its name, else its id, else another. */
  String label(String otherwise) {
    String label = attribute("name").strip();
    label = label.isEmpty() ? attribute("id").strip() : label;
    label = label.isEmpty() ? attribute("sid").strip() : label;
    return label.isEmpty() ? otherwise : label;
  }

  /** For errors: the element with its id and line. */
  String place() {
    String id = attribute("id");
    return "line " + line + ", " + name + (id.isEmpty() ? "" : " \"" + id + "\"");
  }
}
