package ferry.stone.bench;

import ferry.stone.core.format.files.Resources;
import java.io.ByteArrayInputStream;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;

/** A bumpy sheet as OBJ text in memory, with UVs and normals. */
final class ObjText implements Resources {
  final byte[] bytes;
  final int triangles;

  /**
   * @param side quads along each side; the sheet has 2·side² triangles
   */
  ObjText(int side) {
    StringBuilder text = new StringBuilder(side * side * 90);
    text.append("o sheet\n");
    for (int y = 0; y <= side; y++) {
      for (int x = 0; x <= side; x++) {
        double h = Math.sin(x * 0.05) * Math.cos(y * 0.07);
        text.append("v ")
            .append(x * 0.01f)
            .append(' ')
            .append((float) h)
            .append(' ')
            .append(y * 0.01f)
            .append('\n');
        text.append("vt ")
            .append((float) x / side)
            .append(' ')
            .append((float) y / side)
            .append('\n');
        text.append("vn ")
            .append((float) (h * 0.3))
            .append(" 0.94 ")
            .append((float) (h * 0.1))
            .append('\n');
      }
    }
    for (int y = 0; y < side; y++) {
      for (int x = 0; x < side; x++) {
        int a = y * (side + 1) + x + 1;
        int b = a + side + 1;
        face(text, a, b, b + 1);
        face(text, a, b + 1, a + 1);
      }
    }
    bytes = text.toString().getBytes(StandardCharsets.US_ASCII);
    triangles = 2 * side * side;
  }

  private static void face(StringBuilder text, int a, int b, int c) {
    text.append("f ")
        .append(a)
        .append('/')
        .append(a)
        .append('/')
        .append(a)
        .append(' ')
        .append(b)
        .append('/')
        .append(b)
        .append('/')
        .append(b)
        .append(' ')
        .append(c)
        .append('/')
        .append(c)
        .append('/')
        .append(c)
        .append('\n');
  }

  @Override
  public List<String> paths() {
    return List.of("sheet.obj");
  }

  @Override
  public boolean contains(String path) {
    return path.equals("sheet.obj");
  }

  @Override
  public long size(String path) {
    return bytes.length;
  }

  @Override
  public InputStream open(String path) {
    return new ByteArrayInputStream(bytes);
  }
}
