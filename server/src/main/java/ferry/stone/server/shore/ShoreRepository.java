package ferry.stone.server.shore;

import ferry.stone.core.shore.Shore;
import ferry.stone.server.store.Json;
import ferry.stone.server.store.Rows;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Repository;

/** Shores that users made, and the far shore that was chosen last. */
@Repository
public class ShoreRepository {
  private static final String LAST = "far-shore";
  private final Rows rows;
  private final Json json;

  public ShoreRepository(Rows rows, Json json) {
    this.rows = rows;
    this.json = json;
  }

  public List<Shore> all() {
    return rows.list(
        "SELECT body FROM shore ORDER BY name, id",
        row -> json.read(row.getString("body"), Shore.class));
  }

  public Optional<Shore> find(String id) {
    return rows.optional(
        "SELECT body FROM shore WHERE id = ?",
        row -> json.read(row.getString("body"), Shore.class),
        id);
  }

  public void put(Shore shore) {
    rows.change(
        """
        INSERT INTO shore (id, name, body, updated_at) VALUES (?, ?, ?, ?)
        ON CONFLICT (id) DO UPDATE SET name = excluded.name, body = excluded.body,
          updated_at = excluded.updated_at
        """,
        shore.id(),
        shore.name(),
        json.write(shore),
        Instant.now().toString());
  }

  public void delete(String id) {
    rows.change("DELETE FROM shore WHERE id = ?", id);
  }

  /** Id of the far shore that was chosen last. */
  public Optional<String> last() {
    return rows.optional(
        "SELECT value FROM remembered WHERE key = ?", row -> row.getString("value"), LAST);
  }

  public void remember(String id) {
    rows.change(
        """
        INSERT INTO remembered (key, value) VALUES (?, ?)
        ON CONFLICT (key) DO UPDATE SET value = excluded.value
        """,
        LAST,
        id);
  }
}
