package ferry.stone.core.format.flat;

import ferry.stone.core.field.Values;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.math.Frame;
import ferry.stone.core.shore.Shore;
import java.util.Map;

/** Writes bare parts, whose unit and up axis are chosen at the landing: see {@link FlatFields}. */
public interface FlatWriter extends SceneWriter {
  @Override
  default Map<String, Object> wanted(Shore shore) {
    return FlatFields.wanted(shore);
  }

  @Override
  default boolean holdsPlaces() {
    return false;
  }

  @Override
  default void check(Values options) {
    frame(options);
  }

  @Override
  default Frame frame(Values options) {
    return FlatFields.frame(options);
  }
}
