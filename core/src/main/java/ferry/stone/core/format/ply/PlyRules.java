package ferry.stone.core.format.ply;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.losses.BrokenRules;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.List;

/**
 * What "The PLY Polygon File Format" (Greg Turk, 1994) demands beside what a picture needs: the
 * elements that the head lists and nothing behind them, faces of three corners or more, each of a
 * vertex that is there. Names of properties are common practice, no source.
 */
final class PlyRules {
  private final BrokenRules rules = new BrokenRules();

  private PlyRules() {}

  static void check(String resource, Resources files, Findings findings)
      throws IOException, FormatException {
    PlyRules all = new PlyRules();
    long size = files.size(resource);
    try (InputStream in = new BufferedInputStream(files.open(resource), 1 << 16)) {
      PlyHead head = PlyHead.read(in, resource, size);
      all.head(head);
      PlyNumbers numbers = new PlyNumbers(resource, head, in);
      for (PlyHead.Element element : head.elements()) {
        all.element(element, head, numbers);
      }
      all.end(numbers, head);
    }
    all.rules.tell(resource, findings);
  }

  private static long vertices(PlyHead head) {
    return head.elements().stream()
        .filter(e -> e.name().equals("vertex"))
        .mapToLong(PlyHead.Element::count)
        .sum();
  }

  private void head(PlyHead head) {
    rules.hold(
        !head.elements().isEmpty() && head.elements().get(0).name().equals("vertex"),
        "head",
        "Vertices are not the first elements.");
    for (PlyHead.Element element : head.elements()) {
      List<String> names = element.properties().stream().map(PlyHead.Property::name).toList();
      rules.hold(
          names.stream().distinct().count() == names.size(),
          "element " + element.name(),
          "Two properties have one name.");
      for (PlyHead.Property p : element.properties()) {
        boolean colour = List.of("red", "green", "blue", "alpha").contains(p.name());
        rules.hold(
            !colour || p.type() == PlyHead.Type.UINT8,
            "element " + element.name(),
            "A colour is not of one byte a channel.");
      }
    }
  }

  private void element(PlyHead.Element element, PlyHead head, PlyNumbers numbers)
      throws IOException, FormatException {
    long most = vertices(head);
    boolean face = element.name().equals("face");
    boolean lists = element.properties().stream().anyMatch(PlyHead.Property::isList);
    if (!lists && head.encoding() != PlyHead.Encoding.TEXT) {
      // Every bit is a number there.
      numbers.skip(element.count() * element.fewestBytes(head.encoding()));
      return;
    }
    for (long i = 0; i < element.count(); i++) {
      for (PlyHead.Property p : element.properties()) {
        if (!p.isList()) {
          double value = numbers.next(p.type());
          if (!Double.isFinite(value)) {
            rules.broken(element.name() + " " + i, "A value is no number.");
          }
          continue;
        }
        int length = (int) numbers.next(p.count());
        boolean corners = face && p.name().startsWith("vert");
        if (corners && length < 3) {
          rules.broken("face " + i, "A face has fewer than three corners.");
        }
        for (int k = 0; k < length; k++) {
          double vertex = numbers.next(p.type());
          if (corners && !(vertex >= 0 && vertex < most)) {
            rules.broken("face " + i, "A corner names a vertex that is not there.");
          }
        }
      }
    }
  }

  /** Nothing follows; a text may end with an empty line. */
  private void end(PlyNumbers numbers, PlyHead head) throws IOException {
    boolean text = head.encoding() == PlyHead.Encoding.TEXT;
    for (int b = numbers.character(); b >= 0; b = numbers.character()) {
      if (!text || b > ' ') {
        rules.broken("end", "Something follows the last element.");
        return;
      }
    }
  }
}
