package ferry.stone.core.format.usd.rules;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.RandomBytes;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.losses.BrokenRules;
import ferry.stone.core.format.usd.ValidNames;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.compose.UsdProperty;
import ferry.stone.core.format.usd.compose.UsdStage;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.UsdFiles;
import ferry.stone.core.format.usd.layer.UsdLayer;
import ferry.stone.core.format.usd.layer.UsdPackage;
import ferry.stone.core.format.usd.read.stage.Said;
import java.io.IOException;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** The layer as a whole, its package, and what any prim may say; meshes and rigs beside. */
public final class UsdRules {
  private static final int ALIGNED = 64;

  /** What a package may hold: "USDZ File Format Specification", file types. */
  private static final Set<String> PACKED =
      Set.of("usd", "usda", "usdc", "png", "jpg", "jpeg", "exr", "avif", "m4a", "mp3", "wav");

  private final BrokenRules rules = new BrokenRules();
  private final UsdStage stage;
  private final Set<String> prototypes = new HashSet<>();
  private final UsdMeshRules meshes;
  private final UsdRigRules rigs;

  private UsdRules(UsdStage stage) {
    this.stage = stage;
    meshes = new UsdMeshRules(rules);
    rigs = new UsdRigRules(rules, stage);
  }

  /**
   * Tells each rule that is broken once, with the first place and how often.
   *
   * @param layers of the cargo
   */
  public static void check(String resource, Resources files, UsdFiles layers, Findings findings)
      throws IOException, FormatException {
    UsdRules all = new UsdRules(UsdStage.open(layers, resource, Map.of(), true));
    all.pack(resource, files);
    all.layer();
    for (UsdPrim prim : all.stage.root().children()) {
      all.prim(prim);
    }
    all.rules.tell(resource, findings);
  }

  private void pack(String resource, Resources files) throws IOException, FormatException {
    RandomBytes file = files.random(resource);
    byte[] head = new byte[(int) Math.min(16, file.size())];
    file.read(0, head, 0, head.length);
    if (!UsdPackage.isPackage(head)) {
      return;
    }
    UsdPackage pack = new UsdPackage(resource, file);
    for (String name : pack.names()) {
      rules.hold(
          pack.begins(name) % ALIGNED == 0,
          name,
          "A file of the package does not begin at a multiple of 64 bytes.");
      rules.hold(
          PACKED.contains(CargoPath.extension(name)),
          name,
          "A package may not hold a file of this kind.");
    }
  }

  private void layer() throws IOException, FormatException {
    UsdLayer layer = stage.layer();
    Map<String, Object> fields = layer.root().fields();
    String prim = layer.text("defaultPrim", "");
    rules.hold(
        !prim.isEmpty() && stage.prim("/" + prim) != null,
        "defaultPrim",
        "The layer does not name the prim at its top that others get who take it in.");
    String up = layer.text("upAxis", "");
    rules.hold(up.equals("Y") || up.equals("Z"), "upAxis", "The layer does not say Y or Z as up.");
    rules.hold(
        fields.containsKey("metersPerUnit") && layer.number("metersPerUnit", 0) > 0,
        "metersPerUnit",
        "The layer does not say its unit.");
    rules.hold(
        layer.number("timeCodesPerSecond", 24) > 0, "timeCodesPerSecond", "Time does not run.");
    rules.hold(
        layer.number("startTimeCode", 0) <= layer.number("endTimeCode", Double.MAX_VALUE),
        "startTimeCode",
        "The layer ends before it begins.");
  }

  private void prim(UsdPrim prim) throws IOException, FormatException {
    if (prim.prototype() != null && !prototypes.add(prim.prototype())) {
      return;
    }
    rules.hold(ValidNames.isValid(prim.name()), prim.path(), "No prim can be called so.");
    Set<String> schemas = new HashSet<>();
    if (prim.field("apiSchemas") instanceof List<?> list) {
      list.forEach(s -> schemas.add(String.valueOf(s)));
    }
    for (String name : prim.propertyNames()) {
      UsdProperty property = prim.property(name);
      String where = prim.path() + "." + name;
      rules.hold(ValidNames.isProperty(name), where, "No property can be called so.");
      targets(property, where);
      if (name.startsWith("material:binding") && !name.contains("collection")) {
        rules.hold(
            schemas.contains("MaterialBindingAPI"),
            where,
            "A material is bound where MaterialBindingAPI is not applied.");
        for (String target : property.targets()) {
          UsdPrim material = stage.prim(target);
          rules.hold(
              material == null || material.typeName().equals("Material"),
              where,
              "What is bound is no material.");
        }
      }
    }
    operations(prim);
    meshes.check(prim);
    rigs.check(prim, schemas);
    if (prim.specifier() == PrimSpec.Specifier.DEF) {
      for (UsdPrim child : prim.children()) {
        prim(child);
        child.forget();
      }
    }
  }

  private void targets(UsdProperty property, String where) throws IOException, FormatException {
    for (String target : property.targets()) {
      int dot = target.indexOf('.');
      UsdPrim prim = stage.prim(dot < 0 ? target : target.substring(0, dot));
      boolean there = prim != null && (dot < 0 || prim.property(target.substring(dot + 1)) != null);
      rules.hold(there, where, "A path leads to what is not there.");
    }
  }

  private void operations(UsdPrim prim) throws IOException, FormatException {
    Set<String> seen = new HashSet<>();
    for (String entry : Said.texts(prim, "xformOpOrder")) {
      String where = prim.path() + ".xformOpOrder";
      rules.hold(seen.add(entry), where, "An operation stands twice in the order.");
      String name = entry.startsWith("!invert!") ? entry.substring(8) : entry;
      rules.hold(
          entry.equals("!resetXformStack!") || Said.value(prim, name) != null,
          where,
          "The order names an operation that has no value.");
    }
  }
}
