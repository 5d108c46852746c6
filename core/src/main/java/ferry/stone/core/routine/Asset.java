package ferry.stone.core.routine;

import ferry.stone.core.format.files.Resources;
import ferry.stone.core.landing.Alternates;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.survey.Survey;
import java.nio.file.Path;
import java.util.Collection;

/**
 * An asset as it was read from the disk, with what was found.
 *
 * @param resources its files by their paths in the cargo
 * @param name of its first file or folder, without ending
 * @param inputs files on the disk that were or may have been read
 * @param reread reads it again with other variants chosen
 */
public record Asset(
    Scene near,
    Survey survey,
    Resources resources,
    String name,
    Collection<Path> inputs,
    Alternates.Reread reread) {}
