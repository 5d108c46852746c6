package ferry.stone.core.view;

import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.files.TextureBytes;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.Scene.ShownMesh;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.texture.match.ImageEvidence;
import ferry.stone.core.texture.match.LooseImages;
import ferry.stone.core.texture.match.TextureBindings;
import ferry.stone.core.texture.match.TextureMatch;
import java.io.IOException;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Materials and their channels on both sides, and images that no material uses: what the material
 * bench shows.
 *
 * @param channels columns, in order
 * @param materials rows: those of the far side by name, then those that only the near side has
 * @param loose images of the cargo that no material of the far side uses, with where they fit
 * @param images paths of all images of the cargo
 */
public record MaterialBench(
    List<BenchColumn> channels,
    List<BenchRow> materials,
    List<LooseImage> loose,
    List<String> images) {

  /** Channels that every asset is asked for. */
  private static final List<Channel> USUAL =
      List.of(
          Channel.BASE_COLOUR,
          Channel.NORMAL,
          Channel.ROUGHNESS,
          Channel.METALLIC,
          Channel.OCCLUSION,
          Channel.EMISSIVE,
          Channel.OPACITY);

  /** More loose images than that are listed by number only. */
  private static final int MOST_LOOSE = 500;

  /**
   * @param space {@code sRGB} where images are colours, {@code data} where they are numbers
   */
  public record BenchColumn(Channel channel, String label, String space) {}

  /**
   * @param name of the material on the far side
   * @param nearId of the material of that name on the near side, −1 for none
   * @param farId likewise, −1 for none
   * @param shading the family of formulas that it follows on the far side
   * @param faces how many have it on the far side
   * @param nodeIds parts that show it on the far side
   */
  public record BenchRow(
      String name,
      int nearId,
      int farId,
      String shading,
      long faces,
      List<Integer> nodeIds,
      List<BenchCell> cells) {}

  /**
   * @param near {@code null} where that side says nothing of the channel
   * @param far likewise
   */
  public record BenchCell(Channel channel, BenchSlot near, BenchSlot far) {}

  /**
   * What one side has in a channel.
   *
   * @param image name of the image; empty for a number alone
   * @param path of the file in the cargo that it is or was made of; empty for none
   * @param key under which it is fetched; empty where it is missing
   * @param state {@code file}, {@code inside} the scene's file, {@code made} by a step, {@code
   *     missing}, or {@code none}
   * @param part r, g, b or a where one part of the image is read; empty for all
   * @param factor the number or colour, as text; empty where the image is taken as it is
   * @param swatch the factor as a colour for the page, {@code #rrggbb}; empty for none
   * @param width in pixels; 0 where it cannot be read
   * @param bytes of the image file
   * @param looks what its pixels look like
   * @param care why it does not go with the channel; empty where it does
   */
  public record BenchSlot(
      String image,
      String path,
      String key,
      String state,
      String part,
      String factor,
      String swatch,
      int width,
      int height,
      long bytes,
      String looks,
      String care) {}

  /** An image that no material uses. */
  public record LooseImage(
      String image,
      int width,
      int height,
      long bytes,
      String looks,
      String why,
      List<ImageFit> fits) {}

  /**
   * Where a loose image fits.
   *
   * @param binding as a binding by hand names the image
   */
  public record ImageFit(
      String material,
      Channel channel,
      String label,
      String binding,
      double confidence,
      List<String> reasons) {}

  public static MaterialBench of(Scene near, Scene far, Resources cargo, SideView.MeshKeys keys) {
    Set<Channel> shown = EnumSet.noneOf(Channel.class);
    near.materials().forEach(m -> shown.addAll(m.channels().keySet()));
    far.materials().forEach(m -> shown.addAll(m.channels().keySet()));
    List<Channel> columns = new ArrayList<>(USUAL);
    shown.stream().filter(c -> !USUAL.contains(c)).forEach(columns::add);
    return new MaterialBench(
        columns.stream().map(MaterialBench::column).toList(),
        rows(near, far, columns, cargo, keys),
        loose(far, cargo),
        far.images().paths());
  }

  private static BenchColumn column(Channel channel) {
    return new BenchColumn(channel, channel.label(), channel.isColour() ? "sRGB" : "data");
  }

  private static List<BenchRow> rows(
      Scene near, Scene far, List<Channel> columns, Resources cargo, SideView.MeshKeys keys) {
    Map<Integer, long[]> faces = new HashMap<>();
    Map<Integer, Set<Integer>> parts = new HashMap<>();
    for (ShownMesh mesh : far.shownMeshes()) {
      for (int f = 0; f < mesh.mesh().faces().faceCount(); f++) {
        faces.computeIfAbsent(mesh.mesh().materialOf(f), k -> new long[1])[0]++;
      }
      mesh.mesh()
          .usedMaterials()
          .forEach(
              id -> parts.computeIfAbsent(id, k -> new LinkedHashSet<>()).add(mesh.node().id()));
    }
    Map<String, Material> before = new LinkedHashMap<>();
    near.materials().forEach(m -> before.putIfAbsent(m.name(), m));
    List<BenchRow> rows = new ArrayList<>();
    for (Material material : far.materials()) {
      Material own =
          near.material(material.id())
              .filter(m -> m.name().equals(material.name()))
              .orElse(before.get(material.name()));
      List<BenchCell> cells = new ArrayList<>();
      for (Channel channel : columns) {
        cells.add(
            new BenchCell(
                channel,
                own == null ? null : slot(own, channel, near, cargo, keys),
                slot(material, channel, far, cargo, keys)));
      }
      rows.add(
          new BenchRow(
              material.name(),
              own == null ? -1 : own.id(),
              material.id(),
              material.shading().name().toLowerCase(java.util.Locale.ROOT).replace('_', '-'),
              faces.getOrDefault(material.id(), new long[1])[0],
              List.copyOf(parts.getOrDefault(material.id(), Set.of())),
              cells));
    }
    return rows;
  }

  private static BenchSlot slot(
      Material material, Channel channel, Scene scene, Resources cargo, SideView.MeshKeys keys) {
    Material.Value value = material.channels().get(channel);
    if (value == null) {
      return null;
    }
    String factor = value.factor() == null ? "" : numbers(value.factor());
    String swatch =
        value.factor() == null || !channel.isColour() || value.factor().length < 3
            ? ""
            : ColourSpace.hex(
                scene.linearColours() ? value.factor() : ColourSpace.toLinear(value.factor()));
    TextureUse use = value.texture();
    if (use == null) {
      return new BenchSlot("", "", "", "none", "", factor, swatch, 0, 0, 0, "", "");
    }
    String part = "rgba".indexOf(use.component()) < 0 ? "" : String.valueOf(use.component());
    Optional<Texture> texture = scene.texture(use.textureId());
    if (texture.filter(Texture::isFound).isEmpty()) {
      String written = texture.map(Texture::written).orElse("");
      return new BenchSlot(
          written, "", "", "missing", part, factor, swatch, 0, 0, 0, "", "The image is not found.");
    }
    Texture found = texture.get();
    Optional<ImageEvidence> look = LooseImages.evidence(scene.images(), found);
    boolean made = found.embedded() != null && scene.images().paths().contains(found.written());
    return new BenchSlot(
        found.name(),
        found.resource() != null ? found.resource() : made ? found.written() : "",
        keys.image(found),
        found.embedded() == null ? "file" : made ? "made" : "inside",
        part,
        factor,
        swatch,
        look.map(ImageEvidence::width).orElse(0),
        look.map(ImageEvidence::height).orElse(0),
        bytes(found, cargo),
        look.map(ImageEvidence::words).orElse("cannot be read"),
        look.map(l -> l.against(channel, use.component())).orElse("The image cannot be read."));
  }

  private static long bytes(Texture texture, Resources cargo) {
    if (texture.embedded() != null) {
      return texture.embedded().length;
    }
    try {
      return cargo.contains(texture.resource())
          ? cargo.size(texture.resource())
          : TextureBytes.read(texture, cargo).length;
    } catch (IOException e) {
      return 0;
    }
  }

  private static String numbers(double[] factor) {
    StringBuilder text = new StringBuilder();
    for (double f : factor) {
      text.append(text.isEmpty() ? "" : " ").append(Figures.plain(f));
    }
    return text.toString();
  }

  private static List<LooseImage> loose(Scene far, Resources cargo) {
    TextureMatch match = TextureMatch.of(far, false);
    Map<String, List<ImageFit>> fits = new HashMap<>();
    for (TextureMatch.Proposal p : match.proposals()) {
      fits.computeIfAbsent(p.image(), k -> new ArrayList<>())
          .add(
              new ImageFit(
                  p.material().name(),
                  p.role().channel(),
                  p.role().channel().label(),
                  TextureBindings.image(p.image(), p.role()),
                  p.confidence(),
                  p.reasons()));
    }
    Map<String, String> why = new HashMap<>();
    match.unplaced().forEach(u -> why.put(u.image(), u.why()));
    List<LooseImage> loose = new ArrayList<>();
    for (String image : LooseImages.of(far)) {
      if (loose.size() == MOST_LOOSE) {
        break;
      }
      Optional<ImageEvidence> look = LooseImages.evidence(far.images(), image);
      loose.add(
          new LooseImage(
              image,
              look.map(ImageEvidence::width).orElse(0),
              look.map(ImageEvidence::height).orElse(0),
              cargo.contains(image) ? cargo.size(image) : 0,
              look.map(ImageEvidence::words).orElse("cannot be read"),
              why.getOrDefault(image, ""),
              List.copyOf(fits.getOrDefault(image, List.of()))));
    }
    return loose;
  }
}
