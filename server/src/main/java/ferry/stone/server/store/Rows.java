package ferry.stone.server.store;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javax.sql.DataSource;
import org.springframework.jdbc.datasource.DataSourceUtils;
import org.springframework.stereotype.Component;

/** Plain JDBC in few words: text SQL, positional values, one mapper a row. Joins transactions. */
@Component
public class Rows {
  private final DataSource source;

  public Rows(DataSource source) {
    this.source = source;
  }

  /** Makes a value of the current row. */
  public interface Mapper<T> {
    T map(ResultSet row) throws SQLException;
  }

  public <T> List<T> list(String sql, Mapper<T> mapper, Object... values) {
    return with(
        sql,
        values,
        statement -> {
          try (ResultSet rows = statement.executeQuery()) {
            List<T> result = new ArrayList<>();
            while (rows.next()) {
              result.add(mapper.map(rows));
            }
            return result;
          }
        });
  }

  public <T> Optional<T> optional(String sql, Mapper<T> mapper, Object... values) {
    List<T> found = list(sql, mapper, values);
    if (found.size() > 1) {
      throw new IllegalStateException("more than one row: " + sql);
    }
    return found.stream().findFirst();
  }

  /** Runs a change; how many rows it touched. */
  public int change(String sql, Object... values) {
    return with(sql, values, PreparedStatement::executeUpdate);
  }

  /** Runs one change for many rows at once: all of them, or none. */
  public void changeAll(String sql, List<Object[]> values) {
    Connection connection = DataSourceUtils.getConnection(source);
    try {
      boolean auto = connection.getAutoCommit();
      connection.setAutoCommit(false);
      try (PreparedStatement statement = connection.prepareStatement(sql)) {
        for (Object[] row : values) {
          for (int i = 0; i < row.length; i++) {
            statement.setObject(i + 1, row[i]);
          }
          statement.addBatch();
        }
        statement.executeBatch();
        if (auto) {
          connection.commit();
        }
      } catch (SQLException e) {
        if (auto) {
          connection.rollback();
        }
        throw e;
      } finally {
        connection.setAutoCommit(auto);
      }
    } catch (SQLException e) {
      throw new IllegalStateException("Database: " + e.getMessage() + " in " + sql.strip(), e);
    } finally {
      DataSourceUtils.releaseConnection(connection, source);
    }
  }

  private interface Work<T> {
    T run(PreparedStatement statement) throws SQLException;
  }

  private <T> T with(String sql, Object[] values, Work<T> work) {
    Connection connection = DataSourceUtils.getConnection(source);
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      for (int i = 0; i < values.length; i++) {
        statement.setObject(i + 1, values[i]);
      }
      return work.run(statement);
    } catch (SQLException e) {
      // The statement, never its values: they may be the user's.
      throw new IllegalStateException("Database: " + e.getMessage() + " in " + sql.strip(), e);
    } finally {
      DataSourceUtils.releaseConnection(connection, source);
    }
  }
}
