package ferry.stone.core.proof.pair;

import ferry.stone.core.geometry.mesh.MeshMeasure;
import ferry.stone.core.geometry.mesh.Pieces;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.Ledger;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Skin;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;

/** What the handling changes, before anything has landed: near and far side, fact by fact. */
public final class SideLedger {
  private final Ledger ledger = new Ledger();
  private final Scene near;
  private final Scene far;

  private SideLedger(Scene near, Scene far) {
    this.near = near;
    this.far = far;
  }

  /** All facts; the landed column is empty. */
  public static List<LedgerRow> of(Scene near, Scene far) {
    SideLedger sides = new SideLedger(near, far);
    sides.whole();
    sides.contents();
    sides.parts();
    return sides.ledger.rows();
  }

  private void row(String fact, int nodeId, String nearText, String farText, String note) {
    boolean same = Objects.equals(nearText, farText);
    ledger.add(
        fact,
        nodeId,
        nearText,
        farText,
        "",
        same ? "0" : "",
        same ? Verdict.KEPT : Verdict.CHANGED,
        same ? "" : note);
  }

  private void count(String fact, int nodeId, long before, long after) {
    ledger.add(
        fact,
        nodeId,
        Figures.count(before),
        Figures.count(after),
        "",
        before == after ? "0" : String.format("%+d", after - before),
        before == after ? Verdict.KEPT : after < before ? Verdict.LOST : Verdict.CHANGED,
        "");
  }

  private void whole() {
    ledger.group("Whole scene");
    row("Unit and axes", -1, frame(near), frame(far), "the handling reads it so");
    for (String side : new String[] {"Height", "Width", "Depth"}) {
      row(side, -1, length(near, side), length(far, side), "");
    }
  }

  private static String frame(Scene scene) {
    boolean assumed = scene.unitSource() == FrameSource.ASSUMED;
    return scene.frame().label() + (assumed ? ", not stated" : "");
  }

  private static String length(Scene scene, String side) {
    Bounds box = scene.bounds();
    if (box.isEmpty()) {
      return "—";
    }
    int up = scene.frame().up().index();
    int front = scene.frame().front().index();
    int axis = side.equals("Height") ? up : side.equals("Width") ? 3 - up - front : front;
    return Figures.length(box.size(axis) * scene.frame().metresPerUnit());
  }

  private void contents() {
    count("Parts in the hierarchy", -1, near.nodes().size(), far.nodes().size());
    count("Meshes", -1, near.meshes().size(), far.meshes().size());
    count("Materials", -1, near.materials().size(), far.materials().size());
    count("Textures", -1, near.textures().size(), far.textures().size());
    optional("Skins", near.skins(), far.skins());
    if (!near.skins().isEmpty()) {
      count("Most joints of a vertex", -1, influences(near), influences(far));
    }
    optional("Clips", near.clips(), far.clips());
    optional("Cameras", near.cameras(), far.cameras());
    optional("Lights", near.lights(), far.lights());
  }

  private void optional(String fact, List<?> before, List<?> after) {
    if (!before.isEmpty() || !after.isEmpty()) {
      count(fact, -1, before.size(), after.size());
    }
  }

  private static long influences(Scene scene) {
    return scene.skins().stream().mapToInt(Skin::mostInfluences).max().orElse(0);
  }

  private void parts() {
    Map<Integer, Scene.ShownMesh> before = new HashMap<>();
    near.shownMeshes().forEach(shown -> before.put(shown.node().id(), shown));
    for (Scene.ShownMesh after : far.shownMeshes()) {
      Scene.ShownMesh was = before.remove(after.node().id());
      ledger.group(after.path());
      int id = after.node().id();
      if (was == null) {
        row("Part", id, "—", "yes", "a step made it");
        continue;
      }
      row("Name", id, was.node().name(), after.node().name(), "renamed");
      part(id, was.mesh(), after.mesh());
    }
    for (Scene.ShownMesh gone : before.values()) {
      ledger.group(gone.path());
      row("Part", gone.node().id(), "yes", "—", "a step took it away");
    }
  }

  private void part(int id, PolygonMesh was, PolygonMesh is) {
    count("Faces", id, was.faces().faceCount(), is.faces().faceCount());
    count("Vertices", id, was.points().count(), is.points().count());
    if (was == is) {
      // The same mesh: its other facts need not be measured twice.
      count("UV sets", id, was.all(Semantic.UV).size(), is.all(Semantic.UV).size());
      return;
    }
    count("Loose pieces", id, pieces(was), pieces(is));
    row(
        "Surface area, square units",
        id,
        Figures.plain(MeshMeasure.of(was).area()),
        Figures.plain(MeshMeasure.of(is).area()),
        "");
    count("UV sets", id, was.all(Semantic.UV).size(), is.all(Semantic.UV).size());
    row("Normals", id, normals(was), normals(is), "");
    row("Morph targets", id, morphs(was), morphs(is), "");
  }

  private static long pieces(PolygonMesh mesh) {
    return Pieces.byVertex(mesh.faces(), mesh.points().count()).count();
  }

  private static String normals(PolygonMesh mesh) {
    return mesh.first(Semantic.NORMAL)
        .map(n -> Figures.count(n.valueCount(), "normal"))
        .orElse("none");
  }

  private static String morphs(PolygonMesh mesh) {
    return mesh.morphs().isEmpty()
        ? "none"
        : mesh.morphs().stream().map(m -> m.name()).collect(Collectors.joining(", "));
  }
}
