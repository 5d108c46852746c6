package ferry.stone.demo;

import ferry.stone.core.format.files.Output;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Texture;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;

/**
 * A barge at its mooring as a scene of layers, in centimetres with Z up: the set, the look and the
 * light are layers of their own; hull, mast, lantern, heron and pennant are files that are referred
 * to; the lanterns are instances, the sacks a scattered one, the lamps are lit or dark by a
 * variant, and what lies on deck is loaded on demand. Fault: the nets on deck were saved under a
 * new name.
 */
final class BargeAtDusk {
  private static final int LANTERNS = 9;
  private static final int SACKS = 24;
  private static final double LENGTH = 1200;
  private static final double WIDTH = 320;
  private static final double DECK = 110;

  private BargeAtDusk() {}

  static void write(Output output) throws IOException {
    Output parts = path -> output.create("parts/" + path);
    part("hull", hull(), Map.of(), parts);
    part("lantern", lantern(), Map.of(), parts);
    part("sacks", sack(), Map.of(), parts);
    part("nets_new", nets(), Map.of(), parts);
    SceneCargo.writeUsd(Heron.built(), "heron", Heron.textures(), parts);
    SceneCargo.writeUsd(pennant(), "pennant", Pennant.textures(), parts);
    text(output, "barge_at_dusk.usda", layer("barge_at_dusk.usda"));
    String set = layer("layers/set.usda").replace("LANTERNS", lanterns());
    text(output, "layers/set.usda", set.replace("SACKS", sacks()));
    text(output, "layers/look.usda", layer("layers/look.usda"));
    text(output, "layers/light.usda", layer("layers/light.usda"));
  }

  private static void part(String name, Scene scene, Map<String, byte[]> files, Output output)
      throws IOException {
    SceneCargo.writeUsd(scene, name, files, output);
  }

  private static void text(Output output, String path, String text) throws IOException {
    try (OutputStream out = output.create(path)) {
      out.write(text.getBytes(StandardCharsets.UTF_8));
    }
  }

  private static Scene hull() {
    SceneBuilder scene = new SceneBuilder("hull");
    Parts parts = new Parts(scene);
    int oak = parts.pbr("tarred_oak", new double[] {0.16, 0.1, 0.07}, 0, 0.7, null, null, null);
    int deck = parts.pbr("deck_planks", new double[] {0.42, 0.3, 0.19}, 0, 0.8, null, null, null);
    double x = LENGTH / 2;
    double y = WIDTH / 2;
    parts.part(new Shape().box(-x, -y, 0, x, y, DECK - 12), "hull", oak);
    for (int plank = 0; plank < 8; plank++) {
      double from = -y + plank * WIDTH / 8;
      parts.part(
          new Shape().box(-x, from + 2, DECK - 10, x, from + WIDTH / 8 - 2, DECK),
          "plank_" + (plank + 1),
          deck);
    }
    parts.part(
        new Shape().lathe(0, 0, 16, false, 0, DECK, 14, DECK, 9, DECK + 480, 0, DECK + 490),
        "mast",
        oak);
    parts.part(new Shape().box(-x + 40, -90, DECK, -x + 280, 90, DECK + 150), "cabin", deck);
    return scene.build();
  }

  private static Scene lantern() {
    SceneBuilder scene = new SceneBuilder("lantern");
    Parts parts = new Parts(scene);
    int paper =
        parts.pbr(
            "lantern_paper",
            new double[] {0.85, 0.7, 0.45},
            0,
            0.85,
            null,
            null,
            new double[] {0.1, 0.07, 0.03});
    int brass =
        parts.pbr("lantern_brass", new double[] {0.7, 0.5, 0.25}, 1, 0.35, null, null, null);
    parts.part(
        new Shape().lathe(0, 0, 18, false, 0, -30, 9, -28, 15, -20, 15, -8, 9, -2, 0, -1),
        "paper",
        paper);
    parts.part(new Shape().lathe(0, 0, 12, false, 0, -2, 4, -2, 4, 2, 0, 3), "cap", brass);
    return scene.build();
  }

  private static Scene sack() {
    SceneBuilder scene = new SceneBuilder("sack");
    Parts parts = new Parts(scene);
    int jute = parts.pbr("jute", new double[] {0.5, 0.4, 0.26}, 0, 0.95, null, null, null);
    parts.part(
        new Shape().lathe(0, 0, 12, false, 0, 0, 18, 1, 22, 12, 19, 30, 7, 40, 9, 46, 0, 44),
        "sack",
        jute);
    return scene.build();
  }

  private static Scene nets() {
    SceneBuilder scene = new SceneBuilder("nets");
    Parts parts = new Parts(scene);
    int cord = parts.pbr("net_cord", new double[] {0.2, 0.26, 0.24}, 0, 0.9, null, null, null);
    for (int coil = 0; coil < 4; coil++) {
      parts.part(
          new Shape().torus(6 + 10 * coil, 34 - 3 * coil, 5, 28, 8), "coil_" + (coil + 1), cord);
    }
    return scene.build();
  }

  /** The same with its textures beside it. */
  private static Scene found(Scene scene) {
    return scene.toBuilder()
        .textures(
            scene.textures().stream()
                .map(t -> new Texture(t.id(), t.name(), t.written(), t.written(), null))
                .toList())
        .build();
  }

  /** The pennant with Z up: what is referred to is not converted. */
  private static Scene pennant() {
    Scene standing =
        found(Pennant.windy()).toBuilder()
            .frame(
                Frame.Y_UP_METRE.withMetresPerUnit(SceneCargo.BUILT.metresPerUnit()),
                FrameSource.CHOSEN,
                FrameSource.CHOSEN)
            .build();
    return Rebase.intoData(standing, SceneCargo.BUILT);
  }

  private static String layer(String path) throws IOException {
    try (InputStream in = BargeAtDusk.class.getResourceAsStream("/barge/" + path)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    }
  }

  /** Lanterns on a line that sags between the ends of the barge. */
  private static String lanterns() {
    StringBuilder text = new StringBuilder();
    for (int i = 0; i < LANTERNS; i++) {
      double t = (i + 0.5) / LANTERNS * 2 - 1;
      double height = DECK + 300 + 120 * t * t;
      String lantern =
          """
          def "lantern_%d" (
              instanceable = true
              references = @../parts/lantern.usdc@
          )
          {
              double3 xformOp:translate = (%.1f, 0, %.1f)
              uniform token[] xformOpOrder = ["xformOp:translate"]
          }
          """
              .formatted(i + 1, t * LENGTH / 2.4, height);
      text.append(lantern.indent(8));
    }
    return text.toString();
  }

  /** Where each sack stands, six in a row, and how it is turned. */
  private static String sacks() {
    List<String> places = new ArrayList<>();
    List<String> turns = new ArrayList<>();
    for (int i = 0; i < SACKS; i++) {
      int x = 120 + 46 * (i % 6);
      int y = -130 + 48 * (i / 6);
      double half = Math.toRadians(37 * i % 360) / 2;
      places.add("(%d, %d, 110)".formatted(x, y));
      turns.add("(%.4f, 0, 0, %.4f)".formatted(Math.cos(half), Math.sin(half)));
    }
    String text =
        """
        int[] protoIndices = %s
        point3f[] positions = %s
        quath[] orientations = %s
        """
            .formatted(Collections.nCopies(SACKS, 0), places, turns);
    return text.indent(8);
  }
}
