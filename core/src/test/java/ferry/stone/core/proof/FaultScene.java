package ferry.stone.core.proof;

import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/** A buoy with a flag that bends, a bell and a plate: small, with one fault at a time on demand. */
public final class FaultScene {
  /** What may be wrong. */
  public enum Fault {
    NONE,
    VERTEX,
    WEIGHT,
    KEY,
    TEXEL,
    NAME,
    CHILD,
    MATERIAL,
    SHEAR,
    PIVOT,
    MORPH,
    UV,
    VALUE
  }

  private static final int SIDE = 5;

  private final SceneBuilder scene =
      new SceneBuilder("buoy").frame(Frame.Y_UP_METRE, FrameSource.STATED, FrameSource.STATED);
  private final Fault fault;

  private FaultScene(Fault fault) {
    this.fault = fault;
  }

  public static Scene with(Fault fault) {
    return new FaultScene(fault).scene();
  }

  private boolean is(Fault wanted) {
    return fault == wanted;
  }

  private static Trs at(double x, double y, double z) {
    return Trs.of(new Vector3d(x, y, z), new Quaterniond(), new Vector3d(1));
  }

  /** A sheet of so many squares, upright, its middle off by some. */
  private PolygonMesh sheet(int id, String name, float off, int material) {
    float[] points = new float[3 * (SIDE + 1) * (SIDE + 1)];
    float[] uvs = new float[2 * (SIDE + 1) * (SIDE + 1)];
    for (int i = 0; i < points.length / 3; i++) {
      points[3 * i] = i % (SIDE + 1) / (float) SIDE + off;
      points[3 * i + 1] = i / (SIDE + 1) / (float) SIDE;
      points[3 * i + 2] = 0.05f * (i % 3);
      uvs[2 * i] = i % (SIDE + 1) / (float) SIDE;
      uvs[2 * i + 1] = i / (SIDE + 1) / (float) SIDE;
    }
    int[] corners = new int[4 * SIDE * SIDE];
    int[] offsets = new int[SIDE * SIDE + 1];
    for (int f = 0; f < SIDE * SIDE; f++) {
      int a = f / SIDE * (SIDE + 1) + f % SIDE;
      int[] quad = {a, a + 1, a + SIDE + 2, a + SIDE + 1};
      System.arraycopy(quad, 0, corners, 4 * f, 4);
      offsets[f + 1] = 4 * f + 4;
    }
    if (name.equals("flag") && is(Fault.VERTEX)) {
      points[3 * 14 + 2] += 0.001f;
    }
    if (name.equals("flag") && is(Fault.UV)) {
      uvs[2 * 14] += 0.01f;
    }
    return PolygonMesh.of(id, name, Coordinates.of(points), Polygons.of(corners, offsets))
        .withAttributes(
            List.of(
                new Attribute(
                    "uv", Attribute.Semantic.UV, Attribute.Domain.CORNER, 2, uvs, corners.clone())))
        .toBuilder()
        .materials(new int[] {material}, new int[SIDE * SIDE])
        .build();
  }

  private int material(String name, double red, int texture) {
    int id = scene.newId();
    TextureUse use = texture < 0 ? null : TextureUse.of(texture);
    scene.add(
        new Material(
            id,
            name,
            Material.Shading.METALLIC_ROUGHNESS,
            Map.of(
                Channel.BASE_COLOUR,
                new Material.Value(new double[] {red, 0.5, 0.25}, use),
                Channel.METALLIC,
                new Material.Value(new double[] {0}, null),
                Channel.ROUGHNESS,
                new Material.Value(new double[] {0.5}, null)),
            Material.Alpha.OPAQUE,
            0.5,
            false,
            Map.of()));
    return id;
  }

  private int texture() {
    int[] argb = new int[64];
    for (int i = 0; i < argb.length; i++) {
      argb[i] = 0xff000000 | (4 * i << 16) | (255 - 3 * i);
    }
    if (is(Fault.TEXEL)) {
      argb[19] ^= 0x00ff00;
    }
    int id = scene.newId();
    byte[] png = ImageCodec.encodePng(new Pixels(8, 8, argb, false));
    scene.add(new Texture(id, "stripes.png", "stripes.png", null, png, null));
    return id;
  }

  private Scene scene() {
    int striped = material("striped", 1, texture());
    int plain = material("plain", 0.2, -1);
    PolygonMesh bell = sheet(scene.newId(), "bell", is(Fault.PIVOT) ? -0.1f : 0, plain);
    PolygonMesh plate = sheet(scene.newId(), "plate", 0, is(Fault.MATERIAL) ? plain : striped);
    int[] moved = {12, 13, 14};
    float[] deltas = {0, 0, 0.1f, 0, 0, is(Fault.MORPH) ? 0.11f : 0.1f, 0, 0, 0.1f};
    PolygonMesh flag =
        sheet(scene.newId(), "flag", 0, striped).toBuilder()
            .morphs(
                List.of(
                    new MorphTarget(
                        "flutter", 0, List.of(new MorphTarget.Shape(1, moved, deltas, null)))))
            .build();
    List.of(bell, plate, flag).forEach(scene::add);
    int root = scene.newId();
    Object depth = is(Fault.VALUE) ? 12.5 : 12.0;
    int top =
        scene.add(Node.of(root, "buoy", -1, Content.GROUP).withProperties(Map.of("depth", depth)));
    int foot = scene.newId();
    int tip = scene.newId();
    int footPlace = scene.add(Node.of(foot, "foot", top, new Content.Joint(0)));
    scene.add(Node.of(tip, "tip", footPlace, new Content.Joint(0)).withTransform(at(0, 0.5, 0)));
    Skin skin = skin(flag, foot, tip);
    scene.add(skin);
    scene.add(
        Node.of(scene.newId(), "flag", top, Content.MeshContent.of(flag.id()).withSkin(skin.id())));
    LocalTransform place =
        is(Fault.SHEAR)
            ? new LocalTransform.MatrixTransform(
                new Matrix4d().translation(2, 0, 0).mul(new Matrix4d().m10(0.05)))
            : at(is(Fault.PIVOT) ? 2.1 : 2, 0, 0);
    scene.add(
        Node.of(
                scene.newId(),
                is(Fault.NAME) ? "gong" : "bell",
                top,
                Content.MeshContent.of(bell.id()))
            .withTransform(place));
    if (!is(Fault.CHILD)) {
      scene.add(
          Node.of(scene.newId(), "plate", top, Content.MeshContent.of(plate.id()))
              .withTransform(at(0, 0, 3)));
    }
    double[] q = {0, 0, 0, 1, 0, 0, Math.sin(is(Fault.KEY) ? 0.26 : 0.25), 0};
    q[7] = Math.sqrt(1 - q[6] * q[6]);
    scene.add(
        new Clip(
            scene.newId(),
            "sway",
            0,
            1,
            List.of(
                new Clip.Track(
                    tip,
                    Clip.ROTATION,
                    Clip.Interpolation.LINEAR,
                    4,
                    new double[] {0, 1},
                    q,
                    null,
                    null))));
    return scene.build();
  }

  private Skin skin(PolygonMesh mesh, int foot, int tip) {
    int count = mesh.points().count();
    int[] offsets = new int[count + 1];
    int[] joints = new int[2 * count];
    float[] weights = new float[2 * count];
    for (int v = 0; v < count; v++) {
      offsets[v + 1] = 2 * v + 2;
      joints[2 * v + 1] = 1;
      float up = v / (SIDE + 1) / (float) SIDE;
      weights[2 * v] = 1 - 0.9f * up;
      weights[2 * v + 1] = 0.9f * up;
    }
    if (is(Fault.WEIGHT)) {
      weights[2 * 25] -= 0.1f;
      weights[2 * 25 + 1] += 0.1f;
    }
    double[] inverse = new double[32];
    new Matrix4d().get(inverse, 0);
    new Matrix4d().translation(0, -0.5, 0).get(inverse, 16);
    return new Skin(
        scene.newId(),
        "bend",
        mesh.id(),
        new int[] {foot, tip},
        inverse,
        offsets,
        joints,
        weights,
        "linear",
        null);
  }
}
