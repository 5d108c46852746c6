package ferry.stone.core.format.obj;

import ferry.stone.core.format.Output;
import ferry.stone.core.scene.Attribute;
import ferry.stone.core.scene.Attribute.Domain;
import ferry.stone.core.scene.Attribute.Semantic;
import ferry.stone.core.scene.Channel;
import ferry.stone.core.scene.Material;
import ferry.stone.core.scene.PolygonMesh;
import ferry.stone.core.scene.Polygons;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.TextureUse;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Map;
import org.joml.Vector3d;

/**
 * Writes a scene as OBJ and MTL in the scene's own frame. OBJ has no hierarchy: parts are written
 * at their world positions, one object each. Textures are named, not copied.
 */
public final class ObjWriter {
  private static final Map<Channel, String> VALUES =
      Map.of(
          Channel.BASE_COLOUR, "Kd",
          Channel.AMBIENT, "Ka",
          Channel.SPECULAR, "Ks",
          Channel.EMISSIVE, "Ke",
          Channel.SHININESS, "Ns",
          Channel.OPACITY, "d",
          Channel.ROUGHNESS, "Pr",
          Channel.METALLIC, "Pm");
  private static final Map<Channel, String> MAPS =
      Map.of(
          Channel.BASE_COLOUR, "map_Kd",
          Channel.SPECULAR, "map_Ks",
          Channel.EMISSIVE, "map_Ke",
          Channel.OPACITY, "map_d",
          Channel.ROUGHNESS, "map_Pr",
          Channel.METALLIC, "map_Pm",
          Channel.NORMAL, "norm",
          Channel.BUMP, "map_Bump");

  private final Scene scene;
  private final Writer out;
  private int firstVertex = 1;
  private int firstUv = 1;
  private int firstNormal = 1;

  private ObjWriter(Scene scene, Writer out) {
    this.scene = scene;
    this.out = out;
  }

  /** Writes {@code stem.obj} and {@code library.mtl}. */
  public static void write(Scene scene, String stem, String library, Output output)
      throws IOException {
    try (Writer out = writer(output, stem + ".obj")) {
      out.write("# written by Stone Ferry\nmtllib " + library + ".mtl\n");
      ObjWriter writer = new ObjWriter(scene, out);
      for (Scene.ShownMesh shown : scene.shownMeshes()) {
        writer.part(shown);
      }
    }
    writeMaterials(scene, library, output);
  }

  private static Writer writer(Output output, String name) throws IOException {
    return new BufferedWriter(
        new OutputStreamWriter(output.create(name), StandardCharsets.UTF_8), 1 << 16);
  }

  private void part(Scene.ShownMesh shown) throws IOException {
    PolygonMesh mesh = shown.mesh();
    out.write("o " + shown.node().name() + "\n");
    Attribute colours =
        mesh.first(Semantic.COLOUR).filter(c -> c.domain() == Domain.VERTEX).orElse(null);
    Vector3d p = new Vector3d();
    boolean wide = mesh.points().isDouble();
    for (int v = 0; v < mesh.points().count(); v++) {
      p.set(mesh.points().x(v), mesh.points().y(v), mesh.points().z(v));
      shown.world().transformPosition(p);
      out.write("v " + text(p.x, wide) + " " + text(p.y, wide) + " " + text(p.z, wide));
      for (int k = 0; colours != null && k < 3; k++) {
        out.write(" " + text(colours.values()[colours.components() * v + k], false));
      }
      out.write("\n");
    }
    Attribute uv = mesh.first(Semantic.UV).orElse(null);
    Attribute normal = mesh.first(Semantic.NORMAL).orElse(null);
    values("vt", uv);
    values("vn", normal);
    faces(mesh, uv, normal);
    loose(mesh);
    firstVertex += mesh.points().count();
    firstUv += uv == null ? 0 : uv.valueCount();
    firstNormal += normal == null ? 0 : normal.valueCount();
  }

  private void values(String key, Attribute attribute) throws IOException {
    for (int i = 0; attribute != null && i < attribute.valueCount(); i++) {
      out.write(key);
      for (int k = 0; k < attribute.components(); k++) {
        out.write(" " + text(attribute.values()[attribute.components() * i + k], false));
      }
      out.write("\n");
    }
  }

  private void faces(PolygonMesh mesh, Attribute uv, Attribute normal) throws IOException {
    Polygons faces = mesh.faces();
    Map<Integer, String> names = new HashMap<>();
    scene.materials().forEach(m -> names.put(m.id(), m.name()));
    Map<Integer, String> sets = new HashMap<>();
    mesh.faceSets()
        .forEach(
            set -> {
              for (int f : set.faces()) {
                sets.merge(f, set.name(), (a, b) -> a + " " + b);
              }
            });
    int material = -2;
    int smoothing = -1;
    String group = "";
    for (int f = 0; f < faces.faceCount(); f++) {
      String newGroup = sets.getOrDefault(f, "");
      if (!newGroup.equals(group)) {
        group = newGroup;
        out.write(("g " + group).strip() + "\n");
      }
      if (mesh.materialOf(f) != material) {
        material = mesh.materialOf(f);
        out.write(("usemtl " + names.getOrDefault(material, "")).strip() + "\n");
      }
      if (mesh.smoothing() != null && mesh.smoothing()[f] != smoothing) {
        smoothing = mesh.smoothing()[f];
        out.write("s " + (smoothing == 0 ? "off" : smoothing) + "\n");
      }
      out.write("f");
      for (int c = faces.start(f); c < faces.end(f); c++) {
        int v = faces.vertex(c);
        int t = uv == null ? -1 : uv.valueOf(c, v, f);
        int n = normal == null ? -1 : normal.valueOf(c, v, f);
        out.write(" " + (v + firstVertex));
        if (t >= 0 || n >= 0) {
          out.write("/" + (t >= 0 ? t + firstUv : ""));
          out.write(n >= 0 ? "/" + (n + firstNormal) : "");
        }
      }
      out.write("\n");
    }
  }

  private void loose(PolygonMesh mesh) throws IOException {
    if (mesh.loose() == null) {
      return;
    }
    for (int l = 0; l < mesh.loose().lineCount(); l++) {
      out.write("l");
      for (int i = mesh.loose().lineOffsets()[l]; i < mesh.loose().lineOffsets()[l + 1]; i++) {
        out.write(" " + (mesh.loose().lineVertices()[i] + firstVertex));
      }
      out.write("\n");
    }
    for (int point : mesh.loose().points()) {
      out.write("p " + (point + firstVertex) + "\n");
    }
  }

  private static void writeMaterials(Scene scene, String library, Output output)
      throws IOException {
    try (Writer out = writer(output, library + ".mtl")) {
      for (Material material : scene.materials()) {
        out.write("newmtl " + material.name() + "\n");
        for (Map.Entry<Channel, Material.Value> entry : material.channels().entrySet()) {
          value(out, VALUES.get(entry.getKey()), entry.getValue().factor());
          map(out, scene, MAPS.get(entry.getKey()), entry.getValue().texture());
        }
      }
    }
  }

  private static void value(Writer out, String key, double[] factor) throws IOException {
    if (key == null || factor == null) {
      return;
    }
    out.write(key);
    for (int i = 0; i < Math.min(3, factor.length); i++) {
      out.write(" " + text(factor[i], false));
    }
    out.write("\n");
  }

  private static void map(Writer out, Scene scene, String key, TextureUse use) throws IOException {
    if (key == null || use == null) {
      return;
    }
    out.write(key);
    if (use.scaleU() != 1 || use.scaleV() != 1) {
      out.write(" -s " + text(use.scaleU(), false) + " " + text(use.scaleV(), false) + " 1");
    }
    if (use.offsetU() != 0 || use.offsetV() != 0) {
      out.write(" -o " + text(use.offsetU(), false) + " " + text(use.offsetV(), false) + " 0");
    }
    if (use.clamp()) {
      out.write(" -clamp on");
    }
    if (use.amount() != 1 && key.equals("map_Bump")) {
      out.write(" -bm " + text(use.amount(), false));
    }
    out.write(" " + scene.texture(use.textureId()).orElseThrow().written() + "\n");
  }

  /** The shortest text that reads back as the same number. */
  private static String text(double value, boolean wide) {
    String text = wide ? Double.toString(value) : Float.toString((float) value);
    return text.endsWith(".0") ? text.substring(0, text.length() - 2) : text;
  }
}
