package ferry.stone.core.format.obj.raw;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;

/** Text of names: UTF-8, or Windows Latin where the bytes are not UTF-8, which is reported once. */
public final class NameText {
  private static final Charset LATIN = Charset.forName("windows-1252");

  private final String resource;
  private int firstLatin;

  public NameText(String resource) {
    this.resource = resource;
  }

  public String ascii(byte[] text, int from, int to) {
    return new String(text, from, to - from, StandardCharsets.ISO_8859_1);
  }

  public String decode(byte[] text, int from, int to, int line) {
    for (int i = from; i < to; i++) {
      if (text[i] < 0) {
        return decodeWide(text, from, to, line);
      }
    }
    return ascii(text, from, to);
  }

  private String decodeWide(byte[] text, int from, int to, int line) {
    try {
      return StandardCharsets.UTF_8
          .newDecoder()
          .decode(ByteBuffer.wrap(text, from, to - from))
          .toString();
    } catch (CharacterCodingException e) {
      firstLatin = firstLatin == 0 ? line : firstLatin;
      return new String(text, from, to - from, LATIN);
    }
  }

  /**
   * Adds what was met in a later block of the same file.
   *
   * @param linesBefore lines of the file before that block
   */
  public void add(NameText later, int linesBefore) {
    if (firstLatin == 0 && later.firstLatin > 0) {
      firstLatin = linesBefore + later.firstLatin;
    }
  }

  /** Tells, if it was so, that names were not UTF-8. */
  public void report(Findings findings) {
    if (firstLatin > 0) {
      findings.add(
          Finding.of(
              "names-not-utf8",
              Severity.NOTE,
              resource + ", line " + firstLatin,
              "Names are not UTF-8; they were read as Western European (Windows-1252)."));
    }
  }
}
