package ferry.stone.core.texture.match;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class ImageEvidenceTest {
  private static ImageEvidence of(byte[] file) throws Exception {
    return ImageEvidence.of(file, "a.png");
  }

  @Test
  void pixelsSayWhatAnImageIs() throws Exception {
    assertThat(of(TestImages.normals(true)).isNormalMap()).isTrue();
    assertThat(of(TestImages.colours(1)).isColour()).isTrue();
    assertThat(of(TestImages.colours(1)).isNormalMap()).isFalse();
    assertThat(of(TestImages.grey(1)).isGrey()).isTrue();
  }

  /** A surface has no curl: Frankot and Chellappa 1988, "A method for enforcing integrability". */
  @Test
  void slopesSayWhichWayGreenPoints() throws Exception {
    assertThat(of(TestImages.normals(true)).upward()).isGreaterThan(0.8);
    assertThat(of(TestImages.normals(false)).upward()).isLessThan(-0.8);
  }
}
