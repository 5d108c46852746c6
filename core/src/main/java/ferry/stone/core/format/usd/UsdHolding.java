package ferry.stone.core.format.usd;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.FileTree;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.format.losses.ReadBack;
import ferry.stone.core.format.usd.layer.UsdFiles;
import ferry.stone.core.format.usd.read.UsdReader;
import ferry.stone.core.format.usd.rules.UsdRules;
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
  public ReadBack back(String mainFile, ReadContext context) throws IOException, FormatException {
    // Both ways of reading go over the same layers.
    UsdFiles layers = UsdReader.layers(mainFile, context);
    UsdRules.check(mainFile, context.resources(), layers, context.findings());
    Scene own = UsdReader.read(mainFile, context, layers, false);
    return new ReadBack(
        own,
        scene -> {
          ReadContext apart = ReadContext.of(context.resources());
          Scene others = UsdReader.read(mainFile, apart, layers, true);
          return FileTree.of(Rebase.intoData(others, Frame.Y_UP_METRE));
        });
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
