package ferry.stone.server.routine;

import ferry.stone.core.routine.Routine;
import ferry.stone.core.routine.Routines;
import ferry.stone.server.store.Rows;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Repository;

/** Routines that users saved, with all their versions. */
@Repository
public class RoutineRepository {
  private final Rows rows;

  public RoutineRepository(Rows rows) {
    this.rows = rows;
  }

  /** The newest version of each. */
  public List<Routine> all() {
    return rows.list(
        """
        SELECT body FROM routine r
        WHERE version = (SELECT MAX(version) FROM routine o WHERE o.id = r.id)
        ORDER BY name, id
        """,
        row -> Routines.read(row.getString("body")));
  }

  /** All versions, the newest first. */
  public List<Routine> versions(String id) {
    return rows.list(
        "SELECT body FROM routine WHERE id = ? ORDER BY version DESC",
        row -> Routines.read(row.getString("body")),
        id);
  }

  public Optional<Routine> find(String id) {
    return versions(id).stream().findFirst();
  }

  public void insert(Routine routine) {
    rows.change(
        "INSERT INTO routine (id, version, name, body, created_at) VALUES (?, ?, ?, ?, ?)",
        routine.id(),
        routine.version(),
        routine.name(),
        Routines.write(routine),
        Instant.now().toString());
  }

  public void delete(String id) {
    rows.change("DELETE FROM routine WHERE id = ?", id);
  }
}
