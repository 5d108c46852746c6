package ferry.stone.e2e;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.RandomRig;
import ferry.stone.core.RandomScene;
import ferry.stone.core.RandomShear;
import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.landing.CapabilityFiles;
import ferry.stone.core.landing.CapabilityScenes;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import ferry.stone.demo.DemoWorld;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Lands every demo cargo, a scene for every capability and random scenes, and has the files read by
 * others: three's loaders, the standards body's validator, the ufbx crate. Whatever they see other
 * than what left must be told by the proof.
 */
class OthersSeeWhatIsToldIT {
  private static final int RANDOM = 50;

  @TempDir Path folder;

  private record Case(String name, Scene far, Resources cargo) {}

  private record Landed(Case of, Path file, Proof proof) {}

  private List<Case> cases() throws Exception {
    List<Case> all = new ArrayList<>();
    for (DemoWorld.Cargo cargo : DemoWorld.Cargo.values()) {
      CargoFolder files = DemoCargo.unpack(cargo, folder);
      all.add(new Case(cargo.name(), CargoReader.read("demo", ReadContext.of(files)), files));
    }
    for (Capability capability : Capability.values()) {
      all.add(new Case(capability.name(), CapabilityScenes.of(capability), CapabilityFiles.all()));
    }
    for (int seed = 0; seed < RANDOM; seed++) {
      Resources none = CapabilityFiles.all();
      Scene rig = RandomRig.of(new Random(seed), 6);
      all.add(new Case("rig " + seed, rig, none));
      if (rig.clips().size() > 1) {
        Scene one = rig.toBuilder().clips(rig.clips().subList(0, 1)).build();
        all.add(new Case("rig " + seed + " with one clip", one, none));
      }
      all.add(new Case("sheared " + seed, RandomShear.of(new Random(seed)), none));
      all.add(new Case("scene " + seed, RandomScene.of(new Random(seed)), none));
    }
    return all;
  }

  private List<Landed> land(LandingOptions options, String ending) throws Exception {
    List<Landed> landed = new ArrayList<>();
    for (Case one : cases()) {
      Path out = Files.createTempDirectory(folder, "landed");
      Landing landing =
          Landing.write(
              one.far(),
              options,
              "landed",
              one.cargo(),
              path -> {
                Files.createDirectories(out.resolve(path).getParent());
                return Files.newOutputStream(out.resolve(path));
              },
              Progress.NONE);
      Proof proof =
          Proof.of(
              one.far(),
              one.far(),
              landing.landed(options, CargoFolder.of(out)),
              one.cargo(),
              Progress.NONE);
      assertTrue(landing.mainFile().endsWith(ending));
      landed.add(new Landed(one, out.resolve(landing.mainFile()), proof));
    }
    return landed;
  }

  private static void compare(String reader, List<Landed> landed, List<JsonNode> seen) {
    assertEquals(landed.size(), seen.size(), reader);
    List<String> untold = new ArrayList<>();
    for (int i = 0; i < seen.size(); i++) {
      Landed one = landed.get(i);
      for (String what :
          new Untold(reader, Expected.of(one.of().far()), seen.get(i), one.proof()).list()) {
        untold.add(one.of().name() + ": " + what);
      }
    }
    assertTrue(
        untold.isEmpty(),
        untold.size()
            + " untold:\n"
            + String.join("\n", untold.subList(0, Math.min(60, untold.size()))));
  }

  private static List<Path> files(List<Landed> landed) {
    return landed.stream().map(Landed::file).toList();
  }

  @Test
  void threeAndTheValidatorSeeTheGlbThatIsProved() throws Exception {
    List<Landed> landed = land(LandingOptions.of("glb"), ".glb");
    compare("three", landed, Node.lines("look-glb.mjs", files(landed)));
  }

  @Test
  void theValidatorHasNothingToSayOfSeparateFiles() throws Exception {
    List<Landed> landed =
        land(
            LandingOptions.of("gltf")
                .with("influences", 0)
                .withTransforms(LandingOptions.Transforms.ROOT),
            ".gltf");
    List<JsonNode> reports = Node.lines("validate-gltf.mjs", files(landed));
    List<String> said = new ArrayList<>();
    for (int i = 0; i < reports.size(); i++) {
      for (JsonNode message : reports.get(i).path("messages")) {
        said.add(landed.get(i).of().name() + ": " + message.asText());
      }
    }
    assertTrue(said.isEmpty(), said.size() + ":\n" + String.join("\n", said));
  }

  @Test
  void threeAndUfbxSeeTheFbxThatIsProved() throws Exception {
    List<Landed> landed = land(LandingOptions.of("fbx"), ".fbx");
    compare("three, FBX", landed, Node.lines("look-fbx.mjs", files(landed)));
    Path ufbx = Ufbx.built().orElse(null);
    if (ufbx == null) {
      System.out.println(
          "ufbx was not asked: there is no cargo here to build it with. Its committed figures are"
              + " checked by FbxReaderTest and FbxWriterTest.");
      return;
    }
    compare("ufbx", landed, Ufbx.look(ufbx, files(landed)));
  }
}
