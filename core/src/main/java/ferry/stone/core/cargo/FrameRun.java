package ferry.stone.core.cargo;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.scene.time.Samples;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Numbered files as the frames of one motion. The first is the scene; each of its meshes moves as
 * the meshes of that name in the others say: as a point cache where all have its vertices and
 * faces, else as a mesh that is another one in each frame.
 */
final class FrameRun {
  /** Frames are read on demand; only what tells them apart is kept of each. */
  private final RunFiles files;

  private final Scene first;
  private final double rate;
  private final Findings findings;

  /**
   * @param paths the files in order
   * @param source reads one of them
   * @param first the scene of the first
   * @param rate files a second
   */
  FrameRun(
      List<String> paths, RunFiles.Source source, Scene first, double rate, Findings findings) {
    Map<String, Integer> materials = new HashMap<>();
    first.materials().forEach(m -> materials.putIfAbsent(m.name(), m.id()));
    files = new RunFiles(paths, source, materials);
    this.first = first;
    this.rate = rate;
    this.findings = findings;
  }

  /** The number at the end of a file's name, −1 for none. */
  static long number(String path) {
    String digits = CargoPath.stem(path).replaceFirst("^.*?(\\d{1,18})$", "$1");
    return digits.matches("\\d{1,18}") ? Long.parseLong(digits) : -1;
  }

  /** What the names of a run share: the folder, the name before the number, the ending. */
  static String run(String path) {
    String stem = CargoPath.stem(path);
    String name = stem.replaceFirst("[_.-]?\\d+$", "");
    return name.equals(stem)
        ? ""
        : CargoPath.folder(path) + "/" + name + "." + CargoPath.extension(path);
  }

  /** Runs of some files, each by its numbers; a single numbered file is none. */
  static Map<String, List<String>> runs(List<String> files) {
    Map<String, List<String>> runs = new LinkedHashMap<>();
    for (String file : files) {
      if (number(file) >= 0 && !run(file).isEmpty()) {
        runs.computeIfAbsent(run(file), k -> new ArrayList<>()).add(file);
      }
    }
    runs.values().removeIf(list -> list.size() < 2);
    runs.values().forEach(list -> list.sort(Comparator.comparingLong(FrameRun::number)));
    return runs;
  }

  /** The first file's scene with the motion of all. */
  Scene scene(Progress progress) throws IOException, FormatException {
    Map<String, PolygonMesh> rest = RunFiles.meshes(first, files.path(0));
    Set<String> changing = new HashSet<>();
    Set<String> further = new HashSet<>();
    for (int frame = 1; frame < files.count(); frame++) {
      progress.report("reading " + files.path(frame), (double) frame / files.count());
      progress.checkCancelled();
      Map<String, PolygonMesh> meshes = read(frame);
      rest.forEach(
          (path, mesh) -> {
            if (!fits(mesh, meshes.get(path))) {
              changing.add(path);
            }
          });
      further.addAll(meshes.keySet());
    }
    further.removeAll(rest.keySet());
    tell(changing.size(), further);
    SceneBuilder scene = first.toBuilder().framesPerSecond(rate);
    List<PointCache> caches = new ArrayList<>(first.caches());
    rest.forEach(
        (path, mesh) -> {
          if (changing.contains(path)) {
            scene.add(new Changing(scene.newId(), this, path, mesh));
          } else {
            caches.add(new Moving(scene.newId(), this, path, mesh));
          }
        });
    further.forEach(path -> scene.unread("The part " + path + " of later frames"));
    return scene.caches(caches).build();
  }

  private Map<String, PolygonMesh> read(int frame) throws IOException, FormatException {
    try {
      return files.meshes(frame);
    } catch (IOException e) {
      if (e.getCause() instanceof FormatException fault) {
        throw fault;
      }
      throw e;
    }
  }

  /** Whether a mesh has the vertices and faces of another. */
  static boolean fits(PolygonMesh mesh, PolygonMesh other) {
    return other != null
        && other.points().count() == mesh.points().count()
        && other.faces().isSame(mesh.faces());
  }

  private void tell(int changing, Set<String> further) {
    String where =
        CargoPath.name(files.path(0)) + " … " + CargoPath.name(files.path(files.count() - 1));
    findings.add(
        Finding.of(
                "numbered-frames",
                Severity.NOTE,
                where,
                "These numbered files were read as the frames of one motion."
                    + (changing > 0 ? " Faces of some parts change on the way." : ""))
            .measured(files.count() + " files")
            .offer(Offer.read("Read them as parts", ReadFields.RUNS, ReadFields.PARTS)));
    if (!further.isEmpty()) {
      findings.add(
          Finding.of(
                  "parts-of-later-frames",
                  Severity.FIX,
                  where,
                  "Later frames hold parts that the first one does not: they are not carried. Add"
                      + " them to the first file, empty if need be.")
              .measured(further.size() + (further.size() == 1 ? " part" : " parts"))
              .evidence("the first is \"" + further.iterator().next() + "\""));
    }
  }

  private PolygonMesh mesh(int frame, String path) throws IOException {
    return files.meshes(frame).get(path);
  }

  /** A part that is something else in each file. */
  private interface InRun extends Samples {
    FrameRun run();

    String path();

    PolygonMesh rest();

    @Override
    default String name() {
      return rest().name();
    }

    @Override
    default int meshId() {
      return rest().id();
    }

    @Override
    default int sampleCount() {
      return run().files.count();
    }

    @Override
    default double timeSeconds(int sample) {
      return sample / run().rate;
    }
  }

  /** Vertices of one part that move from file to file. */
  private record Moving(int id, FrameRun run, String path, PolygonMesh rest)
      implements InRun, PointCache {
    @Override
    public int pointCount() {
      return rest.points().count();
    }

    @Override
    public void read(int sample, int from, int count, float[] target) throws IOException {
      PolygonMesh mesh = run.mesh(sample, path);
      if (mesh == null || mesh.points().count() != pointCount()) {
        throw new IOException(
            run.files.path(sample) + ": it has changed since it was read. Read the cargo again.");
      }
      for (int i = 0; i < count; i++) {
        target[3 * i] = (float) mesh.points().x(from + i);
        target[3 * i + 1] = (float) mesh.points().y(from + i);
        target[3 * i + 2] = (float) mesh.points().z(from + i);
      }
    }
  }

  /** A part that is another mesh in each file. */
  private record Changing(int id, FrameRun run, String path, PolygonMesh rest)
      implements InRun, MeshSequence {
    @Override
    public PolygonMesh mesh(int sample) throws IOException {
      if (sample == 0) {
        return rest;
      }
      PolygonMesh mesh = run.mesh(sample, path);
      if (mesh == null) {
        return PolygonMesh.of(
            rest.id(),
            rest.name(),
            rest.points().picked(new int[0]),
            Polygons.of(new int[0], new int[] {0}));
      }
      return mesh.toBuilder().id(rest.id()).name(rest.name()).build();
    }
  }
}
