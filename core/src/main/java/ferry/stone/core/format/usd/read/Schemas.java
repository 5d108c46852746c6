package ferry.stone.core.format.usd.read;

import java.util.Set;

/** Properties that the scene has places of their own for: what is not here is a custom value. */
final class Schemas {
  private static final Set<String> NAMES =
      Set.of(
          "xformOpOrder",
          "visibility",
          "purpose",
          "extent",
          "extentsHint",
          "points",
          "normals",
          "velocities",
          "accelerations",
          "faceVertexCounts",
          "faceVertexIndices",
          "holeIndices",
          "creaseIndices",
          "creaseLengths",
          "creaseSharpnesses",
          "cornerIndices",
          "cornerSharpnesses",
          "subdivisionScheme",
          "interpolateBoundary",
          "faceVaryingLinearInterpolation",
          "triangleSubdivisionRule",
          "orientation",
          "doubleSided",
          "widths",
          "curveVertexCounts",
          "order",
          "knots",
          "ranges",
          "pointWeights",
          "basis",
          "type",
          "wrap",
          "joints",
          "jointNames",
          "restTransforms",
          "bindTransforms",
          "prototypes");

  private static final String[] PREFIXES = {
    "xformOp:", "primvars:", "material:binding", "collection:", "skel:", "subsetFamily:",
  };

  private Schemas() {}

  static boolean isKnown(String property) {
    for (String prefix : PREFIXES) {
      if (property.startsWith(prefix)) {
        return true;
      }
    }
    return NAMES.contains(property)
        || Solids.MEASURES.contains(property)
        || UsdCameras.ATTRIBUTES.contains(property)
        || Instancer.ATTRIBUTES.contains(property);
  }
}
