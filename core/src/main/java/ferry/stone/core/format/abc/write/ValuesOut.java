package ferry.stone.core.format.abc.write;

import ferry.stone.core.format.abc.raw.AbcProperty.Type;
import ferry.stone.core.format.abc.raw.CompoundOut;
import ferry.stone.core.format.abc.raw.Pod;
import ferry.stone.core.format.abc.raw.PropertyOut;
import ferry.stone.core.format.motion.ListText;
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
        if (texts != null && entry.getValue() instanceof List<?> rest && isList(texts)) {
          lists(holder, entry.getKey(), rest, texts);
        } else if (texts != null) {
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

  private static boolean isList(Clip.Words words) {
    return words.values().stream().allMatch(text -> ListText.list(text) != null);
  }

  /** Lists over time, of the narrowest type that holds all of them. */
  private static void lists(CompoundOut holder, String name, List<?> rest, Clip.Words words)
      throws IOException {
    List<Object> every = new ArrayList<>(rest);
    words.values().forEach(text -> every.addAll(ListText.list(text)));
    Pod pod = pod(every);
    PropertyOut out = holder.property(name, new Type(true, pod, 1), "", words.timesSeconds());
    for (String text : words.values()) {
      add(out, pod, ListText.list(text));
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
    Pod pod = pod(list);
    add(holder.property(name, new Type(true, pod, 1), "", null), pod, list);
  }

  private static Pod pod(List<?> list) {
    boolean wholes = list.stream().allMatch(v -> v instanceof Integer);
    boolean numbers = list.stream().allMatch(v -> v instanceof Number);
    return list.isEmpty() || !numbers ? Pod.STRING : wholes ? Pod.INT32 : Pod.FLOAT64;
  }

  private static void add(PropertyOut out, Pod pod, List<?> list) throws IOException {
    if (pod == Pod.INT32) {
      out.add(list.stream().mapToInt(v -> (Integer) v).toArray());
    } else if (pod == Pod.FLOAT64) {
      out.add(list.stream().mapToDouble(v -> ((Number) v).doubleValue()).toArray());
    } else {
      List<String> texts = new ArrayList<>();
      list.forEach(v -> texts.add(String.valueOf(v)));
      out.add(texts);
    }
  }
}
