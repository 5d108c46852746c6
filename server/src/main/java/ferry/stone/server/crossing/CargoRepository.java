package ferry.stone.server.crossing;

import ferry.stone.server.store.Json;
import ferry.stone.server.store.Rows;
import io.swagger.v3.oas.annotations.media.Schema;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Repository;

/** Cargo files, the user's choices of files for references, and how the cargo is read. */
@Repository
public class CargoRepository {
  private final Rows rows;
  private final Json json;

  public CargoRepository(Rows rows, Json json) {
    this.rows = rows;
    this.json = json;
  }

  /** A stored cargo file. */
  public record StoredFile(
      String path, String blob, long size, @Schema(nullable = true) String unpackedFrom) {}

  public List<StoredFile> files(String crossingId) {
    return rows.list(
        """
        SELECT path, blob, size, unpacked_from FROM cargo_file
        WHERE crossing_id = ? ORDER BY path
        """,
        CargoRepository::map,
        crossingId);
  }

  /** Adds a file, or replaces the one under its path. */
  public void put(String crossingId, StoredFile file) {
    putAll(crossingId, List.of(file));
  }

  /** Adds many files at once: all of them, or none. */
  public void putAll(String crossingId, List<StoredFile> files) {
    rows.changeAll(
        """
        INSERT INTO cargo_file (crossing_id, path, blob, size, unpacked_from)
        VALUES (?, ?, ?, ?, ?)
        ON CONFLICT (crossing_id, path)
        DO UPDATE SET blob = excluded.blob, size = excluded.size,
                      unpacked_from = excluded.unpacked_from
        """,
        files.stream()
            .map(f -> new Object[] {crossingId, f.path(), f.blob(), f.size(), f.unpackedFrom()})
            .toList());
  }

  public void remove(String crossingId, String path) {
    rows.change("DELETE FROM cargo_file WHERE crossing_id = ? AND path = ?", crossingId, path);
  }

  public Map<String, String> bindings(String crossingId) {
    Map<String, String> bindings = new LinkedHashMap<>();
    rows.list(
            "SELECT reference, file FROM binding WHERE crossing_id = ?",
            row -> Map.entry(row.getString("reference"), row.getString("file")),
            crossingId)
        .forEach(e -> bindings.put(e.getKey(), e.getValue()));
    return bindings;
  }

  public void bind(String crossingId, String reference, String file) {
    rows.change(
        """
        INSERT INTO binding (crossing_id, reference, file) VALUES (?, ?, ?)
        ON CONFLICT (crossing_id, reference) DO UPDATE SET file = excluded.file
        """,
        crossingId,
        reference,
        file);
  }

  public void unbind(String crossingId, String reference) {
    rows.change(
        "DELETE FROM binding WHERE crossing_id = ? AND reference = ?", crossingId, reference);
  }

  /** What was chosen about the reading, by name. */
  public Map<String, Object> readOptions(String crossingId) {
    Map<String, Object> options = new LinkedHashMap<>();
    rows.list(
            "SELECT name, value FROM read_option WHERE crossing_id = ? ORDER BY name",
            row -> Map.entry(row.getString("name"), row.getString("value")),
            crossingId)
        .forEach(e -> options.put(e.getKey(), json.read(e.getValue(), Object.class)));
    return options;
  }

  public void readOption(String crossingId, String name, Object value) {
    rows.change(
        """
        INSERT INTO read_option (crossing_id, name, value) VALUES (?, ?, ?)
        ON CONFLICT (crossing_id, name) DO UPDATE SET value = excluded.value
        """,
        crossingId,
        name,
        json.write(value));
  }

  private static StoredFile map(ResultSet row) throws SQLException {
    return new StoredFile(
        row.getString("path"),
        row.getString("blob"),
        row.getLong("size"),
        row.getString("unpacked_from"));
  }
}
