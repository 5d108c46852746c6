package ferry.stone.core.format.abc.read;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.abc.raw.AbcArchive;
import ferry.stone.core.format.abc.raw.AbcCompound;
import ferry.stone.core.format.abc.raw.AbcObject;
import ferry.stone.core.format.abc.raw.AbcProperty;
import ferry.stone.core.format.abc.raw.TimeSampling;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.losses.BrokenRules;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;

/**
 * What the schemas of Alembic's own library (AbcGeom 1.8) demand of an archive beside what {@link
 * AbcReader} needs. Meshes that change are looked at in their first, middle and last sample.
 */
public final class AbcRules {
  private static final double ROUNDED = 1e-6;

  private final BrokenRules rules = new BrokenRules();

  private AbcRules() {}

  /** Tells each rule that is broken once, with the first place and how often. */
  public static void check(String resource, Resources files, Findings findings)
      throws IOException, FormatException {
    AbcRules all = new AbcRules();
    AbcArchive archive =
        AbcArchive.open(resource, files.random(resource), Budget.of(resource, files));
    for (TimeSampling sampling : archive.samplings()) {
      double[] stored = sampling.stored();
      boolean rising = stored.length > 0;
      for (int i = 1; i < stored.length; i++) {
        rising &= stored[i] > stored[i - 1];
      }
      all.rules.hold(rising, "times", "The times of samples do not rise.");
    }
    for (AbcObject child : archive.top().children()) {
      all.object(child);
    }
    all.rules.tell(resource, findings);
  }

  private void object(AbcObject object) throws IOException, FormatException {
    rules.hold(
        !object.name().isEmpty() && object.name().indexOf('/') < 0,
        object.path(),
        "No object can be called so.");
    String schema = object.schema();
    AbcCompound geometry = object.properties().compound(".geom").orElse(null);
    if (geometry != null && (schema.contains("PolyMesh") || schema.contains("SubD"))) {
      mesh(object, geometry);
    }
    for (AbcObject child : object.children()) {
      object(child);
    }
  }

  private static int[] ints(AbcCompound geometry, String name, int sample)
      throws IOException, FormatException {
    AbcProperty property = geometry.value(name).orElse(null);
    return property == null || property.sampleCount() == 0
        ? new int[0]
        : property.ints(Math.min(sample, property.sampleCount() - 1));
  }

  private void mesh(AbcObject object, AbcCompound geometry) throws IOException, FormatException {
    AbcProperty points = geometry.value("P").orElse(null);
    if (points == null || points.sampleCount() == 0) {
      rules.broken(object.path(), "A mesh has no positions.");
      return;
    }
    int samples = points.sampleCount();
    for (String name : List.of(".faceIndices", ".faceCounts", ".selfBnds")) {
      AbcProperty property = geometry.value(name).orElse(null);
      rules.hold(
          property != null && (property.sampleCount() == 1 || property.sampleCount() == samples),
          object.path() + " " + name,
          "A mesh lacks what belongs to it, or has it for other samples than its positions.");
    }
    for (int sample : new TreeSet<>(List.of(0, samples / 2, samples - 1))) {
      sample(object, geometry, points, sample);
    }
  }

  private void sample(AbcObject object, AbcCompound geometry, AbcProperty points, int sample)
      throws IOException, FormatException {
    float[] xyz = points.floats(sample);
    int[] counts = ints(geometry, ".faceCounts", sample);
    int[] corners = ints(geometry, ".faceIndices", sample);
    long sum = 0;
    boolean small = false;
    for (int count : counts) {
      sum += count;
      small |= count < 3;
    }
    String where = object.path();
    rules.hold(sum == corners.length, where, "Faces have more or fewer corners than are named.");
    rules.hold(!small, where, "A face has fewer than three corners.");
    boolean inRange = true;
    for (int corner : corners) {
      inRange &= corner >= 0 && 3L * corner < xyz.length;
    }
    rules.hold(inRange, where, "A corner names a point that is not there.");
    box(geometry, xyz, sample, where);
    int[] sizes = {1, counts.length, xyz.length / 3, corners.length};
    layer(geometry, "uv", sizes, sample, where);
    layer(geometry, "N", sizes, sample, where);
    AbcCompound more = geometry.compound(".arbGeomParams").orElse(null);
    if (more != null) {
      for (AbcProperty value : List.copyOf(more.values())) {
        layer(more, value.name(), sizes, sample, where);
      }
      for (String name : List.copyOf(more.compounds())) {
        layer(more, name, sizes, sample, where);
      }
    }
    sets(object, counts.length, sample);
  }

  private void box(AbcCompound geometry, float[] xyz, int sample, String where)
      throws IOException, FormatException {
    AbcProperty property = geometry.value(".selfBnds").orElse(null);
    if (property == null || property.sampleCount() == 0 || xyz.length == 0) {
      return;
    }
    double[] box = property.doubles(Math.min(sample, property.sampleCount() - 1));
    boolean inside = box.length == 6;
    for (int i = 0; inside && i < xyz.length; i++) {
      double low = box[i % 3];
      double high = box[3 + i % 3];
      double slack = ROUNDED * Math.max(Math.abs(low), Math.abs(high));
      // What is no number lies in no box.
      inside = !(xyz[i] < low - slack) && !(xyz[i] > high + slack);
    }
    rules.hold(inside, where, "A shape reaches out of the box that it says.");
  }

  /** A value that is laid over a mesh, alone or with indices. */
  private void layer(AbcCompound in, String name, int[] sizes, int sample, String where)
      throws IOException, FormatException {
    AbcCompound indexed = in.compounds().contains(name) ? in.compound(name).orElse(null) : null;
    AbcProperty values = indexed == null ? in.value(name).orElse(null) : valueOf(indexed, ".vals");
    if (values == null || values.sampleCount() == 0) {
      return;
    }
    Map<String, String> meta = indexed == null ? values.metaData() : in.metaData(name);
    int wanted =
        switch (meta.getOrDefault("geoScope", "")) {
          case "con" -> -1;
          case "uni" -> sizes[1];
          case "var", "vtx" -> sizes[2];
          case "fvr" -> sizes[3];
          default -> -1;
        };
    int rows = (int) values.place(Math.min(sample, values.sampleCount() - 1)).rows();
    AbcProperty indices = indexed == null ? null : valueOf(indexed, ".indices");
    int[] named =
        indices == null || indices.sampleCount() == 0
            ? null
            : indices.ints(Math.min(sample, indices.sampleCount() - 1));
    rules.hold(
        wanted < 0 || (named == null ? rows : named.length) == wanted,
        where + " " + name,
        "There are more or fewer values than what carries them.");
    for (int index : named == null ? new int[0] : named) {
      if (index < 0 || index >= rows) {
        rules.broken(where + " " + name, "An index names a value that is not there.");
        break;
      }
    }
  }

  private static AbcProperty valueOf(AbcCompound compound, String name) {
    return compound.value(name).orElse(null);
  }

  private void sets(AbcObject object, int faces, int sample) throws IOException, FormatException {
    for (AbcObject child : object.children()) {
      AbcCompound set = child.properties().compound(".faceset").orElse(null);
      for (int face : set == null ? new int[0] : ints(set, ".faces", sample)) {
        if (face < 0 || face >= faces) {
          rules.broken(child.path(), "A set names a face that is not there.");
          break;
        }
      }
    }
  }
}
