package ferry.stone.server.crossing;

import ferry.stone.server.store.Json;
import ferry.stone.server.store.Rows;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Repository;

/** Crossings in the database. */
@Repository
public class CrossingRepository {
  private static final String COLUMNS =
      "id, name, state, problem, summary, history, thumbnail, created_at, updated_at,"
          + " far_shore";
  private final Rows rows;
  private final Json json;

  public CrossingRepository(Rows rows, Json json) {
    this.rows = rows;
    this.json = json;
  }

  public void insert(String id, String name) {
    String now = Instant.now().toString();
    rows.change(
        """
        INSERT INTO crossing (id, name, state, created_at, updated_at)
        VALUES (?, ?, 'empty', ?, ?)
        """,
        id,
        name,
        now,
        now);
  }

  /** All but those that a batch made and nobody opened. */
  public List<Crossing> all() {
    return rows.list(
        "SELECT "
            + COLUMNS
            + " FROM crossing WHERE id NOT IN"
            + " (SELECT crossing_id FROM batch_asset WHERE opened = 0)"
            + " ORDER BY updated_at DESC, id",
        this::map);
  }

  public Optional<Crossing> find(String id) {
    return rows.optional("SELECT " + COLUMNS + " FROM crossing WHERE id = ?", this::map, id);
  }

  public void rename(String id, String name) {
    rows.change(
        "UPDATE crossing SET name = ?, updated_at = ? WHERE id = ?",
        name,
        Instant.now().toString(),
        id);
  }

  public void state(String id, String state, String problem) {
    rows.change(
        "UPDATE crossing SET state = ?, problem = ?, updated_at = ? WHERE id = ?",
        state,
        problem,
        Instant.now().toString(),
        id);
  }

  public void summary(String id, Crossing.Summary summary) {
    rows.change("UPDATE crossing SET summary = ? WHERE id = ?", json.write(summary), id);
  }

  public void history(String id, int place) {
    rows.change(
        "UPDATE crossing SET history = ?, updated_at = ? WHERE id = ?",
        place,
        Instant.now().toString(),
        id);
  }

  public void thumbnail(String id, String blob) {
    rows.change("UPDATE crossing SET thumbnail = ? WHERE id = ?", blob, id);
  }

  public void farShore(String id, String shore) {
    rows.change("UPDATE crossing SET far_shore = ? WHERE id = ?", shore, id);
  }

  public void delete(String id) {
    rows.change("DELETE FROM crossing WHERE id = ?", id);
  }

  private Crossing map(ResultSet row) throws SQLException {
    String summary = row.getString("summary");
    return new Crossing(
        row.getString("id"),
        row.getString("name"),
        row.getString("state"),
        row.getString("problem"),
        summary == null ? null : json.read(summary, Crossing.Summary.class),
        row.getInt("history"),
        row.getString("thumbnail"),
        row.getString("created_at"),
        row.getString("updated_at"),
        row.getString("far_shore"));
  }

  /** How often reading was begun and not ended. */
  public int readingTries(String id) {
    return rows.optional(
            "SELECT reading_tries FROM crossing WHERE id = ?",
            row -> row.getInt("reading_tries"),
            id)
        .orElse(0);
  }

  public void readingTries(String id, int tries) {
    rows.change("UPDATE crossing SET reading_tries = ? WHERE id = ?", tries, id);
  }
}
