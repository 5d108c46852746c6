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
import java.io.IOException;
import java.util.List;
import java.util.Map;

/** Networks that were kept as they were found, as prims of their material again. */
final class NetworksOut {
  private final String path;
  private final ImagesOut images;

  private NetworksOut(String path, ImagesOut images) {
    this.path = path;
    this.images = images;
  }

  /**
   * @param path of the material
   * @param kept what was found, {@code null} for nothing
   * @param images gets those that the networks name
   */
  static void write(PrimSpec prim, String path, Object kept, ImagesOut images) throws IOException {
    if (!(kept instanceof Map<?, ?> all)) {
      return;
    }
    NetworksOut out = new NetworksOut(path, images);
    all.forEach(
        (name, ends) -> {
          if (ends instanceof List<?> list && ValidNames.isProperty(String.valueOf(name))) {
            PropertySpec output = Spec.attribute(prim, "token", false, String.valueOf(name));
            output.targets(out.targets(list));
          }
        });
    out.prims(prim, all.get(UsdNames.PRIMS));
  }

  private void prims(PrimSpec above, Object prims) throws IOException {
    if (!(prims instanceof Map<?, ?> all)) {
      return;
    }
    for (Map.Entry<?, ?> entry : all.entrySet()) {
      String text = String.valueOf(entry.getKey());
      if (entry.getValue() instanceof Map<?, ?> map && ValidNames.isValid(text)) {
        String type = String.valueOf(map.get(UsdNames.PRIM_TYPE));
        prim(Spec.def(above, ValidNames.isValid(type) ? type : "", text), map);
      }
    }
  }

  private void prim(PrimSpec prim, Map<?, ?> map) throws IOException {
    Map<?, ?> types = map.get(UsdNames.TYPES) instanceof Map<?, ?> own ? own : Map.of();
    for (Map.Entry<?, ?> entry : types.entrySet()) {
      String name = String.valueOf(entry.getKey());
      String said = String.valueOf(entry.getValue());
      boolean array = said.endsWith("[]");
      String plain = array ? said.substring(0, said.length() - 2) : said;
      if (UsdType.of(plain).isEmpty() || !ValidNames.isProperty(name)) {
        continue;
      }
      PropertySpec property = Spec.attribute(prim, plain, array, name);
      // What a shader is does not change over time.
      property.uniform(name.startsWith("info:"));
      UsdValue value = map.get(name) == null ? null : ValuesOut.typed(map.get(name), said);
      if (value != null) {
        property.value(value);
        if (value.type().kind() == UsdType.Kind.ASSET
            && map.get(name + UsdNames.FILES) instanceof Map<?, ?> found) {
          String[] texts = value.texts().clone();
          for (int i = 0; i < texts.length; i++) {
            texts[i] = images.keep(texts[i], found);
          }
          property.value(new UsdValue(value.type(), value.array(), texts));
        }
      }
      if (map.get(name + UsdNames.CONNECT) instanceof List<?> ends) {
        property.targets(targets(ends));
      }
    }
    prims(prim, map.get(UsdNames.PRIMS));
  }

  private ListOp<String> targets(List<?> ends) {
    return ListOp.explicit(
        ends.stream()
            .map(String::valueOf)
            .map(end -> end.startsWith(".") ? path + end : path + "/" + end)
            .filter(ValidNames::isPath)
            .toList());
  }
}
