package ferry.stone.core.format.gltf.read;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.field.Field;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.ReferenceFinder;
import ferry.stone.core.format.gltf.GltfFormat;
import ferry.stone.core.format.gltf.raw.GltfContainer;
import ferry.stone.core.format.gltf.raw.GltfExtensions;
import ferry.stone.core.format.gltf.raw.GltfExtras;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/** Reads a GLB or glTF file; see {@link GltfFormat} for what is read. */
public final class GltfReader {
  /** What can be chosen. */
  public static final List<Field> FIELDS =
      List.of(
          Field.number(
              GltfNodeReader.SCENE,
              "Which scene of the file",
              "",
              0,
              1_000_000,
              0,
              "Counted from 1. 0 for the one that the file names."));

  private final GltfContainer container;
  private final ReadContext context;
  private final SceneBuilder scene;

  private GltfReader(GltfContainer container, ReadContext context, SceneBuilder scene) {
    this.container = container;
    this.context = context;
    this.scene = scene;
  }

  public static Scene read(String resource, ReadContext context)
      throws IOException, FormatException {
    ReferenceFinder finder = new ReferenceFinder(context.resources(), context.bindings());
    GltfContainer container =
        GltfContainer.open(resource, context.resources(), finder, context.findings());
    SceneBuilder scene =
        new SceneBuilder(CargoPath.stem(resource))
            .frame(Frame.Y_UP_METRE, FrameSource.FORMAT, FrameSource.FORMAT)
            .uvOrigin(UvOrigin.TOP_LEFT)
            .linearColours(true);
    return new GltfReader(container, context, scene).build(finder, resource);
  }

  private Scene build(ReferenceFinder finder, String resource) throws IOException, FormatException {
    JsonNode root = container.root();
    checkExtensions(root, resource);
    GltfExtras.properties(root.path("asset"), GltfExtensions.READ, Set.of())
        .forEach(scene::property);
    for (String key : new String[] {"generator", "copyright"}) {
      if (root.path("asset").hasNonNull(key)) {
        scene.property(key, root.path("asset").path(key).asText());
      }
    }
    GltfMaterialReader materials =
        new GltfMaterialReader(container, scene, finder, context.resources(), resource);
    List<Integer> materialIds = materials.read(context.findings());
    for (JsonNode variant : root.at("/extensions/" + GltfExtensions.VARIANTS + "/variants")) {
      scene.variant(variant.path("name").asText(""));
    }
    GltfMeshReader meshReader = new GltfMeshReader(container, materialIds, context.findings());
    List<GltfMeshReader.ReadMesh> meshes = new ArrayList<>();
    int count = root.path("meshes").size();
    for (int m = 0; m < count; m++) {
      context.progress().checkCancelled();
      context.progress().report("reading meshes", 0.8 * m / count);
      GltfMeshReader.ReadMesh read = meshReader.read(m, scene.newId());
      meshes.add(read);
      PolygonMesh mesh = read.mesh();
      scene.add(mesh);
    }
    new GltfNodeReader(container, scene, meshes, materialIds, resource, context).read();
    GltfUnread.tell(root, scene);
    return scene.build();
  }

  private void checkExtensions(JsonNode root, String resource) throws FormatException {
    int i = 0;
    for (JsonNode extension : root.path("extensionsRequired")) {
      String name = extension.asText();
      if (!GltfExtensions.READ.contains(name)) {
        throw container.error(
            Kind.UNSUPPORTED, "/extensionsRequired/" + i, GltfExtensions.refusal(name));
      }
      i++;
    }
    for (JsonNode extension : root.path("extensionsUsed")) {
      String name = extension.asText();
      if (!GltfExtensions.READ.contains(name)) {
        context
            .findings()
            .add(
                Finding.of(
                    "extension-carried",
                    Severity.LOOK,
                    resource,
                    "The extension "
                        + name
                        + " is not understood. It is optional: what it says is kept as it is and"
                        + " written to glTF again, but not shown or checked."));
      }
    }
  }
}
