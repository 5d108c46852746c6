package ferry.stone.core.view;

import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.Frame;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.Wrap;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Purpose;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.MeshSequence;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.joml.Matrix4d;

/**
 * One side of a crossing as its view takes it.
 *
 * @param caption how it is to be read, e.g. {@code as read · unit unknown}
 * @param height of everything, with its unit
 * @param heightNote what the height means
 * @param metresPerUnit length of one unit of this view in metres
 * @param bounds of the view: min x y z, max x y z; empty without meshes
 * @param textures the images that materials use
 * @param changing meshes that are others over time
 * @param looks names of material variants to choose from
 * @param fromNear carries points of the near view to this one: 16 numbers, column by column
 */
public record SideView(
    String caption,
    String height,
    String heightNote,
    boolean heightDoubtful,
    double metresPerUnit,
    double[] bounds,
    double[] fromNear,
    List<NodeView> nodes,
    List<MaterialView> materials,
    List<SkinView> skins,
    List<ClipView> clips,
    List<CameraView> cameras,
    List<LightView> lights,
    List<TextureFact> textures,
    List<String> looks,
    List<ChangingView> changing) {

  /**
   * Joints that move a mesh.
   *
   * @param joints ids of their nodes
   * @param inverseBind 16 numbers for each, column by column
   * @param bind where the mesh's points stood when they were bound, to the view: 16 numbers
   */
  public record SkinView(int id, int[] joints, double[] inverseBind, double[] bind) {}

  /**
   * A mesh that is another one over time.
   *
   * @param key what a page asks for: this, {@code @} and the number of the sample
   * @param nodes ids of the nodes that show it
   * @param seconds when each sample begins
   */
  public record ChangingView(String key, List<Integer> nodes, double[] seconds) {}

  /**
   * An image of the file.
   *
   * @param written the path as the source wrote it
   * @param state {@code found}, {@code embedded} or {@code missing}
   * @param place the file in the cargo, empty for the others
   * @param materials names of the materials that use it
   */
  public record TextureFact(
      int id, String name, String written, String state, String place, List<String> materials) {}

  /**
   * A piece of motion.
   *
   * @param framesPerSecond at which it is played and stepped
   * @param frames both ends counted
   */
  public record ClipView(
      int id,
      String name,
      double startSeconds,
      double endSeconds,
      double framesPerSecond,
      int frames,
      int tracks,
      boolean cache) {}

  /**
   * A camera to look through.
   *
   * @param nodeId node that holds it
   * @param angle vertical angle of view in degrees, 0 for an orthographic camera
   * @param height of view in units of this view, 0 for a perspective camera
   * @param shiftX how far its window is moved to the right on the film, in widths of the film
   * @param shiftY upwards, in heights of the film
   */
  public record CameraView(
      int nodeId, String name, double angle, double height, double shiftX, double shiftY) {}

  /**
   * A light of the file.
   *
   * @param nodeId node that holds it; it shines along its −Z
   * @param kind {@code directional}, {@code point}, {@code spot}, {@code area} or {@code dome}
   * @param colour linear red, green, blue
   * @param intensity candela, or lux for a directional light
   * @param range in units of this view, 0 when it has no end
   * @param innerAngle half angle of full light of a spot, in radians
   * @param outerAngle half angle where a spot ends, in radians
   */
  public record LightView(
      int nodeId,
      String name,
      String kind,
      float[] colour,
      double intensity,
      double range,
      double innerAngle,
      double outerAngle) {}

  /**
   * A part.
   *
   * @param parent id of the parent, −1 for a root
   * @param mesh key of its mesh, empty where it shows none
   * @param matrix to the view: 16 numbers, column by column
   * @param pivot its own axes where they are others than those of what it shows: 16 numbers to the
   *     view; empty where {@code matrix} has them
   * @param skin id of the skin that moves its mesh, −1 for none
   * @param weights rest weights of its mesh's morph targets
   * @param drawn whether it is in the picture: not hidden, and neither a stand-in nor a guide
   * @param level place among the levels of a detail group, 0 the finest; −1 when it is no level
   */
  public record NodeView(
      int id,
      String name,
      String path,
      int parent,
      String kind,
      String mesh,
      double[] matrix,
      double[] pivot,
      int skin,
      double[] weights,
      boolean drawn,
      int level) {}

  /**
   * A material as metallic-roughness.
   *
   * @param colour sRGB, {@code #rrggbb}
   * @param unlit whether light does not count
   * @param textures of each channel that has a found one: {@code base}, {@code roughness} …, and
   *     the names of layers
   * @param layers numbers of the layers above metallic-roughness by their names, such as {@code
   *     clearcoat_roughness}; colours linear
   */
  public record MaterialView(
      int id,
      String name,
      String colour,
      double opacity,
      double metallic,
      double roughness,
      String emissive,
      double emissiveStrength,
      String alpha,
      boolean doubleSided,
      boolean unlit,
      Map<String, TextureView> textures,
      Map<String, double[]> layers,
      List<String> missing) {}

  /**
   * A texture with its place on the surface; V runs down.
   *
   * @param rotation radians, as KHR_texture_transform turns
   * @param uvSet the set of the mesh by which it lies, counted from 0
   * @param key under which its image is fetched; another image has another key
   * @param part r, g, b or a where one part of the image is read as all of it; empty otherwise
   */
  public record TextureView(
      int id,
      double offsetU,
      double offsetV,
      double scaleU,
      double scaleV,
      Wrap.Edge wrapU,
      Wrap.Edge wrapV,
      boolean sharp,
      double rotation,
      int uvSet,
      String key,
      String part) {}

  /** Names a mesh, so that a page can ask for it and knows it when it sees it again. */
  @FunctionalInterface
  public interface MeshKeys {
    String key(PolygonMesh mesh, Scene scene);

    /** Names a mesh that is another one over time; empty where it is shown as it is at first. */
    default String key(MeshSequence sequence, Scene scene) {
      return "";
    }

    /** Names an image; the same value keeps its name. */
    default String image(Texture texture) {
      return Integer.toString(texture.id());
    }
  }

  /** The near side: numbers as they are, one unit shown as one metre. */
  public static SideView near(Scene scene, MeshKeys keys) {
    boolean unitKnown = scene.unitSource() != FrameSource.ASSUMED;
    Bounds bounds = scene.bounds();
    boolean upKnown = scene.axesSource() != FrameSource.ASSUMED;
    double tall = bounds.isEmpty() ? 0 : bounds.size(upKnown ? scene.frame().up().index() : 1);
    String caption =
        "as read · " + (unitKnown ? scene.frame().label() : "unit unknown, axes unknown");
    return of(
        keys,
        scene,
        new Matrix4d(),
        caption,
        bounds.isEmpty()
            ? "—"
            : unitKnown
                ? Figures.length(tall * scene.frame().metresPerUnit())
                : Figures.length(tall),
        unitKnown ? "tall" : "tall if metres",
        unitKnown ? scene.frame().metresPerUnit() : 1);
  }

  /** The far side, as it will land. */
  public static SideView far(Scene far, Frame shore, MeshKeys keys) {
    Matrix4d toShore = farToView(far);
    return of(keys, far, toShore, "as it will land · " + shore.label(), heightText(far), "tall", 1);
  }

  /** Height on the far shore. */
  public static String heightText(Scene scene) {
    Bounds bounds = scene.bounds();
    return bounds.isEmpty()
        ? "—"
        : Figures.length(bounds.size(scene.frame().up().index()) * scene.frame().metresPerUnit());
  }

  private static SideView of(
      MeshKeys keys,
      Scene scene,
      Matrix4d toView,
      String caption,
      String height,
      String heightNote,
      double metresPerUnit) {
    Matrix4d[] world = scene.contentMatrices();
    Matrix4d[] own = scene.worldMatrices();
    Pose rest = Pose.rest(scene);
    List<String> paths = scene.paths();
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    Bounds bounds = Bounds.EMPTY;
    List<NodeView> nodes = new ArrayList<>();
    int[] levels = levels(scene);
    boolean[] seen = scene.seen();
    Purpose[] purposes = scene.purposes();
    for (int i = 0; i < world.length; i++) {
      Node node = scene.nodes().get(i);
      Matrix4d matrix = new Matrix4d(toView).mul(world[i]);
      String key = "";
      int skin = -1;
      if (node.content() instanceof Node.Content.MeshContent content) {
        PolygonMesh mesh = meshes.get(content.meshId());
        key = keys.key(mesh, scene);
        bounds = bounds.union(mesh.points().bounds(matrix));
        skin = content.skinId();
      }
      nodes.add(
          new NodeView(
              node.id(),
              node.name(),
              paths.get(i),
              node.parent() < 0 ? -1 : scene.nodes().get(node.parent()).id(),
              node.content().kind(),
              key,
              matrix.get(new double[16]),
              pivot(toView, own[i], world[i]),
              skin,
              rest.morphWeights()[i] == null ? new double[0] : rest.morphWeights()[i],
              seen[i] && inPicture(purposes[i]),
              levels[i]));
    }
    return new SideView(
        caption,
        height,
        heightNote,
        heightNote.contains("if"),
        metresPerUnit,
        numbers(bounds),
        fromNear(scene, caption).get(new double[16]),
        nodes,
        scene.materials().stream().map(m -> SideMaterials.of(m, scene, keys)).toList(),
        scene.skins().stream().map(s -> skin(scene, s, toView)).toList(),
        Caches.timeline(scene).stream().map(c -> clip(c, scene)).toList(),
        cameras(scene, new Matrix4d(toView)),
        lights(scene, new Matrix4d(toView)),
        SideTextures.of(scene),
        scene.variants(),
        scene.sequences().stream().map(s -> changing(s, scene, keys)).toList());
  }

  private static ChangingView changing(MeshSequence sequence, Scene scene, MeshKeys keys) {
    List<Integer> nodes =
        scene.nodes().stream()
            .filter(
                n ->
                    n.content() instanceof Node.Content.MeshContent c
                        && c.meshId() == sequence.meshId())
            .map(Node::id)
            .toList();
    double[] seconds = new double[sequence.sampleCount()];
    Arrays.setAll(seconds, sequence::timeSeconds);
    return new ChangingView(keys.key(sequence, scene), nodes, seconds);
  }

  private static double[] numbers(Bounds b) {
    return b.isEmpty()
        ? new double[0]
        : new double[] {b.minX(), b.minY(), b.minZ(), b.maxX(), b.maxY(), b.maxZ()};
  }

  private static Matrix4d fromNear(Scene scene, String caption) {
    boolean farSide = caption.startsWith("as it will");
    return farSide ? Rebase.matrix(scene, Frame.Y_UP_METRE) : new Matrix4d();
  }

  private static boolean inPicture(Purpose purpose) {
    return purpose == Purpose.DEFAULT || purpose == Purpose.RENDER;
  }

  private static double[] pivot(Matrix4d toView, Matrix4d own, Matrix4d content) {
    return own.equals(content, 0)
        ? new double[0]
        : new Matrix4d(toView).mul(own).get(new double[16]);
  }

  /** The children of a detail group are its levels, in their order. */
  private static int[] levels(Scene scene) {
    int[] levels = new int[scene.nodes().size()];
    int[] next = new int[levels.length];
    for (int i = 0; i < levels.length; i++) {
      int parent = scene.nodes().get(i).parent();
      boolean grouped =
          parent >= 0 && scene.nodes().get(parent).content() instanceof Node.Content.DetailGroup;
      levels[i] = grouped ? next[parent]++ : -1;
    }
    return levels;
  }

  private static SkinView skin(Scene scene, Skin skin, Matrix4d toView) {
    Matrix4d bind = new Matrix4d(toView).mul(scene.placement());
    if (skin.bindMatrix() != null) {
      bind.mul(new Matrix4d().set(skin.bindMatrix()));
    } else {
      // Unsaid: as if it had been bound where its mesh stands at rest.
      Matrix4d[] world = scene.worldMatrices();
      for (int i = 0; i < world.length; i++) {
        Node node = scene.nodes().get(i);
        if (node.content() instanceof Node.Content.MeshContent m && m.skinId() == skin.id()) {
          bind.set(toView).mul(world[i]).mul(node.geometric().toMatrix());
          break;
        }
      }
    }
    return new SkinView(
        skin.id(), skin.jointNodeIds(), skin.inverseBind(), bind.get(new double[16]));
  }

  private static List<LightView> lights(Scene scene, Matrix4d toView) {
    double scale = Math.cbrt(Math.abs(toView.determinant3x3()));
    List<LightView> lights = new ArrayList<>();
    for (Node node : scene.nodes()) {
      if (node.content() instanceof Node.Content.LightContent content) {
        scene
            .light(content.lightId())
            .ifPresent(
                l ->
                    lights.add(
                        new LightView(
                            node.id(),
                            node.name().isEmpty() ? l.name() : node.name(),
                            l.kind().name().toLowerCase(Locale.ROOT),
                            l.linearColour(),
                            l.intensity(),
                            Double.isInfinite(l.range()) ? 0 : l.range() * scale,
                            l.innerAngleRadians(),
                            l.outerAngleRadians())));
      }
    }
    return lights;
  }

  private static ClipView clip(Clip c, Scene scene) {
    return new ClipView(
        c.id(),
        c.name(),
        c.startSeconds(),
        c.endSeconds(),
        Caches.rate(scene),
        PreviewMotion.frames(scene, c),
        c.tracks().size(),
        scene.clips().stream().noneMatch(own -> own.id() == c.id()));
  }

  private static List<CameraView> cameras(Scene scene, Matrix4d toView) {
    double scale = Math.cbrt(Math.abs(toView.determinant3x3()));
    List<CameraView> cameras = new ArrayList<>();
    for (Node node : scene.nodes()) {
      if (node.content() instanceof Node.Content.CameraContent content) {
        scene
            .camera(content.cameraId())
            .ifPresent(
                c ->
                    cameras.add(
                        new CameraView(
                            node.id(),
                            node.name().isEmpty() ? c.name() : node.name(),
                            Math.toDegrees(c.verticalAngleRadians()),
                            c.height() * scale,
                            c.lens() == null ? 0 : c.lens().shiftX() / c.lens().gateWidth(),
                            c.lens() == null ? 0 : c.lens().shiftY() / c.lens().gateHeight())));
      }
    }
    return cameras;
  }

  /** Carries the world of a far side to its view. */
  public static Matrix4d farToView(Scene far) {
    return far.frame().matrixTo(Frame.Y_UP_METRE);
  }
}
