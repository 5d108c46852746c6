package ferry.stone.core.format.fbx.raw;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.files.BinaryCursor;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.RandomBytes;
import ferry.stone.core.math.Figures;
import java.io.IOException;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** The objects of a file by their ids, and what is connected to what. */
public final class FbxDocument {
  private static final int OLDEST = 6000;
  private static final int SEVEN = 7000;
  private static final int NEWEST = 7999;
  private static final int START = 4096;

  /**
   * An object.
   *
   * @param kind its record, e.g. {@code Model}
   * @param type its class, e.g. {@code LimbNode}
   */
  public record Item(
      long id, String kind, String name, String type, FbxRecord record, FbxProperties properties) {}

  /**
   * A connection seen from one end.
   *
   * @param property of the destination, empty when the object itself is meant
   */
  public record Link(Item item, String property) {}

  private final FbxRecord root;
  private final Map<Long, Item> items = new LinkedHashMap<>();
  private final Map<Long, List<Link>> sources = new HashMap<>();
  private final Map<Long, List<Link>> destinations = new HashMap<>();
  private final List<Item> tops = new ArrayList<>();

  private FbxDocument(FbxRecord root) {
    this.root = root;
  }

  public static FbxDocument parse(
      String resource, RandomBytes file, Budget budget, Findings findings)
      throws IOException, FormatException {
    byte[] start = new byte[(int) Math.min(START, file.size())];
    file.read(0, start, 0, start.length);
    boolean binary = FbxBinaryParser.isBinary(start);
    if (!binary && FbxBinaryParser.wasBinary(start)) {
      throw new FormatException(
          file.size() < FbxBinaryParser.HEAD ? Kind.TRUNCATED : Kind.CORRUPT,
          resource,
          "byte 0",
          "this is a binary FBX whose beginning is damaged or cut. Copy or export it again.");
    }
    if (!binary && !looksLikeText(start)) {
      throw new FormatException(
          Kind.NOT_THIS_FORMAT,
          resource,
          "",
          "this is no FBX file: expected its mark at the beginning, or text with an FBX header."
              + " Export it again as FBX.");
    }
    FbxRecord root =
        binary
            ? FbxBinaryParser.parse(resource, file, FbxBinaryParser.version(start), budget)
            : FbxTextParser.parse(resource, text(resource, file, budget));
    int version =
        binary
            ? FbxBinaryParser.version(start)
            : (int) root.at("FBXHeaderExtension").at("FBXVersion").number(0, 0);
    if (version < OLDEST || version > NEWEST) {
      throw new FormatException(
          version < OLDEST ? Kind.TOO_OLD : Kind.TOO_NEW,
          resource,
          "",
          "the file is of version "
              + version
              + "; versions 6000 to 7999 are read. Export it again as FBX 2014 or later.");
    }
    root = version < SEVEN ? FbxSix.modern(root) : root;
    FbxDocument document = new FbxDocument(root);
    document.objects(resource, findings);
    document.connections(resource, findings);
    return document;
  }

  /** Text is held whole: each byte of it is a letter of a number. */
  private static byte[] text(String resource, RandomBytes file, Budget budget)
      throws IOException, FormatException {
    budget.claim(file.size(), "", resource);
    return new BinaryCursor(resource, file, ByteOrder.LITTLE_ENDIAN).bytes(file.size(), "the text");
  }

  public static boolean looksLikeText(byte[] file) {
    String start =
        new String(file, 0, Math.min(file.length, 4096), java.nio.charset.StandardCharsets.UTF_8);
    return start.contains("FBXHeaderExtension") || start.stripLeading().startsWith("; FBX");
  }

  private void objects(String resource, Findings findings) {
    Map<String, Map<String, FbxRecord>> templates = new HashMap<>();
    for (FbxRecord type : root.at("Definitions").all("ObjectType")) {
      for (FbxRecord template : type.all("PropertyTemplate")) {
        templates
            .computeIfAbsent(type.text(0), k -> new HashMap<>())
            .putAll(FbxProperties.byName(template));
      }
    }
    int twice = 0;
    for (FbxRecord record : root.at("Objects").children()) {
      long id = record.id(0);
      Item item =
          new Item(
              id,
              record.name(),
              name(record.text(1)),
              record.text(2),
              record,
              new FbxProperties(record, templates.getOrDefault(record.name(), Map.of())));
      twice += items.putIfAbsent(id, item) == null ? 0 : 1;
    }
    if (twice > 0) {
      findings.add(
          Finding.of(
                  "ids-twice",
                  Severity.LOOK,
                  resource,
                  "Several objects have one id: the first of each is read.")
              .measured(Figures.count(twice, "object")));
    }
  }

  /** {@code Name\0\1Class} in the binary form, {@code Class::Name} in text. */
  private static String name(String written) {
    int mark = written.indexOf("\u0000\u0001");
    if (mark >= 0) {
      return written.substring(0, mark);
    }
    int colons = written.indexOf("::");
    return colons >= 0 ? written.substring(colons + 2) : written;
  }

  private void connections(String resource, Findings findings) {
    int broken = 0;
    for (FbxRecord c : root.at("Connections").children()) {
      Item from = items.get(c.id(1));
      long to = c.id(2);
      if (from != null && to == 0) {
        tops.add(from);
        continue;
      }
      Item target = items.get(to);
      if (from == null || target == null) {
        // Properties of objects that are not in the file are connected now and then.
        broken += c.text(0).startsWith("O") ? 1 : 0;
        continue;
      }
      sources.computeIfAbsent(to, k -> new ArrayList<>()).add(new Link(from, c.text(3)));
      destinations
          .computeIfAbsent(from.id(), k -> new ArrayList<>())
          .add(new Link(target, c.text(3)));
    }
    if (broken > 0) {
      findings.add(
          Finding.of(
                  "connections-broken",
                  Severity.LOOK,
                  resource,
                  "Connections name objects that are not in the file: they are passed over.")
              .measured(Figures.count(broken, "connection")));
    }
  }

  public FbxRecord root() {
    return root;
  }

  /** All objects of a kind, in file order. */
  public List<Item> all(String kind) {
    return items.values().stream().filter(i -> i.kind().equals(kind)).toList();
  }

  /** What is connected to an object, in the order of the connections. */
  public List<Link> sources(Item item) {
    return sources.getOrDefault(item.id(), List.of());
  }

  /** Objects of a kind that are connected to an object itself. */
  public List<Item> sources(Item item, String kind) {
    return sources(item).stream()
        .filter(l -> l.item().kind().equals(kind))
        .map(Link::item)
        .toList();
  }

  /** What an object is connected to. */
  public List<Link> destinations(Item item) {
    return destinations.getOrDefault(item.id(), List.of());
  }

  /** Objects that are connected to nothing but the scene itself. */
  public List<Item> tops() {
    return tops;
  }
}
