package ferry.stone.core.cargo;

import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.files.TextureBytes;
import ferry.stone.core.scene.look.ImageFiles;
import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Supplier;

/** The images among the files of a cargo; what is found out about them is small and is kept. */
final class CargoImages implements ImageFiles {
  private final Resources files;
  private final List<String> paths;
  private final Map<String, Object> known = new ConcurrentHashMap<>();

  CargoImages(Resources files) {
    this.files = files;
    this.paths = files.paths().stream().filter(CargoPath::isImage).sorted().toList();
  }

  @Override
  public List<String> paths() {
    return paths;
  }

  @Override
  public byte[] read(String path) throws IOException {
    if (files.size(path) > TextureBytes.LARGEST) {
      throw new IOException(path + ": the image file is larger than 512 MB. Make it smaller.");
    }
    try (InputStream in = files.open(path)) {
      return in.readAllBytes();
    }
  }

  @Override
  public <T> T known(String key, Class<T> type, Supplier<T> make) {
    return type.cast(known.computeIfAbsent(type.getName() + " " + key, k -> make.get()));
  }
}
