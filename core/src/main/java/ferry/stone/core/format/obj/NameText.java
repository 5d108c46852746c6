package ferry.stone.core.format.obj;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;

/** Text of names: UTF-8, or Windows Latin where the bytes are not UTF-8, which is reported once. */
final class NameText {
  private static final Charset LATIN = Charset.forName("windows-1252");

  private final String resource;
  private final Findings findings;
  private boolean reported;

  NameText(String resource, Findings findings) {
    this.resource = resource;
    this.findings = findings;
  }

  String ascii(byte[] text, int from, int to) {
    return new String(text, from, to - from, StandardCharsets.ISO_8859_1);
  }

  String decode(byte[] text, int from, int to, int line) {
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
      if (!reported) {
        reported = true;
        findings.add(
            Finding.of(
                "names-not-utf8",
                Severity.NOTE,
                resource + ", line " + line,
                "Names are not UTF-8; they were read as Western European (Windows-1252)."));
      }
      return new String(text, from, to - from, LATIN);
    }
  }
}
