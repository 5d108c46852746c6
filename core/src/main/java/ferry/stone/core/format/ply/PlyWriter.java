package ferry.stone.core.format.ply;

import ferry.stone.core.format.files.Output;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.work.Progress;
import java.io.BufferedOutputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.List;

/** Writes what {@link OneList} makes of a scene. Same scene, same bytes. */
final class PlyWriter {
  private static final int CHECK = 4096;
  private static final int MOST_IN_A_BYTE = 255;
  private static final double FULL = 255;

  private PlyWriter() {}

  static void write(
      Scene held,
      PlyHead.Encoding encoding,
      Frame frame,
      Output output,
      String file,
      Progress progress)
      throws IOException {
    PolygonMesh mesh = held.meshes().isEmpty() ? null : held.meshes().get(0);
    try (OutputStream out = new BufferedOutputStream(output.create(file), 1 << 16)) {
      out.write(head(mesh, encoding, frame).getBytes(StandardCharsets.US_ASCII));
      if (mesh != null) {
        Numbers numbers = new Numbers(out, encoding);
        vertices(mesh, numbers, progress);
        faces(mesh.faces(), numbers, progress);
      }
    }
  }

  private static String head(PolygonMesh mesh, PlyHead.Encoding encoding, Frame frame) {
    StringBuilder head = new StringBuilder("ply\nformat ").append(encoding.word).append(" 1.0\n");
    head.append("comment Stone Ferry: ").append(frame.label().replace(" · ", ", ")).append('\n');
    head.append("element vertex ").append(mesh == null ? 0 : mesh.points().count()).append('\n');
    for (String axis : List.of("x", "y", "z")) {
      head.append("property float ").append(axis).append('\n');
    }
    for (Attribute a : mesh == null ? List.<Attribute>of() : mesh.attributes()) {
      boolean colour = a.semantic() == Attribute.Semantic.COLOUR;
      String[] names =
          switch (a.semantic()) {
            case NORMAL -> new String[] {"nx", "ny", "nz"};
            case UV -> new String[] {"s", "t"};
            default -> new String[] {"red", "green", "blue", "alpha"};
          };
      for (int k = 0; k < a.components(); k++) {
        head.append("property ").append(colour ? "uchar " : "float ").append(names[k]).append('\n');
      }
    }
    head.append("element face ").append(mesh == null ? 0 : mesh.faces().faceCount()).append('\n');
    head.append("property list ").append(isWide(mesh) ? "int" : "uchar");
    return head.append(" int vertex_indices\nend_header\n").toString();
  }

  private static boolean isWide(PolygonMesh mesh) {
    boolean wide = false;
    for (int f = 0; mesh != null && f < mesh.faces().faceCount(); f++) {
      wide |= mesh.faces().size(f) > MOST_IN_A_BYTE;
    }
    return wide;
  }

  private static void vertices(PolygonMesh mesh, Numbers numbers, Progress progress)
      throws IOException {
    Coordinates p = mesh.points();
    for (int v = 0; v < p.count(); v++) {
      if (v % CHECK == 0) {
        progress.checkCancelled();
      }
      for (int k = 3 * v; k < 3 * v + 3; k++) {
        numbers.real((float) p.at(k));
      }
      for (Attribute a : mesh.attributes()) {
        for (int k = 0; k < a.components(); k++) {
          float value = a.values()[a.components() * v + k];
          if (a.semantic() == Attribute.Semantic.COLOUR) {
            numbers.small((int) Math.round(FULL * value));
          } else {
            numbers.real(value);
          }
        }
      }
      numbers.endLine();
    }
  }

  private static void faces(Polygons faces, Numbers numbers, Progress progress) throws IOException {
    boolean wide = false;
    for (int f = 0; f < faces.faceCount(); f++) {
      wide |= faces.size(f) > MOST_IN_A_BYTE;
    }
    for (int f = 0; f < faces.faceCount(); f++) {
      if (f % CHECK == 0) {
        progress.checkCancelled();
      }
      if (wide) {
        numbers.whole(faces.size(f));
      } else {
        numbers.small(faces.size(f));
      }
      for (int c = faces.start(f); c < faces.end(f); c++) {
        numbers.whole(faces.vertex(c));
      }
      numbers.endLine();
    }
  }

  /** Numbers in one of the encodings. */
  private static final class Numbers {
    private final OutputStream out;
    private final boolean text;
    private final ByteBuffer four = ByteBuffer.allocate(4);
    private final ByteArrayOutputStream line = new ByteArrayOutputStream(128);

    Numbers(OutputStream out, PlyHead.Encoding encoding) {
      this.out = out;
      text = encoding == PlyHead.Encoding.TEXT;
      four.order(encoding == PlyHead.Encoding.BIG ? ByteOrder.BIG_ENDIAN : ByteOrder.LITTLE_ENDIAN);
    }

    void real(float value) throws IOException {
      if (text) {
        word(Float.toString(value));
      } else {
        four.putFloat(0, value);
        out.write(four.array());
      }
    }

    void whole(int value) throws IOException {
      if (text) {
        word(Integer.toString(value));
      } else {
        four.putInt(0, value);
        out.write(four.array());
      }
    }

    void small(int value) throws IOException {
      if (text) {
        word(Integer.toString(value));
      } else {
        out.write(value);
      }
    }

    private void word(String word) {
      if (line.size() > 0) {
        line.write(' ');
      }
      line.writeBytes(word.getBytes(StandardCharsets.US_ASCII));
    }

    void endLine() throws IOException {
      if (text) {
        line.write('\n');
        line.writeTo(out);
        line.reset();
      }
    }
  }
}
