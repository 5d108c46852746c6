package ferry.stone.core.proof.value;

import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.format.motion.ListText;
import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.Landed;
import ferry.stone.core.proof.Ledger;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Measure;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Compares texts and lists that change over time, at the moments of both sides. */
public final class WordsProof {
  /** Seconds by which moments of one change may differ: times may be written as frames. */
  private static final double MOMENT = 1e-4;

  private WordsProof() {}

  /**
   * @param far as it was to land
   */
  public static void list(Ledger ledger, Scene near, Scene far, Scene read, Landed landed) {
    if (landed.fate(Capability.TEXTS_OVER_TIME) != Fate.KEPT) {
      return;
    }
    Map<String, List<Clip.Words>> found = byPlace(read);
    int wanted = 0;
    int same = 0;
    String first = "";
    for (var entry : byPlace(far).entrySet()) {
      for (Clip.Words words : entry.getValue()) {
        List<Clip.Words> there = found.getOrDefault(entry.getKey(), List.of());
        boolean is = there.stream().anyMatch(w -> isSame(words, w));
        wanted++;
        same += is ? 1 : 0;
        first = is || !first.isEmpty() ? first : entry.getKey();
      }
    }
    if (wanted > 0) {
      long before = near.clips().stream().mapToInt(c -> c.words().size()).sum();
      ledger
          .about(Capability.TEXTS_OVER_TIME)
          .measure(Measure.count(before, wanted, same))
          .add(
              "Texts and lists over time",
              -1,
              Figures.count(before),
              Figures.count(wanted),
              Figures.count(same) + " the same",
              Figures.count(wanted - same),
              same == wanted ? Verdict.KEPT : Verdict.LOST,
              same == wanted ? "" : "first: " + first);
    }
  }

  /** What changes, by the path of its part and its name. */
  private static Map<String, List<Clip.Words>> byPlace(Scene scene) {
    Map<Integer, String> paths = new HashMap<>();
    List<String> all = scene.paths();
    for (int i = 0; i < all.size(); i++) {
      paths.put(scene.nodes().get(i).id(), all.get(i));
    }
    Map<String, List<Clip.Words>> places = new HashMap<>();
    for (Clip clip : scene.clips()) {
      for (Clip.Words words : clip.words()) {
        String name = words.property().substring(Clip.CUSTOM.length());
        places
            .computeIfAbsent(paths.get(words.targetId()) + ", " + name, k -> new ArrayList<>())
            .add(words);
      }
    }
    return places;
  }

  private static boolean isSame(Clip.Words a, Clip.Words b) {
    return agrees(a, b) && agrees(b, a);
  }

  private static boolean agrees(Clip.Words a, Clip.Words b) {
    for (int i = 0; i < a.values().size(); i++) {
      String own = a.values().get(i);
      String there = b.at(a.timesSeconds()[i] + MOMENT);
      List<?> list = own.equals(there) ? null : ListText.list(own);
      List<?> other = list == null ? null : ListText.list(there);
      if (!own.equals(there) && (other == null || !ValuesProof.isSame(list, other))) {
        return false;
      }
    }
    return true;
  }
}
