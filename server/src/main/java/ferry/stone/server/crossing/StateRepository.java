package ferry.stone.server.crossing;

import com.fasterxml.jackson.core.type.TypeReference;
import ferry.stone.core.handling.Step;
import ferry.stone.server.store.Json;
import ferry.stone.server.store.Rows;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Repository;

/** States of handlings under names. */
@Repository
public class StateRepository {
  private final Rows rows;
  private final Json json;

  public StateRepository(Rows rows, Json json) {
    this.rows = rows;
    this.json = json;
  }

  /** A handling as it was when it was named. */
  public record NamedState(String id, String name, List<Step> steps, String createdAt) {}

  public List<NamedState> of(String crossingId) {
    return rows.list(
        """
        SELECT id, name, steps, created_at FROM handling_state
        WHERE crossing_id = ? ORDER BY created_at, id
        """,
        row ->
            new NamedState(
                row.getString("id"),
                row.getString("name"),
                json.read(row.getString("steps"), new TypeReference<List<Step>>() {}),
                row.getString("created_at")),
        crossingId);
  }

  public Optional<NamedState> find(String crossingId, String id) {
    return of(crossingId).stream().filter(s -> s.id().equals(id)).findFirst();
  }

  public void insert(String crossingId, String id, String name, List<Step> steps) {
    rows.change(
        """
        INSERT INTO handling_state (id, crossing_id, name, steps, created_at)
        VALUES (?, ?, ?, ?, ?)
        """,
        id,
        crossingId,
        name,
        json.write(steps),
        Instant.now().toString());
  }

  public void delete(String crossingId, String id) {
    rows.change("DELETE FROM handling_state WHERE crossing_id = ? AND id = ?", crossingId, id);
  }
}
