package ferry.stone.core.format.gltf;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.gltf.plan.ImageKind;
import ferry.stone.core.format.gltf.read.GltfReader;
import ferry.stone.core.format.gltf.read.GltfRules;
import ferry.stone.core.format.gltf.read.GltfTree;
import ferry.stone.core.format.gltf.write.GltfLayers;
import ferry.stone.core.format.gltf.write.GltfPacking;
import ferry.stone.core.format.gltf.write.GltfTangents;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.format.losses.ReadBack;
import ferry.stone.core.format.losses.StrictReading;
import ferry.stone.core.geometry.triangle.RenderMesh;
import ferry.stone.core.geometry.triangle.RenderPrimitive;
import ferry.stone.core.motion.InBetweens;
import ferry.stone.core.scene.Copies;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.List;
import java.util.stream.Stream;

/** Triangles by material, metallic-roughness, no shear: what glTF holds of a scene. */
record GltfHolding(GltfPacking packing) implements Holding {
  @Override
  public String format() {
    return "glTF";
  }

  @Override
  public Capability.Fate fate(Capability capability) {
    return capability == Capability.PACKED_IMAGES && packing.leavesPackedImages()
        ? Capability.Fate.LOST
        : GltfCapabilities.TABLE.of(capability).written();
  }

  @Override
  public Scene read(String mainFile, ReadContext context) throws IOException, FormatException {
    return GltfTree.viewed(
        StrictReading.read(GltfRules::check, GltfReader::read, mainFile, context));
  }

  @Override
  public ReadBack back(String mainFile, ReadContext context) throws IOException, FormatException {
    return new ReadBack(
        read(mainFile, context), scene -> GltfTree.read(mainFile, context.resources()));
  }

  @Override
  public boolean listsCopies(Scene arrived) {
    return !Copies.listed(arrived).isEmpty();
  }

  @Override
  public boolean isTriangulated() {
    return true;
  }

  @Override
  public boolean isByPrimitives() {
    return true;
  }

  @Override
  public List<RenderPrimitive> primitives(Scene scene, PolygonMesh mesh, Progress progress) {
    GltfTangents needed =
        scene == null ? GltfTangents.NONE : GltfTangents.of(scene, packing.tangents());
    return packing.primitives(mesh, needed, progress);
  }

  @Override
  public List<RenderPrimitive> order(Scene scene, PolygonMesh mesh) {
    // Tangents change no order; normals that a mesh gets part its vertices.
    PolygonMesh lit = GltfTangents.of(scene, packing.tangents()).lit(mesh, Progress.NONE);
    return primitives(isReordered() ? scene : null, lit, Progress.NONE);
  }

  @Override
  public int[] faces(Scene scene, PolygonMesh mesh) {
    boolean plain = !packing.drawOrder() && packing.indexBits() != GltfPacking.IndexBits.SHORT;
    return plain ? RenderMesh.faces(mesh) : Holding.super.faces(scene, mesh);
  }

  @Override
  public List<Attribute> layers(PolygonMesh mesh) {
    return custom(mesh).map(GltfLayers::layer).toList();
  }

  @Override
  public List<String> layerNames(PolygonMesh mesh) {
    return custom(mesh).map(GltfLayers::name).toList();
  }

  private static Stream<GltfLayers> custom(PolygonMesh mesh) {
    return GltfLayers.of(mesh).stream().filter(layer -> !layer.isColours());
  }

  @Override
  public boolean isRounded() {
    return packing.quantized();
  }

  @Override
  public boolean isRepacked() {
    return packing.imageKind() != ImageKind.SAME;
  }

  @Override
  public boolean isReordered() {
    return packing.drawOrder();
  }

  @Override
  public Scene expected(Scene far) {
    return InBetweens.asTargets(far);
  }

  @Override
  public boolean isMetallicRoughness() {
    return true;
  }

  @Override
  public String originalMaterial(String name) {
    return GltfCapabilities.original(name);
  }
}
