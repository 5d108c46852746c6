package ferry.stone.core.routine;

import ferry.stone.core.landing.LandedContents;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.landing.PartFiles;
import ferry.stone.core.shore.Shore;
import java.util.Map;

/**
 * A landing of a routine. What is left out is as the shore asks.
 *
 * @param format key of a format that is written
 * @param options what that format asks, by the names of its fields
 * @param transforms where unit and axes go
 * @param doubleSided show both sides of every material
 * @param parts one file for each part or clip
 * @param contents what of the far side lands; all when left out
 */
public record RoutineLanding(
    String format,
    Map<String, Object> options,
    LandingOptions.Transforms transforms,
    boolean doubleSided,
    PartFiles parts,
    LandedContents contents) {
  public RoutineLanding {
    options = options == null ? Map.of() : Map.copyOf(options);
  }

  /** A landing as it was chosen on a crossing. */
  public static RoutineLanding of(LandingOptions chosen) {
    return new RoutineLanding(
        chosen.format(),
        chosen.options(),
        chosen.transforms(),
        chosen.doubleSided(),
        chosen.parts().isSeveral() ? chosen.parts() : null,
        chosen.contents().equals(LandedContents.ALL) ? null : chosen.contents());
  }

  /** As the landing takes it. */
  public LandingOptions on(Shore shore) {
    LandingOptions landing = LandingOptions.on(shore, format);
    for (var option : options.entrySet()) {
      landing = landing.with(option.getKey(), option.getValue());
    }
    landing = transforms == null ? landing : landing.withTransforms(transforms);
    landing = parts == null ? landing : landing.withParts(parts);
    landing = contents == null ? landing : landing.withContents(contents);
    return landing.withDoubleSided(doubleSided);
  }
}
