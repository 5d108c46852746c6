package ferry.stone.server.jobs;

import ferry.stone.server.store.Rows;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Repository;

/** Jobs in the database. */
@Repository
public class JobRepository {
  private static final String COLUMNS =
      "id, kind, crossing_id, title, state, what, fraction, problem, created_at, ended_at";
  private final Rows rows;

  public JobRepository(Rows rows) {
    this.rows = rows;
  }

  public void insert(Job job) {
    rows.change(
        """
        INSERT INTO job (id, kind, crossing_id, title, state, what, fraction, problem, created_at)
        VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)
        """,
        job.id(),
        job.kind(),
        job.crossingId(),
        job.title(),
        job.state(),
        job.what(),
        job.fraction(),
        job.problem(),
        job.createdAt());
  }

  public void update(Job job) {
    rows.change(
        "UPDATE job SET state = ?, what = ?, fraction = ?, problem = ?, ended_at = ? WHERE id = ?",
        job.state(),
        job.what(),
        job.fraction(),
        job.problem(),
        job.endedAt(),
        job.id());
  }

  public Optional<Job> find(String id) {
    return rows.optional("SELECT " + COLUMNS + " FROM job WHERE id = ?", JobRepository::map, id);
  }

  public List<Job> latest(int most) {
    return rows.list(
        "SELECT " + COLUMNS + " FROM job ORDER BY created_at DESC LIMIT ?",
        JobRepository::map,
        most);
  }

  /** Jobs that a stop of the server cut off. */
  public List<Job> open() {
    return rows.list(
        "SELECT " + COLUMNS + " FROM job WHERE state IN ('waiting', 'running')",
        JobRepository::map);
  }

  private static Job map(ResultSet row) throws SQLException {
    return new Job(
        row.getString("id"),
        row.getString("kind"),
        row.getString("crossing_id"),
        row.getString("title"),
        row.getString("state"),
        row.getString("what"),
        row.getDouble("fraction"),
        row.getString("problem"),
        row.getString("created_at"),
        row.getString("ended_at"));
  }
}
