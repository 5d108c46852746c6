package ferry.stone.core.format.usd;

import ferry.stone.core.field.Field;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.Format;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Frames;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.SceneReader;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.losses.CapabilityTable;
import ferry.stone.core.format.usd.layer.UsdFiles;
import ferry.stone.core.format.usd.read.UsdChoices;
import ferry.stone.core.format.usd.read.UsdReader;
import ferry.stone.core.format.usd.rules.UsdRules;
import ferry.stone.core.format.usd.write.UsdOptions.Container;
import ferry.stone.core.scene.Scene;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Collections;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * USD: layers as text, as crates and in packages. A file that ends in {@code .usd} is any of them;
 * its content decides.
 */
public final class UsdFormat implements Format {
  /** Text. */
  public static final Format USDA = new UsdFormat(Container.TEXT, "USDA", "USDA, text", "usda");

  /** Binary. */
  public static final Format USDC =
      new UsdFormat(Container.CRATE, "USDC", "USDC, binary", "usdc", "usd");

  /** One file with its images. */
  public static final Format USDZ =
      new UsdFormat(Container.PACKAGE, "USDZ", "USDZ, one file", "usdz");

  private static final SceneReader READER =
      new SceneReader() {
        @Override
        public List<Field> fields() {
          return UsdChoices.FIELDS;
        }

        @Override
        public Set<String> parts(String resource, ReadContext context)
            throws IOException, FormatException {
          return UsdReader.parts(resource, context);
        }

        @Override
        public Scene read(String resource, ReadContext context)
            throws IOException, FormatException {
          return UsdReader.read(resource, context);
        }
      };

  private final Container container;
  private final String name;
  private final String label;
  private final List<String> endings;

  private UsdFormat(Container container, String name, String label, String... endings) {
    this.container = container;
    this.name = name;
    this.label = label;
    this.endings = List.of(endings);
  }

  @Override
  public String key() {
    return endings.get(0);
  }

  @Override
  public String name() {
    return name;
  }

  @Override
  public String label() {
    return label;
  }

  @Override
  public Set<String> extensions() {
    return Collections.unmodifiableSet(new LinkedHashSet<>(endings));
  }

  @Override
  public boolean sniff(byte[] head) {
    String text = new String(head, StandardCharsets.ISO_8859_1);
    return switch (container) {
      case TEXT -> text.startsWith("#usda ");
      case CRATE -> text.startsWith("PXR-USDC");
      case PACKAGE -> isPackage(text);
    };
  }

  /** A zip whose first file is a layer. */
  private static boolean isPackage(String head) {
    int name = 30;
    if (!head.startsWith("PK\003\004") || head.length() < name) {
      return false;
    }
    int length = head.charAt(26) | head.charAt(27) << 8;
    String first = head.substring(name, Math.min(head.length(), name + length));
    return first.matches("(?s).*\\.usd[ac]?");
  }

  @Override
  public Optional<SceneReader> reader() {
    return Optional.of(READER);
  }

  @Override
  public Optional<SceneWriter> writer() {
    return Optional.of(new UsdLanding(container));
  }

  @Override
  public Frames frames() {
    return Frames.STATED;
  }

  @Override
  public void check(String file, Resources files, Findings findings)
      throws IOException, FormatException {
    UsdFiles layers = UsdReader.layers(file, ReadContext.of(files));
    UsdRules.check(file, files, layers, findings);
  }

  @Override
  public CapabilityTable losses() {
    return UsdCapabilities.TABLE;
  }
}
