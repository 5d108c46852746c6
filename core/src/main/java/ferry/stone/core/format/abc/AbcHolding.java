package ferry.stone.core.format.abc;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.abc.read.AbcReader;
import ferry.stone.core.format.abc.read.AbcRules;
import ferry.stone.core.format.abc.write.AbcOptions;
import ferry.stone.core.format.abc.write.AbcPlan;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.format.losses.StrictReading;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;
import java.io.IOException;
import java.io.UncheckedIOException;

/** Polygons as they are; motion as samples. */
record AbcHolding(AbcOptions options, Frame frame) implements Holding {
  @Override
  public String format() {
    return "Alembic";
  }

  @Override
  public Fate fate(Capability capability) {
    boolean lost =
        switch (capability) {
          case NORMALS -> !options.normals();
          case UVS -> !options.uvs();
          default -> false;
        };
    boolean changed =
        switch (capability) {
          case HIERARCHY, SHARED_MESHES -> options.inWorld();
          default -> false;
        };
    return lost
        ? Fate.LOST
        : changed ? Fate.CHANGED : AbcCapabilities.TABLE.of(capability).written();
  }

  @Override
  public Scene read(String mainFile, ReadContext context) throws IOException, FormatException {
    return StrictReading.read(AbcRules::check, AbcReader::read, mainFile, context).toBuilder()
        .frame(frame, FrameSource.CHOSEN, FrameSource.CHOSEN)
        .build();
  }

  @Override
  public Scene held(Scene far, String mainFile) {
    try {
      return new AbcPlan(far, options).held(CargoPath.stem(mainFile));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  @Override
  public double moment(Clip clip, double seconds) {
    double[] longest = {seconds};
    for (Clip.Track track : clip.tracks()) {
      if (track.isTransform() && track.timesSeconds().length > longest.length) {
        longest = track.timesSeconds();
      }
    }
    double nearest = longest[0];
    for (double moment : longest) {
      nearest = Math.abs(moment - seconds) < Math.abs(nearest - seconds) ? moment : nearest;
    }
    return nearest;
  }
}
