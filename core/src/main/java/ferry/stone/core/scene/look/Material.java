package ferry.stone.core.scene.look;

import java.util.Arrays;
import java.util.Collections;
import java.util.EnumMap;
import java.util.Map;
import java.util.Optional;

/**
 * A material as the source wrote it.
 *
 * @param shading which model its channels belong to
 * @param channels values and textures
 * @param alpha how opacity is meant
 * @param alphaCutoff opacity below which a masked surface is a hole
 * @param doubleSided whether both sides are seen
 * @param properties custom values, and what the source said that no channel holds
 */
public record Material(
    int id,
    String name,
    Shading shading,
    Map<Channel, Value> channels,
    Alpha alpha,
    double alphaCutoff,
    boolean doubleSided,
    Map<String, Object> properties) {

  /** The family of formulas that the channels feed. */
  public enum Shading {
    PHONG,
    METALLIC_ROUGHNESS,
    SPECULAR_GLOSSINESS,
    UNLIT
  }

  /** How opacity is meant. */
  public enum Alpha {
    OPAQUE,
    MASK,
    BLEND
  }

  /**
   * @param factor one to four numbers, or {@code null} when only a texture is given; colours as the
   *     source wrote them
   * @param texture or {@code null}
   */
  public record Value(double[] factor, TextureUse texture) {
    public double scalar(double otherwise) {
      return factor == null ? otherwise : factor[0];
    }

    /** Whether the factor changes nothing that it multiplies. */
    public boolean isOne() {
      return factor == null || Arrays.stream(factor).allMatch(f -> f == 1);
    }
  }

  public Material {
    channels =
        Collections.unmodifiableMap(
            channels.isEmpty() ? new EnumMap<>(Channel.class) : new EnumMap<>(channels));
    properties = Map.copyOf(properties);
  }

  public Material withId(int other) {
    return new Material(
        other, name, shading, channels, alpha, alphaCutoff, doubleSided, properties);
  }

  public Material withName(String other) {
    return new Material(id, other, shading, channels, alpha, alphaCutoff, doubleSided, properties);
  }

  public Material withChannels(Map<Channel, Value> others) {
    return new Material(id, name, shading, others, alpha, alphaCutoff, doubleSided, properties);
  }

  public Material withDoubleSided(boolean both) {
    return new Material(id, name, shading, channels, alpha, alphaCutoff, both, properties);
  }

  public Optional<Value> get(Channel channel) {
    return Optional.ofNullable(channels.get(channel));
  }

  /** The channel's factor, or a default when it has none. */
  public double[] factor(Channel channel, double... otherwise) {
    Value value = channels.get(channel);
    return value == null || value.factor() == null ? otherwise : value.factor();
  }

  public Optional<TextureUse> texture(Channel channel) {
    return get(channel).map(Value::texture);
  }
}
