package ferry.stone.core.format.abc.read;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.abc.raw.AbcCompound;
import ferry.stone.core.format.abc.raw.AbcProperty;
import ferry.stone.core.format.abc.raw.Pod;
import ferry.stone.core.format.files.ReadReport;
import ferry.stone.core.format.motion.ListText;
import ferry.stone.core.scene.time.Clip;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;

/** Custom values of an object: those of users, and parameters over no geometry. */
final class AbcValues {
  /** Longer lists are told and left out: they belong to no single value. */
  private static final int LONGEST = 1 << 16;

  private final ReadReport report;
  private final String path;
  private final List<Clip.Track> tracks = new ArrayList<>();
  private final List<Clip.Words> words = new ArrayList<>();

  AbcValues(ReadReport report, String path) {
    this.report = report;
    this.path = path;
  }

  /** What the values do over time; their target is 0. */
  List<Clip.Track> tracks() {
    return tracks;
  }

  /** What texts are over time; their target is 0. */
  List<Clip.Words> words() {
    return words;
  }

  /** What stands beside a schema: without what the format itself keeps there. */
  Map<String, Object> beside(AbcCompound properties) throws IOException, FormatException {
    return read(properties, name -> !name.startsWith(".") && !name.equals("visible"), true);
  }

  Map<String, Object> read(AbcCompound compound) throws IOException, FormatException {
    return read(compound, name -> true, true);
  }

  private Map<String, Object> read(AbcCompound compound, Predicate<String> wanted, boolean top)
      throws IOException, FormatException {
    Map<String, Object> values = new LinkedHashMap<>();
    for (AbcProperty property : compound.values()) {
      if (property.sampleCount() == 0 || !wanted.test(property.name())) {
        continue;
      }
      Object value = value(property, 0);
      if (value != null) {
        values.put(property.name(), value);
      }
      if (!property.isConstant()) {
        motion(property, top ? value : null);
      }
    }
    for (String name : compound.compounds().stream().filter(wanted).toList()) {
      AbcCompound part = compound.compound(name).orElseThrow();
      Map<String, Object> inside = read(part, any -> true, false);
      if (!inside.isEmpty()) {
        values.put(name, inside);
      }
    }
    return values;
  }

  private Object value(AbcProperty property, int sample) throws IOException, FormatException {
    AbcProperty.Place place = property.place(sample);
    if (place.bytes() > LONGEST) {
      report.lost(
          "values-not-read",
          path,
          "The custom value \"" + property.name() + "\" is longer than 64 KB: it is left out.");
      return null;
    }
    List<Object> all = new ArrayList<>();
    Pod pod = property.type().pod();
    if (pod.isText()) {
      all.addAll(property.texts(sample));
    } else {
      for (double number : property.doubles(sample)) {
        all.add(number(pod, number));
      }
    }
    boolean single = !property.type().array() && all.size() == 1;
    return single ? all.get(0) : List.copyOf(all);
  }

  private static Object number(Pod pod, double number) {
    return switch (pod) {
      case BOOLEAN -> number != 0;
      case FLOAT16, FLOAT32, FLOAT64 -> number;
      case INT64, UINT64, UINT32 -> (long) number;
      default -> (int) number;
    };
  }

  private void motion(AbcProperty property, Object value) throws IOException, FormatException {
    if (value instanceof String) {
      texts(property);
      return;
    }
    if (value instanceof List<?> && lists(property)) {
      return;
    }
    if (!(value instanceof Number)) {
      report.lost(
          "value-motion-not-read",
          path,
          "The custom value \""
              + property.name()
              + "\" changes over time and is too long or stands inside another: its first value is"
              + " read.");
      return;
    }
    int samples = property.sampleCount();
    report.claim(16L * samples, path, "\"" + property.name() + "\"");
    double[] seconds = new double[samples];
    double[] values = new double[samples];
    for (int s = 0; s < samples; s++) {
      seconds[s] = property.seconds(s);
      values[s] = property.doubles(s)[0];
    }
    tracks.add(
        new Clip.Track(
            0,
            Clip.CUSTOM + property.name(),
            Clip.Interpolation.LINEAR,
            1,
            seconds,
            values,
            null,
            null));
  }

  /** Whether they fit: lists over time, which may get longer and shorter. */
  private boolean lists(AbcProperty property) throws IOException, FormatException {
    int samples = property.sampleCount();
    long bytes = 0;
    for (int s = 0; s < samples; s++) {
      AbcProperty.Place place = property.place(s);
      if (place.bytes() > LONGEST) {
        return false;
      }
      bytes += place.bytes();
    }
    report.claim(64L * samples + 8 * bytes, path, "\"" + property.name() + "\"");
    double[] seconds = new double[samples];
    List<String> values = new ArrayList<>();
    for (int s = 0; s < samples; s++) {
      seconds[s] = property.seconds(s);
      values.add(ListText.of((List<?>) value(property, s)));
    }
    words.add(new Clip.Words(0, Clip.CUSTOM + property.name(), seconds, values));
    return true;
  }

  private void texts(AbcProperty property) throws IOException, FormatException {
    int samples = property.sampleCount();
    double[] seconds = new double[samples];
    List<String> values = new ArrayList<>();
    for (int s = 0; s < samples; s++) {
      AbcProperty.Place place = property.place(s);
      report.claim(64 + 2 * place.bytes(), path, "\"" + property.name() + "\"");
      seconds[s] = property.seconds(s);
      values.add(String.join("", property.texts(s)));
    }
    words.add(new Clip.Words(0, Clip.CUSTOM + property.name(), seconds, values));
  }
}
