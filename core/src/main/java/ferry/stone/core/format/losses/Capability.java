package ferry.stone.core.format.losses;

/**
 * What a scene may hold and a format may or may not. The tables of the formats, the forecast of a
 * landing and the rows of its proof speak of the same list.
 */
public enum Capability {
  POLYGONS("Faces of more than three corners", Words.GEOMETRY),
  NORMALS("Normals", Words.GEOMETRY),
  UVS("UVs", Words.GEOMETRY),
  COLOURS("Colours of vertices", Words.GEOMETRY),
  FURTHER_SETS("Further sets of UVs and colours", Words.GEOMETRY),
  PARTLY_LAYERED("Normals, UVs or colours that only some parts have", Words.GEOMETRY),
  SHARED_VERTICES("Vertices that faces share", Words.GEOMETRY),
  SEAMS("Corners of one vertex with values of their own", Words.GEOMETRY),
  LINES("Lines without faces", Words.GEOMETRY),
  LINES_BESIDE_FACES("Lines beside faces in one mesh", Words.GEOMETRY),
  CURVES("Other curves with a form of their own", Words.GEOMETRY),
  NURBS_CURVES("NURBS curves alone in their part", Words.GEOMETRY),
  POINTS("Points inside meshes", Words.GEOMETRY),
  EMPTY_MESHES("Meshes without faces", Words.GEOMETRY),
  UNUSED_VERTICES("Vertices that nothing uses", Words.GEOMETRY),
  NOT_NUMBERS("Positions that are no numbers", Words.GEOMETRY),
  SMOOTHING("Smoothing groups without normals", Words.GEOMETRY),
  SMOOTHING_BESIDE("Smoothing groups beside normals", Words.GEOMETRY),
  SHARP_EDGES("Sharp edges without normals", Words.GEOMETRY),
  SHARP_EDGES_BESIDE("Sharp edges beside normals", Words.GEOMETRY),
  TANGENTS("Tangents for normal maps", Words.GEOMETRY),
  OWN_TANGENTS("Tangents that came with the mesh", Words.GEOMETRY),
  SUBDIVISION("Subdivision levels, creases, holes", Words.GEOMETRY),
  FACE_SETS("Named sets of faces", Words.GEOMETRY),
  EDGE_SETS("Named sets of edges", Words.GEOMETRY),
  CUSTOM_LAYERS("Custom layers on vertices, corners and faces", Words.GEOMETRY),
  TEXT_LAYERS("Custom layers of texts", Words.GEOMETRY),
  LAYER_TYPES("Custom layers of large whole numbers, no numbers or odd sizes", Words.GEOMETRY),
  BROKEN_LAYERS("Layers with too few values for their mesh", Words.GEOMETRY),
  KEPT_SHAPES("Shapes of other kinds", Words.GEOMETRY),
  POINT_CACHES("Point caches", "Motion"),
  CHANGING_MESHES("Meshes whose faces change over time", "Motion"),
  SEVERAL_PARTS("More parts than one", Words.HIERARCHY),
  HIERARCHY("Parts below parts, groups, places of parts", Words.HIERARCHY),
  SHARED_MESHES("Parts that show the same mesh", Words.HIERARCHY),
  LISTED_COPIES("Copies of a mesh as a list of places", Words.HIERARCHY),
  BRANCH_COPIES("Copies of whole branches", Words.HIERARCHY),
  HIDDEN_PARTS("Hidden parts", Words.HIERARCHY),
  SHOWN_PARTS("Parts that are seen below hidden ones", Words.HIERARCHY),
  PURPOSES("Stand-ins, guides and parts for the final picture only", Words.HIERARCHY),
  CUSTOM_VALUES("Custom values", Words.HIERARCHY),
  ROOT_TRANSFORM("Unit and axes outside the data", Words.HIERARCHY),
  PIVOTS("Pivots, pre-rotations and rotation orders", Words.HIERARCHY),
  INHERITED_SCALE("Rules by which scale comes down", Words.HIERARCHY),
  HELPERS("Parts that need a child of their own", Words.HIERARCHY),
  SHEAR("Sheared transforms", Words.HIERARCHY),
  NODE_SETS("Layers and selections", Words.HIERARCHY),
  DETAIL_LEVELS("Detail levels", Words.HIERARCHY),
  DETAIL_DISTANCES("Detail levels by distance", Words.HIERARCHY),
  SKINS("Skins", Words.RIG),
  MORPHS("Morph targets", Words.RIG),
  SKINNED_BELOW("Skinned meshes below other parts", Words.RIG),
  JOINTS_APART("Joints of one skin without a common root", Words.RIG),
  INFLUENCES("More joints a vertex than are kept", Words.RIG),
  VERTICES_WITHOUT_JOINT("Vertices of a skin that no joint moves", Words.RIG),
  IN_BETWEENS("Morph shapes between off and fully on", Words.RIG),
  CLIPS("Clips", "Motion"),
  EMPTY_CLIPS("Clips that move nothing", "Motion"),
  OTHER_MOTION("Motion of other values", "Motion"),
  TEXTS_OVER_TIME("Custom texts and lists that change over time", "Motion"),
  TIME_BEFORE_ZERO("Clips that begin before 0", "Motion"),
  CAMERAS("Cameras", "Cameras and lights"),
  CAMERA_LENSES("Film gate, shift and focus of cameras", "Cameras and lights"),
  OPEN_CAMERAS("Cameras that leave their reach or shape open", "Cameras and lights"),
  LIGHTS("Lights", "Cameras and lights"),
  AREA_LIGHTS("Area lights", "Cameras and lights"),
  DOME_LIGHTS("Dome lights", "Cameras and lights"),
  MATERIALS("Materials", "Materials"),
  MATERIAL_MODEL("Materials of another model", "Materials"),
  OWN_VALUES("Material values that other programs do not see", "Materials"),
  PACKED_CHANNELS("Roughness and metal in one image", "Materials"),
  TINTED_TEXTURES("Values that multiply a texture", "Materials"),
  BARE_FACES("Faces without a material beside others with one", "Materials"),
  MATERIAL_CHANNELS("Channels of materials", "Materials"),
  VARIANTS("Looks to choose from", "Materials"),
  MISSING_TEXTURES("Textures whose file is missing", "Materials"),
  NO_UVS("Textures on meshes without UVs", "Materials"),
  BUMP_MAPS("Bump maps", "Materials"),
  SEPARATE_CHANNELS("Roughness and metal in images of their own", "Materials"),
  PACKED_IMAGES("KTX2 beside an image", "Materials"),
  IMAGE_FORMATS("Images other than PNG and JPEG", "Materials"),
  OPACITY_PLACEMENT("Opacity maps placed unlike the colour", "Materials"),
  UNCHOSEN("Variants of a stage that are not chosen", "Reading"),
  NOT_READ("What the source holds and is not read", "Reading"),
  PACKING("What is packed as chosen", "Landing");

  public static final String GEOMETRY = Words.GEOMETRY;
  public static final String PARTS = Words.HIERARCHY;
  public static final String RIG = Words.RIG;

  private final String label;
  private final String group;

  Capability(String label, String group) {
    this.label = label;
    this.group = group;
  }

  public String label() {
    return label;
  }

  /** The heading it stands under. */
  public String group() {
    return group;
  }

  /** Headings; enum constants cannot name what is declared after them. */
  private static final class Words {
    static final String GEOMETRY = "Geometry";
    static final String HIERARCHY = "Hierarchy";
    static final String RIG = "Rig";
  }

  /** What becomes of it. */
  public enum Fate {
    KEPT,
    CHANGED,
    LOST,
    /** Not read at all, or not written at all. */
    NONE
  }

  /**
   * What a format does with it.
   *
   * @param read on the way in
   * @param written on the way out
   * @param how what becomes of it, in one sentence; empty where all is kept
   */
  public record Support(Capability capability, Fate read, Fate written, String how) {}
}
