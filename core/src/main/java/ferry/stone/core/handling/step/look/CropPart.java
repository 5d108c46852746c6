package ferry.stone.core.handling.step.look;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.look.Wrap;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.texture.ImageEdits;
import ferry.stone.core.texture.Pixels;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** A material whose images may be cut to what its faces show of them. */
final class CropPart {
  private final Material material;
  private final ImageSlots slots;
  private final AtlasUvs uvs;
  private final TextureUse lie;
  private final boolean alike;
  private final Map<Integer, Pixels> images = new LinkedHashMap<>();
  private String missing;
  private int gridWidth;
  private int gridHeight;
  private int left;
  private int top;
  private int right;
  private int bottom;

  CropPart(Scene scene, Material material, ImageSlots slots) {
    this.material = material;
    this.slots = slots;
    List<TextureUse> uses = new ArrayList<>();
    material.channels().values().forEach(v -> uses.add(v.texture()));
    uses.removeIf(u -> u == null);
    lie = uses.isEmpty() ? null : uses.get(0);
    alike = uses.stream().allMatch(u -> u.liesAs(lie));
    uvs = new AtlasUvs(scene.uvOrigin(), lie);
    for (TextureUse use : uses) {
      try {
        images.put(use.textureId(), slots.pixelsOf(use));
      } catch (IllegalArgumentException e) {
        missing = e.getMessage();
      }
    }
  }

  String name() {
    return material.name();
  }

  void add(PolygonMesh mesh, int face) {
    if (lie != null && missing == null) {
      missing = uvs.of(mesh) == null ? "a part of it has no UVs for them" : null;
      uvs.add(mesh, face);
    }
  }

  /** Why its images cannot be cut; {@code null} when they can, or when there are none. */
  String refused() {
    if (lie == null) {
      return null;
    }
    if (missing != null) {
      return missing;
    }
    if (!alike) {
      return "they lie otherwise than each other";
    }
    return uvs.isPlain() ? null : "they repeat across faces";
  }

  /**
   * Works out what is shown, in whole pixels of all images at once.
   *
   * @return {@code false} where there is nothing to cut
   */
  boolean fit(int margin) {
    if (lie == null || images.isEmpty()) {
      return false;
    }
    for (Pixels image : images.values()) {
      gridWidth = common(gridWidth, image.width());
      gridHeight = common(gridHeight, image.height());
    }
    double[] box = uvs.shown();
    left = Math.max(0, (int) Math.floor(box[0] * gridWidth) - margin);
    top = Math.max(0, (int) Math.floor(box[1] * gridHeight) - margin);
    right = Math.min(gridWidth, (int) Math.ceil(box[2] * gridWidth) + margin);
    bottom = Math.min(gridHeight, (int) Math.ceil(box[3] * gridHeight) + margin);
    return right > left && bottom > top;
  }

  private static int common(int a, int b) {
    return BigInteger.valueOf(a).gcd(BigInteger.valueOf(b)).intValueExact();
  }

  /** The part of the pixels that goes. */
  double saved() {
    double shown = (double) (right - left) * (bottom - top);
    return 1 - shown / ((double) gridWidth * gridHeight);
  }

  long pixels() {
    return images.values().stream().mapToLong(p -> (long) p.width() * p.height()).sum();
  }

  /** Puts the images that are left in the place of the old ones. */
  void crop() {
    Map<Integer, Integer> now = new HashMap<>();
    images.forEach(
        (id, image) -> {
          int across = image.width() / gridWidth;
          int down = image.height() / gridHeight;
          Pixels part =
              ImageEdits.part(
                  image, left * across, top * down, (right - left) * across, (bottom - top) * down);
          now.put(id, slots.image(slots.stem(id) + "_" + material.name() + ".png", part));
        });
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    material
        .channels()
        .forEach(
            (channel, value) -> {
              TextureUse use = value.texture();
              TextureUse mine = use == null ? null : use(use, now.get(use.textureId()));
              channels.put(channel, new Material.Value(value.factor(), mine));
            });
    slots.put(material.withChannels(channels));
  }

  /** Beyond the border there is nothing of the old image any more. */
  private static TextureUse use(TextureUse old, int image) {
    Wrap wrap = new Wrap(Wrap.Edge.CLAMP, Wrap.Edge.CLAMP, old.wrap().sharp());
    return new TextureUse(
        image, old.uvSet(), 0, 0, 1, 1, 0, wrap, old.component(), old.amount(), "");
  }

  /** The mesh with the UVs of faces whose images were cut. */
  static PolygonMesh moved(PolygonMesh mesh, Map<Integer, CropPart> cropped) {
    List<Attribute> layers = new ArrayList<>(mesh.attributes());
    List<Attribute> sets = mesh.all(Semantic.UV);
    boolean any = false;
    for (int set = 0; set < sets.size(); set++) {
      Attribute uv = sets.get(set);
      float[] values = new float[2 * mesh.faces().cornerCount()];
      boolean moves = false;
      for (int f = 0; f < mesh.faces().faceCount(); f++) {
        CropPart part = cropped.get(mesh.materialOf(f));
        if (part != null && part.lie.uvSet() == set) {
          moves = true;
          part.uvs.put(mesh, f, part.tile(), values);
        } else {
          AtlasUvs.keep(mesh, uv, f, values);
        }
      }
      if (moves) {
        any = true;
        layers.set(
            layers.indexOf(uv),
            new Attribute(uv.name(), Semantic.UV, Domain.CORNER, 2, values, null));
      }
    }
    return any ? mesh.withAttributes(layers) : mesh;
  }

  /** Where the whole old image lies in the new one: beyond it on all sides. */
  private double[] tile() {
    double width = (double) gridWidth / (right - left);
    double height = (double) gridHeight / (bottom - top);
    return new double[] {
      -(double) left / (right - left), -(double) top / (bottom - top), width, height
    };
  }
}
