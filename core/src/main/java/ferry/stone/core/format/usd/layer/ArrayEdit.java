package ferry.stone.core.format.usd.layer;

import java.lang.reflect.Array;
import java.util.Arrays;
import java.util.List;

/**
 * An edit of an array that weaker layers say.
 *
 * @param type of the array's values
 * @param literals values that the operations put in, one after another
 * @param operations in their order
 */
public record ArrayEdit(UsdType type, UsdValue literals, List<Operation> operations) {
  /** The place behind the last value. */
  public static final long END = Long.MIN_VALUE;

  /** Sizes beyond this are no sizes. */
  public static final long LARGEST = 1 << 26;

  /** Kinds of operations. Their order is that of crates. */
  public enum Kind {
    WRITE,
    WRITE_FROM,
    INSERT,
    INSERT_FROM,
    ERASE,
    LEAST,
    LEAST_FILLED,
    SIZE,
    SIZE_FILLED,
    MOST;

    /** How many numbers say it. */
    int arguments() {
      return this == ERASE || this == LEAST || this == SIZE || this == MOST ? 1 : 2;
    }
  }

  /**
   * @param first what is put in: which literal, or which place of the array; of an erasure the
   *     place, of sizes the size
   * @param second where it goes, or which literal fills
   */
  public record Operation(Kind kind, long first, long second) {}

  public ArrayEdit {
    operations = List.copyOf(operations);
  }

  /**
   * The array with this done; what is outside of it does nothing.
   *
   * @param weaker {@code null} for an empty one
   */
  public UsdValue over(UsdValue weaker) {
    Edited all = new Edited(weaker == null ? 0 : weaker.count());
    for (Operation operation : operations) {
      one(all, operation);
    }
    int width = type.components();
    Object from = weaker == null ? null : weaker.data();
    Object data =
        Array.newInstance(literals.data().getClass().getComponentType(), width * all.size);
    for (int i = 0; i < all.size; i++) {
      int at = all.from[i];
      if (at >= 0) {
        System.arraycopy(from, width * at, data, width * i, width);
      } else if (at != Edited.NOTHING) {
        System.arraycopy(literals.data(), width * (-1 - at), data, width * i, width);
      } else if (data instanceof String[] texts) {
        texts[i] = "";
      }
    }
    return new UsdValue(type, true, data);
  }

  private void one(Edited all, Operation o) {
    int literal = (int) (o.kind == Kind.WRITE || o.kind == Kind.INSERT ? o.first : o.second);
    boolean known = literal >= 0 && literal < literals.count();
    switch (o.kind) {
      case WRITE -> all.write(all.place(o.second), known ? -1 - literal : Edited.NOTHING);
      case WRITE_FROM -> all.copy(all.place(o.first), all.place(o.second));
      case INSERT -> all.insert(all.gap(o.second), known ? -1 - literal : Edited.NOTHING);
      case INSERT_FROM -> {
        int from = all.place(o.first);
        if (from >= 0) {
          all.insert(all.gap(o.second), all.from[from]);
        }
      }
      case ERASE -> all.erase(all.place(o.first));
      case LEAST -> all.grow(o.first, Edited.NOTHING);
      case LEAST_FILLED -> all.grow(o.first, known ? -1 - literal : Edited.NOTHING);
      case SIZE -> all.resize(o.first, Edited.NOTHING);
      case SIZE_FILLED -> all.resize(o.first, known ? -1 - literal : Edited.NOTHING);
      default -> all.shrink(o.first);
    }
  }

  /** Where each value comes from: a place of the weaker array, or −1 less a literal. */
  private static final class Edited {
    static final int NOTHING = Integer.MIN_VALUE;

    private int[] from;
    private int size;

    Edited(int count) {
      from = new int[count + 8];
      size = count;
      for (int i = 0; i < count; i++) {
        from[i] = i;
      }
    }

    /** A place of a value, counted from the end where it is negative; −1 for none. */
    int place(long at) {
      long own = at < 0 ? at + size : at;
      return own >= 0 && own < size ? (int) own : -1;
    }

    /** A place before a value or behind the last one; −1 for none. */
    int gap(long at) {
      return at == END || at == size ? size : place(at);
    }

    void write(int place, int what) {
      if (place >= 0) {
        from[place] = what;
      }
    }

    void copy(int source, int place) {
      if (source >= 0 && place >= 0) {
        from[place] = from[source];
      }
    }

    void insert(int gap, int what) {
      if (gap >= 0 && size < LARGEST) {
        room(size + 1);
        System.arraycopy(from, gap, from, gap + 1, size - gap);
        from[gap] = what;
        size++;
      }
    }

    void erase(int place) {
      if (place >= 0) {
        System.arraycopy(from, place + 1, from, place, size - place - 1);
        size--;
      }
    }

    void grow(long least, int what) {
      if (least <= LARGEST && least > size) {
        room((int) least);
        Arrays.fill(from, size, (int) least, what);
        size = (int) least;
      }
    }

    void shrink(long most) {
      size = (int) Math.min(size, Math.max(0, most));
    }

    void resize(long wanted, int what) {
      shrink(wanted);
      grow(wanted, what);
    }

    private void room(int least) {
      if (least > from.length) {
        from = Arrays.copyOf(from, Math.max(least, 2 * from.length));
      }
    }
  }
}
