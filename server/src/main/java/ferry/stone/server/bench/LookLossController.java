package ferry.stone.server.bench;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.model.MaterialLoss;
import ferry.stone.core.view.LookLoss;
import ferry.stone.server.crossing.HandlingService;
import ferry.stone.server.crossing.LoadedCrossing;
import ferry.stone.server.crossing.SceneService;
import ferry.stone.server.web.NotFoundException;
import java.io.IOException;
import java.util.Optional;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** How far what a material reflects is off against the near side, whichever model each is in. */
@RestController
@RequestMapping("/api/crossings/{id}/bench/reflection")
public class LookLossController {
  private static final int LARGEST = 2048;
  private static final int LOOKED_AT = 512;

  private final SceneService scenes;
  private final HandlingService handlings;

  public LookLossController(SceneService scenes, HandlingService handlings) {
    this.scenes = scenes;
    this.handlings = handlings;
  }

  /**
   * @param mean mean difference over one repeat of the images, 0 to 1: of what both scatter and
   *     mirror in red, green and blue, linear light, and of roughness
   * @param most the largest
   */
  public record ReflectionLoss(double mean, double most) {}

  /**
   * Both figures; those of the image when a side has no such material are 404.
   *
   * @param material its name
   */
  @GetMapping
  public ReflectionLoss loss(@PathVariable String id, @RequestParam String material)
      throws IOException, FormatException {
    MaterialLoss loss = of(id, material, LOOKED_AT);
    return new ReflectionLoss(loss.mean(), loss.most());
  }

  /**
   * Where it is off, eight times as strong, as PNG.
   *
   * @param size longest side in pixels
   */
  @GetMapping(path = "/picture", produces = MediaType.IMAGE_PNG_VALUE)
  public byte[] picture(
      @PathVariable String id,
      @RequestParam String material,
      @RequestParam(defaultValue = "256") int size)
      throws IOException, FormatException {
    if (size < 1 || size > LARGEST) {
      throw new IllegalArgumentException("size is 1 to " + LARGEST + " pixels.");
    }
    return ImageCodec.encodePng(of(id, material, size).picture());
  }

  private MaterialLoss of(String id, String material, int size)
      throws IOException, FormatException {
    LoadedCrossing loaded = scenes.scenes(id);
    Scene far = Handling.result(loaded.near(), loaded.handle(handlings.steps(id)));
    Optional<MaterialLoss> loss = LookLoss.of(loaded.near(), far, material, loaded.cargo(), size);
    return loss.orElseThrow(
        () ->
            new NotFoundException(
                "Not both sides have a material \"" + material + "\" that light falls on."));
  }
}
