package ferry.stone.core.format.gltf;

import ferry.stone.core.format.gltf.raw.GltfPointers;
import ferry.stone.core.format.gltf.write.UvlessTextures;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.format.losses.CapabilityTable;
import ferry.stone.core.motion.MorphTracks;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;

/** What glTF 2.0 carries, as read and written here. */
public final class GltfCapabilities {
  public static final CapabilityTable TABLE =
      CapabilityTable.named("gltf", "glTF, GLB", "2.0")
          .set(
              Capability.POLYGONS,
              Fate.NONE,
              Fate.CHANGED,
              "Faces are cut into triangles: the format holds nothing else.")
          .set(
              Capability.EMPTY_MESHES,
              Fate.NONE,
              Fate.LOST,
              "A mesh without faces, lines and points has nothing to write.")
          .set(
              Capability.UNUSED_VERTICES,
              Fate.KEPT,
              Fate.LOST,
              "Only vertices that faces, lines or points use are written; the box may be smaller.")
          .set(
              Capability.NOT_NUMBERS,
              Fate.KEPT,
              Fate.LOST,
              "Triangles at such corners cannot be written.")
          .set(
              Capability.SMOOTHING,
              Fate.NONE,
              Fate.LOST,
              "The shading is written as normals; the groups themselves go.")
          .set(
              Capability.SMOOTHING_BESIDE,
              Fate.NONE,
              Fate.CHANGED,
              "The normals say the same; the groups themselves go.")
          .set(
              Capability.SHARP_EDGES,
              Fate.NONE,
              Fate.LOST,
              "The shading is written as normals; the edges themselves go.")
          .set(
              Capability.SHARP_EDGES_BESIDE,
              Fate.NONE,
              Fate.CHANGED,
              "The normals say the same; the edges themselves go.")
          .set(Capability.SUBDIVISION, Fate.NONE, Fate.LOST, "The mesh lands as its cage.")
          .set(Capability.FACE_SETS, Fate.NONE, Fate.LOST, "The format has no sets of faces.")
          .set(
              Capability.CUSTOM_LAYERS,
              Fate.KEPT,
              Fate.KEPT,
              "Names begin with an underscore there, and numbers have 8, 16 or 32 bits.")
          .set(Capability.TEXT_LAYERS, Fate.NONE, Fate.LOST, "The format has numbers only.")
          .set(
              Capability.LAYER_TYPES,
              Fate.NONE,
              Fate.LOST,
              "The format holds up to four numbers or a matrix, and whole ones up to 16,777,216.")
          .set(Capability.POINT_CACHES, Fate.NONE, Fate.LOST, "The format has no point caches.")
          .atRest()
          .set(
              Capability.ROOT_TRANSFORM,
              Fate.KEPT,
              Fate.CHANGED,
              "One root part is added that carries unit, axes and place.")
          .set(
              Capability.PIVOTS,
              Fate.NONE,
              Fate.CHANGED,
              "Parts get plain transforms; their motion is sampled within a tolerance.")
          .set(
              Capability.INHERITED_SCALE,
              Fate.NONE,
              Fate.CHANGED,
              "Parts stand where the rule puts them; the rule itself goes.")
          .set(
              Capability.HELPERS,
              Fate.KEPT,
              Fate.CHANGED,
              "What such a part shows stands in a child of its own; nothing moves by it.")
          .set(
              Capability.SHEAR,
              Fate.KEPT,
              Fate.CHANGED,
              "What no translation, rotation and scale says goes into the mesh or into a child.")
          .set(
              Capability.DETAIL_LEVELS,
              Fate.KEPT,
              Fate.CHANGED,
              "Coarser levels stand beside the hierarchy: readers without MSFT_lod show the finest.")
          .set(Capability.NODE_SETS, Fate.NONE, Fate.LOST, "The format has none.")
          .set(
              Capability.LISTED_COPIES,
              Fate.KEPT,
              Fate.CHANGED,
              "One node lists their places again (EXT_mesh_gpu_instancing): programs that know it"
                  + " show them all, as one part.")
          .set(
              Capability.BRANCH_COPIES,
              Fate.NONE,
              Fate.CHANGED,
              "Each copy is written as parts of its own, which show the same meshes.")
          .set(
              Capability.DETAIL_DISTANCES,
              Fate.NONE,
              Fate.CHANGED,
              "Levels are kept; the distances go, since the format counts parts of the picture.")
          .set(
              Capability.SKINNED_BELOW,
              Fate.KEPT,
              Fate.CHANGED,
              "Skinned meshes go to the top of the hierarchy; nothing moves by it.")
          .set(
              Capability.JOINTS_APART, Fate.KEPT, Fate.CHANGED, "A root above the joints is added.")
          .set(
              Capability.INFLUENCES,
              Fate.KEPT,
              Fate.CHANGED,
              "The strongest joints of a vertex are kept and scaled to 1.")
          .set(
              Capability.VERTICES_WITHOUT_JOINT,
              Fate.KEPT,
              Fate.CHANGED,
              "Such vertices follow the skin's first joint.")
          .set(
              Capability.IN_BETWEENS,
              Fate.NONE,
              Fate.CHANGED,
              "Each shape becomes a target of its own, moved so that the sum is the same.")
          .set(Capability.EMPTY_CLIPS, Fate.KEPT, Fate.LOST, "A clip needs motion.")
          .set(
              Capability.OTHER_MOTION,
              Fate.KEPT,
              Fate.LOST,
              "Motion of values that the format does not know is left out.")
          .set(
              Capability.TIME_BEFORE_ZERO,
              Fate.NONE,
              Fate.CHANGED,
              "The clip is moved to begin at 0.")
          .set(
              Capability.NURBS_CURVES,
              Fate.NONE,
              Fate.CHANGED,
              "Written as straight lines, 8 for each piece of a curve.")
          .set(
              Capability.CURVES,
              Fate.NONE,
              Fate.CHANGED,
              "Written as straight lines, 8 for each piece of a curve.")
          .set(
              Capability.SHOWN_PARTS,
              Fate.NONE,
              Fate.LOST,
              "What is below a hidden part is hidden.")
          .set(Capability.PURPOSES, Fate.NONE, Fate.LOST, "All parts land as parts to be seen.")
          .set(
              Capability.CAMERA_LENSES,
              Fate.NONE,
              Fate.CHANGED,
              "Written as custom values, which other programs do not take for a lens.")
          .set(
              Capability.OPEN_CAMERAS,
              Fate.KEPT,
              Fate.KEPT,
              "A parallel view must end somewhere, and a perspective one begin above 0.")
          .set(Capability.AREA_LIGHTS, Fate.NONE, Fate.LOST, "The format has none.")
          .set(Capability.DOME_LIGHTS, Fate.NONE, Fate.LOST, "The format has none.")
          .set(
              Capability.MATERIAL_MODEL,
              Fate.KEPT,
              Fate.CHANGED,
              "Translated to metallic-roughness by published formulas.")
          .set(
              Capability.MATERIAL_CHANNELS,
              Fate.KEPT,
              Fate.LOST,
              "Channels that metallic-roughness has no place for go.")
          .set(
              Capability.MISSING_TEXTURES,
              Fate.LOST,
              Fate.LOST,
              "An image that is not in the cargo cannot land.")
          .set(Capability.BUMP_MAPS, Fate.NONE, Fate.CHANGED, "Turned into normal maps.")
          .set(
              Capability.SEPARATE_CHANNELS,
              Fate.NONE,
              Fate.CHANGED,
              "Packed into one image, pixel by pixel the same.")
          .set(Capability.IMAGE_FORMATS, Fate.LOST, Fate.CHANGED, "Written as PNG.")
          .set(
              Capability.OPACITY_PLACEMENT,
              Fate.NONE,
              Fate.LOST,
              "One image would hold both, so the opacity map goes.")
          .set(
              Capability.TANGENTS,
              Fate.NONE,
              Fate.CHANGED,
              "Computed where a normal map needs them and the mesh has none.")
          .set(
              Capability.NO_UVS,
              Fate.KEPT,
              Fate.LOST,
              "Such textures are left out there: no program can place them.")
          .wholeScenes()
          .kept(
              Capability.LINES,
              Capability.LINES_BESIDE_FACES,
              Capability.POINTS,
              Capability.OWN_VALUES,
              Capability.PACKED_CHANNELS,
              Capability.TINTED_TEXTURES,
              Capability.BARE_FACES,
              Capability.VARIANTS,
              Capability.PACKED_IMAGES)
          .neverWritten()
          .set(Capability.PACKING, Fate.KEPT, Fate.CHANGED, "As chosen at the landing.")
          .build();

  private GltfCapabilities() {}

  /** Name of the material of which one without textures was made. */
  public static String original(String name) {
    String end = UvlessTextures.COPY;
    return name.endsWith(end) ? name.substring(0, name.length() - end.length()) : name;
  }

  /** Whether a track has a place in the format. */
  public static boolean carries(Scene scene, Clip.Track track) {
    boolean node = scene.nodes().stream().anyMatch(n -> n.id() == track.targetId());
    if (node && (track.isTransform() || track.isMorph() && MorphTracks.hasTarget(scene, track))) {
      return true;
    }
    GltfPointers.Kind kind =
        node
            ? GltfPointers.Kind.NODE
            : scene.camera(track.targetId()).isPresent()
                ? GltfPointers.Kind.CAMERA
                : scene.light(track.targetId()).isPresent()
                    ? GltfPointers.Kind.LIGHT
                    : scene.material(track.targetId()).isPresent()
                        ? GltfPointers.Kind.MATERIAL
                        : null;
    return kind != null && GltfPointers.write(kind, 0, track.property()).isPresent();
  }
}
