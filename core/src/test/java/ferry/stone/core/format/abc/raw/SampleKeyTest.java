package ferry.stone.core.format.abc.raw;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.MemoryFiles;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Keys of samples in archives that the standard's own library wrote (alembic3d 1.8.12.1). */
class SampleKeyTest {
  private byte[] bytes;
  private int compared;

  @ParameterizedTest
  @ValueSource(strings = {"yard.abc", "odds.abc"})
  void keysAreThoseOfTheStandardsOwnLibrary(String name) throws Exception {
    try (InputStream in = SampleKeyTest.class.getResourceAsStream("/abc/" + name)) {
      bytes = in.readAllBytes();
    }
    MemoryFiles files = new MemoryFiles(Map.of(name, bytes));
    AbcArchive archive = AbcArchive.open(name, files.random(name), Budget.of(name, files));
    object(archive.top());
    assertThat(compared).isGreaterThan(60);
  }

  private void object(AbcObject object) throws Exception {
    compound(object.properties());
    for (AbcObject child : object.children()) {
      object(child);
    }
  }

  private void compound(AbcCompound compound) throws Exception {
    for (AbcProperty property : compound.values()) {
      for (int s = 0; s < property.sampleCount(); s++) {
        AbcProperty.Place place = property.place(s);
        boolean wide = property.type().pod() == Pod.WSTRING;
        if (place.bytes() > 0 && !wide) {
          int at = (int) place.at();
          byte[] values = Arrays.copyOfRange(bytes, at, at + (int) place.bytes());
          SampleKey key = SampleKey.of(values, values.length);
          ByteBuffer stored = ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
          assertThat(key.low()).as(property.name()).isEqualTo(stored.getLong(at - 16));
          assertThat(key.high()).as(property.name()).isEqualTo(stored.getLong(at - 8));
          compared++;
        }
      }
    }
    for (String name : compound.compounds()) {
      compound(compound.compound(name).orElseThrow());
    }
  }

  /** Values from memory of the published test vectors of MurmurHash3_x64_128 with seed 0. */
  @Test
  void nothingHasTheKeyOfZeros() {
    SampleKey key = SampleKey.of(new byte[0], 0);
    assertThat(key.low()).isZero();
    assertThat(key.high()).isZero();
  }
}
