package ferry.stone.core.format.fbx;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.fbx.raw.FbxChannels;
import ferry.stone.core.format.fbx.write.BareFaces;
import ferry.stone.core.format.fbx.write.FbxMaterialWriter;
import ferry.stone.core.format.fbx.write.FbxModelWriter;
import ferry.stone.core.format.fbx.write.FbxObjects;
import ferry.stone.core.format.fbx.write.FbxOptions;
import ferry.stone.core.format.fbx.write.FbxTint;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.format.losses.CapabilityTable;
import ferry.stone.core.motion.MorphTracks;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/** What FBX carries, as read and written here. */
public final class FbxCapabilities {
  private static final Set<String> LENSES =
      Set.of(
          Clip.CAMERA_ANGLE,
          Clip.CAMERA_HEIGHT,
          Clip.LIGHT_INTENSITY,
          Clip.LIGHT_RANGE,
          Clip.LIGHT_INNER_ANGLE,
          Clip.LIGHT_OUTER_ANGLE,
          Clip.LIGHT_COLOUR);

  public static final CapabilityTable TABLE =
      CapabilityTable.named("fbx", "FBX", "6 and 7.0–7.7 read; 7.4, 7.5 and text 7.4 written")
          .set(
              Capability.LINES_BESIDE_FACES,
              Fate.NONE,
              Fate.LOST,
              "Its geometry is faces or lines: split the lines off to keep them.")
          .kept(Capability.NURBS_CURVES)
          .set(
              Capability.CURVES,
              Fate.NONE,
              Fate.CHANGED,
              "Written as straight lines, 8 for each piece of a curve.")
          .set(Capability.POINTS, Fate.LOST, Fate.LOST, "Points inside meshes are not written.")
          .set(
              Capability.NOT_NUMBERS,
              Fate.KEPT,
              Fate.CHANGED,
              "Written as they are; the surface there cannot be compared.")
          .set(Capability.FACE_SETS, Fate.NONE, Fate.LOST, "The format has no sets of faces.")
          .set(
              Capability.CUSTOM_LAYERS, Fate.LOST, Fate.LOST, "Custom layers are not written here.")
          .set(Capability.TEXT_LAYERS, Fate.LOST, Fate.LOST, "Custom layers are not written here.")
          .set(Capability.LAYER_TYPES, Fate.LOST, Fate.LOST, "Custom layers are not written here.")
          .set(Capability.POINT_CACHES, Fate.LOST, Fate.LOST, "Point caches are not written.")
          .set(
              Capability.ROOT_TRANSFORM,
              Fate.KEPT,
              Fate.CHANGED,
              "One root part is added that carries unit, axes and place.")
          .set(
              Capability.SHEAR,
              Fate.KEPT,
              Fate.CHANGED,
              "The format has no shear: what is left over goes into the mesh or into a child.")
          .set(
              Capability.HELPERS,
              Fate.KEPT,
              Fate.CHANGED,
              "A camera or light that turns otherwise than its part stands in a child of its own.")
          .set(Capability.PURPOSES, Fate.NONE, Fate.LOST, "All parts land as parts to be seen.")
          .set(
              Capability.OPEN_CAMERAS,
              Fate.KEPT,
              Fate.CHANGED,
              "The format needs numbers: 1,000,000 units for no end, 16:9 for any shape.")
          .set(
              Capability.OTHER_MOTION,
              Fate.KEPT,
              Fate.LOST,
              "Motion of values that the format does not know is left out.")
          .set(
              Capability.OWN_VALUES,
              Fate.KEPT,
              Fate.LOST,
              "They stand under properties of our own: they come back here, nowhere else.")
          .set(
              Capability.PACKED_CHANNELS,
              Fate.KEPT,
              Fate.CHANGED,
              "Each part of such an image becomes a grey image of its own.")
          .set(
              Capability.PACKED_IMAGES,
              Fate.NONE,
              Fate.LOST,
              "The format has no place for a second form of an image.")
          .set(
              Capability.BARE_FACES,
              Fate.KEPT,
              Fate.CHANGED,
              "They get a material of their own: readers would give them the first.")
          .atRest()
          .set(
              Capability.LISTED_COPIES,
              Fate.NONE,
              Fate.CHANGED,
              "Each copy is written as a part of its own, which shows the same mesh.")
          .set(
              Capability.BRANCH_COPIES,
              Fate.NONE,
              Fate.CHANGED,
              "Each copy is written as parts of its own, which show the same meshes.")
          .wholeScenes()
          .kept(
              Capability.POLYGONS,
              Capability.EMPTY_MESHES,
              Capability.UNUSED_VERTICES,
              Capability.SMOOTHING,
              Capability.SMOOTHING_BESIDE,
              Capability.SHARP_EDGES,
              Capability.SHARP_EDGES_BESIDE,
              Capability.TANGENTS,
              Capability.SUBDIVISION,
              Capability.PIVOTS,
              Capability.INHERITED_SCALE,
              Capability.NODE_SETS,
              Capability.DETAIL_LEVELS,
              Capability.DETAIL_DISTANCES,
              Capability.SKINNED_BELOW,
              Capability.JOINTS_APART,
              Capability.INFLUENCES,
              Capability.VERTICES_WITHOUT_JOINT,
              Capability.IN_BETWEENS,
              Capability.EMPTY_CLIPS,
              Capability.TIME_BEFORE_ZERO,
              Capability.AREA_LIGHTS,
              Capability.LINES,
              Capability.CAMERA_LENSES,
              Capability.SHOWN_PARTS,
              Capability.MATERIAL_MODEL,
              Capability.NO_UVS,
              Capability.BUMP_MAPS,
              Capability.SEPARATE_CHANNELS,
              Capability.IMAGE_FORMATS)
          .neverWritten()
          .set(
              Capability.MATERIAL_CHANNELS,
              Fate.KEPT,
              Fate.LOST,
              "A channel without a property of its own goes.")
          .set(
              Capability.TINTED_TEXTURES,
              Fate.KEPT,
              Fate.CHANGED,
              "A value beside a texture is multiplied into the image, since the texture takes its place.")
          .set(Capability.VARIANTS, Fate.NONE, Fate.LOST, "Each part lands with its own materials.")
          .set(Capability.DOME_LIGHTS, Fate.NONE, Fate.LOST, "The format has none.")
          .set(
              Capability.MISSING_TEXTURES,
              Fate.LOST,
              Fate.LOST,
              "An image that is not in the cargo cannot land.")
          .set(Capability.OPACITY_PLACEMENT, Fate.KEPT, Fate.KEPT, "")
          .set(Capability.PACKING, Fate.NONE, Fate.CHANGED, "As chosen at the landing.")
          .build();

  private FbxCapabilities() {}

  /** What the writer would say of the hierarchy; nothing is written. */
  public static List<Finding> arrangement(Scene scene, FbxOptions options) {
    Findings findings = new Findings();
    Scene plain = FbxModelWriter.unsheared(scene, options, findings);
    new FbxModelWriter(plain, new FbxObjects(), options, findings).write();
    return findings.list();
  }

  /** Parts whose mesh has faces without a material beside others. */
  public static List<String> bareFaces(Scene scene) {
    return BareFaces.meshes(scene);
  }

  /** What of a material only this program reads back, in words. */
  public static List<String> ownValues(Material material) {
    boolean classic = material.shading() == Material.Shading.PHONG;
    List<String> own = new ArrayList<>();
    material
        .channels()
        .forEach(
            (channel, value) -> {
              double[] factor = value.factor();
              boolean said = factor != null && Double.isFinite(factor[0]) && !classic;
              boolean image = value.texture() != null;
              boolean known =
                  FbxMaterialWriter.classicTexture(channel) != null && (classic || !said)
                      || !classic && FbxChannels.isOpen(channel);
              if ((said || image) && !known) {
                own.add(channel.label());
              }
              if (image && channel != Channel.BUMP && value.texture().amount() != 1) {
                own.add("strength of " + channel.label());
              }
              if (image && value.texture().wrap().isMirrored()) {
                own.add("mirrored border of " + channel.label());
              }
              if (image && value.texture().wrap().sharp()) {
                own.add("sharp pixels of " + channel.label());
              }
            });
    if (material.doubleSided()) {
      own.add("both sides shown");
    }
    if (material.alpha() == Material.Alpha.MASK) {
      own.add("cut-out by opacity");
    }
    if (material.shading() == Material.Shading.UNLIT) {
      own.add("unlit");
    }
    return own;
  }

  /** What is multiplied into a channel's image, or {@code null} for nothing. */
  public static double[] tint(Channel channel, Material.Value value) {
    return FbxTint.of(channel, value);
  }

  /** Channels whose factor goes into their image. */
  public static List<Channel> tinted(Scene scene, Material material) {
    List<Channel> tinted = new ArrayList<>();
    material
        .channels()
        .forEach(
            (channel, value) -> {
              if (FbxTint.of(channel, value) != null
                  && scene.texture(value.texture().textureId()).orElseThrow().isFound()) {
                tinted.add(channel);
              }
            });
    return tinted;
  }

  /** Images of which one part counts. */
  public static List<Channel> splitChannels(Material material) {
    List<Channel> split = new ArrayList<>();
    material
        .channels()
        .forEach(
            (channel, value) -> {
              char part = value.texture() == null ? 0 : value.texture().component();
              if (part == 'r' || part == 'g' || part == 'b' || part == 'a') {
                split.add(channel);
              }
            });
    return split;
  }

  /** Factors of a material that have no property in the file. */
  public static List<Channel> lostChannels(Material material) {
    List<Channel> lost = new ArrayList<>();
    material
        .channels()
        .forEach(
            (channel, value) -> {
              double[] own = value.factor();
              boolean said = own != null && Double.isFinite(own[0]);
              // A texture takes the place of a classic value; one over 1 cannot go into an image.
              boolean hidden =
                  value.texture() != null
                      && !value.isOne()
                      && FbxTint.of(channel, value) == null
                      && !FbxTint.isBlackBase(channel, own);
              boolean phong = material.shading() == Material.Shading.PHONG;
              if (said && phong && (hidden || !classic(channel, own))) {
                lost.add(channel);
              }
            });
    return lost;
  }

  private static boolean classic(Channel channel, double[] value) {
    return switch (channel) {
      case BASE_COLOUR, SHININESS, OPACITY -> true;
      case AMBIENT, SPECULAR, EMISSIVE -> value.length >= 3;
      default -> false;
    };
  }

  /** Whether a track has a place in the format. */
  public static boolean carries(Scene scene, Clip.Track track) {
    boolean node = scene.nodes().stream().anyMatch(n -> n.id() == track.targetId());
    return node && (track.isTransform() || track.isMorph() && MorphTracks.hasTarget(scene, track))
        || track.property().equals(Clip.VISIBLE)
        || LENSES.contains(track.property())
        || node && track.property().startsWith(Clip.CUSTOM) && track.components() == 1
        || track.property().startsWith(Clip.MATERIAL)
            && scene.material(track.targetId()).isPresent();
  }
}
