package ferry.stone.core.format.losses;

/**
 * What a scene may hold and a format may or may not. The tables of the formats, the forecast of a
 * landing and the rows of its proof speak of the same list.
 */
public enum Capability {
  POLYGONS("Faces of more than three corners", "Geometry"),
  NORMALS("Normals", "Geometry"),
  UVS("UVs", "Geometry"),
  COLOURS("Colours of vertices", "Geometry"),
  FURTHER_SETS("Further sets of UVs and colours", "Geometry"),
  PARTLY_LAYERED("Normals, UVs or colours that only some parts have", "Geometry"),
  SHARED_VERTICES("Vertices that faces share", "Geometry"),
  SEAMS("Corners of one vertex with values of their own", "Geometry"),
  LINES("Lines inside meshes", "Geometry"),
  POINTS("Points inside meshes", "Geometry"),
  EMPTY_MESHES("Meshes without faces", "Geometry"),
  UNUSED_VERTICES("Vertices that nothing uses", "Geometry"),
  NOT_NUMBERS("Positions that are no numbers", "Geometry"),
  SMOOTHING("Smoothing groups without normals", "Geometry"),
  SMOOTHING_BESIDE("Smoothing groups beside normals", "Geometry"),
  SHARP_EDGES("Sharp edges without normals", "Geometry"),
  SHARP_EDGES_BESIDE("Sharp edges beside normals", "Geometry"),
  TANGENTS("Tangents for normal maps", "Geometry"),
  OWN_TANGENTS("Tangents that came with the mesh", "Geometry"),
  SUBDIVISION("Subdivision levels, creases, holes", "Geometry"),
  FACE_SETS("Named sets of faces", "Geometry"),
  CUSTOM_LAYERS("Custom layers on vertices, corners and faces", "Geometry"),
  BROKEN_LAYERS("Layers with too few values for their mesh", "Geometry"),
  POINT_CACHES("Point caches", "Motion"),
  SEVERAL_PARTS("More parts than one", "Hierarchy"),
  HIERARCHY("Parts below parts, groups, places of parts", "Hierarchy"),
  SHARED_MESHES("Parts that show the same mesh", "Hierarchy"),
  HIDDEN_PARTS("Hidden parts", "Hierarchy"),
  CUSTOM_VALUES("Custom values", "Hierarchy"),
  ROOT_TRANSFORM("Unit and axes outside the data", "Hierarchy"),
  PIVOTS("Pivots, pre-rotations and rotation orders", "Hierarchy"),
  INHERITED_SCALE("Rules by which scale comes down", "Hierarchy"),
  HELPERS("Parts that need a child of their own", "Hierarchy"),
  SHEAR("Sheared transforms", "Hierarchy"),
  NODE_SETS("Layers and selections", "Hierarchy"),
  DETAIL_LEVELS("Detail levels", "Hierarchy"),
  DETAIL_DISTANCES("Detail levels by distance", "Hierarchy"),
  SKINS("Skins", "Rig"),
  MORPHS("Morph targets", "Rig"),
  SKINNED_BELOW("Skinned meshes below other parts", "Rig"),
  JOINTS_APART("Joints of one skin without a common root", "Rig"),
  INFLUENCES("More joints a vertex than are kept", "Rig"),
  VERTICES_WITHOUT_JOINT("Vertices of a skin that no joint moves", "Rig"),
  IN_BETWEENS("Morph shapes between off and fully on", "Rig"),
  CLIPS("Clips", "Motion"),
  EMPTY_CLIPS("Clips that move nothing", "Motion"),
  OTHER_MOTION("Motion of other values", "Motion"),
  TIME_BEFORE_ZERO("Clips that begin before 0", "Motion"),
  CAMERAS("Cameras", "Cameras and lights"),
  LIGHTS("Lights", "Cameras and lights"),
  AREA_LIGHTS("Area and dome lights", "Cameras and lights"),
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
  NOT_READ("What the source holds and is not read", "Reading"),
  PACKING("What is packed as chosen", "Landing");

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
