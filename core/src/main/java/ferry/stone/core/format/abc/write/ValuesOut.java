package ferry.stone.core.format.abc.write;

import ferry.stone.core.format.abc.raw.AbcProperty.Type;
import ferry.stone.core.format.abc.raw.CompoundOut;
import ferry.stone.core.format.abc.raw.Pod;
import ferry.stone.core.format.abc.raw.PropertyOut;
import ferry.stone.core.motion.Curves;
import ferry.stone.core.scene.time.Clip;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** Custom values as user properties, in the order of their names. */
final class ValuesOut {
  static final String HOLDER = ".userProperties";

  private ValuesOut() {}

  /**
   * @param tracks of the values that change, by property
   * @param words of the texts that change, by property
   */
  static void write(
      CompoundOut schema,
      Map<String, Object> values,
      Map<String, Clip.Track> tracks,
      Map<String, Clip.Words> words)
      throws IOException {
    Map<String, Object> all = new TreeMap<>(values);
    for (String property : tracks.keySet()) {
      if (property.startsWith(Clip.CUSTOM)) {
        all.putIfAbsent(property.substring(Clip.CUSTOM.length()), 0.0);
      }
    }
    words.keySet().forEach(p -> all.putIfAbsent(p.substring(Clip.CUSTOM.length()), ""));
    if (!all.isEmpty()) {
      CompoundOut holder = schema.compound(HOLDER, "");
      for (var entry : all.entrySet()) {
        String property = Clip.CUSTOM + entry.getKey();
        Clip.Track track = tracks.get(property);
        Clip.Words texts = words.get(property);
        if (texts != null) {
          PropertyOut out =
              holder.property(entry.getKey(), type(Pod.STRING), "", texts.timesSeconds());
          for (String text : texts.values()) {
            out.add(List.of(text));
          }
        } else if (track != null) {
          number(holder, entry.getKey(), entry.getValue(), track);
        } else {
          value(holder, entry.getKey(), entry.getValue());
        }
      }
    }
  }

  private static Type type(Pod pod) {
    return new Type(false, pod, 1);
  }

  private static void number(CompoundOut holder, String name, Object rest, Clip.Track track)
      throws IOException {
    boolean whole = rest instanceof Integer || rest instanceof Boolean;
    double[] value = new double[4];
    boolean exact = whole;
    for (double t : track.timesSeconds()) {
      Curves.sample(track, t, value);
      exact &= value[0] == Math.rint(value[0]);
    }
    Pod pod = !exact ? Pod.FLOAT64 : rest instanceof Boolean ? Pod.BOOLEAN : Pod.INT32;
    PropertyOut out = holder.property(name, type(pod), "", track.timesSeconds());
    for (double t : track.timesSeconds()) {
      Curves.sample(track, t, value);
      if (exact) {
        out.add((int) value[0]);
      } else {
        out.add(value[0]);
      }
    }
  }

  private static void value(CompoundOut holder, String name, Object value) throws IOException {
    if (value instanceof Map<?, ?> map) {
      CompoundOut inside = holder.compound(name, "");
      Map<String, Object> sorted = new TreeMap<>();
      map.forEach((k, v) -> sorted.put(String.valueOf(k), v));
      for (var entry : sorted.entrySet()) {
        value(inside, entry.getKey(), entry.getValue());
      }
    } else if (value instanceof List<?> list) {
      list(holder, name, list);
    } else if (value instanceof Boolean flag) {
      holder.property(name, type(Pod.BOOLEAN), "", null).add(flag ? 1 : 0);
    } else if (value instanceof Integer || value instanceof Short || value instanceof Byte) {
      holder.property(name, type(Pod.INT32), "", null).add(((Number) value).intValue());
    } else if (value instanceof Long number) {
      holder.property(name, type(Pod.INT64), "", null).addLongs(number);
    } else if (value instanceof Number number) {
      holder.property(name, type(Pod.FLOAT64), "", null).add(number.doubleValue());
    } else {
      holder.property(name, type(Pod.STRING), "", null).add(List.of(String.valueOf(value)));
    }
  }

  private static void list(CompoundOut holder, String name, List<?> list) throws IOException {
    boolean wholes = list.stream().allMatch(v -> v instanceof Integer);
    boolean numbers = list.stream().allMatch(v -> v instanceof Number);
    if (wholes && !list.isEmpty()) {
      int[] all = list.stream().mapToInt(v -> (Integer) v).toArray();
      holder.property(name, new Type(true, Pod.INT32, 1), "", null).add(all);
    } else if (numbers && !list.isEmpty()) {
      double[] all = list.stream().mapToDouble(v -> ((Number) v).doubleValue()).toArray();
      holder.property(name, new Type(true, Pod.FLOAT64, 1), "", null).add(all);
    } else {
      List<String> texts = new ArrayList<>();
      list.forEach(v -> texts.add(String.valueOf(v)));
      holder.property(name, new Type(true, Pod.STRING, 1), "", null).add(texts);
    }
  }
}
