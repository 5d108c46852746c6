package ferry.stone.server.bench;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.TextureBytes;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.texture.ChannelPacking;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.ImageInfo;
import ferry.stone.core.texture.ImageSize;
import ferry.stone.core.texture.Pixels;
import ferry.stone.server.crossing.LoadedCrossing;
import ferry.stone.server.crossing.SceneService;
import ferry.stone.server.web.NotFoundException;
import java.io.IOException;
import java.time.Duration;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Images of a crossing, for views and lists. */
@RestController
@RequestMapping("/api/crossings/{id}")
public class ImageController {
  private static final int LARGEST = 8192;
  private static final Duration KEPT = Duration.ofHours(1);

  private final SceneService scenes;

  public ImageController(SceneService scenes) {
    this.scenes = scenes;
  }

  /**
   * An image that a side or the bench named, as PNG or JPEG.
   *
   * @param key as it was named; another image has another key. A number is the id of a texture of
   *     the near side.
   * @param part r, g, b or a: that part alone, as grey
   * @param size longest side in pixels; the image as it is when left out
   */
  @GetMapping("/textures/{key}")
  public ResponseEntity<byte[]> texture(
      @PathVariable String id,
      @PathVariable String key,
      @RequestParam(defaultValue = "") String part,
      @RequestParam(required = false) Integer size)
      throws IOException, FormatException {
    LoadedCrossing loaded = scenes.scenes(id);
    Texture texture =
        key.matches("\\d{1,9}")
            ? loaded.near().texture(Integer.parseInt(key)).orElse(null)
            : loaded.image(key);
    if (texture == null || !texture.isFound()) {
      throw new NotFoundException("This image is not there any more. Reload the page.");
    }
    return answer(
        TextureBytes.read(texture, loaded.cargo()),
        texture.name(),
        part,
        size,
        CacheControl.maxAge(KEPT).cachePrivate());
  }

  /** An image of the cargo by its path, also one that no material uses. */
  @GetMapping("/image-files")
  public ResponseEntity<byte[]> file(
      @PathVariable String id,
      @RequestParam String path,
      @RequestParam(required = false) Integer size)
      throws IOException, FormatException {
    LoadedCrossing loaded = scenes.scenes(id);
    if (!loaded.near().images().paths().contains(path)) {
      throw new NotFoundException("There is no image " + path + " in the cargo.");
    }
    return answer(loaded.near().images().read(path), path, "", size, CacheControl.noCache());
  }

  private static ResponseEntity<byte[]> answer(
      byte[] file, String name, String part, Integer size, CacheControl kept)
      throws FormatException {
    if (!part.isEmpty() && !part.matches("[rgba]")) {
      throw new IllegalArgumentException("part is r, g, b or a.");
    }
    if (size != null && (size < 1 || size > LARGEST)) {
      throw new IllegalArgumentException("size is 1 to " + LARGEST + " pixels.");
    }
    try {
      ImageInfo info = ImageCodec.probe(file, name);
      boolean asIs = part.isEmpty() && size == null && info.isPngOrJpeg();
      boolean jpeg = asIs && info.kind().equals("jpeg");
      return ResponseEntity.ok()
          .cacheControl(kept)
          .contentType(jpeg ? MediaType.IMAGE_JPEG : MediaType.IMAGE_PNG)
          .body(asIs ? file : made(file, name, part, size));
    } catch (IOException e) {
      throw new FormatException(FormatException.Kind.CORRUPT, name, "", e.getMessage());
    }
  }

  private static byte[] made(byte[] file, String name, String part, Integer size)
      throws IOException {
    Pixels pixels = ImageCodec.decode(file, name);
    pixels = size == null ? pixels : ImageSize.atMost(pixels, size);
    return ImageCodec.encodePng(
        part.isEmpty() ? pixels : ChannelPacking.grey(pixels, part.charAt(0)));
  }
}
