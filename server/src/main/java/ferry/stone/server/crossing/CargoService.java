package ferry.stone.server.crossing;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.SharedFolders;
import ferry.stone.core.cargo.ZipUnpacker;
import ferry.stone.core.format.CargoRole;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.work.Progress;
import ferry.stone.server.FerrySettings;
import ferry.stone.server.crossing.CargoRepository.StoredFile;
import ferry.stone.server.store.BlobStore;
import ferry.stone.server.store.Storage;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.stereotype.Service;

/** The files that were brought for a crossing. */
@Service
public class CargoService {
  private final CrossingService crossings;
  private final CargoRepository cargo;
  private final Storage storage;
  private final FerrySettings settings;
  private final SharedFolders shared;

  public CargoService(
      CrossingService crossings,
      CargoRepository cargo,
      Storage storage,
      FerrySettings settings,
      SharedFolders shared) {
    this.crossings = crossings;
    this.cargo = cargo;
    this.storage = storage;
    this.settings = settings;
    this.shared = shared;
  }

  public List<StoredFile> files(String id) {
    crossings.get(id);
    return cargo.files(id);
  }

  /** Takes a file in; {@code path} is relative, as the user's folder has it. */
  public StoredFile upload(String id, String path, long claimedSize, InputStream content)
      throws IOException, FormatException {
    crossings.get(id);
    String safe =
        CargoPath.safe(path)
            .orElseThrow(
                () ->
                    new FormatException(
                        FormatException.Kind.CORRUPT,
                        path,
                        "",
                        "the path leads outside the cargo. Bring the file under a plain name."));
    if (claimedSize > settings.maxUploadBytes()) {
      throw new BlobStore.TooLargeException(settings.maxUploadBytes());
    }
    BlobStore.Blob blob = storage.blobs().put(content, settings.maxUploadBytes());
    try {
      StoredFile file = new StoredFile(safe, blob.hash(), blob.size(), null);
      cargo.put(id, file);
      return file;
    } finally {
      storage.blobs().release(blob.hash());
    }
  }

  public void removeFile(String id, String path) {
    crossings.get(id);
    storage.freeing(() -> cargo.remove(id, path));
  }

  /** Puts what the zips of a cargo hold in their place. */
  void unpack(String id, Progress progress) throws IOException, FormatException {
    for (StoredFile zip : cargo.files(id)) {
      if (CargoRole.of(zip.path()) != CargoRole.ARCHIVE || zip.unpackedFrom() != null) {
        continue;
      }
      try (BlobStore.Batch batch = storage.blobs().batch()) {
        ZipUnpacker.unpack(
            storage.blobs().path(zip.blob()),
            CargoPath.name(zip.path()),
            ZipUnpacker.Limits.USUAL,
            batch::create,
            progress);
        List<StoredFile> files = new ArrayList<>();
        batch
            .keep()
            .forEach(
                (path, blob) ->
                    files.add(new StoredFile(path, blob.hash(), blob.size(), zip.path())));
        cargo.putAll(id, files);
      }
      cargo.remove(id, zip.path());
    }
  }

  /** The files of a crossing's cargo. */
  public CargoFolder folder(String id) {
    Map<String, Path> paths = new TreeMap<>();
    for (StoredFile file : cargo.files(id)) {
      paths.put(file.path(), storage.blobs().path(file.blob()));
    }
    return new CargoFolder(paths, shared);
  }
}
