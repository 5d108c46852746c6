package ferry.stone.server.bench;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.TextureBytes;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.texture.ChannelPacking;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.ImageException;
import ferry.stone.core.texture.ImageInfo;
import ferry.stone.core.texture.ImageLoss;
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
    Texture texture = named(loaded, key);
    return answer(
        TextureBytes.read(texture, loaded.cargo()),
        texture.name(),
        part,
        size,
        CacheControl.maxAge(KEPT).cachePrivate());
  }

  private static Texture named(LoadedCrossing loaded, String key) {
    Texture texture =
        key.matches("\\d{1,9}")
            ? loaded.near().texture(Integer.parseInt(key)).orElse(null)
            : loaded.image(key);
    if (texture == null || !texture.isFound()) {
      throw new NotFoundException("This image is not there any more. Reload the page.");
    }
    return texture;
  }

  /**
   * What an image lost against another.
   *
   * @param decibels peak signal-to-noise ratio; {@code null} where nothing differs
   */
  public record ImageLossView(Double decibels) {}

  /**
   * What the image of a key lost against the one it was.
   *
   * @param from key of the image that it was
   */
  @GetMapping("/textures/{key}/loss")
  public ImageLossView loss(
      @PathVariable String id, @PathVariable String key, @RequestParam String from)
      throws IOException, FormatException {
    LoadedCrossing loaded = scenes.scenes(id);
    double decibels = ImageLoss.decibels(pixels(loaded, from), pixels(loaded, key));
    return new ImageLossView(Double.isInfinite(decibels) ? null : decibels);
  }

  /**
   * Where it differs, eight times as strong, as PNG.
   *
   * @param from key of the image that it was
   * @param size longest side in pixels
   */
  @GetMapping(path = "/textures/{key}/difference", produces = MediaType.IMAGE_PNG_VALUE)
  public byte[] difference(
      @PathVariable String id,
      @PathVariable String key,
      @RequestParam String from,
      @RequestParam(defaultValue = "512") int size)
      throws IOException, FormatException {
    within(size);
    LoadedCrossing loaded = scenes.scenes(id);
    Pixels off = ImageLoss.picture(pixels(loaded, from), pixels(loaded, key));
    return ImageCodec.encodePng(ImageSize.atMost(off, size));
  }

  private static Pixels pixels(LoadedCrossing loaded, String key)
      throws IOException, FormatException {
    Texture texture = named(loaded, key);
    try {
      return ImageCodec.decode(TextureBytes.read(texture, loaded.cargo()), texture.name());
    } catch (ImageException e) {
      throw new FormatException(FormatException.Kind.CORRUPT, texture.name(), "", e.getMessage());
    }
  }

  private static void within(int size) {
    if (size < 1 || size > LARGEST) {
      throw new IllegalArgumentException("size is 1 to " + LARGEST + " pixels.");
    }
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
    if (size != null) {
      within(size);
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
