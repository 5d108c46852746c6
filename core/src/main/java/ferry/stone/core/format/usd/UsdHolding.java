package ferry.stone.core.format.usd;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.FileTree;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.format.usd.read.UsdReader;
import ferry.stone.core.format.usd.write.UsdOptions;
import ferry.stone.core.format.usd.write.UsdPlan;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Copies;
import ferry.stone.core.scene.Scene;
import java.io.IOException;

/** Polygons as they are, materials as preview surfaces, skeletons of their own. */
record UsdHolding(UsdOptions options) implements Holding {
  @Override
  public String format() {
    return "USD";
  }

  @Override
  public Fate fate(Capability capability) {
    boolean copies =
        capability == Capability.SHARED_MESHES
            || capability == Capability.BRANCH_COPIES
            || capability == Capability.LISTED_COPIES;
    if (capability == Capability.UNCHOSEN && options.variants()) {
      return Fate.KEPT;
    }
    return copies && !options.copies()
        ? Fate.CHANGED
        : UsdCapabilities.TABLE.of(capability).written();
  }

  @Override
  public Scene read(String mainFile, ReadContext context) throws IOException, FormatException {
    return UsdReader.read(mainFile, context);
  }

  @Override
  public FileTree tree(String mainFile, Resources files, Scene read)
      throws IOException, FormatException {
    Scene others = UsdReader.read(mainFile, ReadContext.of(files), true);
    return FileTree.of(Rebase.intoData(others, Frame.Y_UP_METRE));
  }

  @Override
  public boolean listsCopies(Scene arrived) {
    return options.copies() && !Copies.listed(arrived).isEmpty();
  }

  @Override
  public Scene held(Scene far, String mainFile) {
    return new UsdPlan(far, options).held(CargoPath.stem(mainFile));
  }
}
