package ferry.stone.core.format.gltf.raw;

import java.util.Set;
import java.util.TreeSet;

/** The extensions that are read, and what is said of those that are not. */
public final class GltfExtensions {
  public static final String LIGHTS = "KHR_lights_punctual";
  public static final String LEVELS = "MSFT_lod";
  public static final String INSTANCING = "EXT_mesh_gpu_instancing";
  public static final String VISIBILITY = "KHR_node_visibility";
  static final String TRANSFORM = "KHR_texture_transform";
  static final String EMISSIVE_STRENGTH = "KHR_materials_emissive_strength";
  public static final String UNLIT = "KHR_materials_unlit";
  public static final String QUANTIZATION = "KHR_mesh_quantization";
  public static final String MESHOPT = "EXT_meshopt_compression";
  public static final String SPECULAR_GLOSSINESS = "KHR_materials_pbrSpecularGlossiness";
  public static final String DRACO = "KHR_draco_mesh_compression";
  public static final String POINTER = "KHR_animation_pointer";
  public static final String KTX2 = "KHR_texture_basisu";
  public static final String WEBP = "EXT_texture_webp";
  public static final String AVIF = "EXT_texture_avif";
  public static final String VARIANTS = "KHR_materials_variants";

  /** Read by name. All others are refused when required and carried as they are when optional. */
  public static final Set<String> READ = read();

  private GltfExtensions() {}

  private static Set<String> read() {
    Set<String> read =
        new TreeSet<>(
            Set.of(
                LIGHTS,
                LEVELS,
                INSTANCING,
                VISIBILITY,
                TRANSFORM,
                EMISSIVE_STRENGTH,
                UNLIT,
                QUANTIZATION,
                MESHOPT,
                DRACO,
                SPECULAR_GLOSSINESS,
                POINTER,
                VARIANTS,
                WEBP,
                KTX2));
    GltfMaterialExtensions.ALL.forEach(e -> read.add(e.name()));
    return Set.copyOf(read);
  }

  /** Why a required extension stops the reading, and what to do. */
  public static String refusal(String name) {
    if (name.equals(AVIF)) {
      return "the file's images are AVIF ("
          + AVIF
          + "), which is not read here. Export it with PNG,"
          + " JPEG, WebP or KTX2 images.";
    }
    return "the file needs "
        + name
        + ", which is not known here; without it the file would be read wrongly. Export again"
        + " without it.";
  }
}
