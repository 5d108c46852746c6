package ferry.stone.core.fuzz;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.cargo.CargoRules;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.shore.Shores;
import ferry.stone.core.survey.Survey;
import ferry.stone.core.survey.SurveyMemo;
import ferry.stone.core.work.Cancel;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.List;
import java.util.Map;

/**
 * Takes a cargo, however damaged, the whole way: read, hold to its standard, survey, land as glTF
 * and FBX, prove. It may end in a sentence about the file and in nothing else. A watch cancels what
 * takes too long, which then ends in a {@link ferry.stone.core.work.CancelledException}.
 */
public final class WholeWay {
  /** How far a cargo came. */
  public enum End {
    REFUSED,
    NOT_LANDED,
    PROVED
  }

  private static final List<LandingOptions> LANDINGS =
      List.of(
          LandingOptions.of("glb"),
          LandingOptions.of("fbx"),
          LandingOptions.of("stl"),
          LandingOptions.of("ply"));

  private WholeWay() {}

  /**
   * @param seconds after which everything is cancelled
   */
  public static End run(TestFiles cargo, double seconds) throws IOException {
    long end = System.nanoTime() + (long) (1e9 * seconds);
    Progress watch =
        new Progress() {
          @Override
          public void report(String what, double fraction) {
            checkCancelled();
          }

          @Override
          public boolean isCancelled() {
            return System.nanoTime() > end;
          }
        };
    return Cancel.during(watch, () -> run(cargo, watch));
  }

  private static End run(TestFiles cargo, Progress watch) throws IOException {
    Findings findings = new Findings();
    Scene scene;
    try {
      scene = CargoReader.read("a", new ReadContext(cargo, Map.of(), findings, watch));
    } catch (FormatException e) {
      told(e);
      return End.REFUSED;
    }
    CargoRules.broken(cargo);
    Survey.of(scene, findings.list(), Shores.usual(), new SurveyMemo(), watch);
    End reached = End.NOT_LANDED;
    for (LandingOptions options : LANDINGS) {
      TestFiles out = new TestFiles();
      try {
        Landing landing = Landing.write(scene, options, "landed", cargo, out, watch);
        Proof.of(scene, scene, landing.landed(options, out), cargo, watch);
        reached = End.PROVED;
      } catch (FormatException e) {
        told(e);
      }
    }
    return reached;
  }

  private static void told(FormatException e) {
    if (!e.getMessage().startsWith(e.resource()) || e.problem().length() < 10) {
      throw new IllegalStateException("no sentence: " + e.getMessage(), e);
    }
  }
}
