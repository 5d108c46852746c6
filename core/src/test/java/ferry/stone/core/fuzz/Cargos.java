package ferry.stone.core.fuzz;

import ferry.stone.core.RandomRig;
import ferry.stone.core.RandomScene;
import ferry.stone.core.TestFiles;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.collada.DaeText;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.landing.CapabilityFiles;
import ferry.stone.core.landing.CapabilityScenes;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;

/** Whole cargos of every format that is read, to be damaged. */
public final class Cargos {
  private static final String OBJ =
      """
      mtllib a.mtl
      o hull
      v 0 0 0 1 0.5 0.25
      v 1 0 0
      v 1 1 0
      v 0 1 0
      v 0 0 1
      vt 0 0
      vt 1 0
      vt 1 1
      vn 0 0 1
      g deck
      s 1
      usemtl oak
      f 1/1/1 2/2/1 3/3/1 4/1/1
      f -1/-1/-1 -2/-2/-1 -3/-3/-1
      s off
      usemtl iron
      l 1 2 3
      p 5
      o mast
      f 1//1 2//1 5//1
      """;

  private static final String MTL =
      """
      newmtl oak
      Kd 0.8 0.6 0.4
      Ks 0.1 0.1 0.1
      Ns 60
      d 0.9
      map_Kd -s 2 2 1 -o 0.5 0 0 oak.png
      map_Bump -bm 0.4 height.png
      newmtl iron
      Kd 0.2 0.2 0.2
      Pr 0.4
      Pm 1
      norm height.png
      """;

  private static final LandingOptions GLB = LandingOptions.of("glb");
  private static final LandingOptions GLTF =
      LandingOptions.of("gltf")
          .with("embedTextures", true)
          .with("embedGeometry", true)
          .with("influences", 0);
  private static final LandingOptions BINARY = LandingOptions.of("fbx");
  private static final LandingOptions TEXT = LandingOptions.of("fbx").with("form", "text");

  private Cargos() {}

  /** The files of each cargo by what it shows; the first that is named is the scene. */
  public static Map<String, TestFiles> all() throws IOException, FormatException {
    Map<String, TestFiles> all = new TreeMap<>();
    all.put("a.obj", CapabilityFiles.all().with("a.obj", OBJ).with("a.mtl", MTL));
    all.put("a.dae", CapabilityFiles.all().with("a.dae", DaeText.whole()));
    try (InputStream in = Cargos.class.getResourceAsStream("/abc/yard.abc")) {
      all.put("a.abc", new TestFiles().with("a.abc", in.readAllBytes()));
    }
    for (int seed = 1; seed <= 3; seed++) {
      Scene rig = RandomRig.of(new Random(seed), 5);
      Scene sheet = RandomScene.of(new Random(seed));
      all.put("rig " + seed + ".glb", landed(rig, GLB));
      all.put("sheet " + seed + ".gltf", landed(sheet, GLTF));
      all.put(
          "packed " + seed + ".glb",
          landed(
              sheet,
              GLB.with("quantize", true)
                  .with("compress", true)
                  .with("drawOrder", true)
                  .with("gatherCopies", true)));
      all.put("rig " + seed + ".gltf", landed(rig, GLTF));
      all.put("rig " + seed + " binary.fbx", landed(rig, BINARY));
      all.put("rig " + seed + " text.fbx", landed(rig, TEXT));
      all.put("sheet " + seed + ".fbx", landed(sheet, BINARY));
      for (String format : new String[] {"stl", "ply", "obj"}) {
        LandingOptions bare = LandingOptions.of(format);
        all.put("sheet " + seed + " binary." + format, landed(sheet, bare));
        if (!format.equals("obj")) {
          LandingOptions text = bare.with("encoding", "text");
          all.put("sheet " + seed + " text." + format, landed(sheet, text));
        }
      }
    }
    for (Capability capability : Capability.values()) {
      Scene scene = CapabilityScenes.of(capability);
      all.put(capability + ".gltf", landed(scene, GLTF));
      all.put(capability + ".fbx", landed(scene, TEXT));
    }
    return all;
  }

  /** The scene file of a cargo. */
  public static String scene(TestFiles cargo) {
    List<String> scenes = new ArrayList<>(cargo.paths());
    scenes.removeIf(p -> !p.matches("a\\.(obj|gltf|glb|fbx|stl|ply|dae|abc)"));
    return scenes.get(0);
  }

  private static TestFiles landed(Scene scene, LandingOptions options)
      throws IOException, FormatException {
    TestFiles files = CapabilityFiles.all();
    Landing.write(scene, options, "a", CapabilityFiles.all(), files, Progress.NONE);
    return files;
  }
}
