package ferry.stone.core.cargo;

import ferry.stone.core.format.Format;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.SceneReader;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** Which of several scene files are scenes: what others are made of is none with them. */
final class MainFiles {
  private MainFiles() {}

  /** Those that no other is made of; all of them where each is part of another. */
  static List<String> of(List<String> scenes, ReadContext context) throws IOException {
    if (scenes.size() < 2) {
      return scenes;
    }
    Set<String> parts = new HashSet<>();
    for (String scene : scenes) {
      SceneReader reader =
          Formats.of(scene, context.resources()).flatMap(Format::reader).orElse(null);
      try {
        if (reader != null) {
          parts.addAll(reader.parts(scene, context));
        }
      } catch (FormatException e) {
        // It is read again, and told, where it is a scene or a part of one.
        continue;
      }
    }
    List<String> mains = new ArrayList<>(scenes);
    mains.removeAll(parts);
    return mains.isEmpty() ? scenes : mains;
  }
}
