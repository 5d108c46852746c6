package ferry.stone.core.format.stl;

import ferry.stone.core.format.files.Output;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import org.joml.Vector3d;

/** Writes scenes of bare triangles, whose corners are their vertices. Same scene, same bytes. */
final class StlWriter {
  private static final int BLOCK = 4096;

  private StlWriter() {}

  static void write(
      Scene held, boolean text, Frame frame, Output output, String file, Progress progress)
      throws IOException {
    try (OutputStream out = new BufferedOutputStream(output.create(file), 1 << 16)) {
      if (text) {
        for (PolygonMesh mesh : held.meshes()) {
          text(mesh, out, progress);
        }
        if (held.meshes().isEmpty()) {
          // Nothing at all is no file of this format.
          out.write("solid nothing\nendsolid nothing\n".getBytes(StandardCharsets.UTF_8));
        }
      } else {
        binary(held, frame, out, progress);
      }
    }
  }

  private static void binary(Scene held, Frame frame, OutputStream out, Progress progress)
      throws IOException {
    // What the numbers mean, for people; "solid" would be taken for text.
    byte[] head =
        ("Stone Ferry: " + frame.label().replace(" · ", ", ")).getBytes(StandardCharsets.US_ASCII);
    ByteBuffer start = ByteBuffer.allocate(StlFormat.HEAD).order(ByteOrder.LITTLE_ENDIAN);
    start.put(Arrays.copyOf(head, 80));
    start.putInt(held.meshes().stream().mapToInt(m -> m.faces().faceCount()).sum());
    out.write(start.array());
    ByteBuffer triangle = ByteBuffer.allocate(StlFormat.TRIANGLE).order(ByteOrder.LITTLE_ENDIAN);
    Vector3d normal = new Vector3d();
    for (PolygonMesh mesh : held.meshes()) {
      Coordinates p = mesh.points();
      for (int t = 0; t < mesh.faces().faceCount(); t++) {
        if (t % BLOCK == 0) {
          progress.checkCancelled();
        }
        normal(p, 3 * t, normal);
        triangle.clear();
        triangle.putFloat((float) normal.x).putFloat((float) normal.y).putFloat((float) normal.z);
        for (int k = 9 * t; k < 9 * t + 9; k++) {
          triangle.putFloat((float) p.at(k));
        }
        triangle.putShort((short) 0);
        out.write(triangle.array());
      }
    }
  }

  private static void text(PolygonMesh mesh, OutputStream out, Progress progress)
      throws IOException {
    Coordinates p = mesh.points();
    Vector3d normal = new Vector3d();
    StringBuilder text = new StringBuilder("solid ").append(mesh.name()).append('\n');
    for (int t = 0; t < mesh.faces().faceCount(); t++) {
      if (t % BLOCK == 0) {
        progress.checkCancelled();
        out.write(text.toString().getBytes(StandardCharsets.UTF_8));
        text.setLength(0);
      }
      normal(p, 3 * t, normal);
      text.append("  facet normal ").append((float) normal.x).append(' ');
      text.append((float) normal.y).append(' ').append((float) normal.z).append('\n');
      text.append("    outer loop\n");
      for (int v = 3 * t; v < 3 * t + 3; v++) {
        text.append("      vertex ").append((float) p.x(v)).append(' ');
        text.append((float) p.y(v)).append(' ').append((float) p.z(v)).append('\n');
      }
      text.append("    endloop\n  endfacet\n");
    }
    text.append("endsolid ").append(mesh.name()).append('\n');
    out.write(text.toString().getBytes(StandardCharsets.UTF_8));
  }

  /** Right-handed over the corners, of length 1; zeros for a triangle without area. */
  private static void normal(Coordinates p, int v, Vector3d into) {
    double ax = p.x(v + 1) - p.x(v);
    double ay = p.y(v + 1) - p.y(v);
    double az = p.z(v + 1) - p.z(v);
    double bx = p.x(v + 2) - p.x(v);
    double by = p.y(v + 2) - p.y(v);
    double bz = p.z(v + 2) - p.z(v);
    into.set(ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx);
    double length = into.length();
    into.mul(length > 0 ? 1 / length : 0);
  }
}
