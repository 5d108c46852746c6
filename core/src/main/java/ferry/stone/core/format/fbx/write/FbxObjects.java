package ferry.stone.core.format.fbx.write;

import ferry.stone.core.format.fbx.raw.FbxBuild;
import ferry.stone.core.format.fbx.raw.FbxName;
import ferry.stone.core.format.fbx.raw.FbxRecord;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** Objects and connections of a file that is being written. Ids rise from the same number. */
public final class FbxObjects {
  private static final long FIRST_ID = 1_000_000;

  private final List<FbxRecord> objects = new ArrayList<>();
  private final List<FbxRecord> connections = new ArrayList<>();
  private final Map<String, Integer> counts = new TreeMap<>();
  private long next = FIRST_ID;

  long newId() {
    return next++;
  }

  /** Adds an object with its children and gives its id. */
  long add(String kind, FbxName name, String type, List<FbxRecord> children) {
    long id = newId();
    add(id, kind, name, type, children);
    return id;
  }

  void add(long id, String kind, FbxName name, String type, List<FbxRecord> children) {
    objects.add(FbxBuild.list(kind, List.of(id, name, type), children));
    counts.merge(kind, 1, Integer::sum);
  }

  void connect(long from, long to) {
    connections.add(FbxBuild.record("C", "OO", from, to));
  }

  void connect(long from, long to, String property) {
    connections.add(FbxBuild.record("C", "OP", from, to, property));
  }

  FbxRecord objects() {
    return FbxBuild.list("Objects", List.of(), objects);
  }

  FbxRecord connections() {
    return FbxBuild.list("Connections", List.of(), connections);
  }

  /** How many objects of each kind there are. */
  FbxRecord definitions() {
    List<FbxRecord> types = new ArrayList<>();
    types.add(FbxBuild.record("Version", 100));
    types.add(
        FbxBuild.record("Count", 1 + counts.values().stream().mapToInt(Integer::intValue).sum()));
    types.add(
        FbxBuild.list(
            "ObjectType", List.of("GlobalSettings"), List.of(FbxBuild.record("Count", 1))));
    counts.forEach(
        (kind, count) ->
            types.add(
                FbxBuild.list(
                    "ObjectType", List.of(kind), List.of(FbxBuild.record("Count", count)))));
    return FbxBuild.list("Definitions", List.of(), types);
  }
}
