package ferry.stone.core.format.obj.raw;

import ferry.stone.core.scene.look.Channel;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/**
 * Which key of a material says which channel. Keys of the second half are a physically based
 * extension in common use, no source; so are {@code norm} and {@code Ke}.
 */
public final class MtlKeys {
  private record Key(Channel channel, String written, List<String> alsoRead) {}

  private static Key key(Channel channel, String written, String... alsoRead) {
    return new Key(channel, written, List.of(alsoRead));
  }

  private static final List<Key> VALUES =
      List.of(
          key(Channel.BASE_COLOUR, "Kd"),
          key(Channel.AMBIENT, "Ka"),
          key(Channel.SPECULAR, "Ks"),
          key(Channel.EMISSIVE, "Ke"),
          key(Channel.TRANSMISSION, "Tf"),
          key(Channel.SHININESS, "Ns"),
          key(Channel.IOR, "Ni"),
          key(Channel.OPACITY, "d"),
          key(Channel.SHARPNESS, "sharpness"),
          key(Channel.ROUGHNESS, "Pr"),
          key(Channel.METALLIC, "Pm"),
          key(Channel.SHEEN, "Ps"),
          key(Channel.CLEARCOAT, "Pc"),
          key(Channel.CLEARCOAT_ROUGHNESS, "Pcr"),
          key(Channel.ANISOTROPY, "aniso"),
          key(Channel.ANISOTROPY_ROTATION, "anisor"));

  private static final List<Key> MAPS =
      List.of(
          key(Channel.BASE_COLOUR, "map_Kd"),
          key(Channel.AMBIENT, "map_Ka"),
          key(Channel.SPECULAR, "map_Ks"),
          key(Channel.EMISSIVE, "map_Ke"),
          key(Channel.SHININESS, "map_Ns"),
          key(Channel.OPACITY, "map_d", "map_tr"),
          key(Channel.BUMP, "map_Bump", "bump"),
          key(Channel.NORMAL, "norm", "map_norm"),
          key(Channel.DISPLACEMENT, "disp", "map_disp"),
          key(Channel.DECAL, "decal"),
          key(Channel.REFLECTION, "refl", "map_refl"),
          key(Channel.ROUGHNESS, "map_Pr"),
          key(Channel.METALLIC, "map_Pm"),
          key(Channel.SHEEN, "map_Ps"),
          key(Channel.CLEARCOAT, "map_Pc"),
          key(Channel.CLEARCOAT_ROUGHNESS, "map_Pcr"),
          key(Channel.OCCLUSION, "map_AO"),
          key(Channel.OCCLUSION_ROUGHNESS_METALLIC, "map_ORM"));

  /** What belongs to the extension. */
  public static final Set<Channel> EXTENDED =
      Set.of(
          Channel.ROUGHNESS,
          Channel.METALLIC,
          Channel.SHEEN,
          Channel.CLEARCOAT,
          Channel.CLEARCOAT_ROUGHNESS,
          Channel.ANISOTROPY,
          Channel.ANISOTROPY_ROTATION,
          Channel.OCCLUSION,
          Channel.OCCLUSION_ROUGHNESS_METALLIC);

  /** Channels of values and of maps, by the key in small letters. */
  public static final Map<String, Channel> VALUE_CHANNELS = read(VALUES);

  public static final Map<String, Channel> MAP_CHANNELS = read(MAPS);

  /** The key that is written for a channel's value, and for its map; none for others. */
  public static final Map<Channel, String> VALUE_KEYS = written(VALUES);

  public static final Map<Channel, String> MAP_KEYS = written(MAPS);

  private MtlKeys() {}

  private static Map<String, Channel> read(List<Key> keys) {
    Map<String, Channel> channels = new TreeMap<>();
    for (Key key : keys) {
      channels.put(key.written().toLowerCase(Locale.ROOT), key.channel());
      key.alsoRead().forEach(k -> channels.put(k, key.channel()));
    }
    return channels;
  }

  private static Map<Channel, String> written(List<Key> keys) {
    Map<Channel, String> written = new EnumMap<>(Channel.class);
    keys.forEach(key -> written.put(key.channel(), key.written()));
    return written;
  }
}
