package ferry.stone.cli;

import ferry.stone.core.routine.Asset;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.view.picture.Picture;
import ferry.stone.core.view.picture.ViewFrom;
import ferry.stone.core.work.Progress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** Draws files as a PNG. */
@Command(
    name = "picture",
    mixinStandardHelpOptions = true,
    description = "Draws files as a PNG, without a graphics card.")
final class TakePicture implements Callable<Integer> {
  private static final Pattern SIZE = Pattern.compile("(\\d{1,4})x(\\d{1,4})");

  @Mixin private CargoArguments arguments;

  @Option(
      names = "--out",
      required = true,
      paramLabel = "FILE",
      description = "The PNG to write; with --from all its name gets the side: NAME_front.png.")
  private Path out;

  @Option(
      names = "--from",
      paramLabel = "SIDE",
      defaultValue = "corner",
      description = "corner (${DEFAULT-VALUE}), front, right, back, left, top or all.")
  private String from;

  @Option(
      names = "--size",
      paramLabel = "WxH",
      defaultValue = "640x480",
      description = "Width and height in pixels, up to 4096 each (${DEFAULT-VALUE}).")
  private String size;

  @Option(
      names = "--at",
      paramLabel = "SECONDS",
      description = "Moment of the first clip; the scene at rest when left out.")
  private Double at;

  @Option(names = "--force", description = "Replace a file that is there already.")
  private boolean force;

  @Spec private CommandSpec spec;

  @Override
  public Integer call() throws Exception {
    Matcher wanted = SIZE.matcher(size);
    int width = wanted.matches() ? Integer.parseInt(wanted.group(1)) : 0;
    int height = wanted.matches() ? Integer.parseInt(wanted.group(2)) : 0;
    if (width < 1 || height < 1 || width > Picture.LARGEST || height > Picture.LARGEST) {
      throw wrong("--size takes width x height, 1 to 4096 pixels each, not \"" + size + "\".");
    }
    List<ViewFrom> sides = sides();
    try (WorkFolder work = new WorkFolder()) {
      Asset cargo = arguments.read(work.path());
      for (ViewFrom side : sides) {
        Path file = file(side, sides.size() > 1);
        if (Files.exists(file) && !force) {
          throw wrong(file + " is there already; --force replaces it.");
        }
        for (Path input : cargo.inputs()) {
          if (Files.exists(file) && Files.isSameFile(input, file)) {
            throw wrong(file + " is read; it is not replaced. Name another file.");
          }
        }
      }
      double moment = at == null ? Double.NaN : at;
      Picture picture = Picture.of(cargo.near(), cargo.resources(), moment, Progress.NONE);
      for (ViewFrom side : sides) {
        Pixels pixels = picture.taken(side, width, height, Progress.NONE);
        Path file = file(side, sides.size() > 1);
        Files.write(file, ImageCodec.encodePng(pixels));
        spec.commandLine().getOut().println(file + (picture.isEmpty() ? ": nothing to see" : ""));
      }
      return Ferry.KEPT;
    }
  }

  private List<ViewFrom> sides() {
    if (from.equalsIgnoreCase("all")) {
      return List.of(ViewFrom.values());
    }
    for (ViewFrom side : ViewFrom.values()) {
      if (side.name().equalsIgnoreCase(from)) {
        return List.of(side);
      }
    }
    throw wrong("--from takes corner, front, right, back, left, top or all, not \"" + from + "\".");
  }

  private Path file(ViewFrom side, boolean several) {
    if (!several) {
      return out;
    }
    String name = out.getFileName().toString();
    int dot = name.lastIndexOf('.');
    String stem = dot < 0 ? name : name.substring(0, dot);
    String ending = dot < 0 ? ".png" : name.substring(dot);
    return out.resolveSibling(stem + "_" + side.name().toLowerCase(Locale.ROOT) + ending);
  }

  private ParameterException wrong(String message) {
    return new ParameterException(spec.commandLine(), message);
  }
}
