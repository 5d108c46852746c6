package ferry.stone.e2e;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.ZipUnpacker;
import ferry.stone.core.work.Progress;
import ferry.stone.demo.DemoWorld;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;

/** Demo cargo as files on the disk. */
final class DemoCargo {
  private DemoCargo() {}

  /** Writes a cargo and unpacks it into a folder with its name. */
  static CargoFolder unpack(DemoWorld.Cargo cargo, Path folder) throws Exception {
    Path zip = folder.resolve(cargo.file());
    try (OutputStream out = Files.newOutputStream(zip)) {
      DemoWorld.write(cargo, out);
    }
    Path target = folder.resolve(cargo.name());
    ZipUnpacker.unpack(
        zip,
        cargo.file(),
        ZipUnpacker.Limits.USUAL,
        path -> {
          Files.createDirectories(target.resolve(path).getParent());
          return Files.newOutputStream(target.resolve(path));
        },
        Progress.NONE);
    return CargoFolder.of(target);
  }
}
