package ferry.stone.core.format.fbx;

import ferry.stone.core.TestFiles;
import ferry.stone.core.format.fbx.raw.FbxBinaryWriter;
import ferry.stone.core.format.fbx.raw.FbxBuild;
import ferry.stone.core.format.fbx.raw.FbxName;
import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.format.fbx.raw.FbxTextWriter;
import ferry.stone.core.format.files.SeekableOutput;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.Arrays;

/** Codes record trees that tests make by hand; names may be written as {@code class::name}. */
final class FbxEncoder {
  private FbxEncoder() {}

  /** A record with values. */
  static FbxRecord record(String name, Object... values) {
    FbxRecord record = FbxBuild.record(name);
    Arrays.stream(values).map(FbxEncoder::named).forEach(record.values()::add);
    return record;
  }

  /** A record with children. */
  static FbxRecord list(String name, Object[] values, FbxRecord... children) {
    FbxRecord record = record(name, values);
    record.children().addAll(Arrays.asList(children));
    return record;
  }

  private static Object named(Object value) {
    int colons = value instanceof String s ? s.indexOf("::") : -1;
    return colons < 0
        ? value
        : new FbxName(
            ((String) value).substring(colons + 2), ((String) value).substring(0, colons));
  }

  static byte[] binary(FbxRecord root, int version, boolean packed) {
    TestFiles files = new TestFiles();
    try (SeekableOutput out = files.seekable("a")) {
      FbxBinaryWriter.write(root, version, packed, out);
      out.complete();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return files.bytes("a");
  }

  static byte[] text(FbxRecord root) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try {
      FbxTextWriter.write(root, out);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return out.toByteArray();
  }
}
