package ferry.stone.core.format.usd.read.look;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.compose.UsdProperty;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.read.stage.Above;
import ferry.stone.core.format.usd.read.stage.Primvars;
import ferry.stone.core.format.usd.read.stage.Said;
import ferry.stone.core.format.usd.read.stage.UsdReading;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Which material a prim shows, after {@code UsdShadeMaterialBindingAPI::ComputeBoundMaterial}: the
 * nearest binding counts, unless one above is stronger than its descendants; on one prim a binding
 * of a collection that holds the prim is stronger than a direct one.
 */
public final class Bindings {
  private static final String DIRECT = "material:binding";
  private static final String COLLECTION = "material:binding:collection";

  /** The purpose of what everybody shows, then those that look best. */
  private static final List<String> PURPOSES = List.of("", "full", "preview");

  private final UsdReading reading;
  private final Map<String, Collection> collections = new HashMap<>();

  public Bindings(UsdReading reading) {
    this.reading = reading;
  }

  /** The path of a prim's material; empty for none. */
  public String material(UsdPrim prim, Above above) throws IOException, FormatException {
    String found = "";
    int purposes = 0;
    for (String purpose : PURPOSES) {
      String bound = material(new Above(above, prim, -1, Primvars.NONE), purpose);
      purposes += bound.isEmpty() || bound.equals(found) ? 0 : 1;
      found = found.isEmpty() ? bound : found;
    }
    if (purposes > 1) {
      reading
          .report()
          .lost(
              "material-purpose-not-read",
              prim.path(),
              "It has other materials for previews or for the final picture: the one for all"
                  + " purposes is read, \""
                  + found
                  + "\".");
    }
    return found;
  }

  private String material(Above from, String purpose) throws IOException, FormatException {
    String path = from.prim().path();
    String direct = purpose.isEmpty() ? DIRECT : DIRECT + ":" + purpose;
    String bound = "";
    for (Above at = from; at != null; at = at.parent()) {
      UsdProperty relationship = at.prim().property(direct);
      boolean here = false;
      if (relationship != null && !relationship.targets().isEmpty()) {
        if (bound.isEmpty() || isStrong(relationship)) {
          bound = relationship.targets().get(0);
          here = true;
        }
      }
      for (UsdProperty each : collections(at.prim(), purpose)) {
        List<String> targets = each.targets();
        if (targets.size() == 2 && collection(targets.get(0)).holds(path)) {
          if (bound.isEmpty() || here || isStrong(each)) {
            bound = targets.get(1);
          }
          break;
        }
      }
    }
    return bound;
  }

  private static boolean isStrong(UsdProperty relationship) {
    return Said.field(relationship, "bindMaterialAs", "weakerThanDescendants")
        .equals("strongerThanDescendants");
  }

  /** Bindings of collections, in their order. */
  private static List<UsdProperty> collections(UsdPrim prim, String purpose) {
    List<UsdProperty> all = new ArrayList<>();
    String prefix = purpose.isEmpty() ? COLLECTION + ":" : COLLECTION + ":" + purpose + ":";
    for (String name : prim.propertyNames()) {
      boolean own = name.startsWith(prefix) && name.indexOf(':', prefix.length()) < 0;
      if (own) {
        all.add(prim.property(name));
      }
    }
    return all;
  }

  private Collection collection(String path) throws IOException, FormatException {
    Collection known = collections.get(path);
    if (known == null) {
      // One that names itself holds nothing.
      collections.put(path, Collection.EMPTY);
      known = Collection.of(reading, path, this::collection);
      collections.put(path, known);
    }
    return known;
  }

  /**
   * Prims by paths: the nearest of those named, upwards, says whether one is in.
   *
   * @param named whether each is in
   */
  record Collection(Map<String, Boolean> named, boolean expands, List<Collection> others) {
    static final Collection EMPTY = new Collection(Map.of(), true, List.of());

    /** Looks up another one. */
    interface Lookup {
      Collection of(String path) throws IOException, FormatException;
    }

    static Collection of(UsdReading reading, String path, Lookup lookup)
        throws IOException, FormatException {
      int dot = path.indexOf(".collection:");
      UsdPrim prim = dot < 0 ? null : reading.stage().prim(path.substring(0, dot));
      if (prim == null) {
        return EMPTY;
      }
      String name = path.substring(dot + 1);
      String rule = Said.text(prim, name + ":expansionRule", "expandPrims");
      UsdValue expression = Said.value(prim, name + ":membershipExpression");
      if (expression != null && expression.text() != null && !expression.text().isEmpty()) {
        reading
            .report()
            .lost(
                "collection-not-read",
                path,
                "The collection is said by an expression, \""
                    + expression.text()
                    + "\": what it holds is not known here.");
      }
      Map<String, Boolean> named = new HashMap<>();
      List<Collection> others = new ArrayList<>();
      for (String target : Said.targets(prim, name + ":includes")) {
        if (target.contains(".collection:")) {
          others.add(lookup.of(target));
        } else {
          named.put(target, true);
        }
      }
      if (Said.flag(prim, name + ":includeRoot", false)) {
        named.put("/", true);
      }
      Said.targets(prim, name + ":excludes").forEach(t -> named.put(t, false));
      return new Collection(named, !rule.equals("explicitOnly"), List.copyOf(others));
    }

    boolean holds(String path) {
      String at = path;
      while (true) {
        Boolean said = named.get(at);
        if (said != null && (expands || at.equals(path) || !said)) {
          return said;
        }
        if (at.equals("/")) {
          return others.stream().anyMatch(o -> o.holds(path));
        }
        int slash = at.lastIndexOf('/');
        at = slash == 0 ? "/" : at.substring(0, slash);
      }
    }
  }
}
