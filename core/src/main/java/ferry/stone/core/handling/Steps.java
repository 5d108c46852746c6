package ferry.stone.core.handling;

import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.handling.step.look.ColourSets;
import ferry.stone.core.handling.step.look.ColoursOfImage;
import ferry.stone.core.handling.step.look.CropImages;
import ferry.stone.core.handling.step.look.ImageOfColours;
import ferry.stone.core.handling.step.look.MaskColours;
import ferry.stone.core.handling.step.look.MaterialModel;
import ferry.stone.core.handling.step.look.OneMaterial;
import ferry.stone.core.handling.step.look.PackImage;
import ferry.stone.core.handling.step.look.PutLook;
import ferry.stone.core.handling.step.look.PutTextures;
import ferry.stone.core.handling.step.look.SameMaterials;
import ferry.stone.core.handling.step.look.SmallerImages;
import ferry.stone.core.handling.step.meaning.SourceFront;
import ferry.stone.core.handling.step.meaning.SourceUnit;
import ferry.stone.core.handling.step.meaning.SourceUp;
import ferry.stone.core.handling.step.motion.CacheFrame;
import ferry.stone.core.handling.step.motion.CacheOff;
import ferry.stone.core.handling.step.motion.CacheOn;
import ferry.stone.core.handling.step.motion.CacheOrder;
import ferry.stone.core.handling.step.motion.CacheToMorphs;
import ferry.stone.core.handling.step.motion.CacheToNodes;
import ferry.stone.core.handling.step.motion.TimeHold;
import ferry.stone.core.handling.step.motion.TimeLoop;
import ferry.stone.core.handling.step.motion.TimeRate;
import ferry.stone.core.handling.step.motion.TimeResample;
import ferry.stone.core.handling.step.motion.TimeReverse;
import ferry.stone.core.handling.step.motion.TimeShift;
import ferry.stone.core.handling.step.motion.TimeSpeed;
import ferry.stone.core.handling.step.motion.TimeTrim;
import ferry.stone.core.handling.step.names.Rename;
import ferry.stone.core.handling.step.parts.DetailLevels;
import ferry.stone.core.handling.step.parts.GroupParts;
import ferry.stone.core.handling.step.parts.Instances;
import ferry.stone.core.handling.step.parts.MergeParts;
import ferry.stone.core.handling.step.parts.ParentParts;
import ferry.stone.core.handling.step.parts.Remove;
import ferry.stone.core.handling.step.parts.SplitParts;
import ferry.stone.core.handling.step.place.Centre;
import ferry.stone.core.handling.step.place.Ground;
import ferry.stone.core.handling.step.place.MirrorParts;
import ferry.stone.core.handling.step.place.PartPivot;
import ferry.stone.core.handling.step.place.ResetTransforms;
import ferry.stone.core.handling.step.place.Rotate;
import ferry.stone.core.handling.step.place.Scale;
import ferry.stone.core.handling.step.place.ScaleToSize;
import ferry.stone.core.handling.step.rig.BindStrays;
import ferry.stone.core.handling.step.rig.LimitInfluences;
import ferry.stone.core.handling.step.rig.MorphShift;
import ferry.stone.core.handling.step.rig.MorphsAtRest;
import ferry.stone.core.handling.step.rig.SkinJoints;
import ferry.stone.core.handling.step.surface.CutCrowdedEdges;
import ferry.stone.core.handling.step.surface.FillHoles;
import ferry.stone.core.handling.step.surface.FlipFaces;
import ferry.stone.core.handling.step.surface.GiveMaterial;
import ferry.stone.core.handling.step.surface.LayUvs;
import ferry.stone.core.handling.step.surface.MaterialFlags;
import ferry.stone.core.handling.step.surface.RecomputeNormals;
import ferry.stone.core.handling.step.surface.TriangulateFaces;
import ferry.stone.core.handling.step.surface.UnifyFaces;
import ferry.stone.core.handling.step.surface.WeldVertices;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** All kinds of steps, and the check of stored parameters against them. */
public final class Steps {
  private static final List<StepKind<?>> KINDS =
      List.of(
          new SourceUnit(),
          new SourceUp(),
          new SourceFront(),
          new ScaleToSize(),
          new Scale(),
          new Rotate(),
          new Centre(),
          new Ground(),
          new PartPivot(),
          new ResetTransforms(),
          new SplitParts(),
          new MergeParts(),
          new GroupParts(),
          new ParentParts(),
          new MirrorParts(),
          new Instances(),
          new DetailLevels(),
          new WeldVertices(),
          new TriangulateFaces(),
          new RecomputeNormals(),
          new FlipFaces(),
          new UnifyFaces(),
          new FillHoles(),
          new CutCrowdedEdges(),
          new LayUvs(),
          new GiveMaterial(),
          new MaterialFlags(),
          new PutLook(),
          new PutTextures(),
          new PackImage(),
          new MaterialModel(),
          new OneMaterial(),
          new SameMaterials(),
          new SmallerImages(),
          new CropImages(),
          new ImageOfColours(),
          new ColoursOfImage(),
          new ColourSets(),
          new MaskColours(),
          new MorphShift(),
          new MorphsAtRest(),
          new LimitInfluences(),
          new BindStrays(),
          new SkinJoints(),
          new CacheFrame(),
          new CacheOrder(),
          new CacheOn(),
          new CacheOff(),
          new CacheToNodes(),
          new CacheToMorphs(),
          new TimeTrim(),
          new TimeShift(),
          new TimeRate(),
          new TimeSpeed(),
          new TimeHold(),
          new TimeReverse(),
          new TimeResample(),
          new TimeLoop(),
          new Rename(),
          new Remove());

  private static final ObjectMapper JSON =
      new ObjectMapper()
          .enable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
          .enable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES);

  private Steps() {}

  public static List<StepKind<?>> all() {
    return KINDS;
  }

  public static Optional<StepKind<?>> find(String kind) {
    return KINDS.stream().filter(k -> k.kind().equals(kind)).findFirst();
  }

  /**
   * The parameters of a step, typed; what is not given has its standard value.
   *
   * @throws IllegalArgumentException with a sentence for the user when they do not fit
   */
  public static <P extends Record> P params(StepKind<P> kind, Map<String, Object> values) {
    Map<String, Object> whole = new HashMap<>();
    kind.fields().forEach(f -> whole.put(f.name(), f.standard()));
    whole.putAll(values);
    try {
      return JSON.convertValue(whole, kind.paramType());
    } catch (IllegalArgumentException e) {
      Throwable cause = e;
      // The step's own word, not what lies behind it.
      while (cause.getCause() != null
          && (cause == e || !(cause instanceof IllegalArgumentException))) {
        cause = cause.getCause();
      }
      String why =
          cause instanceof com.fasterxml.jackson.core.JsonProcessingException
              ? "its parameters do not fit"
              : cause.getMessage();
      throw new IllegalArgumentException(kind.label() + ": " + why + ".", e);
    }
  }

  /** Checks a step without running it. */
  public static void validate(Step step) {
    StepKind<?> kind =
        find(step.kind())
            .orElseThrow(
                () -> new IllegalArgumentException("There is no step \"" + step.kind() + "\"."));
    params(kind, step.params());
  }
}
