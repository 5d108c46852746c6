package ferry.stone.core.proof.pair;

import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.scene.Scene;

/** Holds everything as it was: what is compared is a file of its own, and no landing. */
record AsItIs(Scene scene) implements Holding {
  @Override
  public String format() {
    return "the second file";
  }

  @Override
  public Fate fate(Capability capability) {
    return Fate.KEPT;
  }

  @Override
  public Scene read(String mainFile, ReadContext context) {
    return scene;
  }

  @Override
  public Scene shaped(Scene far) {
    return far;
  }
}
