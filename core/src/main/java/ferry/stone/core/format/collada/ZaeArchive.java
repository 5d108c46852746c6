package ferry.stone.core.format.collada;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.MemoryFiles;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Texture;
import java.io.ByteArrayOutputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipInputStream;

/**
 * A zip with a COLLADA file and its images: release 1.5, "COLLADA Packages". {@code manifest.xml}
 * names the file to open. Images become part of the scene; nothing is unpacked to disk.
 */
final class ZaeArchive {
  private static final int BLOCK = 1 << 16;
  private static final int MOST_ENTRIES = 20_000;

  private final String resource;
  private final Map<String, byte[]> entries = new LinkedHashMap<>();

  private ZaeArchive(String resource) {
    this.resource = resource;
  }

  static boolean isZip(String resource, Resources resources) throws IOException {
    try (InputStream in = resources.open(resource)) {
      byte[] head = in.readNBytes(2);
      return head.length == 2 && head[0] == 'P' && head[1] == 'K';
    }
  }

  static Scene read(String resource, ReadContext context) throws IOException, FormatException {
    ZaeArchive archive = new ZaeArchive(resource);
    Budget budget = Budget.of(resource, context.resources());
    CountedStream file = new CountedStream(context.resources().open(resource));
    try (ZipInputStream zip = new ZipInputStream(file)) {
      archive.unpack(zip, budget, context);
    } catch (ZipException | EOFException | IllegalArgumentException e) {
      if (file.fault() != null) {
        throw file.fault();
      }
      throw new FormatException(
          Kind.CORRUPT, resource, "", "the archive is damaged. Pack or copy it again.");
    }
    String main = archive.main();
    ReadContext inside = context.of(new MemoryFiles(archive.entries), context.findings());
    Scene scene;
    try {
      scene = ColladaReader.read(main, budget, inside);
    } catch (FormatException e) {
      String place = main + (e.place().isEmpty() ? "" : ", " + e.place());
      throw new FormatException(e.kind(), resource, place, e.problem());
    }
    List<Texture> textures = new ArrayList<>();
    for (Texture t : scene.textures()) {
      byte[] bytes = t.resource() == null ? null : archive.entries.get(t.resource());
      textures.add(
          bytes == null ? t : new Texture(t.id(), t.name(), t.written(), null, bytes, null));
    }
    return scene.toBuilder().textures(textures).name(CargoPath.stem(resource)).build();
  }

  private void unpack(ZipInputStream zip, Budget budget, ReadContext context)
      throws IOException, FormatException {
    byte[] block = new byte[BLOCK];
    for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
      context.progress().checkCancelled();
      context.progress().report("unpacking " + resource, 0);
      String path = CargoPath.safe(entry.getName()).orElse(null);
      if (entry.isDirectory() || path == null) {
        continue;
      }
      if (entries.size() >= MOST_ENTRIES) {
        throw new FormatException(
            Kind.TOO_LARGE,
            resource,
            "",
            "the archive holds more than "
                + MOST_ENTRIES
                + " files. Pack only what belongs to it.");
      }
      ByteArrayOutputStream out = new ByteArrayOutputStream();
      for (int read = zip.read(block); read >= 0; read = zip.read(block)) {
        budget.claim(read, path, "The archive");
        out.write(block, 0, read);
      }
      entries.put(path, out.toByteArray());
    }
  }

  /** The file to open: what the manifest names, else the first there is. */
  private String main() throws FormatException {
    byte[] manifest = entries.get("manifest.xml");
    if (manifest != null) {
      String text = new String(manifest, StandardCharsets.UTF_8);
      int from = text.indexOf("<dae_root>");
      int to = text.indexOf("</dae_root>");
      if (from >= 0 && to > from) {
        String url = DaeMaterials.path(text.substring(from + "<dae_root>".length(), to).strip());
        int hash = url.indexOf('#');
        String path =
            CargoPath.resolve("", CargoPath.relative(hash < 0 ? url : url.substring(0, hash)));
        if (entries.containsKey(path)) {
          return path;
        }
      }
    }
    for (String path : entries.keySet()) {
      if (CargoPath.extension(path).equals("dae")) {
        return path;
      }
    }
    throw new FormatException(
        Kind.NOT_THIS_FORMAT,
        resource,
        "",
        "the archive holds no .dae file, and its manifest names none. Pack it again.");
  }
}
