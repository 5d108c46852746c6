package ferry.stone.core.format.obj.read;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.obj.raw.NameText;
import ferry.stone.core.format.obj.raw.TextBlocks;
import ferry.stone.core.format.obj.raw.TextLines;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/** Reads a material library. A statement that makes no sense is reported; the rest is read. */
final class MtlReader {
  private static final Set<String> COLOURS = Set.of("ka", "kd", "ks", "ke", "tf");
  private static final Set<String> SCALARS =
      Set.of(
          "ns",
          "ni",
          "d",
          "tr",
          "illum",
          "sharpness",
          "pr",
          "pm",
          "ps",
          "pc",
          "pcr",
          "aniso",
          "anisor",
          "map_aat");
  private static final Set<String> MAPS =
      Set.of(
          "map_ka",
          "map_kd",
          "map_ks",
          "map_ke",
          "map_ns",
          "map_d",
          "map_tr",
          "map_bump",
          "bump",
          "norm",
          "map_norm",
          "disp",
          "map_disp",
          "decal",
          "refl",
          "map_refl",
          "map_pr",
          "map_pm",
          "map_ps",
          "map_pc",
          "map_pcr",
          "map_ao",
          "map_rma",
          "map_orm");

  private static final int BLOCK = 1 << 16;

  private MtlReader() {}

  static List<MtlMaterial> read(String resource, ReadContext context)
      throws IOException, FormatException {
    List<MtlMaterial> materials = new ArrayList<>();
    NameText names = new NameText(resource);
    try (InputStream in = context.resources().open(resource)) {
      TextBlocks blocks = new TextBlocks(in, resource, BLOCK);
      MtlMaterial current = null;
      int lineCount = 0;
      for (TextBlocks.Block block = blocks.next(); block != null; block = blocks.next()) {
        TextLines lines = new TextLines(block, lineCount);
        while (lines.next()) {
          String line = names.decode(block.bytes(), lines.start(), lines.end(), lines.line());
          String[] parts = line.strip().split("\\s+", 2);
          String key = parts[0].toLowerCase(Locale.ROOT);
          String rest = parts.length > 1 ? parts[1].strip() : "";
          if (key.equals("newmtl")) {
            current = new MtlMaterial(rest, resource, lines.line());
            materials.add(current);
          } else if (current != null && !key.isEmpty() && !key.startsWith("#")) {
            statement(current, key, rest, lines.line(), context);
          }
        }
        lineCount = lines.lines();
      }
      names.report(context.findings());
    }
    if (materials.isEmpty()) {
      context
          .findings()
          .add(
              Finding.of(
                  "no-materials",
                  Severity.FIX,
                  resource,
                  "The material file holds no material. Expected lines such as \"newmtl name\"."));
    }
    return materials;
  }

  private static void statement(
      MtlMaterial material, String key, String rest, int line, ReadContext context) {
    try {
      if (COLOURS.contains(key)) {
        colour(material, key, rest);
      } else if (SCALARS.contains(key)) {
        scalar(material, key, rest);
      } else if (MAPS.contains(key)) {
        if (key.equals("refl") && material.maps.containsKey(key)) {
          material.unread.add(key + " " + rest);
        } else {
          material.maps.put(key, MtlMapOptions.parse(rest));
        }
      } else {
        material.unread.add((key + " " + rest).strip());
      }
    } catch (IllegalArgumentException e) {
      context
          .findings()
          .add(
              Finding.of(
                  "material-statement-broken",
                  Severity.LOOK,
                  material.file + ", line " + line,
                  "\"" + key + " " + rest + "\" is left out: " + e.getMessage() + "."));
    }
  }

  private static void colour(MtlMaterial material, String key, String rest) {
    if (rest.startsWith("spectral")) {
      material.unread.add(key + " " + rest);
      return;
    }
    boolean xyz = rest.startsWith("xyz");
    double[] v = numbers(xyz ? rest.substring(3) : rest, 3);
    if (v.length == 0) {
      throw new IllegalArgumentException("a colour needs 1 or 3 numbers");
    }
    // "If only r is specified, then g, and b are assumed to be equal to r."
    double[] rgb = v.length < 3 ? new double[] {v[0], v[0], v[0]} : v;
    material.values.put(key, xyz ? fromXyz(rgb) : rgb);
  }

  /** CIE XYZ to linear sRGB primaries, IEC 61966-2-1. */
  private static double[] fromXyz(double[] c) {
    return new double[] {
      3.2406 * c[0] - 1.5372 * c[1] - 0.4986 * c[2],
      -0.9689 * c[0] + 1.8758 * c[1] + 0.0415 * c[2],
      0.0557 * c[0] - 0.2040 * c[1] + 1.0570 * c[2]
    };
  }

  private static void scalar(MtlMaterial material, String key, String rest) {
    String text = rest.startsWith("-halo") ? rest.substring(5).strip() : rest;
    if (rest.startsWith("-halo")) {
      material.unread.add(key + " -halo");
    }
    if (key.equals("map_aat")) {
      material.unread.add(key + " " + rest);
      return;
    }
    double[] v = numbers(text, 3);
    if (v.length == 0) {
      throw new IllegalArgumentException("a number is missing");
    }
    material.values.put(key, v);
  }

  private static double[] numbers(String text, int most) {
    String[] words = text.strip().isEmpty() ? new String[0] : text.strip().split("\\s+");
    double[] values = new double[Math.min(most, words.length)];
    int count = 0;
    for (int i = 0; i < values.length; i++) {
      if (words[i].startsWith("#")) {
        break;
      }
      double value;
      try {
        value = Double.parseDouble(words[i].replace(',', '.'));
      } catch (NumberFormatException e) {
        throw new IllegalArgumentException("\"" + words[i] + "\" is no number", e);
      }
      if (!Double.isFinite(value)) {
        throw new IllegalArgumentException("\"" + words[i] + "\" is not finite");
      }
      values[count++] = value;
    }
    return Arrays.copyOf(values, count);
  }
}
