package ferry.stone.core.format.fbx.raw;

/**
 * The name of an object with its class: {@code name\0\1class} in the binary form, {@code
 * class::name} in text.
 */
public record FbxName(String name, String type) {
  String binary() {
    return name + "\u0000\u0001" + type;
  }

  String text() {
    return type + "::" + name;
  }
}
