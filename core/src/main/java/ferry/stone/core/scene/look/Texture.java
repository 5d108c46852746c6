package ferry.stone.core.scene.look;

/**
 * An image that materials use.
 *
 * @param written the path as the source wrote it
 * @param resource path of the found file in the cargo, or {@code null} when it is missing
 * @param embedded the file's bytes when the source carried them inside, else {@code null}
 * @param packed the same image once more as KTX2, which the source prefers, or {@code null}
 */
public record Texture(
    int id, String name, String written, String resource, byte[] embedded, Texture packed) {

  /** An image that there is once. */
  public Texture(int id, String name, String written, String resource, byte[] embedded) {
    this(id, name, written, resource, embedded, null);
  }

  public boolean isFound() {
    return resource != null || embedded != null;
  }

  /** Its name without folders and ending. */
  public String stem() {
    String file = file();
    int dot = file.lastIndexOf('.');
    return dot < 0 ? file : file.substring(0, dot);
  }

  /** The same image under another name, which keeps its ending; so does the packed one. */
  public Texture withStem(String other) {
    String file = file();
    int dot = file.lastIndexOf('.');
    return new Texture(
        id,
        other + (dot < 0 ? "" : file.substring(dot)),
        written,
        resource,
        embedded,
        packed == null ? null : packed.withStem(other));
  }

  private String file() {
    return name.substring(Math.max(name.lastIndexOf('/'), name.lastIndexOf('\\')) + 1);
  }
}
