package ferry.stone.core.format.gltf.write;

import ferry.stone.core.format.gltf.raw.GltfPointers;
import java.util.Map;

/** Where the elements of a scene stand in the file, by their ids. */
record GltfPlaces(
    Map<Integer, Integer> nodes,
    Map<Integer, Integer> cameras,
    Map<Integer, Integer> lights,
    Map<Integer, Integer> materials) {

  /** The kind of an element, or {@code null} when it is not in the file. */
  GltfPointers.Kind kind(int id) {
    return nodes.containsKey(id)
        ? GltfPointers.Kind.NODE
        : cameras.containsKey(id)
            ? GltfPointers.Kind.CAMERA
            : lights.containsKey(id)
                ? GltfPointers.Kind.LIGHT
                : materials.containsKey(id) ? GltfPointers.Kind.MATERIAL : null;
  }

  int index(int id) {
    return switch (kind(id)) {
      case NODE -> nodes.get(id);
      case CAMERA -> cameras.get(id);
      case LIGHT -> lights.get(id);
      case MATERIAL -> materials.get(id);
    };
  }
}
