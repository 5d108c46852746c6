package ferry.stone.bench;

import ferry.stone.core.TestFiles;
import ferry.stone.core.fuzz.WholeWay;
import java.io.IOException;
import java.util.Arrays;

/**
 * What the coverage-guided run calls with each input: the first byte says which format the rest is
 * read as. Whatever is thrown is a fault.
 */
public final class FuzzTarget {
  static final String[] FILES = {"a.glb", "a.gltf", "a.fbx", "a.obj", "a.stl", "a.ply"};

  private static final double LONGEST_SECONDS = 20;

  private FuzzTarget() {}

  public static void fuzzerTestOneInput(byte[] input) throws IOException {
    if (input.length == 0) {
      return;
    }
    String file = FILES[(input[0] & 0xff) % FILES.length];
    byte[] content = Arrays.copyOfRange(input, 1, input.length);
    WholeWay.run(new TestFiles().with(file, content), LONGEST_SECONDS);
  }
}
