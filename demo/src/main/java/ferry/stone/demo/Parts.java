package ferry.stone.demo;

import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import java.util.EnumMap;
import java.util.Map;

/** Adds materials and parts to a scene in few words. */
final class Parts {
  private final SceneBuilder scene;

  Parts(SceneBuilder scene) {
    this.scene = scene;
  }

  TextureUse texture(String written) {
    int id = scene.newId();
    scene.add(
        new Texture(id, written.substring(written.lastIndexOf('/') + 1), written, null, null));
    return TextureUse.of(id);
  }

  /** A texture whose file is there under the same name. */
  TextureUse found(String path) {
    int id = scene.newId();
    scene.add(new Texture(id, path, path, path, null));
    return TextureUse.of(id);
  }

  /** A Phong material with an exponent for its highlight. */
  int phong(String name, double[] kd, double ks, double ns, TextureUse map) {
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    channels.put(Channel.BASE_COLOUR, new Material.Value(kd, map));
    channels.put(Channel.SPECULAR, new Material.Value(new double[] {ks, ks, ks}, null));
    channels.put(Channel.SHININESS, new Material.Value(new double[] {ns}, null));
    return add(name, Material.Shading.PHONG, channels);
  }

  /** A metallic-roughness material in the extension keys of MTL. */
  int pbr(
      String name,
      double[] kd,
      double metallic,
      double roughness,
      TextureUse base,
      TextureUse rough,
      double[] emission) {
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    channels.put(Channel.BASE_COLOUR, new Material.Value(kd, base));
    channels.put(Channel.METALLIC, new Material.Value(new double[] {metallic}, null));
    channels.put(Channel.ROUGHNESS, new Material.Value(new double[] {roughness}, rough));
    if (emission != null) {
      channels.put(Channel.EMISSIVE, new Material.Value(emission, null));
    }
    return add(name, Material.Shading.METALLIC_ROUGHNESS, channels);
  }

  private int add(String name, Material.Shading shading, Map<Channel, Material.Value> channels) {
    int id = scene.newId();
    scene.add(
        new Material(id, name, shading, channels, Material.Alpha.OPAQUE, 0.5, false, Map.of()));
    return id;
  }

  void part(Shape shape, String name, int... materials) {
    part(shape.build(scene.newId(), name, materials), name);
  }

  void part(PolygonMesh mesh, String name) {
    scene.add(mesh);
    scene.add(Node.of(scene.newId(), name, -1, Node.Content.MeshContent.of(mesh.id())));
  }
}
