package ferry.stone.core.format.gltf.draco;

/**
 * Where the symbols of {@link Edgebreaker} come from: bits, or lists by the valence of a vertex.
 */
final class EdgebreakerSymbols {
  private static final int[] OF_CODE = {
    Edgebreaker.C, Edgebreaker.S, Edgebreaker.L, Edgebreaker.R, Edgebreaker.E
  };
  private static final int LEAST_VALENCE = 2;
  private static final int VALENCES = 6;

  private final Corners table;
  private DracoBytes plain;
  private RansBits starts;
  private RansBits[] seams;
  private int[] valence;
  private int[][] byValence;
  private int[] left;
  private int context = -1;
  private int last;

  private EdgebreakerSymbols(Corners table) {
    this.table = table;
  }

  static EdgebreakerSymbols of(int kind, DracoBytes in, int attributes, CornerTable table)
      throws DracoException {
    EdgebreakerSymbols symbols = new EdgebreakerSymbols(table);
    if (kind == 0) {
      symbols.plain = in.part(in.varint());
      symbols.plain.startBits();
    } else if (kind != 2) {
      throw DracoException.version("its triangles are coded in a way that is not published");
    }
    symbols.starts = new RansBits(in);
    symbols.seams = new RansBits[attributes];
    for (int i = 0; i < attributes; i++) {
      symbols.seams[i] = new RansBits(in);
    }
    if (kind == 2) {
      symbols.valence = new int[table.leftMost.length];
      symbols.byValence = new int[VALENCES][];
      symbols.left = new int[VALENCES];
      for (int i = 0; i < VALENCES; i++) {
        int count = in.count("symbols", table.faceCount());
        symbols.byValence[i] = RansSymbols.read(in, count, 1);
        symbols.left[i] = count;
      }
    }
    return symbols;
  }

  int next() throws DracoException {
    if (plain != null) {
      return plain.bits(1) == 0 ? Edgebreaker.C : 1 | plain.bits(2) << 1;
    }
    if (context < 0) {
      last = Edgebreaker.E;
      return last;
    }
    int at = --left[context];
    if (at < 0 || byValence[context][at] >= OF_CODE.length) {
      throw new DracoException("its symbols do not go with its faces");
    }
    last = OF_CODE[byValence[context][at]];
    return last;
  }

  /** Tells which corner is the next to grow from. */
  void reached(int corner) {
    if (plain != null) {
      return;
    }
    int tip = table.vertex(corner);
    int next = table.vertex(Corners.next(corner));
    int previous = table.vertex(Corners.previous(corner));
    switch (last) {
      case Edgebreaker.C, Edgebreaker.S -> {
        valence[next]++;
        valence[previous]++;
      }
      case Edgebreaker.R -> {
        valence[tip]++;
        valence[next]++;
        valence[previous] += 2;
      }
      case Edgebreaker.L -> {
        valence[tip]++;
        valence[next] += 2;
        valence[previous]++;
      }
      default -> {
        valence[tip] += 2;
        valence[next] += 2;
        valence[previous] += 2;
      }
    }
    context = Math.max(0, Math.min(VALENCES - 1, valence[next] - LEAST_VALENCE));
  }

  void merge(int into, int from) {
    if (plain == null) {
      valence[into] += valence[from];
    }
  }

  boolean startsInside() {
    return starts.next();
  }

  boolean isSeam(int attribute) {
    return seams[attribute].next();
  }
}
