package ferry.stone.core.texture;

import java.io.IOException;

/** Bytes that are no usable image; the message says why and what to do. */
public final class ImageException extends IOException {
  private static final long serialVersionUID = 1L;

  public ImageException(String message) {
    super(message);
  }

  public ImageException(String message, Throwable cause) {
    super(message, cause);
  }
}
