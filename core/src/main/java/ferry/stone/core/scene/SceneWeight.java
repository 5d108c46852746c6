package ferry.stone.core.scene;

import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Set;

/** About how much memory scenes take: their arrays, each counted once, and something a part. */
public final class SceneWeight {
  private static final long PER_NODE = 400;
  private static final long PER_OBJECT = 200;

  private final Set<Object> seen = Collections.newSetFromMap(new IdentityHashMap<>());
  private long bytes;

  private SceneWeight() {}

  /** Bytes of several scenes; what they share is counted once. */
  public static long bytes(List<Scene> scenes) {
    SceneWeight weight = new SceneWeight();
    scenes.forEach(weight::add);
    return weight.bytes;
  }

  private void add(Scene scene) {
    for (Node node : scene.nodes()) {
      bytes += seen.add(node) ? PER_NODE : 0;
    }
    scene.meshes().forEach(this::add);
    for (Skin skin : scene.skins()) {
      if (seen.add(skin)) {
        bytes += 4L * (skin.joints().length + skin.weights().length + skin.offsets().length);
        bytes += 8L * skin.inverseBind().length;
      }
    }
    for (Clip clip : scene.clips()) {
      for (Clip.Track track : clip.tracks()) {
        if (seen.add(track)) {
          bytes += PER_OBJECT + 8L * (track.timesSeconds().length + track.values().length);
          bytes += track.inSlopes() == null ? 0 : 16L * track.inSlopes().length;
        }
      }
    }
    for (Texture texture : scene.textures()) {
      if (seen.add(texture)) {
        bytes += PER_OBJECT + (texture.embedded() == null ? 0 : texture.embedded().length);
      }
    }
  }

  private void add(PolygonMesh mesh) {
    if (!seen.add(mesh)) {
      return;
    }
    bytes += PER_OBJECT;
    if (seen.add(mesh.points())) {
      bytes += 12L * mesh.points().count();
    }
    if (seen.add(mesh.faces())) {
      bytes += 4L * (mesh.faces().cornerCount() + mesh.faces().faceCount());
    }
    for (Attribute a : mesh.attributes()) {
      bytes += seen.add(a.table()) ? a.table().bytes() : 0;
      bytes += a.indices() != null && seen.add(a.indices()) ? 4L * a.indices().length : 0;
    }
    for (MorphTarget morph : mesh.morphs()) {
      for (MorphTarget.Shape shape : morph.shapes()) {
        bytes += seen.add(shape.deltas()) ? 8L * shape.deltas().length : 0;
      }
    }
    bytes += mesh.faceSlot() != null && seen.add(mesh.faceSlot()) ? 4L * mesh.faceSlot().length : 0;
  }
}
