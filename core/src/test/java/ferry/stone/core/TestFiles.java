package ferry.stone.core;

import ferry.stone.core.format.files.MemoryFiles;
import ferry.stone.core.format.files.Output;
import ferry.stone.core.format.files.RandomBytes;
import ferry.stone.core.format.files.Resources;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** Files in memory, to read from and to write to. */
public final class TestFiles implements Resources, Output {
  private final Map<String, byte[]> files = new TreeMap<>();
  private final MemoryFiles kept = new MemoryFiles(files);

  public static TestFiles of(String path, String text) {
    return new TestFiles().with(path, text);
  }

  public TestFiles with(String path, String text) {
    return with(path, text.getBytes(StandardCharsets.UTF_8));
  }

  public TestFiles with(String path, byte[] bytes) {
    files.put(path, bytes);
    return this;
  }

  public byte[] bytes(String path) {
    return files.get(path);
  }

  @Override
  public List<String> paths() {
    return kept.paths();
  }

  @Override
  public boolean contains(String path) {
    return kept.contains(path);
  }

  @Override
  public long size(String path) {
    return kept.size(path);
  }

  @Override
  public InputStream open(String path) throws IOException {
    return kept.open(path);
  }

  @Override
  public RandomBytes random(String path) {
    return kept.random(path);
  }

  @Override
  public OutputStream create(String path) {
    return new ByteArrayOutputStream() {
      @Override
      public void close() {
        files.put(path, toByteArray());
      }
    };
  }
}
