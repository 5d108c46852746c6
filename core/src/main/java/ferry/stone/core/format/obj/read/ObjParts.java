package ferry.stone.core.format.obj.read;

import java.util.Locale;

/** What of an OBJ becomes a part of the scene. */
enum ObjParts {
  OBJECTS,
  GROUPS,
  MATERIALS,
  WHOLE;

  /** Name of the choice. */
  static final String FIELD = "partsFrom";

  String value() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** What a choice means for a file: without objects its groups are its parts. */
  static ObjParts of(String value, ObjData data) {
    ObjParts chosen = valueOf(value.toUpperCase(Locale.ROOT));
    return chosen == OBJECTS && data.objects.isEmpty() ? GROUPS : chosen;
  }

  /** Which part the faces of a run belong to; −1 for one named after the file. */
  int part(ObjData.Run run) {
    return switch (this) {
      case OBJECTS -> run.object();
      case GROUPS -> run.group();
      case MATERIALS -> run.material();
      case WHOLE -> -1;
    };
  }

  /** Which part vertices that nothing uses belong to. */
  int part(ObjData.Owner owner) {
    return switch (this) {
      case OBJECTS -> owner.object();
      case GROUPS -> owner.group();
      case MATERIALS, WHOLE -> -1;
    };
  }

  String name(int part, ObjData data) {
    return switch (this) {
      case OBJECTS -> data.objects.get(part);
      case GROUPS -> String.join(" ", data.groups.get(part));
      case MATERIALS -> data.materials.get(part);
      case WHOLE -> "";
    };
  }

  /** Whether groups become sets of faces, since they are no parts. */
  boolean keepsGroups() {
    return this != GROUPS;
  }
}
