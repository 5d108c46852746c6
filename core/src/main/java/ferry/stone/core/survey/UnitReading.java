package ferry.stone.core.survey;

import ferry.stone.core.math.Figures;
import ferry.stone.core.math.LengthUnit;
import ferry.stone.core.scene.Scene;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Which unit a scene's numbers are probably in, ranked, with reasons.
 *
 * <p>A small evidence model: each candidate starts with how often it is met, then gains or loses by
 * how usual the asset's size would be, by what names say (a door is about two metres), and by what
 * comments in the file say. Weights are added as logarithms; the confidence is the candidate's part
 * of the whole. All figures are common practice, no source.
 *
 * @param unit the candidate
 * @param confidence 0 to 1; all candidates sum to 1
 * @param reasons in words, the strongest first
 */
public record UnitReading(LengthUnit unit, double confidence, List<String> reasons) {

  /** Whether the name of a part speaks for it. */
  boolean named() {
    return reasons.stream().anyMatch(r -> r.startsWith("“"));
  }

  /** How often units are met in files that do not say. */
  private static final Map<LengthUnit, Double> HOW_OFTEN =
      Map.of(
          LengthUnit.METRE, 0.42,
          LengthUnit.CENTIMETRE, 0.40,
          LengthUnit.MILLIMETRE, 0.12,
          LengthUnit.INCH, 0.05,
          LengthUnit.FOOT, 0.01);

  /** Largest side of the usual asset, and how widely sizes spread (a factor). */
  private static final double USUAL_METRES = 1.8;

  private static final double SPREAD = 4.5;
  private static final double NAMED_SPREAD = 1.6;
  private static final double COMMENT_WEIGHT = 5;
  private static final Pattern COMMENT =
      Pattern.compile(
          "\\bunits?\\b[^\\n]{0,20}?\\b(millimet(?:er|re)s?|centimet(?:er|re)s?|met(?:er|re)s?|"
              + "inch(?:es)?|feet|foot|mm|cm|m|in|ft)\\b",
          Pattern.CASE_INSENSITIVE);

  /** Largest side in metres of things whose names give their size away. */
  private static final Map<String, Double> NAMED =
      Map.ofEntries(
          Map.entry("door", 2.05),
          Map.entry("chair", 0.9),
          Map.entry("table", 1.4),
          Map.entry("bench", 1.6),
          Map.entry("bed", 2.0),
          Map.entry("person", 1.75),
          Map.entry("human", 1.75),
          Map.entry("woman", 1.68),
          Map.entry("man", 1.78),
          Map.entry("body", 1.75),
          Map.entry("character", 1.75),
          Map.entry("bollard", 0.95),
          Map.entry("lantern", 0.4),
          Map.entry("lamp", 0.5),
          Map.entry("bottle", 0.3),
          Map.entry("cup", 0.1),
          Map.entry("barrel", 0.9),
          Map.entry("crate", 0.8),
          Map.entry("boat", 5.0),
          Map.entry("car", 4.4),
          Map.entry("house", 10.0),
          Map.entry("tree", 8.0));

  private static final double STATURE = 1.75;
  private static final double STATURE_SPREAD = 1.35;
  private static final double GRAVITY_SPREAD = 1.15;

  /** How much a statement in the header weighs, as a logarithm: as a hundred to one. */
  private static final double STATED_WEIGHT = Math.log(100);

  /** How much a scale left on all roots weighs when it is just the ratio of two units. */
  private static final double LEFT_SCALE_WEIGHT = 1.2;

  /** All candidates, the likeliest first. An empty scene gives metres with no reason. */
  public static List<UnitReading> of(Scene scene) {
    return of(scene, Evidence.of(scene), false);
  }

  /**
   * @param withHeader whether what the file states counts too
   */
  static List<UnitReading> of(Scene scene, Evidence evidence, boolean withHeader) {
    double size = largestSide(scene);
    Map<LengthUnit, Double> score = new EnumMap<>(LengthUnit.class);
    Map<LengthUnit, List<String>> reasons = new EnumMap<>(LengthUnit.class);
    HOW_OFTEN.forEach(
        (unit, often) -> {
          score.put(unit, Math.log(often));
          reasons.put(unit, new ArrayList<>());
        });
    byComments(scene, score, reasons);
    if (withHeader) {
      byHeader(scene, score, reasons);
    }
    byFall(evidence.fall(), score, reasons);
    byBody(evidence.body(), score, reasons);
    if (size > 0) {
      byNames(scene, score, reasons);
      byLeftScale(scene, score, reasons);
      bySize(size, score, reasons);
    }
    double sum = score.values().stream().mapToDouble(Math::exp).sum();
    return score.entrySet().stream()
        .map(
            e ->
                new UnitReading(
                    e.getKey(), Math.exp(e.getValue()) / sum, List.copyOf(reasons.get(e.getKey()))))
        .sorted((a, b) -> Double.compare(b.confidence, a.confidence))
        .toList();
  }

  private static void byHeader(
      Scene scene, Map<LengthUnit, Double> score, Map<LengthUnit, List<String>> reasons) {
    LengthUnit.ofMetres(scene.frame().metresPerUnit())
        .filter(score::containsKey)
        .ifPresent(
            unit -> {
              score.merge(unit, STATED_WEIGHT, Double::sum);
              reasons.get(unit).add("the file says so");
            });
  }

  private static void byFall(
      FallReading fall, Map<LengthUnit, Double> score, Map<LengthUnit, List<String>> reasons) {
    if (fall == null) {
      return;
    }
    score.replaceAll(
        (unit, s) ->
            s
                + logLikeness(
                    fall.acceleration() * unit.metres(), FallReading.GRAVITY, GRAVITY_SPREAD));
    reasons.forEach(
        (unit, list) ->
            list.add(
                Figures.count(fall.parts(), "part")
                    + " would fall at "
                    + Figures.plain(fall.acceleration() * unit.metres())
                    + " m/s², gravity is 9.81"));
  }

  private static void byBody(
      BodyReading body, Map<LengthUnit, Double> score, Map<LengthUnit, List<String>> reasons) {
    if (body == null) {
      return;
    }
    score.replaceAll(
        (unit, s) -> s + logLikeness(body.stature() * unit.metres(), STATURE, STATURE_SPREAD));
    reasons.forEach(
        (unit, list) ->
            list.add(
                "a body on two legs would stand "
                    + Figures.length(body.stature() * unit.metres())
                    + " tall, usual is about "
                    + Figures.length(STATURE)));
  }

  /** A scale of 0.01 on every root is what is left of centimetres, and so on. */
  private static void byLeftScale(
      Scene scene, Map<LengthUnit, Double> score, Map<LengthUnit, List<String>> reasons) {
    double left = LeftTransforms.commonScale(scene);
    if (left == 1) {
      return;
    }
    for (LengthUnit unit : score.keySet()) {
      // The roots make metres of the unit that the vertices were written in.
      if (unit == LengthUnit.METRE && LengthUnit.ofMetres(left).isPresent()) {
        score.merge(unit, LEFT_SCALE_WEIGHT, Double::sum);
        reasons
            .get(unit)
            .add(
                "its roots are scaled by "
                    + Figures.plain(left)
                    + ", which makes metres of "
                    + LengthUnit.ofMetres(left).get().word()
                    + "s");
      }
    }
  }

  private static double largestSide(Scene scene) {
    var bounds = scene.bounds();
    return Math.max(bounds.size(0), Math.max(bounds.size(1), bounds.size(2)));
  }

  private static void bySize(
      double size, Map<LengthUnit, Double> score, Map<LengthUnit, List<String>> reasons) {
    score.replaceAll((unit, s) -> s + logLikeness(size * unit.metres(), USUAL_METRES, SPREAD));
    reasons.forEach(
        (unit, list) -> list.add("it would be " + Figures.length(size * unit.metres()) + " large"));
  }

  private static void byNames(
      Scene scene, Map<LengthUnit, Double> score, Map<LengthUnit, List<String>> reasons) {
    int used = 0;
    for (Scene.ShownMesh shown : scene.shownMeshes()) {
      if (used == 3) {
        return;
      }
      for (String word : words(shown.node().name())) {
        Double expected = NAMED.get(word);
        if (expected == null) {
          continue;
        }
        var box = shown.mesh().points().bounds(shown.world());
        double side = Math.max(box.size(0), Math.max(box.size(1), box.size(2)));
        if (side <= 0) {
          continue;
        }
        used++;
        score.replaceAll(
            (unit, s) -> s + logLikeness(side * unit.metres(), expected, NAMED_SPREAD) / 2);
        reasons.forEach(
            (unit, list) ->
                list.add(
                    "“"
                        + shown.node().name()
                        + "” would be "
                        + Figures.length(side * unit.metres())
                        + ", usual is about "
                        + Figures.length(expected)));
        break;
      }
    }
  }

  private static List<String> words(String name) {
    String spaced = name.replaceAll("([a-z])([A-Z])", "$1 $2").toLowerCase(Locale.ROOT);
    return List.of(spaced.split("[^a-z]+"));
  }

  private static void byComments(
      Scene scene, Map<LengthUnit, Double> score, Map<LengthUnit, List<String>> reasons) {
    Object comments = scene.properties().get("comments");
    if (comments == null) {
      return;
    }
    Matcher matcher = COMMENT.matcher(comments.toString());
    if (matcher.find()) {
      String word = matcher.group(1).toLowerCase(Locale.ROOT);
      LengthUnit said =
          word.startsWith("mil") || word.equals("mm")
              ? LengthUnit.MILLIMETRE
              : word.startsWith("c")
                  ? LengthUnit.CENTIMETRE
                  : word.startsWith("in")
                      ? LengthUnit.INCH
                      : word.startsWith("f") ? LengthUnit.FOOT : LengthUnit.METRE;
      score.merge(said, COMMENT_WEIGHT, Double::sum);
      reasons.get(said).add("a comment in the file says “" + matcher.group().strip() + "”");
    }
  }

  /** Logarithm of a bell curve over the ratio of two lengths. */
  private static double logLikeness(double metres, double usual, double spread) {
    double z = Math.log(metres / usual) / Math.log(spread);
    return -z * z / 2;
  }
}
