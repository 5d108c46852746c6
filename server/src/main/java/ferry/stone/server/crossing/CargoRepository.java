package ferry.stone.server.crossing;

import ferry.stone.server.store.Rows;
import io.swagger.v3.oas.annotations.media.Schema;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Repository;

/** Cargo files and the user's choices of files for references. */
@Repository
public class CargoRepository {
  private final Rows rows;

  public CargoRepository(Rows rows) {
    this.rows = rows;
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

  private static StoredFile map(ResultSet row) throws SQLException {
    return new StoredFile(
        row.getString("path"),
        row.getString("blob"),
        row.getLong("size"),
        row.getString("unpacked_from"));
  }
}
