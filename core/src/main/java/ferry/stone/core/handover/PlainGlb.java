package ferry.stone.core.handover;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.ReferenceFinder;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.gltf.raw.GltfContainer;
import java.io.IOException;
import java.util.Map;
import java.util.Set;

/** GLB files that a page can show without a decoder of its own. */
final class PlainGlb {
  /** Packed in ways whose decoders a page would have to bring along. */
  private static final Set<String> PACKED =
      Set.of("KHR_draco_mesh_compression", "EXT_meshopt_compression", "KHR_texture_basisu");

  private PlainGlb() {}

  static boolean is(String path, Resources files) throws IOException, FormatException {
    if (!CargoPath.name(path).endsWith(".glb")) {
      return false;
    }
    JsonNode root =
        GltfContainer.open(path, files, new ReferenceFinder(files, Map.of()), new Findings())
            .root();
    for (JsonNode used : root.path("extensionsUsed")) {
      if (PACKED.contains(used.asText())) {
        return false;
      }
    }
    return true;
  }
}
