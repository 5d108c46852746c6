package ferry.stone.core.format;

import ferry.stone.core.format.abc.AbcFormat;
import ferry.stone.core.format.cache.CacheFormat;
import ferry.stone.core.format.collada.ColladaFormat;
import ferry.stone.core.format.fbx.FbxFormat;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.gltf.GltfFormat;
import ferry.stone.core.format.losses.CapabilityTable;
import ferry.stone.core.format.obj.ObjFormat;
import ferry.stone.core.format.ply.PlyFormat;
import ferry.stone.core.format.stl.StlFormat;
import ferry.stone.core.format.usd.UsdFormat;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.stream.Collectors;

/** The formats. A new one is its package and a line here. */
public final class Formats {
  /** How many bytes of a file are looked at to tell what it is. */
  public static final int HEAD = 4096;

  private static final List<Format> KNOWN =
      new CopyOnWriteArrayList<>(
          List.of(
              GltfFormat.GLB,
              GltfFormat.GLTF,
              FbxFormat.FBX,
              ObjFormat.OBJ,
              StlFormat.STL,
              PlyFormat.PLY,
              ColladaFormat.COLLADA,
              UsdFormat.USDC,
              UsdFormat.USDA,
              UsdFormat.USDZ,
              AbcFormat.ABC,
              CacheFormat.MDD,
              CacheFormat.PC2));

  public static final List<Format> ALL = Collections.unmodifiableList(KNOWN);

  /**
   * The format in which an asset with its look is handed on inside the application: one file,
   * physically based materials, images inside.
   */
  public static final String HANDED_ON = GltfFormat.GLB.key();

  private Formats() {}

  /** Takes one more in, until it is closed; for tests of the door itself. */
  static AutoCloseable also(Format format) {
    KNOWN.add(format);
    return () -> KNOWN.remove(format);
  }

  public static Optional<Format> find(String key) {
    return ALL.stream().filter(f -> f.key().equals(key)).findFirst();
  }

  /** The format whose files have an ending. */
  public static Optional<Format> ofEnding(String path) {
    String ending = CargoPath.extension(path);
    return ALL.stream().filter(f -> f.extensions().contains(ending)).findFirst();
  }

  /** The format of a file by its content, else by its ending; empty for none that is read. */
  public static Optional<Format> of(String path, Resources resources) throws IOException {
    Optional<Format> byEnding = ofEnding(path);
    byte[] head = head(path, resources);
    if (byEnding.isPresent() && byEnding.get().sniff(head)) {
      return byEnding;
    }
    Optional<Format> byContent = ALL.stream().filter(f -> f.sniff(head)).findFirst();
    return byContent.isPresent() ? byContent : byEnding;
  }

  private static byte[] head(String path, Resources resources) throws IOException {
    try (InputStream in = resources.open(path)) {
      return in.readNBytes(HEAD);
    }
  }

  /** What the formats carry, each table once. */
  public static List<CapabilityTable> tables() {
    Map<String, CapabilityTable> tables = new LinkedHashMap<>();
    ALL.forEach(f -> tables.putIfAbsent(f.losses().format(), f.losses()));
    return new ArrayList<>(tables.values());
  }

  /** The formats that are written. */
  public static List<Format> written() {
    return ALL.stream().filter(f -> f.writer().isPresent()).toList();
  }

  /**
   * How a format is written.
   *
   * @throws IllegalArgumentException in a sentence when it is none, or not written
   */
  public static SceneWriter writer(String key) {
    return find(key)
        .flatMap(Format::writer)
        .orElseThrow(
            () ->
                new IllegalArgumentException(
                    "format must be one of "
                        + written().stream().map(Format::key).collect(Collectors.joining(", "))
                        + ", not \""
                        + key
                        + "\""));
  }

  /**
   * Refuses keys of formats that are not written.
   *
   * @throws IllegalArgumentException in a sentence
   */
  public static void checkWritten(List<String> keys) {
    keys.forEach(Formats::writer);
  }

  /** Names of the formats that are read, for sentences: "GLB, glTF, FBX or OBJ". */
  public static String readNames() {
    List<String> names =
        ALL.stream().filter(f -> f.reader().isPresent()).map(Format::name).toList();
    return names.size() == 1
        ? names.get(0)
        : names.stream().limit(names.size() - 1).collect(Collectors.joining(", "))
            + " or "
            + names.get(names.size() - 1);
  }
}
