package ferry.stone.core.format.obj.write;

import ferry.stone.core.format.obj.raw.MtlKeys;
import ferry.stone.core.format.obj.raw.NumberWords;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.look.Wrap;
import java.io.IOException;
import java.io.Writer;
import java.util.Map;

/** Writes materials, key by key. */
final class MtlWriter {
  /** How a material file names an image. */
  public interface Images {
    MtlImages.Named of(TextureUse use) throws IOException;
  }

  private final Writer out;
  private final Images images;

  private MtlWriter(Writer out, Images images) {
    this.out = out;
    this.images = images;
  }

  static void write(Scene scene, Writer out, Images images) throws IOException {
    MtlWriter writer = new MtlWriter(out, images);
    out.write("# Stone Ferry\n");
    for (Material material : scene.materials()) {
      out.write("\nnewmtl " + material.name() + "\n");
      for (Map.Entry<Channel, Material.Value> entry : material.channels().entrySet()) {
        writer.value(MtlKeys.VALUE_KEYS.get(entry.getKey()), entry.getValue());
      }
      writer.illumination(material);
      for (Map.Entry<Channel, Material.Value> entry : material.channels().entrySet()) {
        writer.map(MtlKeys.MAP_KEYS.get(entry.getKey()), entry.getValue().texture());
      }
    }
  }

  private void value(String key, Material.Value value) throws IOException {
    if (key == null || value.factor() == null) {
      return;
    }
    out.write(key);
    for (int i = 0; i < Math.min(3, value.factor().length); i++) {
      out.write(" " + NumberWords.of((float) value.factor()[i]));
    }
    out.write("\n");
  }

  /** As the source said it; else 2, "highlight on", where there is one, 1 where there is none. */
  private void illumination(Material material) throws IOException {
    Object own = material.properties().get("illum");
    if (own instanceof Double model) {
      out.write("illum " + NumberWords.of(model.floatValue()) + "\n");
    } else if (material.shading() == Material.Shading.PHONG) {
      boolean highlight = material.get(Channel.SPECULAR).isPresent();
      out.write("illum " + (highlight ? 2 : 1) + "\n");
    }
  }

  private void map(String key, TextureUse use) throws IOException {
    if (key == null || use == null) {
      return;
    }
    MtlImages.Named image = images.of(use);
    out.write(key);
    if (use.scaleU() != 1 || use.scaleV() != 1) {
      out.write(" -s " + number(use.scaleU()) + " " + number(use.scaleV()) + " 1");
    }
    if (use.offsetU() != 0 || use.offsetV() != 0) {
      out.write(" -o " + number(use.offsetU()) + " " + number(use.offsetV()) + " 0");
    }
    if (use.wrap().equals(Wrap.CLAMPED)) {
      out.write(" -clamp on");
    }
    if (use.amount() != 1) {
      out.write(" -bm " + number(use.amount()));
    }
    if (use.component() != 0 && !image.isPart()) {
      // The standard's word for alpha is matte.
      out.write(" -imfchan " + (use.component() == 'a' ? 'm' : use.component()));
    }
    out.write(" " + image.path() + "\n");
  }

  private static String number(double value) {
    return NumberWords.of((float) value);
  }
}
