package ferry.stone.core.scene;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * What a scene was put together from, beside its parts, which are put together already.
 *
 * @param layers files that say something of it, the one that is opened first
 * @param choices sets of variants, with the one that counts
 * @param payloads parts that are loaded on demand
 * @param sources layers that say something of a node, the strongest first, by its id
 */
public record Composition(
    List<Layer> layers,
    List<Choice> choices,
    List<Payload> payloads,
    Map<Integer, List<String>> sources) {
  /** Option of readers that says which variants count, as their texts with spaces between. */
  public static final String VARIANTS = "variants";

  public static final Composition NONE = new Composition(List.of(), List.of(), List.of(), Map.of());

  public Composition {
    layers = List.copyOf(layers);
    choices = List.copyOf(choices);
    payloads = List.copyOf(payloads);
    sources = Map.copyOf(sources);
  }

  /**
   * A file, and how it came in.
   *
   * @param path in the cargo, inside of packages with brackets
   * @param how {@code opened}, {@code sublayer}, {@code reference}, {@code payload}, {@code
   *     inherit}, {@code relocate} or {@code specialize}; {@code missing} for a path that leads to
   *     no file
   * @param where path of the prim, or of the layer, that brings it in; empty for the one opened
   */
  public record Layer(String path, String how, String where) {}

  /**
   * A set of variants of a part.
   *
   * @param prim its path in the files
   * @param chosen empty where none is
   */
  public record Choice(String prim, String set, List<String> names, String chosen) {
    /** A variant as options and people are told of it: {@code /Prim{set=variant}}. */
    public String text(String name) {
      return prim + "{" + set + "=" + name + "}";
    }
  }

  /**
   * A part that is loaded on demand.
   *
   * @param prim its path in the files
   * @param layer that holds it, as it is written
   */
  public record Payload(String prim, String layer, boolean loaded) {}

  public boolean isEmpty() {
    return layers.isEmpty();
  }

  /** What two scenes that become one were put together from. */
  public Composition with(Composition other) {
    List<Layer> allLayers = new ArrayList<>(layers);
    allLayers.addAll(other.layers);
    List<Choice> allChoices = new ArrayList<>(choices);
    allChoices.addAll(other.choices);
    List<Payload> allPayloads = new ArrayList<>(payloads);
    allPayloads.addAll(other.payloads);
    Map<Integer, List<String>> allSources = new LinkedHashMap<>(sources);
    allSources.putAll(other.sources);
    return new Composition(allLayers, allChoices, allPayloads, allSources);
  }

  /** The same under other ids of nodes; those without one go. */
  Composition mapped(Map<Integer, Integer> nodes) {
    Map<Integer, List<String>> mapped = new LinkedHashMap<>();
    sources.forEach(
        (id, from) -> {
          if (nodes.containsKey(id)) {
            mapped.put(nodes.get(id), from);
          }
        });
    return new Composition(layers, choices, payloads, mapped);
  }
}
