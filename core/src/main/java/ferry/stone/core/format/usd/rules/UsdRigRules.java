package ferry.stone.core.format.usd.rules;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.losses.BrokenRules;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.compose.UsdProperty;
import ferry.stone.core.format.usd.compose.UsdStage;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.read.stage.Said;
import java.io.IOException;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** UsdSkel: skeletons, what they bend, their motion, and blend shapes. */
final class UsdRigRules {
  private static final double WEIGHTS = 2e-3;
  private static final double UNIT = 0.01;

  private final BrokenRules rules;
  private final UsdStage stage;

  UsdRigRules(BrokenRules rules, UsdStage stage) {
    this.rules = rules;
    this.stage = stage;
  }

  void check(UsdPrim prim, Set<String> schemas) throws IOException, FormatException {
    boolean bound = prim.property("primvars:skel:jointIndices") != null;
    if (bound
        || prim.property("skel:skeleton") != null
        || prim.property("skel:blendShapes") != null) {
      rules.hold(
          schemas.contains("SkelBindingAPI"),
          prim.path(),
          "A rig is bound where SkelBindingAPI is not applied.");
    }
    if (bound) {
      influences(prim);
    }
    if (prim.property("skel:blendShapes") != null) {
      rules.hold(
          Said.texts(prim, "skel:blendShapes").length
              == Said.targets(prim, "skel:blendShapeTargets").size(),
          prim.path() + ".skel:blendShapes",
          "There are more or fewer names than blend shapes.");
    }
    switch (prim.typeName()) {
      case "Skeleton" -> skeleton(prim);
      case "SkelAnimation" -> motion(prim);
      case "BlendShape" -> shape(prim);
      default -> {
        // Nothing is asked of it here.
      }
    }
  }

  private void influences(UsdPrim prim) throws IOException, FormatException {
    int[] joints = Said.ints(prim, "primvars:skel:jointIndices");
    float[] weights = Said.floats(prim, "primvars:skel:jointWeights");
    UsdProperty property = prim.property("primvars:skel:jointIndices");
    int each =
        property.field("elementSize") instanceof UsdValue size && size.length() > 0
            ? (int) size.number(0)
            : property.field("elementSize") instanceof Number n ? n.intValue() : 1;
    boolean constant = Said.field(property, "interpolation", "constant").equals("constant");
    int points = Said.floats(prim, "points").length / 3;
    String where = prim.path() + ".primvars:skel:jointIndices";
    boolean whole = each > 0 && joints.length == weights.length;
    rules.hold(
        whole && joints.length == (constant ? each : each * points),
        where,
        "There are more or fewer joints or weights than points have.");
    int most = jointCount(prim);
    boolean inRange = true;
    for (int joint : joints) {
      inRange &= joint >= 0 && joint < most;
    }
    rules.hold(inRange, where, "A point names a joint that its skeleton does not have.");
    boolean ones = true;
    for (int i = 0; whole && i + each <= weights.length; i += each) {
      double sum = 0;
      for (int k = i; k < i + each; k++) {
        sum += weights[k];
        ones &= weights[k] >= 0;
      }
      ones &= sum == 0 || Math.abs(sum - 1) <= WEIGHTS;
    }
    rules.hold(
        ones,
        prim.path() + ".primvars:skel:jointWeights",
        "The weights of a point are not 1 together.");
  }

  /** The joints that a prim names, or those of its skeleton, which may be said above it. */
  private int jointCount(UsdPrim prim) throws IOException, FormatException {
    String path = prim.path();
    for (UsdPrim at = prim; at != null; ) {
      String[] own = Said.texts(at, "skel:joints");
      if (own.length > 0) {
        return own.length;
      }
      List<String> skeleton = Said.targets(at, "skel:skeleton");
      if (!skeleton.isEmpty()) {
        UsdPrim found = stage.prim(skeleton.get(0));
        return found == null ? 0 : Said.texts(found, "joints").length;
      }
      int slash = path.lastIndexOf('/');
      path = slash <= 0 ? "" : path.substring(0, slash);
      at = path.isEmpty() ? null : stage.prim(path);
    }
    return 0;
  }

  private void skeleton(UsdPrim prim) throws IOException, FormatException {
    String[] joints = Said.texts(prim, "joints");
    Set<String> all = new HashSet<>(Arrays.asList(joints));
    Set<String> seen = new HashSet<>();
    boolean ordered = true;
    for (String joint : joints) {
      int slash = joint.lastIndexOf('/');
      // A parent that is no joint may be left out; one that is stands before its children.
      String parent = slash > 0 ? joint.substring(0, slash) : "";
      boolean later = all.contains(parent) && !seen.contains(parent);
      ordered &= seen.add(joint) && !later;
    }
    rules.hold(ordered, prim.path() + ".joints", "Joints stand twice, or before their parents.");
    for (String name : List.of("bindTransforms", "restTransforms")) {
      UsdValue value = Said.value(prim, name);
      rules.hold(
          value != null && value.count() == joints.length,
          prim.path() + "." + name,
          "There are more or fewer matrices than joints.");
    }
  }

  private void motion(UsdPrim prim) throws IOException, FormatException {
    int joints = Said.texts(prim, "joints").length;
    int shapes = Said.texts(prim, "blendShapes").length;
    counted(prim, "translations", 3 * joints);
    counted(prim, "rotations", 4 * joints);
    counted(prim, "scales", 3 * joints);
    counted(prim, "blendShapeWeights", shapes);
    UsdProperty rotations = prim.property("rotations");
    UsdSamples samples = rotations == null ? null : rotations.samples();
    for (int s = 0; samples != null && s < samples.codes().length; s++) {
      if (samples.value(s) instanceof UsdValue value && !isUnit(value)) {
        rules.broken(prim.path() + ".rotations", "A rotation of a joint has not the length 1.");
        break;
      }
    }
  }

  private static boolean isUnit(UsdValue value) {
    for (int i = 0; i + 4 <= value.length(); i += 4) {
      double squared = 0;
      for (int k = i; k < i + 4; k++) {
        squared += value.number(k) * value.number(k);
      }
      if (!(Math.abs(Math.sqrt(squared) - 1) <= UNIT)) {
        return false;
      }
    }
    return true;
  }

  private void counted(UsdPrim prim, String name, int wanted) throws IOException, FormatException {
    UsdProperty property = prim.property(name);
    if (property == null) {
      return;
    }
    UsdSamples samples = property.samples();
    UsdValue value = Said.value(property);
    boolean fits = value == null || value.length() == wanted;
    for (int s = 0; samples != null && s < samples.codes().length; s++) {
      int own = samples.length(s);
      fits &= own == 0 || own == wanted;
    }
    rules.hold(
        fits, prim.path() + "." + name, "There are more or fewer values than joints or shapes.");
  }

  private void shape(UsdPrim prim) throws IOException, FormatException {
    int offsets = Said.floats(prim, "offsets").length / 3;
    int[] points = Said.ints(prim, "pointIndices");
    rules.hold(
        points.length == 0 || points.length == offsets,
        prim.path() + ".pointIndices",
        "A blend shape has more or fewer offsets than points.");
    for (String name : prim.propertyNames()) {
      if (name.startsWith("inbetweens:") && !name.endsWith(":normalOffsets")) {
        UsdValue value = Said.value(prim, name);
        rules.hold(
            value == null || value.length() / 3 == offsets,
            prim.path() + "." + name,
            "A shape between has more or fewer offsets than its blend shape.");
      }
    }
  }
}
