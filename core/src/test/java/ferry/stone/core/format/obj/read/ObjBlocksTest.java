package ferry.stone.core.format.obj.read;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import ferry.stone.core.work.Progress;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A file parsed in blocks says the same as the file parsed whole. */
class ObjBlocksTest {
  private static final String[] ENDS = {"\n", "\r\n", "\r"};

  @ParameterizedTest
  @ValueSource(ints = {1, 16, 100, 999})
  void blocksSayWhatTheWholeSays(int block) throws Exception {
    for (int seed = 0; seed < 40; seed++) {
      byte[] text = randomText(new Random(seed)).getBytes(StandardCharsets.ISO_8859_1);
      assertEquals(told(text, text.length + 1), told(text, block), "seed " + seed);
    }
  }

  @Test
  void aFaultInALaterBlockIsToldWithItsLineInTheFile() {
    String text = "v 0 0 0\n".repeat(50) + "v 1 \\\n 2 3\nv 1 x 2\n" + "v 0 0 0\n".repeat(50);
    FormatException e =
        assertThrows(FormatException.class, () -> told(text.getBytes(StandardCharsets.UTF_8), 64));
    assertEquals("line 53", e.place());
  }

  /** Everything that a parse says, as text. */
  private static String told(byte[] text, int block) throws Exception {
    Findings findings = new Findings();
    ObjData data =
        ObjParser.parse(
            new ByteArrayInputStream(text),
            "a.obj",
            text.length,
            false,
            block,
            findings,
            Progress.NONE);
    return String.join(
        "\n",
        floats(data.floats),
        floats(data.colours),
        floats(data.uvs),
        floats(data.normals),
        ints(data.faceStart),
        ints(data.cornerVertex),
        places(data.cornerUv, data.cornerVertex),
        places(data.cornerNormal, data.cornerVertex),
        ints(data.lineStart),
        ints(data.lineVertex),
        ints(data.points),
        data.runs.toString(),
        data.owners.toString(),
        data.objects.toString(),
        data.groups.toString(),
        data.materials.toString(),
        data.libraries.toString(),
        data.comments.toString(),
        data.lines + " " + data.largest + " " + data.smoothingSaid,
        findings.list().toString());
  }

  private static String floats(FloatList list) {
    return list == null ? "none" : Arrays.toString(list.toArray());
  }

  private static String places(CornerPlaces places, IntList points) {
    return places.isNone() ? "none" : ints(places.isAsPoints() ? points : places.own());
  }

  private static String ints(IntList list) {
    return list == null ? "none" : Arrays.toString(list.toArray());
  }

  private static String randomText(Random random) {
    StringBuilder text = new StringBuilder("v 0 0 0\nv 1 0 0\nvt 0 0\nvn 0 0 1\n");
    int vertices = 2;
    String end = ENDS[random.nextInt(ENDS.length)];
    boolean backwards = random.nextBoolean();
    boolean coloured = random.nextInt(3) == 0;
    // Corners name the same places everywhere, as many programs write them; now and then all but
    // one.
    boolean alike = random.nextInt(2) == 0;
    text.append(alike ? "vt 1 0\nvn 0 1 0\n" : "");
    for (int i = 0; i < 120; i++) {
      switch (random.nextInt(14)) {
        case 0, 1, 2, 3 -> {
          boolean colour = coloured && random.nextInt(4) == 0;
          text.append("v ").append(random.nextInt(90)).append(" .5 -2e1");
          text.append(colour ? " 1 0.5 0.25" : "");
          text.append(alike ? end + "vt 0 1" + end + "vn 0 0 1" : "");
          vertices++;
        }
        case 4 -> text.append(alike ? "#" : "vt 0.25 " + random.nextFloat());
        case 5 -> text.append(alike ? "#" : "vn 0 1 0");
        case 6, 7, 8 -> {
          text.append('f');
          for (int k = 0; k < 3; k++) {
            int index = 1 + random.nextInt(vertices);
            text.append(random.nextInt(8) == 0 ? " \\" + end + "\t" : " ");
            int written = backwards && random.nextInt(3) == 0 ? -index : index;
            text.append(written);
            if (alike && random.nextInt(150) > 0) {
              text.append("/" + written + "/" + written);
            } else {
              text.append(random.nextInt(2) == 0 ? "/1" : "//1");
            }
          }
        }
        case 9 -> text.append(random.nextBoolean() ? "o part" : "g a b").append(i % 5);
        case 10 -> text.append("usemtl stone").append(i % 3);
        case 11 -> text.append("s ").append(random.nextInt(3));
        case 12 -> text.append(random.nextBoolean() ? "l 1 2" : "p 1");
        default -> text.append(random.nextBoolean() ? "# r\u00e4d" : "curv 1 2 3 mtllib x.mtl");
      }
      text.append(end);
    }
    return text.append("f 1 2").toString();
  }
}
