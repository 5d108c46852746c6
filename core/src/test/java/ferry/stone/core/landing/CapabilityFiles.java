package ferry.stone.core.landing;

import ferry.stone.core.TestFiles;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;

/** The images that {@link CapabilityScenes} uses. */
public final class CapabilityFiles {
  private CapabilityFiles() {}

  public static TestFiles all() {
    int[] grey = new int[16];
    for (int i = 0; i < grey.length; i++) {
      int v = 16 * i;
      grey[i] = 0xff000000 | v << 16 | v << 8 | v;
    }
    int[] colours = new int[16];
    for (int i = 0; i < colours.length; i++) {
      colours[i] = 0xff000000 | 0x1357 * i;
    }
    byte[] bitmap = bitmap();
    return TestFiles.of("readme.txt", "plate")
        .with("height.png", ImageCodec.encodePng(new Pixels(4, 4, grey, false)))
        .with("oak.png", ImageCodec.encodePng(new Pixels(4, 4, colours, false)))
        .with("oak.bmp", bitmap);
  }

  /** An uncompressed bitmap of 2 × 2 pixels, 24 bits. */
  private static byte[] bitmap() {
    java.nio.ByteBuffer b =
        java.nio.ByteBuffer.allocate(70).order(java.nio.ByteOrder.LITTLE_ENDIAN);
    b.put((byte) 'B').put((byte) 'M').putInt(70).putInt(0).putInt(54);
    b.putInt(40).putInt(2).putInt(2).putShort((short) 1).putShort((short) 24);
    b.putInt(0).putInt(16).putInt(2835).putInt(2835).putInt(0).putInt(0);
    for (int i = 0; i < 16; i++) {
      b.put((byte) (i * 15));
    }
    return b.array();
  }
}
