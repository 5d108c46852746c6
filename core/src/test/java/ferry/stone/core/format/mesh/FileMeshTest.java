package ferry.stone.core.format.mesh;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.ReadReport;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.Table;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Faces, creases and layers of a file come to stand where they belong, or are told. */
class FileMeshTest {
  private final Findings said = new Findings();
  private final ReadReport report = new ReadReport("yard.usda", said, null, false);

  private FileFaces faces(int[] counts, int[] vertices, boolean clockwise) throws Exception {
    return FileFaces.of(report, "/yard", counts, vertices, 5, clockwise);
  }

  @Test
  void clockwiseFacesAreTurnedFromTheSameFirstCorner() throws Exception {
    int[] counts = {4, 3};
    int[] vertices = {0, 1, 2, 3, 2, 3, 4};
    FileFaces kept = faces(counts, vertices, false);
    FileFaces turned = faces(counts, vertices, true);
    assertThat(kept.corners()).containsExactly(0, 1, 2, 3, 4, 5, 6);
    assertThat(turned.corners()).containsExactly(0, 3, 2, 1, 4, 6, 5);
    for (int c = 0; c < vertices.length; c++) {
      assertThat(kept.polygons().vertex(c)).isEqualTo(vertices[c]);
      assertThat(turned.polygons().vertex(c)).isEqualTo(vertices[turned.corners()[c]]);
    }
  }

  @Test
  void facesThatNameWhatIsNotThereAreRefusedWithTheirPlace() {
    assertThatThrownBy(() -> faces(new int[] {3, 3}, new int[] {0, 1, 2, 3}, false))
        .isInstanceOf(FormatException.class)
        .hasMessageContaining("yard.usda")
        .hasMessageContaining("/yard")
        .hasMessageContaining("face 1 has corners up to 6 of 4");
    assertThatThrownBy(() -> faces(new int[] {-1}, new int[0], true))
        .hasMessageContaining("face 0");
    assertThatThrownBy(() -> faces(new int[] {3}, new int[] {0, 1, 5}, false))
        .hasMessageContaining("corner 2 names vertex 5 of 5");
    // Counts whose sum leaves 32 bits do not wrap round.
    int[] many = {Integer.MAX_VALUE, Integer.MAX_VALUE, 3};
    assertThatThrownBy(() -> faces(many, new int[3], false)).hasMessageContaining("face 0");
  }

  private FileLayers over(int[] corners, boolean pointsMove) {
    return new FileLayers(report, "/yard", 5, 2, corners, pointsMove);
  }

  private static Table.Floats numbers(int count) {
    float[] all = new float[count];
    for (int i = 0; i < count; i++) {
      all[i] = 10 * i;
    }
    return new Table.Floats(all, 1, false);
  }

  @Test
  void valuesOfCornersFollowTheTurnedCorners() {
    int[] corners = {0, 3, 2, 1, 4, 6, 5};
    Attribute plain =
        over(corners, false).layer("wear", Semantic.OTHER, numbers(7), Domain.CORNER, null);
    Attribute indexed =
        over(corners, false)
            .layer(
                "wear", Semantic.OTHER, numbers(3), Domain.CORNER, new int[] {2, 1, 0, 0, 1, 2, 2});
    assertThat(plain.indices()).containsExactly(corners);
    assertThat(indexed.indices()).containsExactly(2, 0, 0, 1, 1, 2, 2);
    int[] straight = {0, 1, 2, 3, 4, 5, 6};
    Attribute kept =
        over(straight, false).layer("wear", Semantic.OTHER, numbers(7), Domain.CORNER, null);
    assertThat(kept.indices()).isNull();
    assertThat(said.list()).isEmpty();
  }

  @Test
  void moreValuesThanAShapeHasAreCutAndFewerAreTold() {
    int[] more = {0, 1, 2, 2, 1, 0, 0};
    FileLayers over = over(new int[7], false);
    Attribute cut = over.layer("wear", Semantic.OTHER, numbers(3), Domain.VERTEX, more);
    assertThat(cut.indices()).containsExactly(0, 1, 2, 2, 1);
    assertThat(over.layer("salt", Semantic.OTHER, numbers(4), Domain.VERTEX, null)).isNull();
    assertThat(over.layer("moss", Semantic.OTHER, numbers(4), null, null)).isNull();
    assertThat(over.layer("rust", Semantic.OTHER, null, Domain.FACE, null)).isNull();
    int[] beyond = {0, 3};
    assertThat(over.layer("tar", Semantic.OTHER, numbers(3), Domain.FACE, beyond)).isNull();
    assertThat(said.list().stream().map(Finding::code))
        .containsExactly(
            "layer-too-short", "layer-too-short", "layer-not-read", "layer-index-out-of-range");
    assertThat(said.list()).allMatch(f -> f.where().equals("yard.usda /yard"));
  }

  @Test
  void motionOfALayerIsToldUnlessItIsReadAtEverySample() {
    over(new int[0], true).tellMotion("normals", Semantic.NORMAL);
    over(new int[0], false).tellMotion("normals", Semantic.NORMAL);
    new FileLayers(report.ofEverySample(), "/yard", 5, 2, new int[0], false)
        .tellMotion("wear", Semantic.OTHER);
    assertThat(said.list().stream().map(Finding::code))
        .containsExactly("normals-follow-points", "layer-motion-not-read");
  }

  @Test
  void creasesAreEdgesWithTheSharpnessOfTheirRun() {
    int[] runs = {0, 1, 2, 3, 4};
    Creases each = Creases.of(runs, new int[] {3, 2}, new float[] {2, 5}, 5);
    assertThat(each.pairs()).containsExactly(0, 1, 1, 2, 3, 4);
    assertThat(each.sharpness()).containsExactly(2, 2, 5);
    Creases ofEdges = Creases.of(runs, new int[] {3, 2}, new float[] {1, 2, 3}, 5);
    assertThat(ofEdges.sharpness()).containsExactly(1, 2, 3);
    // An edge that is left out takes its sharpness along.
    Creases less = Creases.of(runs, new int[] {3, 2}, new float[] {1, 2, 3}, 4);
    assertThat(less.pairs()).containsExactly(0, 1, 1, 2);
    assertThat(less.sharpness()).containsExactly(1, 2);
    int[] gone = {9, 1, 2, 3, 4};
    Creases first = Creases.of(gone, new int[] {2, 2}, new float[] {7, 8}, 5);
    assertThat(first.pairs()).containsExactly(2, 3);
    assertThat(first.sharpness()).containsExactly(8);
  }

  @Test
  void whateverAFileSaysOfCreasesThereIsASharpnessForEachPairInside() {
    for (long seed = 0; seed < 500; seed++) {
      Random random = new Random(seed);
      int[] runs = random.ints(random.nextInt(12), -2, 9).toArray();
      int[] lengths = random.ints(random.nextInt(5), -2, 5).toArray();
      float[] sharp = new float[random.nextInt(6)];
      Creases creases = Creases.of(runs, lengths, sharp, 6);
      assertThat(creases.pairs()).as("seed " + seed).hasSize(2 * creases.sharpness().length);
      for (int vertex : creases.pairs()) {
        assertThat(vertex).as("seed " + seed).isBetween(0, 5);
      }
    }
  }
}
