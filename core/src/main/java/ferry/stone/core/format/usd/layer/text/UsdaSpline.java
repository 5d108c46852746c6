package ferry.stone.core.format.usd.layer.text;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.layer.spline.UsdSpline;
import ferry.stone.core.format.usd.layer.spline.UsdSpline.Beyond;
import ferry.stone.core.format.usd.layer.spline.UsdSpline.Knot;
import ferry.stone.core.format.usd.layer.spline.UsdSpline.Loop;
import ferry.stone.core.format.usd.layer.spline.UsdSpline.Segment;
import ferry.stone.core.format.usd.layer.spline.UsdSpline.Way;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;

/** Reads a curve of a text layer, from its opening brace on. */
final class UsdaSpline {
  private final UsdaCursor in;
  private final UsdaValues values;
  private final Map<Double, Knot> knots = new TreeMap<>();
  private boolean hermite;
  private Beyond before = Beyond.HELD;
  private Beyond after = Beyond.HELD;
  private Loop loop;

  private UsdaSpline(UsdaCursor in, UsdaValues values) {
    this.in = in;
    this.values = values;
  }

  /**
   * @param values reads the notes of knots, which are passed over
   */
  static UsdSpline read(UsdaCursor in, UsdaValues values) throws FormatException {
    UsdaSpline text = new UsdaSpline(in, values);
    in.expect('{');
    while (!in.take('}')) {
      if (in.isNumber()) {
        text.knot();
      } else {
        text.setting();
      }
      if (!in.take(',') && in.peek() != '}') {
        throw in.expected("\",\" or \"}\"");
      }
    }
    return new UsdSpline(
        text.hermite, text.before, text.after, text.loop, text.knots.values().stream().toList());
  }

  private void setting() throws FormatException {
    if (in.take("bezier")) {
      hermite = false;
    } else if (in.take("hermite")) {
      hermite = true;
    } else {
      // The colon after a setting may be taken for a part of the word.
      String name = in.word("bezier, hermite, pre, post, loop or a time").replace(":", "");
      in.take(':');
      switch (name) {
        case "pre" -> before = beyond();
        case "post" -> after = beyond();
        case "loop" -> loop = loop();
        default -> throw in.error("a curve has no \"" + name + "\". Correct the file.");
      }
    }
  }

  private Beyond beyond() throws FormatException {
    String way = in.word("none, held, linear, sloped or loop");
    if (way.equals("loop")) {
      way = in.word("repeat, reset or oscillate");
    }
    Way own = one(Way.values(), way);
    double slope = 0;
    if (own == Way.SLOPED) {
      in.expect('(');
      slope = in.number();
      in.expect(')');
    }
    return new Beyond(own, slope);
  }

  private Loop loop() throws FormatException {
    double[] all = new double[5];
    in.expect('(');
    for (int i = 0; i < all.length; i++) {
      all[i] = in.number();
      if (i < all.length - 1) {
        in.expect(',');
      }
    }
    in.take(',');
    in.expect(')');
    return new Loop(all[0], all[1], (int) all[2], (int) all[3], all[4]);
  }

  private <T extends Enum<T>> T one(T[] all, String name) throws FormatException {
    for (T each : all) {
      if (each.name().toLowerCase(Locale.ROOT).equals(name)) {
        return each;
      }
    }
    throw in.error("a curve has no \"" + name + "\". Correct the file.");
  }

  /** Width, slope and what finds them; of a Hermite curve the slope comes first. */
  private double[] tangent() throws FormatException {
    double[] all = new double[3];
    int read = 0;
    in.expect('(');
    while (!in.take(')')) {
      if (in.isNumber()) {
        if (read == 2) {
          throw in.expected("\")\"");
        }
        all[read++] = in.number();
      } else {
        String ease = in.word("a number or how the tangent is found");
        all[2] = Math.max(1, Knot.EASES.indexOf(ease));
      }
      if (!in.take(',') && in.peek() != ')') {
        throw in.expected("\",\" or \")\"");
      }
    }
    return hermite ? new double[] {0, all[0], all[2]} : all;
  }

  private void knot() throws FormatException {
    double time = in.number();
    in.expect(':');
    double first = in.number();
    boolean jumps = in.take('&');
    double value = jumps ? in.number() : first;
    double[] pre = new double[3];
    double[] post = new double[3];
    Segment next = Segment.HELD;
    // The signs between these count as space.
    while (in.peek() != ',' && in.peek() != '}') {
      if (in.peek() == '{') {
        values.dictionary(0);
      } else if (in.take("pre")) {
        pre = tangent();
      } else if (in.take("post")) {
        next = one(Segment.values(), in.word("none, held, linear or curve"));
        post = in.peek() == '(' ? tangent() : post;
      } else {
        throw in.expected("pre, post or {");
      }
    }
    knots.put(
        time,
        new Knot(
            time,
            value,
            first,
            jumps,
            next,
            pre[0],
            pre[1],
            (int) pre[2],
            post[0],
            post[1],
            (int) post[2]));
  }
}
