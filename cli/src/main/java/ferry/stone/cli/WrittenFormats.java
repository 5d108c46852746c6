package ferry.stone.cli;

import ferry.stone.core.format.Format;
import ferry.stone.core.format.Formats;
import java.util.Iterator;

/** Keys of the formats that are written, for the usage. */
final class WrittenFormats implements Iterable<String> {
  @Override
  public Iterator<String> iterator() {
    return Formats.written().stream().map(Format::key).iterator();
  }
}
