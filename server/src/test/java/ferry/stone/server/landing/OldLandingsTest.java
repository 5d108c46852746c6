package ferry.stone.server.landing;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.landing.PartFiles;
import ferry.stone.server.store.Json;
import ferry.stone.server.store.Rows;
import java.nio.file.Path;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sqlite.SQLiteDataSource;

/** Landings that were stored before each format had options of its own can be read still. */
class OldLandingsTest {
  @TempDir Path folder;
  private final SQLiteDataSource source = new SQLiteDataSource();
  private Rows rows;

  @BeforeEach
  void oldDatabase() {
    source.setUrl("jdbc:sqlite:" + folder.resolve("ferry.db"));
    Flyway.configure().dataSource(source).target("3").load().migrate();
    rows = new Rows(source);
    rows.change(
        "INSERT INTO crossing (id, name, state, created_at, updated_at)"
            + " VALUES ('c', 'Weir', 'ready', '', '')");
  }

  private LandingOptions read(String options) {
    rows.change(
        "INSERT INTO landing (id, crossing_id, job_id, state, options, steps, created_at)"
            + " VALUES ('l', 'c', '', 'done', ?, '[]', '')",
        options);
    Flyway.configure().dataSource(source).load().migrate();
    return new LandingRepository(rows, new Json(new ObjectMapper()))
        .find("l")
        .orElseThrow()
        .options();
  }

  @Test
  void fbx() {
    LandingOptions options =
        read(
            """
            {"format":"fbx","embedTextures":false,"embedBuffers":true,"transforms":"ROOT",
             "doubleSided":true,"influences":0,"packing":{"quantized":false},"fileName":"winch",
             "fbx":{"form":"BINARY","version":7500,"bake":true,"toleranceRadians":0.001,
              "triangulate":true,"metresPerUnit":0.0254,"up":"PLUS_Z","front":"MINUS_Y",
              "hand":"LEFT"},
             "parts":{"each":true,"pattern":"{part}","origin":"BASE"},"skinMove":2.0}
            """);
    assertThat(options)
        .isEqualTo(
            LandingOptions.of("fbx")
                .with("embedTextures", false)
                .with("form", "binary64")
                .with("unit", "0.0254")
                .with("up", "z")
                .with("front", "-y")
                .with("hand", "left")
                .with("bake", true)
                .with("bakeTolerance", 0.001)
                .with("triangulate", true)
                .withTransforms(LandingOptions.Transforms.ROOT)
                .withDoubleSided(true)
                .withFileName("winch")
                .withParts(new PartFiles(true, "{part}", PartFiles.Origin.BASE))
                .withSkinMove(2));
    assertThat(options.frame().metresPerUnit()).isEqualTo(0.0254);
  }

  @Test
  void gltf() {
    LandingOptions options =
        read(
            """
            {"format":"gltf","embedTextures":true,"embedBuffers":true,"transforms":"DATA",
             "doubleSided":false,"influences":8,"packing":{"quantized":true,"compressed":true,
              "indexBits":"SHORT","drawOrder":true,"largestTexture":512,"instanced":true,
              "tangents":false},"fileName":null,"fbx":null,
             "parts":{"each":false,"pattern":"{asset}_{part}","origin":"PIVOT"},"skinMove":0.5}
            """);
    assertThat(options)
        .isEqualTo(
            LandingOptions.of("gltf")
                .with("embedTextures", true)
                .with("embedGeometry", true)
                .with("influences", 8)
                .with("quantize", true)
                .with("compress", true)
                .with("indexBits", "short")
                .with("drawOrder", true)
                .with("largestTexture", 512)
                .with("gatherCopies", true)
                .with("tangents", false));
  }

  @Test
  void theOldestHadFewerOptions() {
    LandingOptions options =
        read(
            """
            {"format":"glb","embedTextures":true,"embedBuffers":true,"transforms":"DATA",
             "doubleSided":false,"influences":4}
            """);
    assertThat(options).isEqualTo(LandingOptions.of("glb"));
  }
}
