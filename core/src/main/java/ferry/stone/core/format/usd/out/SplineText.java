package ferry.stone.core.format.usd.out;

import ferry.stone.core.format.usd.layer.spline.UsdSpline;
import ferry.stone.core.format.usd.layer.spline.UsdSpline.Beyond;
import ferry.stone.core.format.usd.layer.spline.UsdSpline.Knot;
import ferry.stone.core.format.usd.layer.spline.UsdSpline.Loop;
import ferry.stone.core.format.usd.layer.spline.UsdSpline.Segment;
import ferry.stone.core.format.usd.layer.spline.UsdSpline.Way;
import java.util.Locale;

/** Writes a curve into a text layer. */
final class SplineText {
  private SplineText() {}

  /** As it stands behind {@code .spline = }. */
  static String write(UsdSpline spline, String indent) {
    StringBuilder out = new StringBuilder("{\n");
    String inner = indent + "    ";
    out.append(inner).append(spline.hermite() ? "hermite,\n" : "bezier,\n");
    beyond(out, inner + "pre: ", spline.before());
    beyond(out, inner + "post: ", spline.after());
    Loop loop = spline.loop();
    if (loop != null) {
      out.append(inner).append("loop: (").append(number(loop.start())).append(", ");
      out.append(number(loop.end())).append(", ").append(loop.before()).append(", ");
      out.append(loop.after()).append(", ").append(number(loop.offset())).append("),\n");
    }
    for (Knot knot : spline.knots()) {
      out.append(inner).append(number(knot.time())).append(": ");
      if (knot.jumps()) {
        out.append(number(knot.before())).append(" & ");
      }
      out.append(number(knot.value()));
      double[] pre = {knot.beforeWidth(), knot.beforeSlope(), knot.beforeEase()};
      if (pre[0] != 0 || pre[1] != 0 || pre[2] != 0) {
        out.append("; pre ").append(tangent(spline, pre));
      }
      out.append("; post ").append(knot.next().name().toLowerCase(Locale.ROOT));
      double[] post = {knot.afterWidth(), knot.afterSlope(), knot.afterEase()};
      if (knot.next() == Segment.CURVE || post[0] != 0 || post[1] != 0 || post[2] != 0) {
        out.append(' ').append(tangent(spline, post));
      }
      out.append(",\n");
    }
    return out.append(indent).append('}').toString();
  }

  private static void beyond(StringBuilder out, String head, Beyond beyond) {
    if (beyond.way() != Way.HELD) {
      String way = beyond.way().name().toLowerCase(Locale.ROOT);
      out.append(head).append(beyond.way().loops() ? "loop " : "").append(way);
      out.append(beyond.way() == Way.SLOPED ? "(" + number(beyond.slope()) + ")" : "");
      out.append(",\n");
    }
  }

  private static String tangent(UsdSpline spline, double[] all) {
    String width = spline.hermite() ? "" : number(all[0]) + ", ";
    String ease = all[2] == 0 ? "" : ", " + Knot.EASES.get((int) all[2]);
    return "(" + width + number(all[1]) + ease + ")";
  }

  private static String number(double value) {
    String text = Double.toString(value);
    return text.endsWith(".0") ? text.substring(0, text.length() - 2) : text;
  }
}
