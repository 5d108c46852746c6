package ferry.stone.core.format.stl;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.losses.BrokenRules;
import java.io.BufferedInputStream;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import org.joml.Vector3d;

/**
 * What the "StereoLithography Interface Specification" (October 1989, as commonly published)
 * demands beside what a picture needs: a length to the byte, and normals of length 1 that follow
 * the order of the corners.
 */
final class StlRules {
  private static final double UNIT = 1e-3;

  /** A normal may lie off by about half a degree: its numbers have 32 bits, or few digits. */
  private static final double SIDE = 0.9999;

  /** A triangle whose height is below this part of its longest side has no normal to speak of. */
  private static final double THIN = 1e-3;

  private final BrokenRules rules = new BrokenRules();
  private final float[] n = new float[12];
  private final Vector3d u = new Vector3d();
  private final Vector3d v = new Vector3d();

  private StlRules() {}

  static void check(String resource, Resources files, Findings findings) throws IOException {
    StlRules all = new StlRules();
    long size = files.size(resource);
    try (InputStream in = new BufferedInputStream(files.open(resource), 1 << 16)) {
      byte[] head = in.readNBytes(StlFormat.HEAD);
      boolean text = new String(head, StandardCharsets.ISO_8859_1).startsWith("solid");
      if (text) {
        all.text(resource, files);
      } else {
        all.binary(in, head, size);
      }
    }
    all.rules.tell(resource, findings);
  }

  private void binary(InputStream in, byte[] head, long size) throws IOException {
    ByteBuffer start = ByteBuffer.wrap(head).order(ByteOrder.LITTLE_ENDIAN);
    long count = head.length < StlFormat.HEAD ? -1 : start.getInt(80) & 0xffff_ffffL;
    rules.hold(
        size == StlFormat.HEAD + StlFormat.TRIANGLE * count,
        "byte 80",
        "The file is longer or shorter than its triangles.");
    byte[] block = new byte[BLOCK * StlFormat.TRIANGLE];
    ByteBuffer data = ByteBuffer.wrap(block).order(ByteOrder.LITTLE_ENDIAN);
    for (long t = 0; t < count; t += BLOCK) {
      int there = in.readNBytes(block, 0, block.length) / StlFormat.TRIANGLE;
      for (int i = 0; i < Math.min(there, count - t); i++) {
        triangle(data, i * StlFormat.TRIANGLE, t + i);
      }
      if (there < BLOCK) {
        return;
      }
    }
  }

  private void triangle(ByteBuffer data, int at, long number) {
    for (int i = 0; i < n.length; i++) {
      n[i] = data.getFloat(at + 4 * i);
    }
    if (!isRight()) {
      rules.broken("triangle " + number, "A normal is not that of its corners.");
    }
    if (data.getShort(at + 48) != 0) {
      rules.broken("triangle " + number, "The bytes behind a triangle are not 0.");
    }
  }

  /** Whether the normal in the first three numbers is that of the corners in the others. */
  private boolean isRight() {
    u.set(n[6] - (double) n[3], n[7] - (double) n[4], n[8] - (double) n[5]);
    v.set(n[9] - (double) n[3], n[10] - (double) n[4], n[11] - (double) n[5]);
    double longest = Math.max(Math.max(u.lengthSquared(), v.lengthSquared()), u.distanceSquared(v));
    double twice = u.cross(v).length();
    if (!(twice > THIN * longest)) {
      return true;
    }
    double length = Math.sqrt((double) n[0] * n[0] + (double) n[1] * n[1] + (double) n[2] * n[2]);
    double along = (u.x * n[0] + u.y * n[1] + u.z * n[2]) / (twice * length);
    return Math.abs(length - 1) <= UNIT && along >= SIDE;
  }

  /** Triangles that are read at once. */
  private static final int BLOCK = 1000;

  private static final String[] FACET = {
    "facet normal", "outer loop", "vertex", "vertex", "vertex", "endloop", "endfacet"
  };

  /** Lines in the order that the specification gives them. */
  private void text(String resource, Resources files) throws IOException {
    try (BufferedReader in =
        new BufferedReader(new InputStreamReader(files.open(resource), StandardCharsets.UTF_8))) {
      long number = 0;
      int next = -1;
      for (String line = in.readLine(); line != null; line = in.readLine()) {
        number++;
        String text = line.strip();
        if (text.isEmpty()) {
          continue;
        }
        String where = "line " + number;
        if (next <= 0 && text.startsWith(next < 0 ? "solid" : "endsolid")) {
          next = next < 0 ? 0 : -1;
        } else if (next >= 0 && text.startsWith(FACET[next])) {
          step(next, text, where);
          next = (next + 1) % FACET.length;
        } else {
          rules.broken(where, "A line is not the one that has to stand there.");
          return;
        }
      }
      rules.hold(next == -1, "line " + number, "The last solid does not end.");
    }
  }

  private void step(int at, String line, String where) {
    String[] words = line.substring(FACET[at].length()).strip().split("\\s+");
    int first = at == 0 ? 0 : 3 * (at - 1);
    if (at == 0 || at >= 2 && at <= 4) {
      for (int k = 0; k < 3; k++) {
        try {
          n[first + k] = Float.parseFloat(words[k]);
        } catch (ArrayIndexOutOfBoundsException | NumberFormatException e) {
          rules.broken(where, "Three numbers have to stand there.");
          return;
        }
      }
    }
    if (at == FACET.length - 1 && !isRight()) {
      rules.broken(where, "A normal is not that of its corners.");
    }
  }
}
