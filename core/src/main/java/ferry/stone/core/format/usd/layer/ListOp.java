package ferry.stone.core.format.usd.layer;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/**
 * An edit of a list that a weaker opinion has.
 *
 * @param explicit the whole list, whatever weaker opinions say; {@code null} where it is edited
 * @param added at the end where they are not there; of old files
 * @param reordered those that are there, in this order
 */
public record ListOp<T>(
    List<T> explicit,
    List<T> added,
    List<T> prepended,
    List<T> appended,
    List<T> deleted,
    List<T> reordered) {
  public ListOp {
    explicit = explicit == null ? null : List.copyOf(explicit);
    added = List.copyOf(added);
    prepended = List.copyOf(prepended);
    appended = List.copyOf(appended);
    deleted = List.copyOf(deleted);
    reordered = List.copyOf(reordered);
  }

  public static <T> ListOp<T> explicit(List<T> items) {
    return new ListOp<>(items, List.of(), List.of(), List.of(), List.of(), List.of());
  }

  public static <T> ListOp<T> none() {
    return new ListOp<>(null, List.of(), List.of(), List.of(), List.of(), List.of());
  }

  /** The same with one more edit, as text files have them one by one. */
  public ListOp<T> and(Edit edit, List<T> items) {
    return switch (edit) {
      case SET -> explicit(items);
      case ADD -> new ListOp<>(null, items, prepended, appended, deleted, reordered);
      case PREPEND -> new ListOp<>(null, added, items, appended, deleted, reordered);
      case APPEND -> new ListOp<>(null, added, prepended, items, deleted, reordered);
      case DELETE -> new ListOp<>(null, added, prepended, appended, items, reordered);
      case REORDER -> new ListOp<>(null, added, prepended, appended, deleted, items);
    };
  }

  /** Kinds of edits by their words. */
  public enum Edit {
    SET,
    ADD,
    PREPEND,
    APPEND,
    DELETE,
    REORDER
  }

  /** Whether all its items are of a kind. */
  boolean holds(Class<?> wanted) {
    return Stream.of(
            explicit == null ? List.<T>of() : explicit,
            added,
            prepended,
            appended,
            deleted,
            reordered)
        .flatMap(List::stream)
        .allMatch(wanted::isInstance);
  }

  /** A weaker list with this edit done. */
  public List<T> over(List<T> weaker) {
    if (explicit != null) {
      return explicit;
    }
    List<T> list = new ArrayList<>(weaker);
    list.removeAll(deleted);
    for (T item : added) {
      if (!list.contains(item)) {
        list.add(item);
      }
    }
    list.removeAll(prepended);
    list.addAll(0, prepended);
    list.removeAll(appended);
    list.addAll(appended);
    return reordered.isEmpty() ? list : inOrder(list);
  }

  /** Each of the order is followed by what follows it in the list up to the next of the order. */
  private List<T> inOrder(List<T> list) {
    List<T> order = reordered.stream().filter(list::contains).distinct().toList();
    List<T> result = new ArrayList<>();
    int first = 0;
    while (first < list.size() && !order.contains(list.get(first))) {
      result.add(list.get(first++));
    }
    for (T item : order) {
      int at = list.indexOf(item);
      do {
        result.add(list.get(at++));
      } while (at < list.size() && !order.contains(list.get(at)));
    }
    return result;
  }
}
