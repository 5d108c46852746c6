package ferry.stone.core.format.fbx.rules;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.fbx.raw.FbxBinaryParser;
import ferry.stone.core.format.fbx.raw.FbxBinaryWriter;
import ferry.stone.core.format.fbx.raw.FbxDocument;
import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.RandomBytes;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.losses.BrokenRules;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** The file around its objects: its end, its counts, its objects and what connects them. */
public final class FbxRules {
  private final BrokenRules rules = new BrokenRules();
  private final FbxRecord root;
  private final Map<Long, FbxRecord> objects = new HashMap<>();

  /** Ids of what is connected to each object. */
  private final Map<Long, List<Long>> sources = new HashMap<>();

  private final Map<Long, List<Long>> destinations = new HashMap<>();

  private FbxRules(FbxRecord root) {
    this.root = root;
  }

  /** Tells each rule that is broken once, with the first place and how often. */
  public static void check(String resource, Resources files, Findings findings)
      throws IOException, FormatException {
    RandomBytes file = files.random(resource);
    Budget budget = Budget.of(resource, files);
    FbxRecord root = FbxDocument.parse(resource, file, budget, new Findings()).root();
    FbxRules all = new FbxRules(root);
    all.end(file);
    all.settings();
    all.objects();
    all.connections();
    all.counts();
    FbxMeshRules meshes = new FbxMeshRules(all.rules, all.objects, all.sources, all.destinations);
    FbxMotionRules motion = new FbxMotionRules(all.rules, all.objects, all.destinations);
    all.objects.forEach(
        (id, record) -> {
          meshes.check(id, record);
          motion.check(id, record);
        });
    all.rules.tell(resource, findings);
  }

  /** The binary form ends with its version and a mark, at a place that 16 divides. */
  private void end(RandomBytes file) throws IOException {
    byte[] head = new byte[FbxBinaryParser.HEAD];
    if (file.size() < head.length) {
      return;
    }
    file.read(0, head, 0, head.length);
    if (!FbxBinaryParser.isBinary(head)) {
      return;
    }
    int version = ByteBuffer.wrap(head).order(ByteOrder.LITTLE_ENDIAN).getInt(head.length - 4);
    rules.hold(
        version == (int) root.at("FBXHeaderExtension").at("FBXVersion").number(0, -1),
        "/FBXHeaderExtension/FBXVersion",
        "The version in the head is not the one at the beginning of the file.");
    byte[] foot = new byte[FbxBinaryWriter.FOOT];
    long at = file.size() - foot.length;
    if (at < head.length) {
      rules.broken("", "The file does not end as the binary form does.");
      return;
    }
    file.read(at, foot, 0, foot.length);
    rules.hold(
        at % 16 == 0 && FbxBinaryWriter.closes(foot, version),
        "byte " + at,
        "The file does not end as the binary form does.");
  }

  private void settings() {
    FbxRecord settings = root.at("GlobalSettings");
    Map<String, Double> numbers = new HashMap<>();
    for (FbxRecord p : settings.at("Properties70").all("P")) {
      numbers.put(p.text(0), p.number(4, Double.NaN));
    }
    Set<Double> axes = new HashSet<>();
    for (String axis : List.of("UpAxis", "FrontAxis", "CoordAxis")) {
      double value = numbers.getOrDefault(axis, Double.NaN);
      axes.add(value);
      rules.hold(
          (value == 0 || value == 1 || value == 2)
              && Math.abs(numbers.getOrDefault(axis + "Sign", 0.0)) == 1,
          "/GlobalSettings/" + axis,
          "An axis is not said as one of three with a sign.");
    }
    rules.hold(axes.size() == 3, "/GlobalSettings", "Two axes are the same.");
    rules.hold(
        numbers.getOrDefault("UnitScaleFactor", 0.0) > 0,
        "/GlobalSettings/UnitScaleFactor",
        "The unit is not above 0.");
  }

  private void objects() {
    for (FbxRecord record : root.at("Objects").children()) {
      long id = record.id(0);
      rules.hold(id != 0, record.place() + " " + record.name(), "An object has no id.");
      rules.hold(
          objects.putIfAbsent(id, record) == null,
          record.place() + " " + record.name(),
          "Two objects have one id.");
    }
  }

  private void connections() {
    Set<Long> connected = new HashSet<>();
    for (FbxRecord c : root.at("Connections").children()) {
      long from = c.id(1);
      long to = c.id(2);
      boolean known = objects.containsKey(from) && (to == 0 || objects.containsKey(to));
      rules.hold(known, c.place(), "A connection names an object that is not in the file.");
      rules.hold(
          !c.text(0).endsWith("P") || !c.text(3).isEmpty(),
          c.place(),
          "A connection to a property names none.");
      connected.add(from);
      sources.computeIfAbsent(to, k -> new ArrayList<>()).add(from);
      destinations.computeIfAbsent(from, k -> new ArrayList<>()).add(to);
    }
    objects.forEach(
        (id, record) ->
            rules.hold(
                connected.contains(id)
                    || !Set.of("Model", "Geometry", "Deformer", "AnimationCurve")
                        .contains(record.name()),
                record.place() + " " + record.name(),
                "An object is connected to nothing: nobody sees it."));
  }

  /** What the list of definitions says is what there is. */
  private void counts() {
    FbxRecord definitions = root.at("Definitions");
    Map<String, Integer> found = new HashMap<>();
    found.put("GlobalSettings", 1);
    objects.values().forEach(o -> found.merge(o.name(), 1, Integer::sum));
    double sum = 0;
    for (FbxRecord type : definitions.all("ObjectType")) {
      double count = type.at("Count").number(0, -1);
      sum += count;
      rules.hold(
          count == found.getOrDefault(type.text(0), 0),
          "/Definitions/" + type.text(0),
          "The list of definitions counts other objects than there are.");
      found.remove(type.text(0));
    }
    found.remove("GlobalSettings");
    rules.hold(
        found.isEmpty(),
        "/Definitions",
        "The list of definitions leaves out kinds of objects that are there.");
    rules.hold(
        definitions.at("Count").number(0, -1) == sum,
        "/Definitions/Count",
        "The list of definitions counts other objects than there are.");
  }
}
