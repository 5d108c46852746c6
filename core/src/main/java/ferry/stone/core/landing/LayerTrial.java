package ferry.stone.core.landing;

import ferry.stone.core.format.Format;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.MemoryFiles;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.texture.PbrMaterial;
import ferry.stone.core.texture.PbrTranslation;
import ferry.stone.core.work.Progress;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * What each format holds of a material's layers (clear coat, sheen, transmission …), found by
 * landing a triangle that has them all and reading it back: so it is what the code does, not what a
 * table says of it.
 */
public final class LayerTrial {
  private static final double CLOSE = 2e-3;
  private static final String TRIANGLE =
      "mtllib a.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nusemtl trial\nf 1/1 2/1 3/1\n";

  /** Numbers unlike any standard, so that what is left out shows. */
  private static final Map<Channel, double[]> VALUES = values();

  private LayerTrial() {}

  /**
   * A layer and what becomes of it.
   *
   * @param fates by the keys of formats' tables
   */
  public record LayerRow(String label, Map<String, Fate> fates) {}

  /** Tried once. */
  private static final class Tried {
    static final List<LayerRow> ROWS = trial();
  }

  /** All layers, in the order of channels, and the strength of emission. */
  public static List<LayerRow> rows() {
    return Tried.ROWS;
  }

  private static Map<Channel, double[]> values() {
    Map<Channel, double[]> values = new EnumMap<>(Channel.class);
    values.put(Channel.CLEARCOAT, new double[] {0.8});
    values.put(Channel.CLEARCOAT_ROUGHNESS, new double[] {0.35});
    values.put(Channel.SHEEN, new double[] {0.6, 0.5, 0.4});
    values.put(Channel.SHEEN_ROUGHNESS, new double[] {0.45});
    values.put(Channel.SPECULAR_WEIGHT, new double[] {0.55});
    values.put(Channel.SPECULAR_TINT, new double[] {0.9, 0.7, 0.5});
    values.put(Channel.IOR, new double[] {1.38});
    values.put(Channel.TRANSMISSION_WEIGHT, new double[] {0.65});
    values.put(Channel.THICKNESS, new double[] {0.25});
    values.put(Channel.ATTENUATION_DISTANCE, new double[] {0.75});
    values.put(Channel.ATTENUATION_COLOUR, new double[] {0.3, 0.6, 0.8});
    values.put(Channel.IRIDESCENCE, new double[] {0.7});
    values.put(Channel.IRIDESCENCE_IOR, new double[] {1.6});
    values.put(Channel.IRIDESCENCE_THICKNESS_LEAST, new double[] {150});
    values.put(Channel.IRIDESCENCE_THICKNESS, new double[] {450});
    values.put(Channel.ANISOTROPY, new double[] {0.4});
    values.put(Channel.ANISOTROPY_ROTATION, new double[] {0.5});
    values.put(Channel.DISPERSION, new double[] {0.2});
    values.put(Channel.DIFFUSE_TRANSMISSION, new double[] {0.15});
    values.put(Channel.DIFFUSE_TRANSMISSION_COLOUR, new double[] {0.7, 0.8, 0.6});
    return values;
  }

  private static List<LayerRow> trial() {
    Map<String, PbrMaterial> landed = new TreeMap<>();
    PbrMaterial asked;
    try {
      Scene scene = scene();
      asked = look(scene);
      for (Format format : Formats.ALL) {
        if (format.writer().isPresent() && !landed.containsKey(format.losses().format())) {
          PbrMaterial there = look(landed(scene, format));
          if (there != null) {
            landed.put(format.losses().format(), there);
          }
        }
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    } catch (FormatException e) {
      throw new IllegalStateException("a triangle did not land: " + e.getMessage(), e);
    }
    List<LayerRow> rows = new ArrayList<>();
    for (Channel channel : VALUES.keySet()) {
      Map<String, Fate> fates = new TreeMap<>();
      landed.forEach((format, there) -> fates.put(format, fate(asked, there, channel)));
      rows.add(new LayerRow(channel.label(), fates));
    }
    Map<String, Fate> strength = new TreeMap<>();
    landed.forEach((format, there) -> strength.put(format, strength(asked, there)));
    rows.add(new LayerRow("emission strength", strength));
    return rows;
  }

  private static Scene scene() throws IOException, FormatException {
    byte[] obj = TRIANGLE.getBytes(StandardCharsets.UTF_8);
    byte[] mtl = "newmtl trial\nPm 0.1\n".getBytes(StandardCharsets.UTF_8);
    Scene plain = read("a.obj", Map.of("a.obj", obj, "a.mtl", mtl));
    Material trial = plain.materials().get(0);
    Map<Channel, Material.Value> channels = new EnumMap<>(trial.channels());
    VALUES.forEach((channel, value) -> channels.put(channel, new Material.Value(value, null)));
    channels.put(Channel.EMISSIVE, new Material.Value(new double[] {4, 3, 2}, null));
    Material layered =
        new Material(
            trial.id(),
            trial.name(),
            Material.Shading.METALLIC_ROUGHNESS,
            channels,
            trial.alpha(),
            trial.alphaCutoff(),
            false,
            Map.of());
    return plain.toBuilder().materials(List.of(layered)).build();
  }

  private static Scene read(String path, Map<String, byte[]> files)
      throws IOException, FormatException {
    String end = path.substring(path.lastIndexOf('.') + 1);
    Format format =
        Formats.ALL.stream().filter(f -> f.extensions().contains(end)).findFirst().orElseThrow();
    return format.reader().orElseThrow().read(path, ReadContext.of(new MemoryFiles(files)));
  }

  private static Scene landed(Scene scene, Format format) throws IOException, FormatException {
    Map<String, byte[]> written = new TreeMap<>();
    LandingOptions options = LandingOptions.of(format.key());
    Landing landing =
        Landing.write(
            scene,
            options,
            "a",
            new MemoryFiles(Map.of()),
            path -> keeping(path, written),
            Progress.NONE);
    return format.reader().isEmpty()
        ? scene.toBuilder().materials(List.of()).build()
        : format.reader().get().read(landing.mainFile(), ReadContext.of(new MemoryFiles(written)));
  }

  private static OutputStream keeping(String path, Map<String, byte[]> written) {
    return new ByteArrayOutputStream() {
      @Override
      public void close() {
        written.put(path, toByteArray());
      }
    };
  }

  /** {@code null} where there are no materials. */
  private static PbrMaterial look(Scene scene) {
    return scene.materials().isEmpty()
        ? null
        : PbrTranslation.translate(scene.materials().get(0), scene.linearColours());
  }

  private static Fate fate(PbrMaterial asked, PbrMaterial there, Channel channel) {
    Material.Value value = there.layers().get(channel);
    if (value == null || value.factor() == null) {
      return Fate.LOST;
    }
    double[] wanted = asked.layers().get(channel).factor();
    for (int i = 0; i < wanted.length; i++) {
      if (i >= value.factor().length || !(Math.abs(wanted[i] - value.factor()[i]) < CLOSE)) {
        return Fate.CHANGED;
      }
    }
    return Fate.KEPT;
  }

  private static Fate strength(PbrMaterial asked, PbrMaterial there) {
    double most = 0;
    for (int c = 0; c < 3; c++) {
      double wanted = asked.emissive()[c] * asked.emissiveStrength();
      double value = there.emissive()[c] * there.emissiveStrength();
      most = Math.max(most, Math.abs(wanted - value) / wanted);
    }
    return most < CLOSE ? Fate.KEPT : Fate.LOST;
  }
}
