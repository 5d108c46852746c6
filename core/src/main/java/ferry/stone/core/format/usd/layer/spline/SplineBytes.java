package ferry.stone.core.format.usd.layer.spline;

import ferry.stone.core.format.usd.layer.spline.UsdSpline.Beyond;
import ferry.stone.core.format.usd.layer.spline.UsdSpline.Knot;
import ferry.stone.core.format.usd.layer.spline.UsdSpline.Loop;
import ferry.stone.core.format.usd.layer.spline.UsdSpline.Segment;
import ferry.stone.core.format.usd.layer.spline.UsdSpline.Way;
import ferry.stone.core.math.Half;
import java.nio.BufferUnderflowException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Map;
import java.util.TreeMap;

/**
 * Reads a curve of a crate.
 *
 * <p>Two bytes: version (4 bits), type of values (2 bits: 1 double, 2 float, 3 half), whether
 * values are times, whether curves are Hermite; how it goes on before and after (3 bits each),
 * whether knots are repeated. Slopes of what goes on and the repetition follow where there are any,
 * then the number of knots (32 bits) and the knots: a byte (1: two values, 2 and 4: what follows),
 * time, value, the value before, widths before and after, slopes before and after, and from version
 * 2 how tangents are found. Found by what usd-core 26.11 writes; there is no other description.
 */
public final class SplineBytes {
  private static final int NEWEST = 2;

  private final ByteBuffer in;
  private final int type;

  private SplineBytes(ByteBuffer in, int type) {
    this.in = in;
    this.type = type;
  }

  /** {@code null} for bytes that are no curve, or one of a newer kind. */
  public static UsdSpline read(byte[] bytes) {
    try {
      return curve(ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN));
    } catch (BufferUnderflowException e) {
      return null;
    }
  }

  private static UsdSpline curve(ByteBuffer in) {
    int head = in.get();
    int version = head & 15;
    int type = head >> 4 & 3;
    if (version < 1 || version > NEWEST || type == 0) {
      return null;
    }
    boolean hermite = (head & 128) != 0;
    int more = in.get();
    Beyond before = beyond(in, more & 7);
    Beyond after = beyond(in, more >> 3 & 7);
    Loop loop =
        (more & 64) == 0
            ? null
            : new Loop(in.getDouble(), in.getDouble(), in.getInt(), in.getInt(), in.getDouble());
    int count = in.getInt();
    SplineBytes reader = new SplineBytes(in, type);
    Map<Double, Knot> knots = new TreeMap<>();
    for (int i = 0; i < count; i++) {
      Knot knot = reader.knot(hermite, version);
      knots.put(knot.time(), knot);
    }
    boolean known = before != null && after != null && count >= 0;
    return known
        ? new UsdSpline(hermite, before, after, loop, knots.values().stream().toList())
        : null;
  }

  private static Beyond beyond(ByteBuffer in, int way) {
    Way[] all = Way.values();
    if (way >= all.length) {
      return null;
    }
    return new Beyond(all[way], all[way] == Way.SLOPED ? in.getDouble() : 0);
  }

  private Knot knot(boolean hermite, int version) {
    int flags = in.get();
    boolean jumps = (flags & 1) != 0;
    double time = in.getDouble();
    double value = number();
    double before = jumps ? number() : value;
    double beforeWidth = hermite ? 0 : in.getDouble();
    double afterWidth = hermite ? 0 : in.getDouble();
    double beforeSlope = number();
    double afterSlope = number();
    int ease = version < 2 ? 0 : in.get();
    Segment next = Segment.values()[flags >> 1 & 3];
    int easeBefore = Math.min(ease & 15, Knot.EASES.size() - 1);
    int easeAfter = Math.min(ease >> 4 & 15, Knot.EASES.size() - 1);
    return new Knot(
        time,
        value,
        before,
        jumps,
        next,
        beforeWidth,
        beforeSlope,
        easeBefore,
        afterWidth,
        afterSlope,
        easeAfter);
  }

  private double number() {
    return switch (type) {
      case 1 -> in.getDouble();
      case 2 -> in.getFloat();
      default -> Half.toFloat(in.getShort());
    };
  }
}
