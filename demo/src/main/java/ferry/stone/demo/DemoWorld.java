package ferry.stone.demo;

import ferry.stone.core.format.files.Output;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDateTime;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;

/** Writes the demo cargo as zips; run by the build, so that the server's jar carries them. */
public final class DemoWorld {
  /** A fixed time for zip entries: same seed, same bytes. */
  private static final LocalDateTime TIME = LocalDateTime.of(2026, 1, 1, 12, 0);

  private DemoWorld() {}

  /** What can be made: a name for people and its file. */
  public enum Cargo {
    BOLLARD_SET("Bollard set", "bollard-set.zip"),
    LANTERN_STRING("Lantern string", "lantern-string.zip"),
    GATE_LANTERN("Gate lantern", "gate-lantern.zip"),
    CAPSTAN("Capstan", "capstan.zip"),
    HERON("Heron automaton", "heron-automaton.zip"),
    HERON_FBX("Heron automaton, FBX", "heron-automaton-fbx.zip"),
    CAPSTAN_FBX("Capstan, FBX", "capstan-fbx.zip"),
    BOLLARD_FBX("Bollard set, FBX", "bollard-set-fbx.zip"),
    SAIL("Patchwork sail", "patchwork-sail.zip"),
    ARCH("Falling arch", "falling-arch.zip"),
    ARCH_CACHE("Falling arch (cache)", "falling-arch-cache.zip"),
    PENNANT("Pennant", "pennant.zip"),
    PENNANT_CACHE("Pennant (Alembic)", "pennant-alembic.zip"),
    SINGING_HEAD("Singing head", "singing-head.zip"),
    BARGE("Barge at dusk", "barge-at-dusk.zip");

    private final String label;
    private final String file;

    Cargo(String label, String file) {
      this.label = label;
      this.file = file;
    }

    public String label() {
      return label;
    }

    public String file() {
      return file;
    }
  }

  /**
   * @param args the folder to write to
   */
  public static void main(String[] args) throws IOException {
    Path folder = Path.of(args[0]);
    Files.createDirectories(folder);
    StringBuilder index = new StringBuilder();
    for (Cargo cargo : Cargo.values()) {
      try (OutputStream out = Files.newOutputStream(folder.resolve(cargo.file()))) {
        write(cargo, out);
      }
      index.append(cargo.label()).append('\t').append(cargo.file()).append('\n');
    }
    Files.writeString(folder.resolve("index.tsv"), index);
  }

  /** Writes one cargo as a zip. */
  public static void write(Cargo cargo, OutputStream out) throws IOException {
    try (ZipOutputStream zip = new ZipOutputStream(out)) {
      java.util.Set<String> written = new java.util.HashSet<>();
      Output output =
          path -> {
            if (!written.add(path)) {
              return OutputStream.nullOutputStream();
            }
            ZipEntry entry = new ZipEntry(path);
            entry.setTimeLocal(TIME);
            zip.putNextEntry(entry);
            return new FilterOutputStream(zip) {
              @Override
              public void write(byte[] bytes, int from, int count) throws IOException {
                zip.write(bytes, from, count);
              }

              @Override
              public void close() throws IOException {
                zip.closeEntry();
              }
            };
          };
      switch (cargo) {
        case BOLLARD_SET -> BollardSet.write(output);
        case LANTERN_STRING -> LanternString.write(output);
        case GATE_LANTERN -> GateLantern.write(output);
        case CAPSTAN -> Capstan.write(output);
        case HERON -> Heron.write(output);
        case HERON_FBX -> Heron.writeFbx(output);
        case CAPSTAN_FBX -> CapstanFbx.write(output);
        case BOLLARD_FBX -> BollardSet.writeFbx(output);
        case SAIL -> PatchworkSail.write(output);
        case ARCH -> FallingArch.write(output);
        case ARCH_CACHE -> FallingArch.writeAbc(output);
        case PENNANT -> Pennant.write(output);
        case PENNANT_CACHE -> Pennant.writeAbc(output);
        case SINGING_HEAD -> SingingHead.write(output);
        case BARGE -> BargeAtDusk.write(output);
        default -> throw new IllegalArgumentException(cargo.toString());
      }
    }
  }
}
