package ferry.stone.cli;

import ferry.stone.core.format.gltf.GltfPacking;
import picocli.CommandLine.Option;

/** What makes a landed file smaller, for commands that land. */
final class PackingArguments {
  @Option(
      names = "--quantize",
      description = "Vertex values as 16-bit numbers (KHR_mesh_quantization).")
  private boolean quantized;

  @Option(
      names = "--compress",
      description = "Pack the numbers without loss (EXT_meshopt_compression).")
  private boolean compressed;

  @Option(
      names = "--index-bits",
      paramLabel = "BITS",
      defaultValue = "FITTING",
      description = "Triangle indices: FITTING (default), SHORT (16 bits) or LONG (32 bits).")
  private GltfPacking.IndexBits indexBits;

  @Option(
      names = "--draw-order",
      description = "Order triangles and vertices so that they draw fastest.")
  private boolean drawOrder;

  @Option(
      names = "--largest-texture",
      paramLabel = "PIXELS",
      description = "Longest side of an image; larger ones are made smaller.")
  private int largestTexture;

  @Option(
      names = "--gather-copies",
      description = "Copies under one parent as one node (EXT_mesh_gpu_instancing).")
  private boolean instanced;

  @Option(
      names = "--no-tangents",
      description = "Leave tangents for normal maps to each viewer; they are computed otherwise.")
  private boolean noTangents;

  @Option(
      names = "--all-joints",
      description = "Keep all joints of a vertex; the 4 strongest otherwise.")
  private boolean allJoints;

  /** Joints that are kept, 0 for all. */
  int influences() {
    return allJoints ? 0 : 4;
  }

  GltfPacking packing() {
    return new GltfPacking(
        quantized, compressed, indexBits, drawOrder, largestTexture, instanced, !noTangents);
  }
}
