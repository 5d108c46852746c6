package ferry.stone.core.format.gltf.raw;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;

/**
 * Holds the JSON of a glTF against the types that the standard gives its members, before anything
 * is read from it: what passes can be read by name without a further look at its type. The types
 * are those of the schemas published with glTF 2.0 and with the extensions that are read.
 *
 * <p>A member that is {@code null} counts as not there and is reported; in a list it is refused.
 * Members that no schema names, extras and extensions that are not read may be anything.
 */
final class GltfShape {
  /** A value has another type than the standard gives it. */
  static final class Mismatch extends Exception {
    private static final long serialVersionUID = 1L;
    private final String path;

    Mismatch(String path, String problem) {
      super(problem);
      this.path = path;
    }

    String path() {
      return path;
    }
  }

  /*
   * Members with their types: "index" is a whole number from 0, "size" one that may be larger than
   * 2 GB, "[x]" a list, "[x]3" a list of three, "{x}" an object whose members are all x; other words
   * name further objects. An "!" marks a member that must be there. Extensions stand under the
   * object's name, a dot and their own.
   */
  private static final String[][] OBJECTS = {
    {"gltf", "asset:asset! scene:index scenes:[scene] nodes:[node] meshes:[mesh]"},
    {"gltf", "materials:[material] textures:[texture] images:[image] samplers:[sampler]"},
    {"gltf", "accessors:[accessor] bufferViews:[view] buffers:[buffer] animations:[animation]"},
    {"gltf", "skins:[skin] cameras:[camera] extensionsUsed:[text] extensionsRequired:[text]"},
    {"gltf." + GltfExtensions.LIGHTS, "lights:[light]"},
    {"gltf." + GltfExtensions.VARIANTS, "variants:[variant]"},
    {"asset", "version:text minVersion:text generator:text copyright:text"},
    {"scene", "name:text nodes:[index]"},
    {"node", "name:text camera:index children:[index] skin:index mesh:index weights:[number]"},
    {"node", "matrix:[number]16 rotation:[number]4 scale:[number]3 translation:[number]3"},
    {"node." + GltfExtensions.LIGHTS, "light:index!"},
    {"node." + GltfExtensions.LEVELS, "ids:[index]"},
    {"node." + GltfExtensions.INSTANCING, "attributes:{index}"},
    {"node." + GltfExtensions.VISIBILITY, "visible:flag"},
    {"mesh", "name:text primitives:[primitive] weights:[number]"},
    {"primitive", "attributes:{index} targets:[{index}] indices:index material:index mode:whole"},
    {"primitive." + GltfExtensions.DRACO, "bufferView:index! attributes:{index}"},
    {"primitive." + GltfExtensions.VARIANTS, "mappings:[mapping]"},
    {"mapping", "material:index! variants:[index]! name:text"},
    {"variant", "name:text"},
    {"material", "name:text pbrMetallicRoughness:metallic normalTexture:use emissiveTexture:use"},
    {"material", "occlusionTexture:use emissiveFactor:[number]3 alphaMode:text"},
    {"material", "alphaCutoff:number doubleSided:flag"},
    {"material." + GltfExtensions.EMISSIVE_STRENGTH, "emissiveStrength:number"},
    {"material." + GltfExtensions.UNLIT, ""},
    {"material." + GltfExtensions.SPECULAR_GLOSSINESS, "diffuseFactor:[number]4"},
    {"material." + GltfExtensions.SPECULAR_GLOSSINESS, "diffuseTexture:use"},
    {"material." + GltfExtensions.SPECULAR_GLOSSINESS, "specularFactor:[number]3"},
    {"material." + GltfExtensions.SPECULAR_GLOSSINESS, "glossinessFactor:number"},
    {"material." + GltfExtensions.SPECULAR_GLOSSINESS, "specularGlossinessTexture:use"},
    {"metallic", "baseColorFactor:[number]4 metallicFactor:number roughnessFactor:number"},
    {"metallic", "baseColorTexture:use metallicRoughnessTexture:use"},
    {"use", "index:index! texCoord:index scale:number strength:number"},
    {"use." + GltfExtensions.TRANSFORM, "offset:[number]2 scale:[number]2 rotation:number"},
    {"use." + GltfExtensions.TRANSFORM, "texCoord:index"},
    {"texture", "name:text sampler:index source:index"},
    {"texture." + GltfExtensions.WEBP, "source:index"},
    {"texture." + GltfExtensions.AVIF, "source:index"},
    {"texture." + GltfExtensions.KTX2, "source:index"},
    {"image", "name:text uri:text mimeType:text bufferView:index"},
    {"sampler", "name:text wrapS:whole wrapT:whole magFilter:whole minFilter:whole"},
    {"accessor", "name:text bufferView:index byteOffset:index componentType:whole count:index"},
    {"accessor", "normalized:flag type:text sparse:sparse"},
    {"sparse", "count:index! indices:part! values:part!"},
    {"part", "bufferView:index! byteOffset:index componentType:whole"},
    {"view", "name:text buffer:index byteOffset:size byteLength:size byteStride:index"},
    {"view." + GltfExtensions.MESHOPT, "buffer:index byteOffset:size byteLength:size count:index"},
    {"view." + GltfExtensions.MESHOPT, "byteStride:index mode:text filter:text"},
    {"buffer", "name:text uri:text byteLength:size"},
    {"animation", "name:text channels:[channel] samplers:[curve]"},
    {"channel", "sampler:index target:target!"},
    {"target", "node:index path:text"},
    {"target." + GltfExtensions.POINTER, "pointer:text"},
    {"curve", "input:index interpolation:text output:index"},
    {"skin", "name:text joints:[index] inverseBindMatrices:index skeleton:index"},
    {"camera", "name:text type:text perspective:perspective orthographic:orthographic"},
    {"perspective", "yfov:number aspectRatio:number znear:number zfar:number"},
    {"orthographic", "xmag:number ymag:number znear:number zfar:number"},
    {"light", "name:text type:text color:[number]3 intensity:number range:number spot:spot"},
    {"spot", "innerConeAngle:number outerConeAngle:number"},
  };

  private record Member(String type, boolean needed) {}

  private static final Map<String, Map<String, Member>> SHAPES = shapes();

  private final List<String> nulls = new ArrayList<>();

  private GltfShape() {}

  private static Map<String, Map<String, Member>> shapes() {
    Map<String, Map<String, Member>> shapes = new HashMap<>();
    for (String[] object : OBJECTS) {
      Map<String, Member> members = shapes.computeIfAbsent(object[0], k -> new HashMap<>());
      for (String written : object[1].isEmpty() ? new String[0] : object[1].split(" ")) {
        String[] parts = written.split(":");
        boolean needed = parts[1].endsWith("!");
        members.put(
            parts[0],
            new Member(needed ? parts[1].substring(0, parts[1].length() - 1) : parts[1], needed));
      }
    }
    for (GltfMaterialExtensions.Extension extension : GltfMaterialExtensions.ALL) {
      Map<String, Member> members = new HashMap<>();
      for (GltfMaterialExtensions.Member member : extension.members()) {
        if (member.factor() != null) {
          int size = member.otherwise().length;
          members.put(member.factor(), new Member(size == 1 ? "number" : "[number]" + size, false));
        }
        if (member.texture() != null) {
          members.put(member.texture(), new Member("use", false));
        }
      }
      shapes.put("material." + extension.name(), members);
    }
    return shapes;
  }

  /** Checks all of a file's JSON; the places of members that were {@code null} and are left out. */
  static List<String> check(JsonNode root) throws Mismatch {
    GltfShape shape = new GltfShape();
    shape.object(root, "gltf", "");
    return shape.nulls;
  }

  private void object(JsonNode json, String name, String path) throws Mismatch {
    if (!json.isObject()) {
      throw mismatch(path, "an object", json);
    }
    Map<String, Member> members = SHAPES.get(name);
    for (Iterator<Map.Entry<String, JsonNode>> i = json.fields(); i.hasNext(); ) {
      Map.Entry<String, JsonNode> entry = i.next();
      String place = path + "/" + entry.getKey();
      Member member = members.get(entry.getKey());
      if (entry.getValue().isNull() && !entry.getKey().equals("extras")) {
        nulls.add(place);
        i.remove();
      } else if (member != null) {
        value(entry.getValue(), member.type(), place);
      } else if (entry.getKey().equals("extensions")) {
        extensions(entry.getValue(), name, place);
      }
    }
    for (Map.Entry<String, Member> member : members.entrySet()) {
      if (member.getValue().needed() && !json.has(member.getKey())) {
        throw new Mismatch(path + "/" + member.getKey(), "is missing. Export the file again.");
      }
    }
  }

  private void extensions(JsonNode json, String owner, String path) throws Mismatch {
    if (!json.isObject()) {
      throw mismatch(path, "an object", json);
    }
    for (Iterator<Map.Entry<String, JsonNode>> i = json.fields(); i.hasNext(); ) {
      Map.Entry<String, JsonNode> entry = i.next();
      String place = path + "/" + entry.getKey();
      String name = owner + "." + entry.getKey();
      if (entry.getValue().isNull()) {
        nulls.add(place);
        i.remove();
      } else if (SHAPES.containsKey(name)) {
        object(entry.getValue(), name, place);
      }
    }
  }

  private void value(JsonNode json, String type, String path) throws Mismatch {
    boolean fits =
        switch (type) {
          case "text" -> json.isTextual();
          case "flag" -> json.isBoolean();
          case "number" -> json.isNumber() && Double.isFinite(json.asDouble());
          case "whole" -> isWhole(json);
          case "index" -> isWhole(json) && json.asDouble() >= 0;
          case "size" -> isSize(json);
          default -> {
            if (type.startsWith("[")) {
              list(json, type, path);
            } else if (type.startsWith("{")) {
              all(json, type.substring(1, type.length() - 1), path);
            } else {
              object(json, type, path);
            }
            yield true;
          }
        };
    if (!fits) {
      String expected =
          switch (type) {
            case "text" -> "text in quotes";
            case "flag" -> "true or false";
            case "number" -> "a number";
            case "whole" -> "a whole number";
            default -> "a whole number from 0";
          };
      throw mismatch(path, expected, json);
    }
  }

  private static boolean isWhole(JsonNode json) {
    return json.isNumber()
        && json.asDouble() == Math.rint(json.asDouble())
        && Math.abs(json.asDouble()) <= Integer.MAX_VALUE;
  }

  /** Bytes may be more than there are numbers of 31 bits. */
  private static boolean isSize(JsonNode json) {
    return json.isNumber()
        && json.asDouble() == Math.rint(json.asDouble())
        && json.asDouble() >= 0
        && json.asDouble() <= Long.MAX_VALUE / 2;
  }

  private void list(JsonNode json, String type, String path) throws Mismatch {
    if (!json.isArray()) {
      throw mismatch(path, "a list", json);
    }
    int end = type.lastIndexOf(']');
    if (end + 1 < type.length() && json.size() != Integer.parseInt(type.substring(end + 1))) {
      throw new Mismatch(
          path,
          "expected "
              + type.substring(end + 1)
              + " numbers, found "
              + json.size()
              + ". Export the file again.");
    }
    for (int i = 0; i < json.size(); i++) {
      value(json.get(i), type.substring(1, end), path + "/" + i);
    }
  }

  private void all(JsonNode json, String type, String path) throws Mismatch {
    if (!json.isObject()) {
      throw mismatch(path, "an object", json);
    }
    for (Iterator<Map.Entry<String, JsonNode>> i = ((ObjectNode) json).fields(); i.hasNext(); ) {
      Map.Entry<String, JsonNode> entry = i.next();
      if (entry.getValue().isNull()) {
        nulls.add(path + "/" + entry.getKey());
        i.remove();
      } else {
        value(entry.getValue(), type, path + "/" + entry.getKey());
      }
    }
  }

  private static Mismatch mismatch(String path, String expected, JsonNode found) {
    String text = found.toString();
    String shown = text.length() > 40 ? text.substring(0, 40) + "…" : text;
    return new Mismatch(
        path, "expected " + expected + ", found " + shown + ". Export the file again.");
  }
}
