package ferry.stone.core.cargo;

import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.ChangedSequence;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.texture.ColourSpace;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;

/** Brings one scene to the unit, axes, UV origin and colours of another, exactly. */
final class SameConventions {
  private SameConventions() {}

  static boolean hold(Scene scene, Scene other) {
    return scene.frame().equals(other.frame())
        && scene.uvOrigin() == other.uvOrigin()
        && scene.linearColours() == other.linearColours();
  }

  static Scene of(Scene scene, Scene other) {
    Scene moved =
        scene.frame().equals(other.frame()) ? scene : Rebase.intoData(scene, other.frame());
    boolean turn = scene.uvOrigin() != other.uvOrigin();
    boolean recolour = scene.linearColours() != other.linearColours();
    if (!turn && !recolour) {
      return moved;
    }
    boolean linear = other.linearColours();
    UnaryOperator<PolygonMesh> change = mesh -> layered(mesh, turn, recolour, linear);
    List<Material> materials = new ArrayList<>();
    for (Material material : moved.materials()) {
      Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
      material
          .channels()
          .forEach(
              (channel, value) -> {
                TextureUse use = value.texture();
                double[] factor = value.factor();
                boolean coded = recolour && channel.isColour() && factor != null;
                channels.put(
                    channel,
                    new Material.Value(
                        coded ? recoloured(factor, other.linearColours()) : factor,
                        use != null && turn ? use.flipped(other.uvOrigin()) : use));
              });
      materials.add(material.withChannels(channels));
    }
    return moved.toBuilder()
        .meshes(moved.meshes().stream().map(change).toList())
        .sequences(
            moved.sequences().stream()
                .map(s -> (MeshSequence) ChangedSequence.of(s, change))
                .toList())
        .materials(materials)
        .uvOrigin(other.uvOrigin())
        .linearColours(other.linearColours())
        .build();
  }

  private static PolygonMesh layered(
      PolygonMesh mesh, boolean turn, boolean recolour, boolean linear) {
    List<Attribute> layers = new ArrayList<>();
    for (Attribute a : mesh.attributes()) {
      boolean uv = a.semantic() == Semantic.UV && turn;
      boolean colour = a.semantic() == Semantic.COLOUR && recolour;
      layers.add(uv ? turned(a) : colour ? recoloured(a, linear) : a);
    }
    return mesh.withAttributes(layers);
  }

  private static Attribute turned(Attribute uv) {
    float[] values = uv.values().clone();
    for (int i = 1; i < values.length; i += uv.components()) {
      values[i] = 1 - values[i];
    }
    return uv.withValues(values);
  }

  private static Attribute recoloured(Attribute colour, boolean linear) {
    float[] values = colour.values().clone();
    for (int i = 0; i < values.length; i++) {
      boolean alpha = i % colour.components() == 3;
      values[i] = alpha ? values[i] : (float) coded(values[i], linear);
    }
    return colour.withValues(values);
  }

  private static double[] recoloured(double[] factor, boolean linear) {
    double[] values = factor.clone();
    for (int k = 0; k < Math.min(3, values.length); k++) {
      values[k] = coded(values[k], linear);
    }
    return values;
  }

  private static double coded(double value, boolean linear) {
    return linear ? ColourSpace.toLinear(value) : ColourSpace.toSrgb(value);
  }
}
