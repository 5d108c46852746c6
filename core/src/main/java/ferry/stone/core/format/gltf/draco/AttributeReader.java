package ferry.stone.core.format.gltf.draco;

import java.util.ArrayList;
import java.util.List;

/** Reads values of attributes: as they are, as whole numbers, quantized, or as directions. */
final class AttributeReader {
  private static final int GENERIC = 0;
  private static final int WHOLE = 1;
  private static final int QUANTIZED = 2;
  private static final int DIRECTIONS = 3;
  private static final int NO_PREDICTION = -2;

  private final DracoBytes in;
  private final int points;
  private final List<PackedAttribute> done = new ArrayList<>();

  AttributeReader(DracoBytes in, int points) {
    this.in = in;
    this.points = points;
  }

  List<DracoMesh.Values> values() {
    return done.stream()
        .map(
            a ->
                new DracoMesh.Values(
                    a.id, a.components, a.normalized, a.numbers, a.order.valueOf()))
        .toList();
  }

  /** Reads the attributes of one decoder. */
  void read(List<PackedAttribute> attributes, ValueOrder order) throws DracoException {
    for (PackedAttribute attribute : attributes) {
      attribute.order = order;
      done.add(attribute);
      switch (attribute.decoder) {
        case GENERIC -> generic(attribute);
        case WHOLE, QUANTIZED, DIRECTIONS -> whole(attribute);
        default -> throw new DracoException("an attribute is packed in an unknown way");
      }
    }
    for (PackedAttribute attribute : attributes) {
      switch (attribute.decoder) {
        case WHOLE -> held(attribute);
        case QUANTIZED -> quantized(attribute);
        case DIRECTIONS -> directions(attribute);
        default -> {}
      }
    }
  }

  private void generic(PackedAttribute attribute) throws DracoException {
    long count = (long) attribute.components * attribute.order.count();
    if (count * attribute.bytes() > in.remaining()) {
      throw new DracoException("the stream ends early");
    }
    attribute.numbers = new double[(int) count];
    for (int i = 0; i < count; i++) {
      attribute.numbers[i] = attribute.number(in);
    }
  }

  private void whole(PackedAttribute attribute) throws DracoException {
    int components = attribute.decoder == DIRECTIONS ? 2 : attribute.components;
    int method = in.i8();
    int transform = method == NO_PREDICTION ? -1 : in.i8();
    int entries = attribute.order.count();
    if ((long) entries * components > Integer.MAX_VALUE) {
      throw new DracoException("an attribute has too many numbers");
    }
    int count = entries * components;
    int[] values;
    if (in.u8() > 0) {
      values = RansSymbols.read(in, count, components);
    } else {
      values = plain(count);
    }
    Correction correction = Correction.of(transform);
    if (count > 0 && !correction.isPositive()) {
      for (int i = 0; i < count; i++) {
        values[i] = (values[i] & 1) == 0 ? values[i] >>> 1 : -(values[i] >>> 1) - 1;
      }
    }
    if (method != NO_PREDICTION) {
      Prediction prediction = Prediction.of(method, attribute.order, position(method), components);
      prediction.data(in, correction);
      prediction.run(values, correction);
    }
    attribute.whole = values;
  }

  private int[] plain(int count) throws DracoException {
    int bytes = in.u8();
    if (bytes < 1 || bytes > 4 || (long) count * bytes > in.remaining()) {
      throw new DracoException("the stream ends early");
    }
    int[] values = new int[count];
    for (int i = 0; i < count; i++) {
      for (int b = 0; b < bytes; b++) {
        values[i] |= in.u8() << 8 * b;
      }
    }
    return values;
  }

  /** The positions that others are predicted from. */
  private PackedAttribute position(int method) throws DracoException {
    if (method != Prediction.TEX_COORDS && method != Prediction.GEOMETRIC_NORMAL) {
      return null;
    }
    return done.stream()
        .filter(a -> a.kind == PackedAttribute.POSITION && a.components == 3 && a.whole != null)
        .findFirst()
        .orElseThrow(() -> new DracoException("values are predicted from positions, and none are"));
  }

  private void held(PackedAttribute attribute) {
    attribute.numbers = new double[attribute.whole.length];
    for (int i = 0; i < attribute.whole.length; i++) {
      attribute.numbers[i] = attribute.held(attribute.whole[i]);
    }
  }

  private void quantized(PackedAttribute attribute) throws DracoException {
    float[] least = new float[attribute.components];
    for (int c = 0; c < least.length; c++) {
      least[c] = in.f32();
    }
    float range = in.f32();
    int bits = in.u8();
    if (bits < 1 || bits > 30) {
      throw new DracoException("numbers are quantized to " + bits + " bits");
    }
    float step = range / ((1 << bits) - 1);
    attribute.numbers = new double[attribute.whole.length];
    for (int i = 0; i < attribute.whole.length; i++) {
      attribute.numbers[i] = attribute.whole[i] * step + least[i % attribute.components];
    }
  }

  private void directions(PackedAttribute attribute) throws DracoException {
    Octahedron octahedron = new Octahedron(in.u8());
    if (attribute.components != 3) {
      throw new DracoException("directions have " + attribute.components + " numbers");
    }
    int count = attribute.order.count();
    attribute.numbers = new double[3 * count];
    for (int i = 0; i < count; i++) {
      octahedron.direction(
          attribute.whole[2 * i], attribute.whole[2 * i + 1], attribute.numbers, 3 * i);
    }
  }
}
