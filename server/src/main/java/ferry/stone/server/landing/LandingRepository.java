package ferry.stone.server.landing;

import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.Proof;
import ferry.stone.server.landing.LandingRecord.LandedFile;
import ferry.stone.server.store.Json;
import ferry.stone.server.store.Rows;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Repository;

/** Landings in the database. */
@Repository
public class LandingRepository {
  /** All but the rows of the proof. */
  private static final String COLUMNS =
      """
      SELECT l.id, l.crossing_id, l.job_id, l.state, l.options, l.main_file, l.problem,
             l.created_at, l.steps,
             (SELECT h.steps FROM handling h JOIN crossing c ON c.id = h.crossing_id
               WHERE h.crossing_id = l.crossing_id AND h.place = c.history) AS now,
             l.proof IS NOT NULL AS proved,
             json_extract(l.proof, '$.file') AS file, json_extract(l.proof, '$.bytes') AS bytes,
             json_extract(l.proof, '$.readSeconds') AS seconds,
             json_extract(l.proof, '$.kept') AS kept,
             json_extract(l.proof, '$.changed') AS changed,
             json_extract(l.proof, '$.lost') AS lost,
             json_extract(l.proof, '$.within') AS within,
             json_extract(l.proof, '$.beyond') AS beyond""";

  private final Rows rows;
  private final Json json;

  public LandingRepository(Rows rows, Json json) {
    this.rows = rows;
    this.json = json;
  }

  public void insert(String id, String crossingId, LandingOptions options, String steps) {
    rows.change(
        """
        INSERT INTO landing (id, crossing_id, job_id, state, options, steps, created_at)
        VALUES (?, ?, '', 'running', ?, ?, ?)
        """,
        id,
        crossingId,
        json.write(options),
        steps,
        Instant.now().toString());
  }

  public void job(String id, String jobId) {
    rows.change("UPDATE landing SET job_id = ? WHERE id = ?", jobId, id);
  }

  public void addFile(String id, LandedFile file) {
    rows.change(
        "INSERT INTO landing_file (landing_id, path, blob, size) VALUES (?, ?, ?, ?)",
        id,
        file.path(),
        file.blob(),
        file.size());
  }

  /**
   * @param problem what is wrong with it all the same, or {@code null}
   */
  public void done(String id, String mainFile, Proof proof, String problem) {
    rows.change(
        "UPDATE landing SET state = 'done', main_file = ?, proof = ?, problem = ? WHERE id = ?",
        mainFile,
        json.write(proof),
        problem,
        id);
  }

  /** Marks the landing of a job, or with that id, as not done. */
  public void failed(String jobOrId, String state, String problem) {
    rows.change(
        "UPDATE landing SET state = ?, problem = ? WHERE id = ? OR job_id = ?",
        state,
        problem,
        jobOrId,
        jobOrId);
  }

  public void delete(String id) {
    rows.change("DELETE FROM landing WHERE id = ?", id);
  }

  public Optional<LandingRecord> find(String id) {
    return rows.optional(COLUMNS + ", l.proof FROM landing l WHERE l.id = ?", this::map, id);
  }

  public boolean exists(String id) {
    return rows.optional("SELECT 1 FROM landing WHERE id = ?", row -> true, id).isPresent();
  }

  /** Those of a crossing, the newest first: the rows of their proofs are left where they are. */
  public List<LandingView> views(String crossingId) {
    return rows.list(
        COLUMNS
            + " FROM landing l WHERE l.crossing_id = ?"
            + " ORDER BY l.created_at DESC, l.rowid DESC LIMIT 50",
        this::view,
        crossingId);
  }

  private LandingView view(ResultSet row) throws SQLException {
    String id = row.getString("id");
    String now = row.getString("now");
    return new LandingView(
        id,
        row.getString("crossing_id"),
        row.getString("job_id"),
        row.getString("state"),
        json.read(row.getString("options"), LandingOptions.class),
        row.getString("main_file"),
        files(id),
        row.getBoolean("proved")
            ? new LandingView.ProofSum(
                row.getString("file"),
                row.getLong("bytes"),
                row.getDouble("seconds"),
                row.getInt("kept"),
                row.getInt("changed"),
                row.getInt("lost"),
                row.getInt("within"),
                row.getInt("beyond"))
            : null,
        row.getString("problem"),
        row.getString("steps").equals(now == null ? "[]" : now),
        row.getString("created_at"));
  }

  private List<LandedFile> files(String id) {
    return rows.list(
        "SELECT path, blob, size FROM landing_file WHERE landing_id = ? ORDER BY path",
        row -> new LandedFile(row.getString("path"), row.getString("blob"), row.getLong("size")),
        id);
  }

  private LandingRecord map(ResultSet row) throws SQLException {
    String proof = row.getString("proof");
    return LandingRecord.of(view(row), proof == null ? null : json.read(proof, Proof.class));
  }
}
