package ferry.stone.server.routine;

import ferry.stone.core.routine.Routine;
import ferry.stone.core.routine.Routines;
import ferry.stone.core.routine.RunRecord;
import ferry.stone.server.store.Json;
import ferry.stone.server.store.Rows;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Repository;

/** Batches and their assets in the database. */
@Repository
public class BatchRepository {
  private static final String ASSETS =
      "SELECT batch_id, place, crossing_id, name, state, opened, record, landings FROM batch_asset";
  private final Rows rows;
  private final Json json;

  public BatchRepository(Rows rows, Json json) {
    this.rows = rows;
    this.json = json;
  }

  /** A batch with the routine as it was when it began. */
  public record BatchRow(String id, String name, Routine routine, String createdAt) {}

  /**
   * One asset.
   *
   * @param state {@code new}, {@code waiting}, {@code running}, {@code done} or {@code cancelled}
   * @param opened whether it stands on the quay too
   * @param record what came of it, {@code null} while nothing did
   * @param landings ids of its landings
   */
  public record AssetRow(
      String batchId,
      int place,
      String crossingId,
      String name,
      String state,
      boolean opened,
      RunRecord record,
      List<String> landings) {}

  public List<BatchRow> all() {
    return rows.list(
        "SELECT id, name, routine, created_at FROM batch ORDER BY created_at DESC, id",
        BatchRepository::batch);
  }

  public Optional<BatchRow> find(String id) {
    return rows.optional(
        "SELECT id, name, routine, created_at FROM batch WHERE id = ?", BatchRepository::batch, id);
  }

  private static BatchRow batch(ResultSet row) throws SQLException {
    return new BatchRow(
        row.getString("id"),
        row.getString("name"),
        Routines.read(row.getString("routine")),
        row.getString("created_at"));
  }

  public void insert(String id, String name, Routine routine) {
    rows.change(
        "INSERT INTO batch (id, name, routine, created_at) VALUES (?, ?, ?, ?)",
        id,
        name,
        Routines.write(routine),
        Instant.now().toString());
  }

  public void delete(String id) {
    rows.change("DELETE FROM batch WHERE id = ?", id);
  }

  public List<AssetRow> assets(String batchId) {
    return rows.list(ASSETS + " WHERE batch_id = ? ORDER BY place", this::asset, batchId);
  }

  /** Assets whose work a stop of the server cut off. */
  public List<AssetRow> unfinished() {
    return rows.list(
        ASSETS + " WHERE state IN ('waiting', 'running') ORDER BY batch_id, place", this::asset);
  }

  public Optional<AssetRow> ofCrossing(String crossingId) {
    return rows.optional(ASSETS + " WHERE crossing_id = ?", this::asset, crossingId);
  }

  private AssetRow asset(ResultSet row) throws SQLException {
    String record = row.getString("record");
    String landings = row.getString("landings");
    return new AssetRow(
        row.getString("batch_id"),
        row.getInt("place"),
        row.getString("crossing_id"),
        row.getString("name"),
        row.getString("state"),
        row.getInt("opened") != 0,
        record == null ? null : json.read(record, RunRecord.class),
        landings == null || landings.isEmpty() ? List.of() : Arrays.asList(landings.split(",")));
  }

  public void add(String batchId, int place, String crossingId, String name) {
    rows.change(
        """
        INSERT INTO batch_asset (batch_id, place, crossing_id, name, state)
        VALUES (?, ?, ?, ?, 'new')
        """,
        batchId,
        place,
        crossingId,
        name);
  }

  public void state(String crossingId, String state) {
    rows.change("UPDATE batch_asset SET state = ? WHERE crossing_id = ?", state, crossingId);
  }

  public void done(String crossingId, RunRecord record, List<String> landings) {
    rows.change(
        "UPDATE batch_asset SET state = 'done', record = ?, landings = ? WHERE crossing_id = ?",
        json.write(record),
        String.join(",", landings),
        crossingId);
  }

  public void opened(String crossingId) {
    rows.change("UPDATE batch_asset SET opened = 1 WHERE crossing_id = ?", crossingId);
  }
}
