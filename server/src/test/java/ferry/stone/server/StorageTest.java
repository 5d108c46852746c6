package ferry.stone.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.delete;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.math.Figures;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.server.crossing.Resuming;
import ferry.stone.server.store.BlobStore;
import ferry.stone.server.store.DiskSpace;
import ferry.stone.server.store.Rows;
import ferry.stone.server.store.Storage;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.MediaType;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;
import org.springframework.test.util.ReflectionTestUtils;

/** Space comes back, nothing is left half, and doors are shut. */
class StorageTest extends OverTheApi {
  private static final String OBJ = "o slab\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n";

  @TempDir static Path data;
  @Autowired Rows rows;
  @Autowired BlobStore blobs;
  @Autowired Storage storage;
  @Autowired Resuming resuming;

  @DynamicPropertySource
  static void folder(DynamicPropertyRegistry registry) {
    registry.add("ferry.data", () -> data.toString());
    registry.add("ferry.max-upload-bytes", () -> 50_000_000);
  }

  private long held() throws Exception {
    return read(send(post("/api/storage/sweep"), 200)).path("heldBytes").asLong();
  }

  @Test
  void whatNothingNamesGoesAndWhatIsNamedStays() throws Exception {
    long before = held();
    String id = ready("Slab", OBJ + "# " + "x".repeat(100_000));
    JsonNode landing =
        read(
            send(
                post("/api/crossings/" + id + "/landings")
                    .contentType(MediaType.APPLICATION_JSON)
                    .content("{\"format\":\"glb\"}"),
                202));
    String landed = landing.path("id").asText();
    await()
        .until(
            () ->
                read(send(get("/api/landings/" + landed), 200))
                    .path("state")
                    .asText()
                    .equals("done"));
    long all = held();
    assertThat(all).isGreaterThan(before + 100_000);
    send(get("/api/landings/" + landed + "/download"), 200);
    send(delete("/api/landings/" + landed), 204);
    send(get("/api/landings/" + landed), 404);
    assertThat(held()).isLessThan(all).isGreaterThan(before + 100_000);
    send(delete("/api/crossings/" + id), 204);
    assertThat(held()).isEqualTo(before);
  }

  @Test
  void aFileThatIsOnItsWayIsNotSwept() throws Exception {
    BlobStore.Blob blob = blobs.put(new ByteArrayInputStream("cargo".getBytes()), 100);
    held();
    assertThat(Files.exists(blobs.path(blob.hash()))).isTrue();
    blobs.release(blob.hash());
    held();
    assertThat(Files.exists(blobs.path(blob.hash()))).isFalse();
  }

  @Test
  void aRefusedZipLeavesNothingBehind() throws Exception {
    long before = held();
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (ZipOutputStream zip = new ZipOutputStream(bytes)) {
      for (int i = 0; i < 50; i++) {
        zip.putNextEntry(new ZipEntry("a" + i + ".txt"));
        zip.write(("file " + i).getBytes());
        zip.closeEntry();
      }
      zip.putNextEntry(new ZipEntry("z.bin"));
      byte[] noise = new byte[40_000];
      new java.util.Random(1).nextBytes(noise);
      zip.write(noise);
      zip.closeEntry();
    }
    byte[] damaged = bytes.toByteArray();
    // Inside the last file's content: found out after the others were unpacked.
    for (int i = damaged.length - 20_000; i < damaged.length - 19_000; i++) {
      damaged[i] ^= 0x55;
    }
    String id = create("Cut");
    upload(id, "cut.zip", damaged);
    JsonNode crossing = settled(id);
    assertThat(crossing.path("state").asText()).isEqualTo("failed");
    assertThat(crossing.path("problem").asText()).contains("cut.zip");
    try (var left = Files.list(data.resolve("incoming"))) {
      assertThat(left.toList()).isEmpty();
    }
    send(delete("/api/crossings/" + id), 204);
    assertThat(held()).isEqualTo(before);
  }

  @Test
  void manySmallFilesAreOneTransaction() throws Exception {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (ZipOutputStream zip = new ZipOutputStream(bytes)) {
      zip.putNextEntry(new ZipEntry("a.obj"));
      zip.write(OBJ.getBytes());
      for (int i = 0; i < 3000; i++) {
        zip.putNextEntry(new ZipEntry("textures/" + i + ".txt"));
        zip.write(("file " + i).getBytes());
      }
    }
    String id = create("Many");
    upload(id, "many.zip", bytes.toByteArray());
    assertThat(settled(id).path("state").asText()).isEqualTo("ready");
    assertThat(rows.list("SELECT path FROM cargo_file WHERE crossing_id = ?", r -> 1, id))
        .hasSize(3001);
  }

  @Test
  void deletingWorksOnAFullDiskWithTheReserve() {
    DiskSpace disk = (DiskSpace) ReflectionTestUtils.getField(storage, "disk");
    assertThat(Files.exists(data.resolve("reserve"))).isTrue();
    AtomicInteger tries = new AtomicInteger();
    storage.freeing(
        () -> {
          if (tries.incrementAndGet() == 1) {
            throw new IllegalStateException("Database: [SQLITE_FULL] disk is full");
          }
        });
    assertThat(tries.get()).isEqualTo(2);
    assertThat(disk.sentence()).contains("full", Figures.bytes(disk.free()).split(" ")[1]);
    await().until(() -> Files.exists(data.resolve("reserve")));
  }

  @Test
  void aCargoThatStoppedTheProgramTwiceIsNotReadAtTheNextStart() throws Exception {
    String id = ready("Heavy", OBJ);
    rows.change("UPDATE crossing SET state = 'reading', reading_tries = 2 WHERE id = ?", id);
    ReflectionTestUtils.invokeMethod(resuming, "resume");
    JsonNode crossing = read(send(get("/api/crossings/" + id), 200));
    assertThat(crossing.path("state").asText()).isEqualTo("failed");
    assertThat(crossing.path("problem").asText()).contains("stopped twice");
    assertThat(settled(id).path("state").asText()).isEqualTo("ready");
  }

  @Test
  void aCrossingHasItsPictureOnceItIsReadAndAnotherOneAfterSteps() throws Exception {
    String id = ready("Shown", OBJ);
    String first = pictureAfter(id, "");
    byte[] png = send(get("/api/crossings/" + id + "/thumbnail"), 200).getContentAsByteArray();
    var pixels = ImageCodec.decode(png, "picture.png");
    assertThat(pixels.width()).isEqualTo(184);
    assertThat(Arrays.stream(pixels.argb()).anyMatch(p -> p >>> 24 == 255)).isTrue();
    String turned = step("a", "rotate", "{\"axis\":\"x\",\"degrees\":50}");
    handling(id, 0, "[" + turned + "]", 200);
    assertThat(pictureAfter(id, first)).isNotEqualTo(first);
  }

  private String pictureAfter(String id, String before) {
    return await()
        .until(
            () -> read(send(get("/api/crossings/" + id), 200)).path("thumbnail").asText(""),
            hash -> !hash.isEmpty() && !hash.equals("null") && !hash.equals(before));
  }

  @Test
  void brokenBodiesAreRefusedInASentence() throws Exception {
    String id = ready("Doors", OBJ);
    for (String path :
        new String[] {
          "/api/crossings",
          "/api/crossings/" + id + "/landings",
          "/api/crossings/" + id + "/bindings"
        }) {
      var response =
          mvc.perform(
                  post(path)
                      .contentType("multipart/form-data; boundary=x")
                      .content("--y\r\nbroken".getBytes())
                      .with(
                          r -> {
                            r.setServerName("localhost");
                            return r;
                          }))
              .andReturn()
              .getResponse();
      assertThat(response.getStatus()).as(path).isBetween(400, 499);
    }
  }
}
