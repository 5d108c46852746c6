package ferry.stone.server.crossing;

import com.fasterxml.jackson.core.type.TypeReference;
import ferry.stone.core.handling.Step;
import ferry.stone.server.store.Json;
import ferry.stone.server.store.Rows;
import java.util.ArrayList;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Steps that an earlier version stored hold parts by the ids that reading handed out. When a
 * crossing is loaded they get names instead, before another reading hands ids out otherwise.
 */
@Component
class HandlingMigration {
  private static final Logger LOG = LoggerFactory.getLogger(HandlingMigration.class);

  private final Rows rows;
  private final Json json;

  HandlingMigration(Rows rows, Json json) {
    this.rows = rows;
    this.json = json;
  }

  private record Stored(String key, List<Step> steps) {}

  private enum Table {
    HANDLING("handling", "place"),
    STATE("handling_state", "id"),
    LANDING("landing", "id");

    private final String table;
    private final String key;

    Table(String table, String key) {
      this.table = table;
      this.key = key;
    }
  }

  void run(String crossingId, LoadedCrossing loaded) {
    for (Table table : Table.values()) {
      for (Stored stored : withIds(table, crossingId)) {
        try {
          // Steps make parts that later ones name: they have to run once.
          loaded.state(stored.steps());
          loaded.handle(stored.steps());
          String named = json.write(loaded.named(stored.steps()));
          rows.change(
              "UPDATE "
                  + table.table
                  + " SET steps = ? WHERE crossing_id = ? AND "
                  + table.key
                  + " = ?",
              named,
              crossingId,
              stored.key());
        } catch (IllegalArgumentException e) {
          // A part that was gone already stays an id: its step says so when it runs.
          LOG.info("steps of {} keep ids: {}", crossingId, e.getMessage());
        }
      }
    }
  }

  private List<Stored> withIds(Table table, String crossingId) {
    List<Stored> found = new ArrayList<>();
    rows.list(
            "SELECT " + table.key + " AS k, steps FROM " + table.table + " WHERE crossing_id = ?",
            row -> new String[] {row.getString("k"), row.getString("steps")},
            crossingId)
        .forEach(
            row -> {
              List<Step> steps = json.read(row[1], new TypeReference<List<Step>>() {});
              if (steps.stream().anyMatch(s -> !s.nodeIds().isEmpty())) {
                found.add(new Stored(row[0], steps));
              }
            });
    return found;
  }
}
