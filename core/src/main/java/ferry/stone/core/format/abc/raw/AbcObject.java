package ferry.stone.core.format.abc.raw;

import ferry.stone.core.format.FormatException;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** An object of the tree. Its properties and the objects below it are read when asked for. */
public final class AbcObject {
  /** Two hashes of 16 bytes after the headers. */
  private static final int HASHES = 32;

  private final AbcArchive archive;
  private final OgawaFile.Group group;
  private final String name;
  private final String path;
  private final Map<String, String> metaData;
  private final int depth;
  private List<AbcObject> children;

  AbcObject(
      AbcArchive archive,
      OgawaFile.Group group,
      String name,
      String path,
      Map<String, String> metaData,
      int depth)
      throws FormatException {
    this.archive = archive;
    this.group = group;
    this.name = name;
    this.path = path;
    this.metaData = metaData;
    this.depth = depth;
    archive.count(depth, group);
  }

  public String name() {
    return name;
  }

  /** Names from the top down, a {@code /} before each; empty for the top. */
  public String path() {
    return path;
  }

  public Map<String, String> metaData() {
    return metaData;
  }

  /** The schema that it follows, as {@code AbcGeom_PolyMesh_v1}; empty for none. */
  public String schema() {
    return metaData.getOrDefault("schema", "");
  }

  public AbcCompound properties() throws IOException, FormatException {
    boolean has = archive.file.isGroup(group, 0);
    return new AbcCompound(archive, has ? archive.file.group(group, 0) : OgawaFile.Group.EMPTY, 0);
  }

  /** The objects below it, in the order of the file. */
  public synchronized List<AbcObject> children() throws IOException, FormatException {
    if (children == null) {
      children = readChildren();
    }
    return children;
  }

  private List<AbcObject> readChildren() throws IOException, FormatException {
    long last = group.count() - 1;
    if (!archive.file.isData(group, last)) {
      return List.of();
    }
    OgawaFile.Data data = archive.file.data(group, last);
    if (data.size() <= HASHES) {
      return List.of();
    }
    archive.claim(data);
    HeaderBytes in = new HeaderBytes(archive.file, data, HASHES);
    List<AbcObject> found = new ArrayList<>();
    while (in.hasMore()) {
      String child = in.text(in.number());
      Map<String, String> meta = archive.metaData(in, in.small(), 2);
      OgawaFile.Group at = archive.file.group(group, 1 + found.size());
      found.add(new AbcObject(archive, at, child, path + "/" + child, meta, depth + 1));
    }
    return List.copyOf(found);
  }
}
