package ferry.stone.core.format.obj.read;

import ferry.stone.core.field.Field;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.ReferenceFinder;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Reads an OBJ and the material libraries it names.
 *
 * <p>Each object becomes a node with a mesh; in a file without objects each group does; in a file
 * with neither the whole file does. Groups inside objects become face sets.
 */
public final class ObjReader {
  /**
   * Where the coordinates are this many times larger than what they enclose, floats would move
   * vertices by more than a millionth of the asset's size: positions are then kept as doubles.
   */
  private static final double FLOAT_REACH = 16;

  /** What can be chosen. */
  public static final List<Field> FIELDS =
      List.of(
          Field.choice(
              ObjParts.FIELD,
              "What of an OBJ becomes a part",
              "Materials and the whole file keep groups as sets of faces.",
              ObjParts.OBJECTS.value(),
              "Its objects, its groups where it has none",
              ObjParts.GROUPS.value(),
              "Its groups",
              ObjParts.MATERIALS.value(),
              "Its materials",
              ObjParts.WHOLE.value(),
              "The whole file"));

  private ObjReader() {}

  /**
   * @param resource path of the OBJ in the cargo
   * @return the scene, in a frame that is only assumed: OBJ states none
   */
  public static Scene read(String resource, ReadContext context)
      throws IOException, FormatException {
    long size = context.resources().size(resource);
    if (size == 0) {
      throw new FormatException(
          FormatException.Kind.TRUNCATED,
          resource,
          "",
          "the file is empty (0 bytes). Export or copy it again.");
    }
    ObjData data = parse(resource, size, context);
    SceneBuilder scene = new SceneBuilder(CargoPath.stem(resource));
    ReferenceFinder finder = new ReferenceFinder(context.resources(), context.bindings());
    Map<String, MtlMaterial> definitions = readLibraries(resource, data, context, finder);
    Map<String, Integer> materialIds =
        new MaterialAssembler(scene, finder, context.findings())
            .assemble(data.materials, definitions, resource);
    context.progress().report("building " + resource, 0.9);
    ObjParts parts = ObjParts.of(context.values(FIELDS).text(ObjParts.FIELD), data);
    new ObjAssembler(data, parts, scene, materialIds, context.findings())
        .assemble(CargoPath.stem(resource));
    if (!data.comments.isEmpty()) {
      scene.property("comments", String.join("\n", data.comments));
    }
    return scene.build();
  }

  private static ObjData parse(String resource, long size, ReadContext context)
      throws IOException, FormatException {
    ObjData data;
    try (InputStream in = context.resources().open(resource)) {
      data =
          ObjParser.parse(
              in, resource, size, false, context.findings(), context.progress().part(0, 0.85));
    }
    if (data.largest > FLOAT_REACH * extent(data)) {
      try (InputStream in = context.resources().open(resource)) {
        return ObjParser.parse(
            in, resource, size, true, new Findings(), context.progress().part(0.4, 0.85));
      }
    }
    return data;
  }

  private static double extent(ObjData data) {
    double extent = 0;
    for (int axis = 0; axis < 3; axis++) {
      float lowest = Float.POSITIVE_INFINITY;
      float highest = Float.NEGATIVE_INFINITY;
      for (int i = axis; i < data.floats.size(); i += 3) {
        float value = data.floats.get(i);
        lowest = Math.min(lowest, value);
        highest = Math.max(highest, value);
      }
      extent = Math.max(extent, (double) highest - lowest);
    }
    return extent;
  }

  private static Map<String, MtlMaterial> readLibraries(
      String resource, ObjData data, ReadContext context, ReferenceFinder finder)
      throws IOException, FormatException {
    Map<String, MtlMaterial> definitions = new LinkedHashMap<>();
    for (Map.Entry<String, Integer> library : data.libraries.entrySet()) {
      for (String written : libraryNames(library.getKey(), resource, finder)) {
        var match = finder.find(written, resource);
        if (match.isEmpty()) {
          List<String> proposals = finder.propose(written);
          Finding missing =
              Finding.of(
                  "material-file-missing",
                  Severity.FIX,
                  resource + ", line " + library.getValue(),
                  "The material file \""
                      + written
                      + "\" is not in the cargo: add it, or the"
                      + " materials keep only their names.");
          if (!proposals.isEmpty()) {
            missing =
                missing
                    .evidence("a file \"" + proposals.get(0) + "\" is there")
                    .offer(Offer.bind("Use that file", written, proposals.get(0)));
          }
          context.findings().add(missing);
          continue;
        }
        String file = match.get().resource();
        if (match.get().how() == ReferenceFinder.How.NAME) {
          context
              .findings()
              .add(
                  Finding.of(
                          "file-found-elsewhere",
                          Severity.NOTE,
                          resource,
                          "The material file \"" + written + "\" was found as \"" + file + "\".")
                      .evidence("same file name"));
        }
        for (MtlMaterial material : MtlReader.read(file, context)) {
          if (definitions.putIfAbsent(material.name, material) != null) {
            context
                .findings()
                .add(
                    Finding.of(
                        "material-defined-twice",
                        Severity.LOOK,
                        file + ", line " + material.line,
                        "The material \""
                            + material.name
                            + "\" is defined again; the first definition is used."));
          }
        }
      }
    }
    return definitions;
  }

  /** A library statement may name several files, or one whose name has spaces. */
  private static List<String> libraryNames(
      String written, String resource, ReferenceFinder finder) {
    if (!written.contains(" ") || finder.find(written, resource).isPresent()) {
      return List.of(written);
    }
    List<String> names = new ArrayList<>();
    StringBuilder name = new StringBuilder();
    for (String word : written.split("\\s+")) {
      name.append(name.isEmpty() ? "" : " ").append(word);
      if (CargoPath.extension(word).equals("mtl")) {
        names.add(name.toString());
        name.setLength(0);
      }
    }
    if (!name.isEmpty()) {
      names.add(name.toString());
    }
    return names;
  }
}
