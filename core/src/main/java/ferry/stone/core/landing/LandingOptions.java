package ferry.stone.core.landing;

import com.fasterxml.jackson.annotation.JsonIgnore;
import ferry.stone.core.field.Values;
import ferry.stone.core.format.Format;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.math.Frame;
import ferry.stone.core.shore.Budgets;
import ferry.stone.core.shore.Shore;
import ferry.stone.core.shore.Tolerances;
import java.util.HashMap;
import java.util.Map;

/**
 * How a far side is landed.
 *
 * @param format key of a format that is written
 * @param options what that format asks, by the names of its fields; the standard of each that is
 *     left out
 * @param transforms where the change of frame and the placement go; into the data where the format
 *     holds no places of parts
 * @param doubleSided show both sides of every material
 * @param fileName name of the file without ending, also for the files beside it; the crossing's
 *     name when left out
 * @param parts one file for each part; one file of everything when left out
 * @param skinMove how far a vertex may move when joints are left out, in millimetres on something
 *     of a person's size, 1.75 m; more is a loss. 0.5 when left out
 * @param contents what of the far side lands; all when left out
 * @param tolerances what the shore lets differ; nothing is judged when left out
 */
public record LandingOptions(
    String format,
    Map<String, Object> options,
    Transforms transforms,
    boolean doubleSided,
    String fileName,
    PartFiles parts,
    Double skinMove,
    LandedContents contents,
    Tolerances tolerances) {

  /** Where the change of frame goes. */
  public enum Transforms {
    /** All numbers change, nodes stay clean. */
    DATA,
    /** One root node carries it, numbers stay. */
    ROOT
  }

  public LandingOptions {
    SceneWriter writer = Formats.writer(format == null ? "" : format);
    Values values = Values.of(writer.fields(), options == null ? Map.of() : options);
    writer.check(values);
    options = values.toMap();
    transforms = transforms == null || !writer.holdsPlaces() ? Transforms.DATA : transforms;
    parts = parts == null ? PartFiles.ONE : parts;
    contents = contents == null ? LandedContents.ALL : contents;
    tolerances = tolerances == null ? Tolerances.NONE : tolerances;
    skinMove = skinMove == null ? Double.valueOf(Budgets.USUAL_SKIN_MOVE) : skinMove;
    if (!(skinMove >= 0)) {
      throw new IllegalArgumentException("skinMove must be 0 or more millimetres, not " + skinMove);
    }
  }

  /** The standard landing in a format. */
  public static LandingOptions of(String format) {
    return new LandingOptions(format, Map.of(), null, false, null, null, null, null, null);
  }

  /** The landing in a format that a shore asks for. */
  public static LandingOptions on(Shore shore, String format) {
    return new LandingOptions(
        format,
        Formats.writer(format).wanted(shore),
        shore.wishes().onRoot() ? Transforms.ROOT : Transforms.DATA,
        false,
        null,
        null,
        shore.budgets().skinMove(),
        null,
        shore.tolerances());
  }

  /** The same with another value of an option of the format. */
  public LandingOptions with(String option, Object value) {
    Map<String, Object> changed = new HashMap<>(options);
    changed.put(option, value);
    return new LandingOptions(
        format, changed, transforms, doubleSided, fileName, parts, skinMove, contents, tolerances);
  }

  public LandingOptions withTransforms(Transforms newTransforms) {
    return new LandingOptions(
        format,
        options,
        newTransforms,
        doubleSided,
        fileName,
        parts,
        skinMove,
        contents,
        tolerances);
  }

  public LandingOptions withDoubleSided(boolean newDoubleSided) {
    return new LandingOptions(
        format,
        options,
        transforms,
        newDoubleSided,
        fileName,
        parts,
        skinMove,
        contents,
        tolerances);
  }

  public LandingOptions withParts(PartFiles newParts) {
    return new LandingOptions(
        format,
        options,
        transforms,
        doubleSided,
        fileName,
        newParts,
        skinMove,
        contents,
        tolerances);
  }

  /** With what a shore lets pass, and nothing else of it. */
  public LandingOptions judgedBy(Shore shore) {
    return withJudgement(shore.budgets().skinMove(), shore.tolerances());
  }

  public LandingOptions withSkinMove(double newSkinMove) {
    return withJudgement(newSkinMove, tolerances);
  }

  private LandingOptions withJudgement(Double newSkinMove, Tolerances newTolerances) {
    return new LandingOptions(
        format,
        options,
        transforms,
        doubleSided,
        fileName,
        parts,
        newSkinMove,
        contents,
        newTolerances);
  }

  public LandingOptions withContents(LandedContents newContents) {
    return new LandingOptions(
        format,
        options,
        transforms,
        doubleSided,
        fileName,
        parts,
        skinMove,
        newContents,
        tolerances);
  }

  public LandingOptions withFileName(String newFileName) {
    return new LandingOptions(
        format,
        options,
        transforms,
        doubleSided,
        newFileName,
        parts,
        skinMove,
        contents,
        tolerances);
  }

  /** Name of the written files without ending. */
  public String stem(String crossing) {
    return Landing.stem(fileName == null || fileName.isBlank() ? crossing : fileName);
  }

  Format target() {
    return Formats.find(format).orElseThrow();
  }

  SceneWriter writer() {
    return Formats.writer(format);
  }

  Values values() {
    return Values.of(writer().fields(), options);
  }

  /** What the numbers of the file mean. */
  @JsonIgnore
  public Frame frame() {
    return writer().frame(values());
  }

  /** Whether there are files beside the main one. */
  @JsonIgnore
  public boolean isSeveralFiles() {
    return writer().isSeveralFiles(values());
  }
}
