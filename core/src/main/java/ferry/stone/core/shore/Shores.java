package ferry.stone.core.shore;

import ferry.stone.core.math.Frame;
import ferry.stone.core.math.Handedness;
import ferry.stone.core.math.SignedAxis;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** The shores that come with the application, named by their conventions. */
public final class Shores {
  private static final String BAKED =
      "Off: numbers stay clean in the data. On a root, tools that ignore roots read the old size.";
  private static final String TRIANGLES =
      "Off: quads and larger faces are kept, since they cannot be made from triangles again.";
  private static final String FOUR =
      "Four joints a vertex is what most real-time viewers evaluate; the others are dropped there"
          + " without a word.";

  private static final List<Shore> ALL =
      List.of(
          shore(
              "y-up-metre",
              "Y up · metre · right-handed",
              "The frame that glTF prescribes; real-time viewers and the web.",
              Frame.Y_UP_METRE,
              List.of("glb", "gltf", "fbx"),
              new Budgets(0, 0, 0, 0, 4, 0, 4096, 0),
              new Wishes(true, true, false, false, false),
              NameRules.ANY,
              Map.of("influences", FOUR, "onRoot", BAKED)),
          shore(
              "y-up-metre-web-room",
              "Y up · metre · web room, 50 MB",
              "Rooms on the web that refuse large uploads.",
              Frame.Y_UP_METRE,
              List.of("glb"),
              new Budgets(50_000_000, 500_000, 0, 128, 4, 64, 2048, 0),
              new Wishes(true, true, false, true, false),
              NameRules.ANY,
              Map.of(
                  "fileBytes",
                  "50 MB is a usual limit of uploads to web rooms (common practice, no source).",
                  "influences",
                  FOUR)),
          shore(
              "y-up-metre-handheld",
              "Y up · metre · hand-held, 100 000 triangles",
              "Phones and glasses that draw on a small budget.",
              Frame.Y_UP_METRE,
              List.of("glb"),
              new Budgets(15_000_000, 100_000, 0, 75, 4, 16, 2048, 4),
              new Wishes(true, true, false, true, true),
              new NameRules(NameRules.PLAIN + " .-", 63, false),
              Map.of("triangles", "Common practice, no source.", "influences", FOUR)),
          shore(
              "y-up-centimetre",
              "Y up · centimetre · right-handed",
              "Character and animation tools that count in centimetres.",
              frame(0.01, SignedAxis.PLUS_Y, SignedAxis.PLUS_Z, Handedness.RIGHT),
              List.of("fbx"),
              Budgets.NONE,
              Wishes.USUAL,
              new NameRules(NameRules.PLAIN, 0, false),
              Map.of(
                  "frame",
                  "Most authoring tools write centimetres; metres would arrive a hundred times too"
                      + " small (common practice, no source).",
                  "triangulate",
                  TRIANGLES)),
          shore(
              "z-up-centimetre",
              "Z up · centimetre · right-handed",
              "Animation tools with Z up that count in centimetres.",
              frame(0.01, SignedAxis.PLUS_Z, SignedAxis.MINUS_Y, Handedness.RIGHT),
              List.of("fbx"),
              Budgets.NONE,
              Wishes.USUAL,
              new NameRules(NameRules.PLAIN, 0, false),
              Map.of("triangulate", TRIANGLES)),
          shore(
              "z-up-centimetre-left",
              "Z up · centimetre · left-handed",
              "Real-time engines with Z up and left-handed axes.",
              frame(0.01, SignedAxis.PLUS_Z, SignedAxis.PLUS_X, Handedness.LEFT),
              List.of("fbx"),
              new Budgets(0, 0, 0, 256, 8, 0, 8192, 0),
              new Wishes(true, false, false, true, true),
              new NameRules(NameRules.PLAIN, 0, true),
              Map.of(
                  "frame",
                  "A left-handed shore mirrors the data once, on the way; a mirror left in a scale"
                      + " turns faces inside out.",
                  "unique",
                  "Such engines rename or drop the second of two parts with one name.")),
          shore(
              "y-up-metre-left",
              "Y up · metre · left-handed",
              "Real-time engines with Y up and left-handed axes.",
              frame(1, SignedAxis.PLUS_Y, SignedAxis.PLUS_Z, Handedness.LEFT),
              List.of("fbx"),
              new Budgets(0, 0, 0, 0, 4, 0, 8192, 0),
              new Wishes(true, false, false, false, true),
              NameRules.ANY,
              Map.of("influences", FOUR, "onRoot", BAKED)),
          shore(
              "z-up-metre",
              "Z up · metre · right-handed",
              "Modelling and simulation tools with Z up that count in metres.",
              frame(1, SignedAxis.PLUS_Z, SignedAxis.MINUS_Y, Handedness.RIGHT),
              List.of("fbx"),
              Budgets.NONE,
              Wishes.USUAL,
              new NameRules("", 63, true),
              Map.of(
                  "frame",
                  "Turning Z up into Y up is −90° about X; left on the root it stays there for ever"
                      + " (common practice, no source).",
                  "triangulate",
                  TRIANGLES)),
          shore(
                  "z-up-millimetre",
                  "Z up · millimetre · right-handed",
                  "Tools that make things for real, in millimetres.",
                  frame(0.001, SignedAxis.PLUS_Z, SignedAxis.MINUS_Y, Handedness.RIGHT),
                  List.of("fbx"),
                  Budgets.NONE,
                  Wishes.USUAL,
                  new NameRules(NameRules.PLAIN + "-", 0, false),
                  Map.of(
                      "frame",
                      "Millimetres read as metres come out a thousand times too large.",
                      "apart",
                      "What is made from it is made to a few hundredths of a millimetre."))
              .withTolerances(new Tolerances(0.01, null, null, null, null)));

  private Shores() {}

  private static Frame frame(double metres, SignedAxis up, SignedAxis front, Handedness hand) {
    return new Frame(metres, up, front, hand);
  }

  private static Shore shore(
      String id,
      String name,
      String note,
      Frame frame,
      List<String> formats,
      Budgets budgets,
      Wishes wishes,
      NameRules names,
      Map<String, String> reasons) {
    return new Shore(
        id, name, note, frame, formats, budgets, wishes, names, Tolerances.NONE, reasons);
  }

  public static List<Shore> builtIn() {
    return ALL;
  }

  public static Optional<Shore> builtIn(String id) {
    return ALL.stream().filter(s -> s.id().equals(id)).findFirst();
  }

  /** Where landings go when nothing was chosen. */
  public static Shore usual() {
    return ALL.get(0);
  }

  /**
   * The built-in shore whose frame is nearest to what a scene's numbers are: same axes and unit,
   * else same axes, else same up axis.
   */
  public static Shore nearest(Frame frame) {
    Shore best = usual();
    int most = -1;
    for (Shore shore : ALL) {
      boolean unit =
          Math.abs(shore.frame().metresPerUnit() - frame.metresPerUnit())
              < 1e-6 * frame.metresPerUnit();
      int score =
          (shore.frame().up() == frame.up() ? 4 : 0)
              + (unit ? 3 : 0)
              + (shore.frame().handedness() == frame.handedness() ? 2 : 0)
              + (shore.frame().front() == frame.front() ? 1 : 0);
      if (score > most) {
        most = score;
        best = shore;
      }
    }
    return best;
  }
}
