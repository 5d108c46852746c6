package ferry.stone.core.format.abc.raw;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.MemoryFiles;
import ferry.stone.core.format.files.RandomBytes;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/**
 * {@code yard.abc} was written by the standard's own library (alembic3d 1.8.12.1, see {@code
 * make-yard.py}); {@code yard.json} is what that library reads in it.
 */
class AbcArchiveTest {
  private static final ObjectMapper JSON = new ObjectMapper();

  private static byte[] yard() throws IOException {
    try (InputStream in = AbcArchiveTest.class.getResourceAsStream("/abc/yard.abc")) {
      return in.readAllBytes();
    }
  }

  private static AbcArchive open(byte[] bytes) throws IOException, FormatException {
    MemoryFiles files = new MemoryFiles(Map.of("yard.abc", bytes));
    return AbcArchive.open("yard.abc", files.random("yard.abc"), Budget.of("yard.abc", files));
  }

  private static AbcObject find(AbcArchive archive, String path)
      throws IOException, FormatException {
    AbcObject object = archive.top();
    for (String name : path.split("/")) {
      object =
          object.children().stream().filter(c -> c.name().equals(name)).findFirst().orElseThrow();
    }
    return object;
  }

  private static AbcCompound geometry(String path) throws IOException, FormatException {
    return find(open(yard()), path).properties().compound(".geom").orElseThrow();
  }

  @Test
  void theTreeIsThatOfTheStandardsOwnLibrary() throws Exception {
    AbcArchive archive = open(yard());
    int objects = 0;
    try (InputStream in = AbcArchiveTest.class.getResourceAsStream("/abc/yard.json")) {
      JsonNode told = JSON.readTree(in);
      assertThat(archive.samplings()).hasSize(told.get("timeSamplings").asInt());
      for (JsonNode object : told.get("objects")) {
        String path = object.get("path").asText();
        // The library shows what is below a copy's original below the copy too.
        if (!path.startsWith("second yard")) {
          assertThat(find(archive, path).schema()).isEqualTo(object.get("schema").asText());
          objects++;
        }
        if (object.has("sampling") && !path.startsWith("second yard")) {
          sampling(find(archive, path), object.get("sampling"));
        }
      }
    }
    assertThat(objects).isEqualTo(9);
  }

  private static void sampling(AbcObject object, JsonNode told)
      throws IOException, FormatException {
    AbcProperty property = null;
    for (String compound : object.properties().compounds()) {
      AbcCompound schema = object.properties().compound(compound).orElseThrow();
      for (String name : List.of("P", ".core", ".vals")) {
        property = schema.value(name).orElse(property);
      }
    }
    assertThat(property).as(object.path()).isNotNull();
    assertThat(property.sampleCount()).as(object.path()).isEqualTo(told.get("samples").asInt());
    assertThat(property.seconds(0)).isCloseTo(told.get("first").asDouble(), within(1e-9));
    double last = property.seconds(property.sampleCount() - 1);
    assertThat(last).isCloseTo(told.get("last").asDouble(), within(1e-9));
    boolean uniform = told.get("kind").asText().equals("uniform");
    assertThat(property.sampling().isUniform()).as(object.path()).isEqualTo(uniform);
    boolean acyclic = told.get("kind").asText().equals("acyclic");
    assertThat(property.sampling().isAcyclic()).as(object.path()).isEqualTo(acyclic);
  }

  @Test
  void pointsThatDoNotChangeAreKeptOnce() throws Exception {
    AbcProperty points = geometry("yard/plank").value("P").orElseThrow();
    assertThat(points.type().extent()).isEqualTo(3);
    assertThat(points.place(0).rows()).isEqualTo(5);
    assertThat(points.same(0, 1)).isTrue();
    assertThat(points.same(1, 2)).isFalse();
    assertThat(points.same(3, 4)).isTrue();
    double[] up = {0, 0, 0.25, 0.5, 0.5};
    for (int sample = 0; sample < up.length; sample++) {
      assertThat(points.floats(sample)[13])
          .as("sample " + sample)
          .isEqualTo((float) (2 + up[sample]));
      float[] one = new float[1];
      points.floats(points.place(sample), 13, 1, one);
      assertThat(one[0]).isEqualTo(points.floats(sample)[13]);
    }
    assertThat(points.floats(99)).as("after the last").isEqualTo(points.floats(4));
  }

  @Test
  void facesAndLayersAreThoseThatWereWritten() throws Exception {
    AbcCompound plank = geometry("yard/plank");
    assertThat(plank.value(".faceCounts").orElseThrow().ints(0)).containsExactly(4, 3);
    AbcProperty corners = plank.value(".faceIndices").orElseThrow();
    assertThat(corners.ints(0)).containsExactly(0, 3, 2, 1, 3, 4, 2);
    assertThat(corners.isConstant()).isTrue();
    AbcCompound uv = plank.compound("uv").orElseThrow();
    assertThat(plank.metaData("uv")).containsEntry("geoScope", "fvr");
    assertThat(uv.value(".vals").orElseThrow().floats(0))
        .containsExactly(0, 0, 1, 0, 1, 1, 0, 1, 0.5f, 1);
    assertThat(uv.value(".indices").orElseThrow().ints(0)).containsExactly(0, 3, 2, 1, 3, 4, 2);
    assertThat(plank.value("N").orElseThrow().place(0).rows()).isEqualTo(7);
    AbcObject oak = find(open(yard()), "yard/plank/oak");
    AbcCompound set = oak.properties().compound(".faceset").orElseThrow();
    assertThat(set.value(".faces").orElseThrow().ints(0)).containsExactly(1);
    AbcProperty visible =
        find(open(yard()), "yard/plank").properties().value("visible").orElseThrow();
    assertThat(List.of(visible.ints(0)[0], visible.ints(1)[0], visible.ints(2)[0]))
        .containsExactly(1, 0, -1);
  }

  @Test
  void aSampleMayBeEmptyAndAnotherHaveOtherFaces() throws Exception {
    AbcCompound mist = geometry("mist");
    AbcProperty counts = mist.value(".faceCounts").orElseThrow();
    assertThat(counts.ints(0)).isEmpty();
    assertThat(counts.ints(1)).containsExactly(4);
    assertThat(counts.ints(2)).containsExactly(4, 3);
    assertThat(mist.value("P").orElseThrow().floats(0)).isEmpty();
  }

  @Test
  void everyTypeOfCustomValueIsRead() throws Exception {
    AbcCompound user =
        find(open(yard()), "yard")
            .properties()
            .compound(".xform")
            .orElseThrow()
            .compound(".userProperties")
            .orElseThrow();
    assertThat(user.value("berth").orElseThrow().texts(0)).containsExactly("Hafen Süd");
    assertThat(user.value("flag").orElseThrow().texts(0)).containsExactly("Öl");
    assertThat(user.value("stops").orElseThrow().texts(0)).containsExactly("quay", "", "mole");
    assertThat(user.value("depth").orElseThrow().ints(0)).containsExactly(-7);
    assertThat(user.value("serial").orElseThrow().doubles(0)).containsExactly(1L << 30);
    assertThat(user.value("draught").orElseThrow().floats(0)).containsExactly(1.5f);
    assertThat(user.value("lit").orElseThrow().ints(0)).containsExactly(1);
    assertThat(user.value("keel")).isEmpty();
    AbcProperty berth = user.value("berth").orElseThrow();
    assertThatThrownBy(() -> berth.floats(0)).hasMessageContaining("\"berth\" is text");
    AbcProperty depth = user.value("depth").orElseThrow();
    assertThatThrownBy(() -> depth.texts(0)).hasMessageContaining("\"depth\" should be text");
  }

  @Test
  void transformsChangeAndInheritWhatTheySay() throws Exception {
    AbcCompound xform = find(open(yard()), "yard").properties().compound(".xform").orElseThrow();
    // Type by 16, 1 a translation, 5 a turn about Y; the hint in the lower half.
    assertThat(xform.value(".ops").orElseThrow().ints(0)).containsExactly(0x10, 0x50);
    assertThat(xform.value(".vals").orElseThrow().doubles(2)).containsExactly(2, 2, 3, 30);
    AbcProperty inherits = xform.value(".inherits").orElseThrow();
    assertThat(inherits.ints(1)).containsExactly(1);
    assertThat(inherits.ints(2)).containsExactly(0);
  }

  @Test
  void whereverTheFileEndsThereIsASentence() throws Exception {
    byte[] whole = yard();
    for (int length = 0; length < whole.length; length++) {
      byte[] cut = Arrays.copyOf(whole, length);
      assertThatThrownBy(() -> walk(open(cut)))
          .as("cut after " + length)
          .isInstanceOf(FormatException.class)
          .hasMessageStartingWith("yard.abc, byte ");
    }
  }

  @Test
  void whateverIsWrongInTheFileThereIsATreeOrASentence() throws Exception {
    byte[] whole = yard();
    Random random = new Random(14);
    int sentences = 0;
    for (int at = 0; at < whole.length; at++) {
      byte[] damaged = whole.clone();
      damaged[at] = (byte) (at % 3 == 0 ? 0xff : at % 3 == 1 ? 0 : random.nextInt());
      try {
        walk(open(damaged));
      } catch (FormatException e) {
        sentences++;
        assertThat(e.getMessage()).startsWith("yard.abc, byte ");
      }
    }
    assertThat(sentences).isGreaterThan(whole.length / 20);
  }

  /** Reads all that there is. */
  private static void walk(AbcArchive archive) throws IOException, FormatException {
    List<AbcObject> open = new ArrayList<>(List.of(archive.top()));
    while (!open.isEmpty()) {
      AbcObject object = open.remove(open.size() - 1);
      open.addAll(object.children());
      walk(object.properties());
    }
  }

  private static void walk(AbcCompound compound) throws IOException, FormatException {
    for (AbcProperty property : compound.values()) {
      for (int sample = 0; sample < Math.min(8, property.sampleCount()); sample++) {
        if (property.type().pod().isText()) {
          property.texts(sample);
        } else {
          property.doubles(sample);
          property.floats(sample);
          property.ints(sample);
        }
        property.seconds(sample);
      }
    }
    for (String name : compound.compounds()) {
      walk(compound.compound(name).orElseThrow());
    }
  }

  @Test
  void aLargeArchiveIsOpenAtOnce() throws Exception {
    byte[] tree = yard();
    long[] read = new long[1];
    RandomBytes large =
        new RandomBytes() {
          @Override
          public long size() {
            return 4L << 30;
          }

          @Override
          public void read(long at, byte[] into, int from, int count) {
            read[0] += count;
            for (int i = 0; i < count; i++) {
              into[from + i] = at + i < tree.length ? tree[(int) at + i] : 0;
            }
          }
        };
    MemoryFiles files = new MemoryFiles(Map.of("yard.abc", tree));
    AbcArchive archive = AbcArchive.open("yard.abc", large, Budget.of("yard.abc", files));
    walk(archive);
    assertThat(read[0]).as("bytes read of 4 GB").isLessThan(1 << 20);
  }

  @Test
  void aFaultOfTheDiskStaysOne() throws Exception {
    byte[] tree = yard();
    MemoryFiles files = new MemoryFiles(Map.of("yard.abc", tree));
    RandomBytes failing =
        new RandomBytes() {
          @Override
          public long size() {
            return tree.length;
          }

          @Override
          public void read(long at, byte[] into, int from, int count) throws IOException {
            throw new IOException("the disk fails");
          }
        };
    Budget budget = Budget.of("yard.abc", files);
    assertThatThrownBy(() -> AbcArchive.open("yard.abc", failing, budget))
        .isInstanceOf(IOException.class)
        .hasMessage("the disk fails");
  }

  @Test
  void whatIsNoArchiveIsToldByItsHead() throws Exception {
    byte[] older = new byte[64];
    System.arraycopy(new byte[] {(byte) 0x89, 'H', 'D', 'F'}, 0, older, 0, 4);
    assertKind(older, Kind.NOT_THIS_FORMAT, "does not begin with \"Ogawa\"");
    assertKind(new byte[0], Kind.NOT_THIS_FORMAT, "does not begin with \"Ogawa\"");
    byte[] open = yard();
    open[5] = 0;
    assertKind(open, Kind.TRUNCATED, "was not closed by the program that wrote it");
    byte[] newer = yard();
    newer[7] = 2;
    assertKind(newer, Kind.TOO_NEW, "version 2; version 1 is read");
  }

  private static void assertKind(byte[] bytes, Kind kind, String words) {
    assertThatThrownBy(() -> open(bytes))
        .isInstanceOfSatisfying(FormatException.class, e -> assertThat(e.kind()).isEqualTo(kind))
        .hasMessageContaining(words);
  }
}
