package ferry.stone.server.crossing;

import com.fasterxml.jackson.core.type.TypeReference;
import ferry.stone.core.handling.Step;
import ferry.stone.server.store.Json;
import ferry.stone.server.store.Rows;
import java.util.List;
import org.springframework.stereotype.Repository;

/** The history of each crossing's step list: place 0 is the empty list. */
@Repository
public class HandlingRepository {
  private final Rows rows;
  private final Json json;

  public HandlingRepository(Rows rows, Json json) {
    this.rows = rows;
    this.json = json;
  }

  public List<Step> at(String crossingId, int place) {
    return rows.optional(
            "SELECT steps FROM handling WHERE crossing_id = ? AND place = ?",
            row -> row.getString("steps"),
            crossingId,
            place)
        .map(text -> json.read(text, new TypeReference<List<Step>>() {}))
        .orElse(List.of());
  }

  public int last(String crossingId) {
    return rows.optional(
            "SELECT COALESCE(MAX(place), 0) AS last FROM handling WHERE crossing_id = ?",
            row -> row.getInt("last"),
            crossingId)
        .orElse(0);
  }

  /** Puts a list after a place; what had been undone beyond it is dropped. */
  public void put(String crossingId, int place, List<Step> steps) {
    rows.change("DELETE FROM handling WHERE crossing_id = ? AND place >= ?", crossingId, place);
    rows.change(
        "INSERT INTO handling (crossing_id, place, steps) VALUES (?, ?, ?)",
        crossingId,
        place,
        json.write(steps));
  }
}
