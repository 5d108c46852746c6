package ferry.stone.core.format.obj.write;

import ferry.stone.core.format.files.Output;
import ferry.stone.core.format.obj.raw.NumberWords;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.work.Progress;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * Writes the parts of a scene at their world positions, one object each, in the order of the scene.
 * Same scene, same bytes.
 */
public final class ObjWriter {
  private static final int CHECK = 4096;

  private final Scene scene;
  private final Writer out;
  private final Progress progress;
  private final Map<Integer, String> materials = new HashMap<>();
  private long firstVertex = 1;
  private long firstUv = 1;
  private long firstNormal = 1;
  // States go on from part to part.
  private String group = "";
  private int material = -1;
  private int smoothing = -1;

  private ObjWriter(Scene scene, Writer out, Progress progress) {
    this.scene = scene;
    this.out = out;
    this.progress = progress;
    scene.materials().forEach(m -> materials.put(m.id(), m.name()));
  }

  /** Writes {@code stem.obj} and {@code library.mtl}; textures are named, not copied. */
  public static void write(Scene scene, String stem, String library, Output output)
      throws IOException {
    write(scene, stem, library, List.of("written by Stone Ferry"), output, Progress.NONE);
    materials(
        scene,
        library,
        output,
        use -> new MtlImages.Named(scene.texture(use.textureId()).orElseThrow().written(), false));
  }

  /**
   * Writes {@code stem.obj}.
   *
   * @param library the material file without ending, {@code null} for none
   */
  public static void write(
      Scene scene,
      String stem,
      String library,
      List<String> remarks,
      Output output,
      Progress progress)
      throws IOException {
    try (Writer out = writer(output, stem + ".obj")) {
      for (String remark : remarks) {
        out.write("# " + remark + "\n");
      }
      if (library != null) {
        out.write("mtllib " + library + ".mtl\n");
      }
      ObjWriter writer = new ObjWriter(scene, out, progress);
      List<Scene.ShownMesh> shown = scene.shownMeshes();
      for (int i = 0; i < shown.size(); i++) {
        progress.report("writing " + shown.get(i).node().name(), (double) i / shown.size());
        writer.part(shown.get(i));
      }
    }
  }

  public static void materials(Scene scene, String library, Output output, MtlWriter.Images images)
      throws IOException {
    try (Writer out = writer(output, library + ".mtl")) {
      MtlWriter.write(scene, out, images);
    }
  }

  private static Writer writer(Output output, String name) throws IOException {
    return new BufferedWriter(
        new OutputStreamWriter(output.create(name), StandardCharsets.UTF_8), 1 << 16);
  }

  private void part(Scene.ShownMesh shown) throws IOException {
    PolygonMesh mesh = shown.mesh();
    out.write("o " + shown.node().name() + "\n");
    vertices(mesh, shown.world());
    Attribute uv = mesh.first(Semantic.UV).orElse(null);
    Attribute normal = mesh.first(Semantic.NORMAL).orElse(null);
    values("vt", uv, 2);
    values("vn", normal, 3);
    faces(mesh, uv, normal);
    loose(mesh.loose());
    firstVertex += mesh.points().count();
    firstUv += uv == null ? 0 : uv.valueCount();
    firstNormal += normal == null ? 0 : normal.valueCount();
  }

  private void vertices(PolygonMesh mesh, Matrix4d world) throws IOException {
    Attribute colours =
        mesh.first(Semantic.COLOUR).filter(c -> c.domain() == Domain.VERTEX).orElse(null);
    boolean still = world.equals(new Matrix4d());
    Vector3d p = new Vector3d();
    boolean wide = mesh.points().isDouble();
    for (int v = 0; v < mesh.points().count(); v++) {
      check(v);
      p.set(mesh.points().x(v), mesh.points().y(v), mesh.points().z(v));
      if (!still) {
        world.transformPosition(p);
      }
      out.write("v");
      number(p.x, wide);
      number(p.y, wide);
      number(p.z, wide);
      for (int k = 0; colours != null && k < 3; k++) {
        int at = colours.valueOf(0, v, 0);
        number(at < 0 ? 1 : colours.values()[colours.components() * at + k], false);
      }
      out.write('\n');
    }
  }

  private void check(int element) {
    if (element % CHECK == 0) {
      progress.checkCancelled();
    }
  }

  private void number(double value, boolean wide) throws IOException {
    out.write(' ');
    out.write(wide ? NumberWords.of(value) : NumberWords.of((float) value));
  }

  private void values(String key, Attribute attribute, int components) throws IOException {
    for (int i = 0; attribute != null && i < attribute.valueCount(); i++) {
      check(i);
      out.write(key);
      for (int k = 0; k < components; k++) {
        number(attribute.values()[attribute.components() * i + k], false);
      }
      out.write('\n');
    }
  }

  private void faces(PolygonMesh mesh, Attribute uv, Attribute normal) throws IOException {
    Polygons faces = mesh.faces();
    String[] groups = groups(mesh);
    for (int f = 0; f < faces.faceCount(); f++) {
      check(f);
      state(mesh, f, groups == null || groups[f] == null ? "" : groups[f]);
      out.write('f');
      for (int c = faces.start(f); c < faces.end(f); c++) {
        int v = faces.vertex(c);
        int t = uv == null ? -1 : uv.valueOf(c, v, f);
        int n = normal == null ? -1 : normal.valueOf(c, v, f);
        out.write(' ');
        out.write(Long.toString(v + firstVertex));
        if (t >= 0 || n >= 0) {
          out.write('/');
          out.write(t >= 0 ? Long.toString(t + firstUv) : "");
          if (n >= 0) {
            out.write('/');
            out.write(Long.toString(n + firstNormal));
          }
        }
      }
      out.write('\n');
    }
  }

  /** Group, material and smoothing of a face, where they are others than before. */
  private void state(PolygonMesh mesh, int face, String newGroup) throws IOException {
    if (!newGroup.equals(group)) {
      group = newGroup;
      out.write(("g " + group).strip() + "\n");
    }
    int newMaterial = materials.containsKey(mesh.materialOf(face)) ? mesh.materialOf(face) : -1;
    if (newMaterial != material) {
      material = newMaterial;
      out.write(("usemtl " + materials.getOrDefault(material, "")).strip() + "\n");
    }
    // Unsaid at first; what an earlier part said would go on.
    int newSmoothing = mesh.smoothing() == null ? Math.min(0, smoothing) : mesh.smoothing()[face];
    if (newSmoothing != smoothing) {
      smoothing = newSmoothing;
      out.write("s " + (smoothing == 0 ? "off" : Integer.toString(smoothing)) + "\n");
    }
  }

  /** The names of each face's sets; {@code null} when the mesh has none. */
  private static String[] groups(PolygonMesh mesh) {
    if (mesh.faceSets().isEmpty()) {
      return null;
    }
    List<List<String>> names = new ArrayList<>();
    Map<String, String> known = new HashMap<>();
    for (int f = 0; f < mesh.faces().faceCount(); f++) {
      names.add(null);
    }
    for (FaceSet set : mesh.faceSets()) {
      for (int f : set.faces()) {
        List<String> own = names.get(f) == null ? new ArrayList<>(1) : names.get(f);
        own.add(set.name());
        names.set(f, own);
      }
    }
    String[] groups = new String[names.size()];
    for (int f = 0; f < groups.length; f++) {
      String all = names.get(f) == null ? null : String.join(" ", names.get(f));
      groups[f] = all == null ? null : known.computeIfAbsent(all, k -> k);
    }
    return groups;
  }

  private void loose(LooseElements loose) throws IOException {
    if (loose == null) {
      return;
    }
    for (int l = 0; l < loose.lineCount(); l++) {
      check(l);
      out.write('l');
      for (int i = loose.lineOffsets()[l]; i < loose.lineOffsets()[l + 1]; i++) {
        out.write(" " + (loose.lineVertices()[i] + firstVertex));
      }
      out.write('\n');
    }
    for (int point : loose.points()) {
      out.write("p " + (point + firstVertex) + "\n");
    }
  }
}
