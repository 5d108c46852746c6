package ferry.stone.core.format.usd;

import ferry.stone.core.scene.node.Node;
import java.util.Set;

/** Names of properties that the scene has places of their own for: others are custom values. */
public final class UsdNames {
  /** Marks a prim that is there because the format needs it: it is no part of its own here. */
  public static final String HELPER = "ferryHelper";

  /** The name of a camera or light that is another one than its part's, among custom data. */
  public static final String OWN_NAME = "ferryName";

  /** Original names of looks by their variants, among custom data; empty for what is no look. */
  public static final String LOOKS = "ferryLooks";

  /** Marks a group of detail levels, with where each ends, among custom data. */
  public static final String LEVELS = "ferryLevels";

  /**
   * The schema that a part follows, and those that are applied to it, where they are none of ours.
   */
  public static final String TYPE_NAME = "usdTypeName";

  public static final String APIS = "usdApiSchemas";

  /** Names of values that belong to these schemas. */
  public static final String SCHEMA = "usdSchemaValues";

  /** What such values have beside their types, by their names. */
  public static final String FIELDS = "usdFields";

  /** Those of {@link #FIELDS}: how often a value is there, and how many belong together. */
  public static final Set<String> OF_VALUES = Set.of("interpolation", "elementSize");

  /** Ends the name of the operation that takes a shape out of the numbers of its source. */
  public static final String SOURCE_FRAME = "xformOp:transform:ferrySource";

  private static final Set<String> KEPT_SHAPES =
      Set.of(
          "NurbsPatch",
          "TetMesh",
          "HermiteCurves",
          "Volume",
          "OpenVDBAsset",
          "Field3DAsset",
          "GeomSubset");

  /** Whether a schema is a shape that no place here is for. */
  public static boolean isKeptShape(String schema) {
    return KEPT_SHAPES.contains(schema);
  }

  /** Has no numbers of its own: its fields, which are parts below it, have. */
  private static final String VOLUME = "Volume";

  /** A set of a kind, or of a shape, that has no place here: it names what its shape has. */
  public static final String SUBSET = "GeomSubset";

  /** Whether a part is such a set. */
  public static boolean isSubset(Node node) {
    return node.content() instanceof Node.Content.KeptShape kept && kept.schema().equals(SUBSET);
  }

  /** Whether a kept shape has numbers that a change of frame has to reach. */
  public static boolean hasNumbers(String schema) {
    return !schema.equals(VOLUME) && !schema.equals(SUBSET);
  }

  /** Whether a property of such a shape says where the part stands and how it is seen. */
  public static boolean placesShape(String schema, String property) {
    return schema.equals(VOLUME) && property.equals("extent")
        || property.startsWith("xformOp")
        || property.equals("visibility")
        || property.equals("purpose")
        || property.startsWith("material:binding");
  }

  /** Shading networks of a material that are none of ours, as they were found. */
  public static final String NETWORKS = "usdNetworks";

  /** In a network: the prims below, the type of one, and what follows the name of a connection. */
  public static final String PRIMS = "prims";

  public static final String PRIM_TYPE = "type";
  public static final String CONNECT = ".connect";

  /** Follows the name of a value that names files: where each was found, by what is written. */
  public static final String FILES = ".files";

  /** The same of the values of a part, by their names. */
  public static final String FILES_OF = "usdFiles";

  /** In the path of an image: the number of a tile, 1001 and on. */
  public static final String TILE = "<UDIM>";

  /** What a relationship is among the types of custom values. */
  public static final String RELATIONSHIP = "rel";

  /** Before the type of a value that does not change over time. */
  public static final String UNIFORM = "uniform ";

  private static final Set<String> OUR_APIS =
      Set.of("MaterialBindingAPI", "SkelBindingAPI", "ShapingAPI");

  /** Whether values of an applied schema have places of their own here. */
  public static boolean isOurs(String api) {
    return OUR_APIS.contains(api);
  }

  private static final String USER = "userProperties:";

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

  /** Measures of solids. */
  public static final Set<String> SOLIDS =
      Set.of("size", "radius", "height", "axis", "width", "length", "radiusTop", "radiusBottom");

  private static final Set<String> CAMERAS =
      Set.of(
          "projection",
          "horizontalAperture",
          "verticalAperture",
          "horizontalApertureOffset",
          "verticalApertureOffset",
          "focalLength",
          "clippingRange",
          "fStop",
          "focusDistance");

  private static final Set<String> INSTANCERS =
      Set.of(
          "protoIndices",
          "positions",
          "orientations",
          "orientationsf",
          "scales",
          "angularVelocities",
          "ids",
          "invisibleIds");

  /** The types of custom values whose own type another one stands for here. */
  public static final String TYPES = "usdTypes";

  private static final String[] PREFIXES = {
    "xformOp:", "primvars:", "material:binding", "collection:", "skel:", "subsetFamily:",
  };

  private UsdNames() {}

  public static boolean isSchema(String property) {
    for (String prefix : PREFIXES) {
      if (property.startsWith(prefix)) {
        return true;
      }
    }
    return NAMES.contains(property)
        || SOLIDS.contains(property)
        || CAMERAS.contains(property)
        || INSTANCERS.contains(property);
  }

  /** Parts between colons as names can be; what the format itself has under a name is set apart. */
  public static String attribute(String name) {
    boolean plain = !name.isEmpty() && !isSchema(name);
    StringBuilder out = new StringBuilder();
    for (String part : name.split(":", -1)) {
      out.append(out.length() == 0 ? "" : ":").append(ValidNames.of(part));
    }
    return plain ? out.toString() : USER + out;
  }

  /** Whether an attribute's name may have been made of another one, also with a number behind. */
  public static boolean isMadeOf(String attribute, String name) {
    String made = attribute(name);
    return attribute.equals(made)
        || attribute.startsWith(made + "_")
            && attribute.substring(made.length() + 1).matches("\\d+");
  }
}
