package ferry.stone.core.format.usd.write.look;

import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.ValidNames;
import ferry.stone.core.format.usd.layer.ListOp;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.layer.UsdType;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.write.spec.Spec;
import ferry.stone.core.format.usd.write.spec.ValuesOut;
import java.util.List;
import java.util.Map;

/** Networks that were kept as they were found, as prims of their material again. */
final class NetworksOut {
  private final String path;

  private NetworksOut(String path) {
    this.path = path;
  }

  /**
   * @param path of the material
   * @param kept what was found, {@code null} for nothing
   */
  static void write(PrimSpec prim, String path, Object kept) {
    if (!(kept instanceof Map<?, ?> all)) {
      return;
    }
    NetworksOut out = new NetworksOut(path);
    all.forEach(
        (name, ends) -> {
          if (ends instanceof List<?> list) {
            PropertySpec output = Spec.attribute(prim, "token", false, String.valueOf(name));
            output.targets(out.targets(list));
          }
        });
    out.prims(prim, all.get(UsdNames.PRIMS));
  }

  private void prims(PrimSpec above, Object prims) {
    if (!(prims instanceof Map<?, ?> all)) {
      return;
    }
    all.forEach(
        (name, own) -> {
          String text = String.valueOf(name);
          if (own instanceof Map<?, ?> map && ValidNames.isValid(text)) {
            prim(Spec.def(above, String.valueOf(map.get(UsdNames.PRIM_TYPE)), text), map);
          }
        });
  }

  private void prim(PrimSpec prim, Map<?, ?> map) {
    Map<?, ?> types = map.get(UsdNames.TYPES) instanceof Map<?, ?> own ? own : Map.of();
    types.forEach(
        (key, type) -> {
          String name = String.valueOf(key);
          String said = String.valueOf(type);
          boolean array = said.endsWith("[]");
          String plain = array ? said.substring(0, said.length() - 2) : said;
          if (UsdType.of(plain).isEmpty()) {
            return;
          }
          PropertySpec property = Spec.attribute(prim, plain, array, name);
          // What a shader is does not change over time.
          property.uniform(name.startsWith("info:"));
          UsdValue value = map.get(name) == null ? null : ValuesOut.typed(map.get(name), said);
          if (value != null) {
            property.value(value);
          }
          if (map.get(name + UsdNames.CONNECT) instanceof List<?> ends) {
            property.targets(targets(ends));
          }
        });
    prims(prim, map.get(UsdNames.PRIMS));
  }

  private ListOp<String> targets(List<?> ends) {
    return ListOp.explicit(
        ends.stream()
            .map(String::valueOf)
            .map(end -> end.startsWith(".") ? path + end : path + "/" + end)
            .toList());
  }
}
