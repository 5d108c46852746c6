package ferry.stone.core.survey;

/** Names as steps take them: patterns in which {@code *}, {@code ?} and commas mean something. */
final class NamePatterns {
  private NamePatterns() {}

  /** A pattern that this name fits, and of others at most those that differ in such a sign. */
  static String exactly(String name) {
    return name.replaceAll("[*?,]", "?");
  }
}
