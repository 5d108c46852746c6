package ferry.stone.core.texture.ktx;

import ferry.stone.core.texture.ImageException;

/**
 * ETC1S with its books of colours and of patterns, as BasisLZ packs them: each block of 4 × 4
 * pixels has one colour with a range about it, and a pattern that picks one of four shades for each
 * pixel.
 */
final class Etc1s {
  /** Steps about a colour (ETC1, Ström and Akenine-Möller 2005, table 3). */
  static final int[][] SHADES = {
    {-8, -2, 2, 8},
    {-17, -5, 5, 17},
    {-29, -9, 9, 29},
    {-42, -13, 13, 42},
    {-60, -18, 18, 60},
    {-80, -24, 24, 80},
    {-106, -33, 33, 106},
    {-183, -47, 47, 183}
  };

  private static final int LOW = 9;
  private static final int MIDDLE = 21;
  private static final int REPEAT = 256;
  private static final int REPEAT_LEAST = 3;
  private static final int RUN_LEAST = 3;
  private static final int RUN_MOST = 63;

  /** Four shades of each colour, as red, green and blue. */
  private final int[][] colours;

  /** Two bits for each pixel, row by row. */
  private final int[] patterns;

  private final CodeTable predictions;
  private final CodeTable steps;
  private final CodeTable selectors;
  private final CodeTable runs;
  private final int remembered;

  /**
   * @param at where the book of colours begins; the patterns and tables follow
   */
  Etc1s(byte[] file, int at, int colourCount, int patternCount, int[] lengths)
      throws ImageException {
    colours = colours(new CodedBits(file, at, lengths[0]), colourCount);
    patterns = patterns(new CodedBits(file, at + lengths[0], lengths[1]), patternCount);
    CodedBits in = new CodedBits(file, at + lengths[0] + lengths[1], lengths[2]);
    predictions = CodeTable.read(in);
    steps = CodeTable.read(in);
    selectors = CodeTable.read(in);
    runs = CodeTable.read(in);
    remembered = in.bits(13);
    if (colourCount == 0 || patternCount == 0 || remembered == 0) {
      throw new ImageException("the image has no colours");
    }
  }

  private static int[][] colours(CodedBits in, int count) throws ImageException {
    CodeTable[] deltas = {CodeTable.read(in), CodeTable.read(in), CodeTable.read(in)};
    CodeTable ranges = CodeTable.read(in);
    boolean grey = in.bits(1) == 1;
    int[] colour = {16, 16, 16};
    int range = 0;
    int[][] book = new int[count][];
    for (int i = 0; i < count; i++) {
      range = range + ranges.next(in) & 7;
      for (int c = 0; c < (grey ? 1 : 3); c++) {
        CodeTable table = deltas[colour[c] <= LOW ? 0 : colour[c] <= MIDDLE ? 1 : 2];
        colour[c] = colour[c] + table.next(in) & 31;
      }
      if (grey) {
        colour[1] = colour[0];
        colour[2] = colour[0];
      }
      book[i] = new int[4];
      for (int s = 0; s < 4; s++) {
        for (int c = 0; c < 3; c++) {
          int full = colour[c] << 3 | colour[c] >> 2;
          int shade = Math.max(0, Math.min(255, full + SHADES[range][s]));
          book[i][s] |= shade << 16 - 8 * c;
        }
      }
    }
    return book;
  }

  private static int[] patterns(CodedBits in, int count) throws ImageException {
    if (in.bits(1) == 1 || in.bits(1) == 1) {
      throw new ImageException("the image needs a book of patterns that is not in it");
    }
    boolean plain = in.bits(1) == 1;
    CodeTable table = plain ? null : CodeTable.read(in);
    int[] book = new int[count];
    for (int i = 0; i < count; i++) {
      for (int row = 0; row < 4; row++) {
        int before = i == 0 ? 0 : book[i - 1] >>> 8 * row & 0xff;
        int bits = plain || i == 0 ? in.bits(8) : table.next(in) ^ before;
        book[i] |= (bits & 0xff) << 8 * row;
      }
    }
    return book;
  }

  /**
   * Decodes one slice.
   *
   * @param into red, green and blue of each pixel, {@code int[width*height]}
   */
  void slice(CodedBits in, int width, int height, int[] into) throws ImageException {
    new Slice(in, width, height, into).run();
  }

  private final class Slice {
    private final CodedBits in;
    private final int width;
    private final int height;
    private final int[] into;
    private final int across;
    private final int[] below;
    private final int[] memory = new int[remembered];
    private int rover = remembered / 2;
    private int last;
    private int run;
    private int repeats;
    private int lastPrediction;

    Slice(CodedBits in, int width, int height, int[] into) {
      this.in = in;
      this.width = width;
      this.height = height;
      this.into = into;
      across = (width + 3) / 4;
      below = new int[across];
    }

    void run() throws ImageException {
      int[] before = new int[across];
      int[] now = new int[across];
      int bits = 0;
      for (int y = 0; y < (height + 3) / 4; y++) {
        for (int x = 0; x < across; x++) {
          if ((x & 1) == 0) {
            bits = (y & 1) == 0 ? predictions(x) : below[x];
          }
          now[x] = colour(bits & 3, x, y, before);
          bits >>= 2;
          last = now[x];
          paint(x, y, now[x], pattern());
        }
        int[] swap = before;
        before = now;
        now = swap;
      }
    }

    /** How four blocks take their colours from others; two of them lie in the next row. */
    private int predictions(int x) throws ImageException {
      int bits;
      if (repeats > 0) {
        repeats--;
        bits = lastPrediction;
      } else {
        bits = predictions.next(in);
        if (bits == REPEAT) {
          repeats = in.groups(4) + REPEAT_LEAST - 1;
          bits = lastPrediction;
        } else {
          lastPrediction = bits;
        }
      }
      below[x] = bits >> 4;
      return bits;
    }

    private int colour(int prediction, int x, int y, int[] before) throws ImageException {
      if (prediction == 0 && x == 0
          || prediction == 1 && y == 0
          || prediction == 2 && (x == 0 || y == 0)) {
        throw new ImageException("a block of the image takes its colour from outside");
      }
      return switch (prediction) {
        case 0 -> last;
        case 1 -> before[x];
        case 2 -> before[x - 1];
        default -> {
          int colour = steps.next(in) + last;
          colour -= colour >= colours.length ? colours.length : 0;
          if (colour >= colours.length) {
            throw new ImageException("a block of the image has a colour that is not there");
          }
          yield colour;
        }
      };
    }

    private int pattern() throws ImageException {
      int symbol;
      if (run > 0) {
        run--;
        symbol = patterns.length;
      } else {
        symbol = selectors.next(in);
        if (symbol == patterns.length + remembered) {
          int length = runs.next(in);
          run = (length == RUN_MOST ? in.groups(7) : length) + RUN_LEAST - 1;
          symbol = patterns.length;
        }
      }
      if (symbol < patterns.length) {
        memory[rover++] = symbol;
        rover = rover == memory.length ? memory.length / 2 : rover;
        return symbol;
      }
      int place = symbol - patterns.length;
      if (place >= memory.length) {
        throw new ImageException("a block of the image has a pattern that is not there");
      }
      int found = memory[place];
      // Used again, it comes nearer to the front.
      memory[place] = memory[place / 2];
      memory[place / 2] = found;
      return found;
    }

    private void paint(int bx, int by, int colour, int pattern) {
      int[] shades = colours[colour];
      int bits = patterns[pattern];
      for (int y = 0; y < 4 && 4 * by + y < height; y++) {
        for (int x = 0; x < 4 && 4 * bx + x < width; x++) {
          into[(4 * by + y) * width + 4 * bx + x] = shades[bits >>> 8 * y + 2 * x & 3];
        }
      }
    }
  }
}
