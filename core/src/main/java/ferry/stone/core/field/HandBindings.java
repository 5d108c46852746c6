package ferry.stone.core.field;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * What the user binds by name: {@code lips = wax} for sets of that name on any part, {@code lips @
 * head/mouth = wax} for those of one part. The faces in no set are {@code *}; {@code -} as a
 * material leaves what there is. Names with {@code = @ ; "} in them stand in double quotes, which
 * are doubled inside.
 */
public final class HandBindings {
  /** Binds to nothing. */
  public static final String NOTHING = "-";

  /** What a binding of sets looks like. */
  private static final String SETS =
      "a binding is a set, = and a material, like lips = wax or lips @ head/mouth = wax";

  private final String text;
  private final String form;
  private final Map<Faces, String> byKey = new LinkedHashMap<>();
  private int at;

  /** Faces by the name of their set; on all parts where the path is empty. */
  private record Faces(String key, String path) {}

  private HandBindings(String text, String form) {
    this.text = text;
    this.form = form;
  }

  /**
   * @param text bindings one after another, apart by semicolons or new lines
   * @throws IllegalArgumentException in a sentence that shows what does not fit
   */
  public static HandBindings of(String text) {
    return of(text, SETS);
  }

  /**
   * @param form what one looks like, for the sentence
   */
  public static HandBindings of(String text, String form) {
    HandBindings bindings = new HandBindings(text, form);
    while (bindings.at < text.length()) {
      bindings.one();
    }
    return bindings;
  }

  /** One that was said. */
  public record Said(String key, String path, String value) {}

  public List<Said> all() {
    return byKey.entrySet().stream()
        .map(e -> new Said(e.getKey().key(), e.getKey().path(), e.getValue()))
        .toList();
  }

  /**
   * Name of the material, {@code null} where nothing is said; one of the part itself goes first.
   */
  public String material(String key, String path) {
    String own = byKey.get(new Faces(key, path));
    return own != null ? own : byKey.get(new Faces(key, ""));
  }

  /**
   * The text with another binding of faces of one part.
   *
   * @param material {@code null} to take back what was said of that part
   */
  public String with(String key, String path, String material) {
    Map<Faces, String> all = new LinkedHashMap<>(byKey);
    all.remove(new Faces(key, path));
    if (material != null) {
      all.put(new Faces(key, path), material);
    }
    StringBuilder out = new StringBuilder();
    all.forEach(
        (faces, name) -> {
          out.append(out.length() == 0 ? "" : "; ").append(quoted(faces.key()));
          out.append(faces.path().isEmpty() ? "" : " @ " + quoted(faces.path()));
          out.append(" = ").append(quoted(name));
        });
    return out.toString();
  }

  private static String quoted(String name) {
    boolean plain = name.equals(name.strip()) && !name.isEmpty();
    for (int i = 0; i < name.length(); i++) {
      plain &= "=@;\"\n".indexOf(name.charAt(i)) < 0;
    }
    return plain ? name : '"' + name.replace("\"", "\"\"") + '"';
  }

  private void one() {
    int from = at;
    String key = name();
    String path = "";
    if (at < text.length() && text.charAt(at) == '@') {
      at++;
      path = name();
    }
    boolean equals = at < text.length() && text.charAt(at) == '=';
    at += equals ? 1 : 0;
    String material = equals ? name() : "";
    boolean ends = at >= text.length() || isEnd(text.charAt(at));
    if (key.isEmpty() && path.isEmpty() && material.isEmpty() && ends && !equals) {
      at++;
      return;
    }
    if (key.isEmpty() || material.isEmpty() || !ends) {
      int end = at;
      while (end < text.length() && !isEnd(text.charAt(end))) {
        end++;
      }
      throw new IllegalArgumentException(
          form + "; not \"" + text.substring(from, end).strip() + "\"");
    }
    at++;
    byKey.put(new Faces(key, path), material);
  }

  private static boolean isEnd(char c) {
    return c == ';' || c == '\n';
  }

  /** A name to the next sign that ends it. */
  private String name() {
    while (at < text.length() && text.charAt(at) != '\n' && text.charAt(at) <= ' ') {
      at++;
    }
    StringBuilder name = new StringBuilder();
    if (at < text.length() && text.charAt(at) == '"') {
      for (at++; at < text.length(); at++) {
        boolean quote = text.charAt(at) == '"';
        boolean doubled = quote && at + 1 < text.length() && text.charAt(at + 1) == '"';
        if (quote && !doubled) {
          break;
        }
        at += doubled ? 1 : 0;
        name.append(text.charAt(at));
      }
      at++;
      while (at < text.length() && text.charAt(at) == ' ') {
        at++;
      }
      return name.toString();
    }
    while (at < text.length() && "=@".indexOf(text.charAt(at)) < 0 && !isEnd(text.charAt(at))) {
      name.append(text.charAt(at++));
    }
    return name.toString().strip();
  }
}
