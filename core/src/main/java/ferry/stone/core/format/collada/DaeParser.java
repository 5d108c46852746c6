package ferry.stone.core.format.collada;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.InputStream;
import java.util.Set;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;

/** Reads the XML. Nothing outside the file is looked up, and no entity is expanded. */
final class DaeParser {
  private static final Set<String> WHOLES = Set.of("p", "h", "v", "vcount");

  /** What holds such lists; elsewhere these names mean other things. */
  private static final Set<String> HOLDERS =
      Set.of(
          "triangles",
          "polylist",
          "polygons",
          "trifans",
          "tristrips",
          "lines",
          "linestrips",
          "ph",
          "vertex_weights");

  private static final int ELEMENT_BYTES = 240;
  private static final int CHECK = 1 << 12;

  private final String resource;
  private final Budget budget;
  private final Progress progress;
  private final CountedStream in;
  private final long size;
  private DaeElement root;
  private DaeElement open;
  private final StringBuilder text = new StringBuilder();
  private DaeNumbers numbers;
  private int events;

  private DaeParser(String resource, long size, InputStream in, Budget budget, Progress progress) {
    this.resource = resource;
    this.size = size;
    this.in = new CountedStream(in);
    this.budget = budget;
    this.progress = progress;
  }

  /**
   * @param size of the file in bytes, for the progress
   */
  static DaeElement parse(
      String resource, long size, InputStream in, Budget budget, Progress progress)
      throws IOException, FormatException {
    return new DaeParser(resource, size, in, budget, progress).parse();
  }

  private DaeElement parse() throws IOException, FormatException {
    XMLInputFactory factory = XMLInputFactory.newDefaultFactory();
    factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
    factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
    factory.setProperty(XMLInputFactory.IS_NAMESPACE_AWARE, true);
    try {
      XMLStreamReader reader = factory.createXMLStreamReader(in);
      while (reader.hasNext()) {
        event(reader, reader.next());
      }
    } catch (XMLStreamException e) {
      if (in.fault() != null) {
        throw in.fault();
      }
      boolean ended = in.atEnd() && e.getMessage().contains("XML document structures must start");
      throw new FormatException(
          ended || e.getMessage().contains("end of") ? Kind.TRUNCATED : Kind.CORRUPT,
          resource,
          e.getLocation() == null ? "" : "line " + e.getLocation().getLineNumber(),
          "the XML is broken here: "
              + sentence(e.getMessage())
              + ". Export or copy the file again.");
    } catch (IllegalArgumentException | java.util.NoSuchElementException e) {
      // What the JDK's parser lets through of broken bytes.
      throw new FormatException(
          Kind.CORRUPT, resource, "", "the XML is broken. Export or copy the file again.");
    }
    if (root == null || !root.name.equals("COLLADA")) {
      throw new FormatException(
          Kind.NOT_THIS_FORMAT,
          resource,
          "",
          "the file is XML, but no COLLADA: its first element should be COLLADA.");
    }
    return root;
  }

  /** The parser's words without its place, which is told already. */
  private static String sentence(String message) {
    int at = message.indexOf("Message:");
    String words = (at < 0 ? message : message.substring(at + 8)).replaceAll("\\s+", " ").strip();
    return words.endsWith(".") ? words.substring(0, words.length() - 1) : words;
  }

  private void event(XMLStreamReader reader, int event) throws FormatException {
    if (++events % CHECK == 0) {
      progress.report("reading " + resource, 0.6 * Math.min(1, in.count() / (double) size));
      progress.checkCancelled();
    }
    switch (event) {
      case XMLStreamConstants.START_ELEMENT -> start(reader);
      case XMLStreamConstants.CHARACTERS, XMLStreamConstants.CDATA -> {
        if (numbers != null) {
          numbers.take(reader.getTextCharacters(), reader.getTextStart(), reader.getTextLength());
        } else if (open != null) {
          text.append(reader.getTextCharacters(), reader.getTextStart(), reader.getTextLength());
        }
      }
      case XMLStreamConstants.END_ELEMENT -> end();
      default -> {
        // Remarks and instructions say nothing of the scene.
      }
    }
  }

  private void start(XMLStreamReader reader) throws FormatException {
    DaeElement element =
        new DaeElement(reader.getLocalName(), reader.getLocation().getLineNumber(), open);
    budget.claim(ELEMENT_BYTES, element.place(), "The tree of elements");
    for (int i = 0; i < reader.getAttributeCount(); i++) {
      element.attributes.put(reader.getAttributeLocalName(i), reader.getAttributeValue(i));
    }
    if (open == null) {
      root = root == null ? element : root;
    } else {
      open.children.add(element);
    }
    open = element;
    text.setLength(0);
    numbers =
        element.name.equals("float_array")
            ? DaeNumbers.ofReals()
            : isWhole(element) ? DaeNumbers.ofWholes() : null;
  }

  private static boolean isWhole(DaeElement element) {
    return WHOLES.contains(element.name)
        && element.parent != null
        && HOLDERS.contains(element.parent.name);
  }

  private void end() throws FormatException {
    if (numbers != null && open.name.equals("float_array")) {
      open.reals = numbers.reals();
      budget.claim(8L * open.reals.length, open.place(), "The list of numbers");
    } else if (numbers != null) {
      open.wholes = numbers.wholes();
      budget.claim(4L * open.wholes.length, open.place(), "The list of numbers");
      if (numbers.broken() != null) {
        throw new FormatException(
            Kind.CORRUPT,
            resource,
            open.place(),
            "\"" + numbers.broken() + "\" stands where a whole number should. Export it again.");
      }
    } else if (open.children.isEmpty()) {
      open.text = text.toString();
    }
    numbers = null;
    text.setLength(0);
    open = open.parent;
  }
}
