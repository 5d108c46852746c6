package ferry.stone.core.format.fbx;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.Capability;
import ferry.stone.core.format.Capability.Fate;
import ferry.stone.core.format.CapabilityTable;
import ferry.stone.core.scene.Channel;
import ferry.stone.core.scene.Clip;
import ferry.stone.core.scene.Material;
import ferry.stone.core.scene.Scene;
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
          .set(Capability.LINES, Fate.LOST, Fate.LOST, "Lines inside meshes are not written here.")
          .set(Capability.POINTS, Fate.LOST, Fate.LOST, "Points inside meshes are not written.")
          .set(
              Capability.NOT_NUMBERS,
              Fate.KEPT,
              Fate.CHANGED,
              "Written as they are; the surface there cannot be compared.")
          .set(Capability.FACE_SETS, Fate.NONE, Fate.LOST, "The format has no sets of faces.")
          .set(
              Capability.CUSTOM_LAYERS, Fate.LOST, Fate.LOST, "Custom layers are not written here.")
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
          .set(
              Capability.OTHER_MOTION,
              Fate.KEPT,
              Fate.LOST,
              "Motion of values that the format does not know is left out.")
          .set(
              Capability.EMPTY_CLIPS,
              Fate.LOST,
              Fate.LOST,
              "A take without keys is not read as a clip.")
          .set(
              Capability.MATERIAL_CHANNELS,
              Fate.KEPT,
              Fate.LOST,
              "A channel without a property of its own goes, and so does a colour that tints a texture: a"
                  + " texture takes its place.")
          .set(Capability.VARIANTS, Fate.NONE, Fate.LOST, "Each part lands with its own materials.")
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

  /** Factors of a material that have no property in the file. */
  public static List<Channel> lostChannels(Material material) {
    List<Channel> lost = new ArrayList<>();
    material
        .channels()
        .forEach(
            (channel, value) -> {
              double[] own = value.factor();
              boolean said = own != null && Double.isFinite(own[0]);
              // A texture takes the place of a classic value, which then tints nothing.
              boolean hidden = value.texture() != null && !value.isOne();
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
    return node && (track.isTransform() || track.isMorph())
        || track.property().equals(Clip.VISIBLE)
        || LENSES.contains(track.property())
        || node && track.property().startsWith(Clip.CUSTOM)
        || track.property().startsWith(Clip.MATERIAL)
            && scene.material(track.targetId()).isPresent();
  }
}
