package ferry.stone.core.format.losses;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.FileTree;
import ferry.stone.core.scene.Scene;
import java.io.IOException;

/**
 * A written file read back.
 *
 * @param scene as other readers see it
 * @param tree its hierarchy as other readers list it
 */
public record ReadBack(Scene scene, Tree tree) {
  /** Lists a hierarchy, when it is asked for. */
  @FunctionalInterface
  public interface Tree {
    /**
     * @param scene what was read back, in metres with Y up
     */
    FileTree of(Scene scene) throws IOException, FormatException;
  }
}
