package ferry.stone.core.format.stl;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.LengthUnit;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Node;
import java.io.BufferedInputStream;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.StringTokenizer;

/**
 * Reads STL. Each solid is a part; every triangle has corners of its own. Millimetres and Z up are
 * assumed until the user says otherwise: common practice, no source.
 */
public final class StlReader {
  private static final int BLOCK = 4096;
  private static final int MOST_TRIANGLES = (Integer.MAX_VALUE - 8) / 9;
  private static final Frame USUAL =
      Frame.Y_UP_METRE.withUp(SignedAxis.PLUS_Z).withMetresPerUnit(LengthUnit.MILLIMETRE.metres());

  private final String resource;
  private final ReadContext context;
  private final SceneBuilder scene;

  private StlReader(String resource, ReadContext context) {
    this.resource = resource;
    this.context = context;
    scene =
        new SceneBuilder(CargoPath.stem(resource))
            .frame(USUAL, FrameSource.ASSUMED, FrameSource.ASSUMED);
  }

  public static Scene read(String resource, ReadContext context)
      throws IOException, FormatException {
    return new StlReader(resource, context).read();
  }

  private Scene read() throws IOException, FormatException {
    long size = context.resources().size(resource);
    if (size == 0) {
      throw error(Kind.TRUNCATED, "", "the file is empty (0 bytes). Export or copy it again.");
    }
    try (InputStream in =
        new BufferedInputStream(context.resources().open(resource), BLOCK * StlFormat.TRIANGLE)) {
      byte[] head = in.readNBytes(StlFormat.HEAD);
      long count = count(head);
      boolean fits = count >= 0 && size == StlFormat.HEAD + StlFormat.TRIANGLE * count;
      if (!fits && isText(head)) {
        text();
      } else {
        binary(in, size, count, head.length);
      }
    }
    return scene.build();
  }

  private static long count(byte[] head) {
    return head.length < StlFormat.HEAD
        ? -1
        : ByteBuffer.wrap(head).order(ByteOrder.LITTLE_ENDIAN).getInt(80) & 0xffff_ffffL;
  }

  private static boolean isText(byte[] head) {
    for (byte b : head) {
      if (b == 0) {
        return false;
      }
    }
    return new String(head, StandardCharsets.ISO_8859_1).stripLeading().startsWith("solid");
  }

  private void binary(InputStream in, long size, long count, int head)
      throws IOException, FormatException {
    if (head < StlFormat.HEAD) {
      throw error(
          Kind.TRUNCATED,
          "byte " + head,
          "this is neither text that begins with \"solid\" nor long enough for a binary STL, whose"
              + " head has 84 bytes. Export or copy it again.");
    }
    if (size < StlFormat.HEAD + StlFormat.TRIANGLE * count) {
      throw error(
          Kind.TRUNCATED,
          "byte 80",
          "the file claims "
              + Figures.count(count, "triangle")
              + ", for which it is "
              + Figures.bytes(StlFormat.HEAD + StlFormat.TRIANGLE * count - size)
              + " too short. Export or copy it again.");
    }
    if (count > MOST_TRIANGLES) {
      throw error(Kind.TOO_LARGE, "byte 80", "more triangles than are read. Split the asset.");
    }
    float[] points = new float[(int) (9 * count)];
    byte[] block = new byte[BLOCK * StlFormat.TRIANGLE];
    ByteBuffer data = ByteBuffer.wrap(block).order(ByteOrder.LITTLE_ENDIAN);
    boolean coloured = false;
    for (int t = 0; t < count; ) {
      context.progress().checkCancelled();
      context.progress().report("reading triangles", (double) t / count);
      int triangles = (int) Math.min(BLOCK, count - t);
      if (in.readNBytes(block, 0, triangles * StlFormat.TRIANGLE)
          < triangles * StlFormat.TRIANGLE) {
        throw error(Kind.TRUNCATED, "triangle " + t, "the file ends here. Copy it again.");
      }
      for (int i = 0; i < triangles; i++, t++) {
        int at = i * StlFormat.TRIANGLE;
        for (int k = 0; k < 9; k++) {
          points[9 * t + k] = data.getFloat(at + 12 + 4 * k);
        }
        coloured |= data.getShort(at + 48) != 0;
      }
    }
    if (coloured) {
      context
          .findings()
          .add(
              Finding.of(
                  "colours-not-read",
                  Severity.LOOK,
                  resource,
                  "Bytes beside the triangles are not 0. Some programs put colours there, each in"
                      + " its own way: they are not read."));
    }
    add(CargoPath.stem(resource), points);
  }

  private void add(String name, float[] points) {
    int[] corners = new int[points.length / 3];
    for (int i = 0; i < corners.length; i++) {
      corners[i] = i;
    }
    int id = scene.newId();
    scene.add(PolygonMesh.of(id, name, Coordinates.of(points), Polygons.triangles(corners)));
    scene.add(Node.of(scene.newId(), name, -1, Node.Content.MeshContent.of(id)));
  }

  /** Words are read one after another, whatever their lines: keywords in any case. */
  private void text() throws IOException, FormatException {
    try (BufferedReader in =
        new BufferedReader(
            new InputStreamReader(context.resources().open(resource), StandardCharsets.UTF_8))) {
      String name = null;
      FloatList points = new FloatList(1 << 10);
      long number = 0;
      long read = 0;
      int corner = 0;
      context.progress().report("reading triangles", 0);
      for (String line = in.readLine(); line != null; line = in.readLine()) {
        number++;
        read += line.length() + 1;
        if (number % BLOCK == 1) {
          context.progress().checkCancelled();
          double part = (double) read / context.resources().size(resource);
          context.progress().report("reading triangles", Math.min(1, part));
        }
        StringTokenizer words = new StringTokenizer(line);
        if (!words.hasMoreTokens()) {
          continue;
        }
        String word = words.nextToken().toLowerCase(java.util.Locale.ROOT);
        switch (word) {
          case "solid" -> {
            String rest = line.strip().substring(word.length()).strip();
            name = rest.isEmpty() ? CargoPath.stem(resource) : rest;
          }
          case "facet", "endloop" -> {}
          case "outer" -> corner = 0;
          case "vertex" -> {
            for (int k = 0; k < 3; k++) {
              points.add(number(words, number));
            }
            corner++;
          }
          case "endfacet" -> checkCorners(corner, number);
          case "endsolid" -> {
            add(name == null ? CargoPath.stem(resource) : name, points.toArray());
            points = new FloatList(1 << 10);
            name = null;
          }
          default -> throw unknown(word, number);
        }
      }
      if (name != null || points.size() > 0) {
        throw error(
            Kind.TRUNCATED,
            "line " + number,
            "the file ends before \"endsolid\". Export or copy it again.");
      }
    }
  }

  private void checkCorners(int corners, long line) throws FormatException {
    if (corners != 3) {
      throw error(
          Kind.CORRUPT,
          "line " + line,
          "a facet has 3 vertices, not " + corners + ". Export the file again.");
    }
  }

  private FormatException unknown(String word, long line) {
    return error(
        Kind.CORRUPT,
        "line " + line,
        "expected facet, outer loop, vertex, endloop, endfacet or endsolid, found \""
            + (word.length() > 40 ? word.substring(0, 40) + "…" : word)
            + "\".");
  }

  private float number(StringTokenizer words, long line) throws FormatException {
    String word = words.hasMoreTokens() ? words.nextToken() : "";
    try {
      return Float.parseFloat(word);
    } catch (NumberFormatException e) {
      throw error(Kind.CORRUPT, "line " + line, "expected three numbers, found \"" + word + "\".");
    }
  }

  private FormatException error(Kind kind, String place, String problem) {
    return new FormatException(kind, resource, place, problem);
  }
}
