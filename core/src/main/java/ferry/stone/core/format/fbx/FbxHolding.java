package ferry.stone.core.format.fbx;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.fbx.read.FbxReader;
import ferry.stone.core.format.fbx.rules.FbxRules;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import java.io.IOException;
import java.util.List;

/** Polygons and materials as they are; values multiplied into images where textures hide them. */
record FbxHolding(boolean isTriangulated, boolean isBaked) implements Holding {
  @Override
  public String format() {
    return "FBX";
  }

  @Override
  public Fate fate(Capability capability) {
    boolean chosen =
        switch (capability) {
          case POLYGONS -> isTriangulated;
          case PIVOTS, INHERITED_SCALE -> isBaked;
          default -> false;
        };
    return chosen ? Fate.CHANGED : FbxCapabilities.TABLE.of(capability).written();
  }

  @Override
  public Scene read(String mainFile, ReadContext context) throws IOException, FormatException {
    FbxRules.check(mainFile, context.resources(), context.findings());
    return FbxReader.read(mainFile, context);
  }

  @Override
  public double[] tint(Channel channel, Material.Value value) {
    return FbxCapabilities.tint(channel, value);
  }

  @Override
  public List<String> ownValues(Material material) {
    return FbxCapabilities.ownValues(material);
  }
}
