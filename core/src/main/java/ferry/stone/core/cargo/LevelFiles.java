package ferry.stone.core.cargo;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content.DetailGroup;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.joml.Matrix4d;

/**
 * Parts of a fine and of coarser files as levels of one: those of the same name, whatever it says
 * of how fine they are; where each file has one part alone, those. Each stays where it stands.
 */
final class LevelFiles {
  private final Scene scene;
  private final Matrix4d[] world;

  /** Nodes and their parents by id, in order. */
  private final Map<Integer, Node> nodes = new LinkedHashMap<>();

  private final Map<Integer, Integer> parents = new HashMap<>();
  private final Set<Integer> moved = new HashSet<>();

  /** Ids of nodes on which something hung before. */
  private final Set<Integer> full = new HashSet<>();

  private final Map<Integer, PolygonMesh> meshes;

  private LevelFiles(Scene scene) {
    this.scene = scene;
    world = scene.worldMatrices();
    meshes = scene.meshesById();
    for (Node node : scene.nodes()) {
      nodes.put(node.id(), node);
      parents.put(node.id(), node.parent() < 0 ? -1 : scene.nodes().get(node.parent()).id());
    }
    full.addAll(parents.values());
    for (Clip clip : scene.clips()) {
      clip.tracks().forEach(track -> moved.add(track.targetId()));
    }
  }

  /**
   * @param scene files as groups at the top, in their order
   * @param files of those groups
   * @param uses what each is taken for
   */
  static Scene put(Scene scene, List<String> files, Map<String, FileUse> uses, Findings findings) {
    List<Integer> tops = new ArrayList<>();
    for (int i = 0; i < scene.nodes().size(); i++) {
      if (scene.nodes().get(i).parent() < 0) {
        tops.add(i);
      }
    }
    int high = -1;
    List<Integer> low = new ArrayList<>();
    for (int f = 0; f < files.size() && tops.size() == files.size(); f++) {
      high = uses.get(files.get(f)) == FileUse.HIGH && high < 0 ? f : high;
      if (uses.get(files.get(f)) == FileUse.LOW) {
        low.add(f);
      }
    }
    if (high < 0 || low.isEmpty()) {
      return scene;
    }
    LevelFiles levels = new LevelFiles(scene);
    List<List<Integer>> coarser = new ArrayList<>();
    for (int f : low) {
      coarser.add(levels.parts(tops.get(f)));
    }
    return levels.joined(levels.parts(tops.get(high)), coarser, files.get(high), findings);
  }

  /** Places of the parts below a top. */
  private List<Integer> parts(int top) {
    boolean[] within = new boolean[scene.nodes().size()];
    within[top] = true;
    List<Integer> parts = new ArrayList<>();
    for (int i = top + 1; i < within.length; i++) {
      Node node = scene.nodes().get(i);
      within[i] = node.parent() >= 0 && within[node.parent()];
      if (within[i] && node.content() instanceof Node.Content.MeshContent) {
        parts.add(i);
      }
    }
    return parts;
  }

  private Scene joined(
      List<Integer> fine, List<List<Integer>> coarser, String file, Findings findings) {
    Map<String, List<Integer>> byName = new LinkedHashMap<>();
    for (int part : fine) {
      byName.putIfAbsent(LevelNames.plain(name(part)), new ArrayList<>(List.of(part)));
    }
    int alone = 0;
    for (List<Integer> parts : coarser) {
      boolean only = parts.size() == 1 && fine.size() == 1;
      Set<String> met = new HashSet<>();
      for (int part : parts) {
        String name = only ? LevelNames.plain(name(fine.get(0))) : LevelNames.plain(name(part));
        List<Integer> group = byName.get(name);
        if (group == null || isMoved(part) || !met.add(name)) {
          alone++;
        } else {
          group.add(part);
        }
      }
    }
    SceneBuilder builder = scene.toBuilder();
    int groups = 0;
    for (List<Integer> group : byName.values()) {
      if (group.size() > 1 && !isMoved(group.get(0))) {
        bundle(group, builder.newId());
        groups++;
      } else {
        alone++;
      }
    }
    findings.add(
        Finding.of(
                "levels-gathered",
                alone == 0 ? Severity.NOTE : Severity.LOOK,
                file,
                groups == 0
                    ? "No part of the coarser files has the name of one of its parts: none stand as"
                        + " levels of one."
                    : "Parts of the same name in this file and in coarser ones stand as levels of"
                        + " one, this file's first."
                        + (alone == 0 ? "" : " Others stand by themselves."))
            .measured(
                groups + " with levels" + (alone == 0 ? "" : ", " + alone + " by themselves")));
    return builder.nodes(ordered()).build();
  }

  private String name(int place) {
    return scene.nodes().get(place).name();
  }

  /** What a clip moves by itself would lose its way below another parent. */
  private boolean isMoved(int place) {
    for (int at = place; at >= 0; at = scene.nodes().get(at).parent()) {
      if (moved.contains(scene.nodes().get(at).id())) {
        return true;
      }
    }
    return false;
  }

  /** A group where the fine part hung; the coarser ones move below it and stay in place. */
  private void bundle(List<Integer> places, int id) {
    places
        .subList(1, places.size())
        .sort(Comparator.comparingLong((Integer p) -> triangles(p)).reversed());
    Node first = scene.nodes().get(places.get(0));
    DetailGroup levels = DetailGroup.bySize(places.size());
    nodes.put(id, Node.of(id, LevelNames.shown(first.name()), -1, levels));
    parents.put(id, parents.get(first.id()));
    Matrix4d above = first.parent() < 0 ? new Matrix4d(scene.placement()) : world[first.parent()];
    for (int place : places) {
      Node node = scene.nodes().get(place);
      nodes.remove(node.id());
      Node kept = node;
      if (node.parent() != first.parent()) {
        Matrix4d local = new Matrix4d(above).invert().mul(world[place]);
        kept = node.withTransform(new LocalTransform.MatrixTransform(local));
      }
      nodes.put(node.id(), kept);
      parents.put(node.id(), id);
    }
  }

  private long triangles(int place) {
    Node.Content.MeshContent content =
        (Node.Content.MeshContent) scene.nodes().get(place).content();
    return meshes.get(content.meshId()).faces().triangleCount();
  }

  /** Parents before children, without the groups that held a moved part alone. */
  private List<Node> ordered() {
    Set<Integer> left = new HashSet<>();
    for (int id : nodes.keySet()) {
      boolean empty = nodes.get(id).content() instanceof Node.Content.Group && full.contains(id);
      for (int at = id; !empty && at >= 0 && left.add(at); ) {
        at = parents.get(at);
      }
    }
    List<Node> all = new ArrayList<>();
    Map<Integer, Integer> places = new HashMap<>();
    for (int id : nodes.keySet()) {
      List<Integer> chain = new ArrayList<>();
      for (int at = id; at >= 0 && !places.containsKey(at); at = parents.get(at)) {
        chain.add(0, at);
      }
      for (int at : chain) {
        if (left.contains(at)) {
          places.put(at, all.size());
          int parent = parents.get(at);
          all.add(nodes.get(at).withParent(parent < 0 ? -1 : places.get(parent)));
        }
      }
    }
    return all;
  }
}
