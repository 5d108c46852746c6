package ferry.stone.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.Architectures.layeredArchitecture;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

/** Dependencies point down only; see docs/architecture.md. */
@AnalyzeClasses(packages = "ferry.stone.core", importOptions = ImportOption.DoNotIncludeTests.class)
class PackageRulesTest {
  @ArchTest
  static final ArchRule LAYERS =
      layeredArchitecture()
          .consideringOnlyDependenciesInLayers()
          .layer("routine")
          .definedBy("..core.routine..")
          .layer("handover")
          .definedBy("..core.handover..")
          .layer("report")
          .definedBy("..core.report..")
          .layer("view")
          .definedBy("..core.view..")
          .layer("proof")
          .definedBy("..core.proof..")
          .layer("landing")
          .definedBy("..core.landing..")
          .layer("cargo")
          .definedBy("..core.cargo..")
          .layer("handling")
          .definedBy("..core.handling..")
          .layer("survey")
          .definedBy("..core.survey..")
          .layer("format")
          .definedBy("..core.format..")
          .layer("geometry")
          .definedBy("..core.geometry..")
          .layer("motion")
          .definedBy("..core.motion..")
          .layer("texture")
          .definedBy("..core.texture..")
          .layer("shore")
          .definedBy("..core.shore..")
          .layer("scene")
          .definedBy("..core.scene..")
          .layer("math")
          .definedBy("..core.math..")
          .whereLayer("routine")
          .mayNotBeAccessedByAnyLayer()
          .whereLayer("handover")
          .mayOnlyBeAccessedByLayers("routine")
          .whereLayer("report")
          .mayOnlyBeAccessedByLayers("routine", "handover")
          .whereLayer("view")
          .mayOnlyBeAccessedByLayers("routine", "report")
          .whereLayer("proof")
          .mayOnlyBeAccessedByLayers("routine", "landing", "report", "handover")
          .whereLayer("landing")
          .mayOnlyBeAccessedByLayers("routine", "handover")
          .whereLayer("cargo")
          .mayOnlyBeAccessedByLayers("routine", "proof", "handover")
          .whereLayer("handling")
          .mayOnlyBeAccessedByLayers("routine", "landing")
          .whereLayer("survey")
          .mayOnlyBeAccessedByLayers("routine", "view")
          .whereLayer("format")
          .mayOnlyBeAccessedByLayers(
              "routine", "cargo", "landing", "proof", "view", "report", "handover")
          .whereLayer("geometry")
          .mayOnlyBeAccessedByLayers(
              "report", "view", "proof", "landing", "handling", "survey", "format", "cargo")
          .whereLayer("motion")
          .mayOnlyBeAccessedByLayers(
              "view", "proof", "landing", "handling", "survey", "format", "cargo")
          .whereLayer("texture")
          .mayOnlyBeAccessedByLayers(
              "routine",
              "view",
              "proof",
              "landing",
              "handling",
              "survey",
              "format",
              "cargo",
              "report")
          .whereLayer("shore")
          .mayOnlyBeAccessedByLayers("routine", "landing", "handling", "survey", "format", "proof")
          .whereLayer("math")
          .mayOnlyBeAccessedByLayers(
              "routine",
              "report",
              "view",
              "proof",
              "landing",
              "cargo",
              "handling",
              "survey",
              "format",
              "geometry",
              "motion",
              "texture",
              "shore",
              "scene");

  @ArchTest
  static final ArchRule NO_INTERFACE_CODE =
      noClasses()
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage(
              "org.springframework..", "java.sql..", "jakarta..", "java.net.http..", "picocli..");

  @ArchTest
  static final ArchRule STEPS_ARE_PURE =
      classes()
          .that()
          .implement(ferry.stone.core.handling.StepKind.class)
          .should()
          .haveOnlyFinalFields();
}
